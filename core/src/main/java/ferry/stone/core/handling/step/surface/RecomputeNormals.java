package ferry.stone.core.handling.step.surface;

import ferry.stone.core.field.Field;
import ferry.stone.core.geometry.mesh.Normals;
import ferry.stone.core.handling.KnownMeshes;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;

/** Computes normals: smooth where faces meet at less than an angle or belong to one group. */
public final class RecomputeNormals extends BasicStep<RecomputeNormals.Params> {
  private static final Field FROM_CHOICE =
      Field.choice(
          "from",
          "By",
          "What tells smooth from hard.",
          "angle",
          "the angle between faces",
          "groups",
          "smoothing groups, hard edges",
          "missing",
          "keep; the angle where none are");

  private static final double MOST = 180;

  /**
   * @param angle degrees from 0 (all hard) to 180 (all smooth)
   * @param from {@code angle}; {@code groups}: smoothing groups or hard edges of the mesh, the
   *     angle where it has none; {@code missing}: the mesh's own are kept, the angle is for those
   *     without
   */
  public record Params(double angle, String from) {
    public Params {
      if (!(angle >= 0 && angle <= MOST)) {
        throw new IllegalArgumentException("angle must be 0 to 180, not " + angle);
      }
      from = FROM_CHOICE.chosen(from);
    }
  }

  public RecomputeNormals() {
    super(
        Group.SURFACE,
        "normals",
        "Recompute normals",
        "Computes normals by an angle or by smoothing groups. Smooth normals make smaller files,"
            + " since fewer corners split.",
        Params.class,
        true,
        FROM_CHOICE,
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
    Scene result = chosen.each(known, progress, mesh -> withNormals(mesh, params, progress));
    long values =
        chosen.meshesIn(result).stream()
            .mapToLong(m -> m.first(Semantic.NORMAL).map(Attribute::valueCount).orElse(0))
            .sum();
    return StepResult.of(
        result, Figures.plain(params.angle()) + "° · " + Figures.count(values, "normal"));
  }

  private static PolygonMesh withNormals(PolygonMesh mesh, Params params, Progress progress) {
    if (params.from().equals("missing") && mesh.first(Semantic.NORMAL).isPresent()) {
      return mesh;
    }
    Attribute normals;
    if (params.from().equals("groups") && mesh.smoothing() != null) {
      normals = Normals.bySmoothingGroups(mesh, progress);
    } else if (params.from().equals("groups") && mesh.hardEdges() != null) {
      normals = Normals.byHardEdges(mesh, progress);
    } else {
      normals = Normals.byAngle(mesh, params.angle(), progress);
    }
    return mesh.withFirst(Semantic.NORMAL, normals);
  }
}
