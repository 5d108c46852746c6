package ferry.stone.core.handling.step.surface;

import ferry.stone.core.field.Field;
import ferry.stone.core.geometry.mesh.Weld;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.work.Progress;
import java.util.Map;

/** Joins vertices that stand closer than a distance. */
public final class WeldVertices extends BasicStep<WeldVertices.Params> {
  private static final Field WHERE_CHOICE =
      Field.choice(
          "where",
          "Where",
          "Which vertices join.",
          "all",
          "everywhere",
          "borders",
          "along open borders");
  private static final Field SEAMS_CHOICE =
      Field.choice(
          "seams",
          "Seams",
          "Kept seams let UVs, colours and hard edges differ at a joined vertex.",
          "keep",
          "keep UVs and shading",
          "drop",
          "one value a vertex");

  private static final double FARTHEST = 1000;

  /**
   * @param distance in millimetres, 0 to 1000
   * @param where {@code all} or {@code borders}: only vertices on edges that one face uses
   * @param seams {@code keep} or {@code drop}: whether UVs, colours and normals may differ at a
   *     joined vertex
   */
  public record Params(double distance, String where, String seams) {
    public Params {
      Field.within("distance", distance, 0, FARTHEST);
      where = WHERE_CHOICE.chosen(where);
      seams = SEAMS_CHOICE.chosen(seams);
    }
  }

  public WeldVertices() {
    super(
        Group.SURFACE,
        "weld",
        "Weld",
        "Joins vertices that stand closer than a distance, so that panels become one surface."
            + " Vertices that joints or morph targets move apart stay apart.",
        Params.class,
        true,
        Field.number(
            "distance",
            "Distance",
            "mm",
            0,
            FARTHEST,
            0.1,
            "Vertices at most this far apart join."),
        WHERE_CHOICE,
        SEAMS_CHOICE);
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    ChosenMeshes chosen = ChosenMeshes.of(scene, selection);
    Map<Integer, Skin> skins = VertexChanges.skinsByMesh(scene);
    Map<Integer, Double> sizes = WorldSizes.of(scene);
    VertexChanges changes = new VertexChanges();
    long joined = 0;
    long facesGone = 0;
    for (PolygonMesh mesh : scene.meshes()) {
      progress.checkCancelled();
      if (chosen.has(mesh)) {
        double metres = sizes.getOrDefault(mesh.id(), scene.frame().metresPerUnit());
        Weld.Result result =
            Weld.of(
                mesh,
                skins.get(mesh.id()),
                new Weld.Options(
                    params.distance() / 1000 / metres,
                    params.where().equals("borders"),
                    params.seams().equals("keep")));
        changes.put(result.mesh(), result.sourceVertex());
        joined += result.joined();
        facesGone += result.facesGone();
      }
    }
    return StepResult.of(
        changes.apply(scene),
        Figures.count(joined, "vertex")
            + " joined"
            + (facesGone > 0 ? ", " + Figures.count(facesGone, "face") + " fell together" : ""));
  }
}
