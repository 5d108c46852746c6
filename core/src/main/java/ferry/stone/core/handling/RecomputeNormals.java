package ferry.stone.core.handling;

import ferry.stone.core.geometry.Normals;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Attribute;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.util.List;

/** Computes normals anew: smooth where faces meet at less than an angle, hard elsewhere. */
public final class RecomputeNormals implements StepKind<RecomputeNormals.Params> {
  private static final double MOST = 180;

  /** Degrees from 0 (all hard) to 180 (all smooth). */
  public record Params(double angle) {
    public Params {
      if (!(angle >= 0 && angle <= MOST)) {
        throw new IllegalArgumentException("angle must be 0 to 180, not " + angle);
      }
    }
  }

  @Override
  public String kind() {
    return "normals";
  }

  @Override
  public String label() {
    return "Recompute normals";
  }

  @Override
  public String help() {
    return "Computes normals anew; edges sharper than the angle stay hard.";
  }

  @Override
  public Class<Params> paramType() {
    return Params.class;
  }

  @Override
  public boolean takesSelection() {
    return true;
  }

  @Override
  public List<Field> fields() {
    return List.of(
        Field.number(
            "angle", "Angle", "°", 0, MOST, 40, "Faces that meet at more than this stay hard."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    return apply(scene, selection, params, KnownMeshes.NONE, progress);
  }

  @Override
  public StepResult apply(
      Scene scene, Selection selection, Params params, KnownMeshes known, Progress progress) {
    ChosenMeshes chosen = ChosenMeshes.of(scene, selection);
    Scene result =
        chosen.each(
            known,
            progress,
            mesh ->
                mesh.withFirst(
                    Attribute.Semantic.NORMAL, Normals.byAngle(mesh, params.angle(), progress)));
    long values =
        chosen.meshesIn(result).stream()
            .mapToLong(m -> m.first(Attribute.Semantic.NORMAL).map(Attribute::valueCount).orElse(0))
            .sum();
    return StepResult.of(
        result, Figures.plain(params.angle()) + "° · " + Figures.count(values, "normal"));
  }
}
