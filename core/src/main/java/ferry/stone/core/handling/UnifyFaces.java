package ferry.stone.core.handling;

import ferry.stone.core.geometry.FaceTurns;
import ferry.stone.core.geometry.Winding;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.PolygonMesh;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.util.concurrent.atomic.AtomicLong;

/** Turns faces round so that neighbours run alike and closed pieces look outwards. */
public final class UnifyFaces extends BasicStep<UnifyFaces.Params> {
  /** Nothing to choose. */
  public record Params() {}

  public UnifyFaces() {
    super(
        Group.SURFACE,
        "unify",
        "Make faces agree",
        "Turns faces round where neighbours run against each other; closed pieces look outwards.",
        Params.class,
        true);
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    AtomicLong turned = new AtomicLong();
    Scene result =
        ChosenMeshes.of(scene, selection)
            .each(
                KnownMeshes.NONE,
                progress,
                mesh -> {
                  FaceTurns turns = FaceTurns.of(mesh);
                  turned.addAndGet(turns.turn().cardinality());
                  return turns.turn().isEmpty() ? mesh : flipped(mesh, turns);
                });
    return StepResult.of(result, Figures.count(turned.get(), "face") + " turned");
  }

  private static PolygonMesh flipped(PolygonMesh mesh, FaceTurns turns) {
    return turns.turn().cardinality() == mesh.faces().faceCount()
        ? Winding.flipped(mesh)
        : Winding.flipped(mesh, turns.turn());
  }
}
