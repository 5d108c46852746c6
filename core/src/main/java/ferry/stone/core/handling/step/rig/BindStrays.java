package ferry.stone.core.handling.step.rig;

import ferry.stone.core.field.Field;
import ferry.stone.core.geometry.mesh.StraySkin;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.handling.step.surface.ChosenMeshes;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Gives vertices of skinned meshes that no joint moves the joints of their neighbours. */
public final class BindStrays extends BasicStep<BindStrays.Params> {
  private static final Field TO_CHOICE =
      Field.choice(
          "to",
          "To",
          "Whose joints they get.",
          "near",
          "the nearest bound vertex",
          "first",
          "the skin's first joint");

  /**
   * @param to {@code near} (the joints of the nearest vertex that has some, along the surface
   *     first) or {@code first} (the skin's first joint)
   */
  public record Params(String to) {
    public Params {
      to = TO_CHOICE.chosen(to);
    }
  }

  public BindStrays() {
    super(
        Group.SURFACE,
        "strays",
        "Bind stray vertices",
        "Gives vertices that no joint moves the joints of the nearest vertex that has some, so"
            + " that they go along.",
        Params.class,
        true,
        TO_CHOICE);
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Set<Integer> skins = ChosenMeshes.skins(scene, selection);
    Map<Integer, PolygonMesh> meshes = scene.meshesById();
    List<Skin> result = new ArrayList<>();
    int bound = 0;
    for (Skin skin : scene.skins()) {
      progress.checkCancelled();
      PolygonMesh mesh = meshes.get(skin.meshId());
      int strays = skins.contains(skin.id()) && mesh != null ? StraySkin.strays(skin) : 0;
      if (strays == 0 || skin.jointNodeIds().length == 0) {
        result.add(skin);
        continue;
      }
      bound += strays;
      result.add(StraySkin.bound(mesh, skin, params.to().equals("near")));
    }
    return StepResult.of(
        scene.toBuilder().skins(result).build(), Figures.count(bound, "vertex") + " bound");
  }
}
