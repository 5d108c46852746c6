package ferry.stone.core.handling.step.surface;

import ferry.stone.core.field.Field;
import ferry.stone.core.geometry.mesh.FaceTurns;
import ferry.stone.core.geometry.mesh.Winding;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;
import java.util.concurrent.atomic.AtomicLong;

/** Turns faces round so that neighbours run alike and closed pieces look outwards. */
public final class UnifyFaces extends BasicStep<UnifyFaces.Params> {
  private static final double FARTHEST = 1000;

  /**
   * @param seams borders at most this many millimetres apart count as joined, 0 to 1000
   */
  public record Params(double seams) {
    public Params {
      Field.within("seams", seams, 0, FARTHEST);
    }
  }

  public UnifyFaces() {
    super(
        Group.SURFACE,
        "unify",
        "Make faces agree",
        "Turns faces round where neighbours run against each other; closed pieces look outwards.",
        Params.class,
        true,
        Field.number(
            "seams",
            "Across seams of",
            "mm",
            0,
            FARTHEST,
            0.1,
            "Borders this close count as joined, so that panels which are not sewn agree."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    AtomicLong turned = new AtomicLong();
    Scene result =
        ChosenMeshes.of(scene, selection)
            .eachSized(
                progress,
                (mesh, metres) -> {
                  FaceTurns turns = FaceTurns.acrossSeams(mesh, params.seams() / 1000 / metres);
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
