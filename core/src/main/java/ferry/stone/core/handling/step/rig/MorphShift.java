package ferry.stone.core.handling.step.rig;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.KnownMeshes;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.handling.step.surface.ChosenMeshes;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Takes a common translation out of morph targets: what is left when a pose or an offset of the
 * whole body was in effect while the target was made. The translation is the median of the deltas.
 */
public final class MorphShift extends BasicStep<MorphShift.Params> {

  /**
   * @param named pattern of the targets' names; empty for all
   */
  public record Params(String named) {
    public Params {
      named = named == null ? "" : named.strip();
    }
  }

  public MorphShift() {
    super(
        Group.SURFACE,
        "morphShift",
        "Take the shift out of morph targets",
        "Takes a shift of the whole body out of morph targets, so that only the shape is left.",
        Params.class,
        true,
        Field.text("named", "Named", "", "Names of the targets, like smile*; empty for all."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    double[] most = new double[1];
    int[] changed = new int[1];
    Scene result =
        ChosenMeshes.of(scene, selection)
            .each(
                KnownMeshes.NONE,
                progress,
                mesh -> {
                  List<MorphTarget> morphs = new ArrayList<>();
                  for (MorphTarget morph : mesh.morphs()) {
                    boolean meant =
                        params.named().isEmpty()
                            || Selection.names(params.named()).matcher(morph.name()).matches();
                    morphs.add(meant ? without(morph, most) : morph);
                    changed[0] += meant ? 1 : 0;
                  }
                  return mesh.morphs().isEmpty() ? mesh : with(mesh, morphs);
                });
    return StepResult.of(
        result,
        Figures.count(changed[0], "target")
            + " · up to "
            + Figures.length(most[0] * scene.frame().metresPerUnit()));
  }

  private static PolygonMesh with(PolygonMesh mesh, List<MorphTarget> morphs) {
    return mesh.toBuilder().morphs(morphs).build();
  }

  private static MorphTarget without(MorphTarget morph, double[] most) {
    List<MorphTarget.Shape> shapes = new ArrayList<>();
    for (MorphTarget.Shape shape : morph.shapes()) {
      float[] d = shape.deltas().clone();
      int n = d.length / 3;
      double length = 0;
      for (int k = 0; k < 3 && n > 0; k++) {
        float[] values = new float[n];
        for (int i = 0; i < n; i++) {
          values[i] = d[3 * i + k];
        }
        Arrays.sort(values);
        float common = values[n / 2];
        for (int i = 0; i < n; i++) {
          d[3 * i + k] -= common;
        }
        length += (double) common * common;
      }
      most[0] = Math.max(most[0], Math.sqrt(length));
      shapes.add(
          new MorphTarget.Shape(shape.fullWeight(), shape.vertices(), d, shape.normalDeltas()));
    }
    return new MorphTarget(morph.name(), morph.weight(), shapes);
  }
}
