package ferry.stone.core.format.collada;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.KeyCurve;
import ferry.stone.core.scene.time.SampledPlaces;
import ferry.stone.core.work.Cancel;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * What moves the transforms of a node, as tracks of translation, rotation and scale: exact at the
 * keys, and between them sampled where a line between two keys would not do.
 */
final class DaeNodeMotion {
  /** Samples a second between keys that are not joined by lines. */
  private static final double RATE = 60;

  /** Most samples of one node: some four hours. */
  private static final int MOST = 1 << 20;

  private record Moved(int op, int component, DaeCurves curves) {}

  private final List<Moved> moved = new ArrayList<>();

  void add(int op, int component, DaeCurves curves) {
    moved.add(new Moved(op, component, curves));
  }

  List<Clip.Track> tracks(
      DaeDocument document, DaeElement element, DaeNodes.Made node, Budget budget)
      throws FormatException {
    double[] times = times(node.transform());
    budget.derive(SampledPlaces.BYTES * times.length, element.place(), "the motion of the node");
    SampledPlaces places = new SampledPlaces(times);
    for (double time : times) {
      Cancel.point();
      Matrix4d matrix = matrix(node.transform(), time);
      if (node.toFile() != null) {
        matrix = DaeNodes.conjugated(matrix, node.toFile());
      }
      Trs kept = places.add(matrix);
      if (!matrix.isFinite() || !kept.toMatrix().equals(matrix, 1e-4 * Math.max(1, size(matrix)))) {
        document.say(
            "motion-shears",
            element,
            "Its motion shears, which no translation, rotation and scale says: read as near as"
                + " they come.");
      }
    }
    return places.tracks(node.nodeId(), Trs.nearest(restMatrix(node)));
  }

  private static Matrix4d restMatrix(DaeNodes.Made node) {
    Matrix4d rest = node.transform().matrix();
    return node.toFile() == null ? rest : DaeNodes.conjugated(rest, node.toFile());
  }

  private static double size(Matrix4d m) {
    return m.getTranslation(new Vector3d()).length() + m.getScale(new Vector3d()).length();
  }

  private Matrix4d matrix(DaeTransform transform, double seconds) {
    Matrix4d all = new Matrix4d();
    for (int o = 0; o < transform.ops.size(); o++) {
      DaeTransform.Op op = transform.ops.get(o);
      double[] numbers = op.numbers().clone();
      for (Moved m : moved) {
        if (m.op() == o) {
          apply(m, numbers, seconds);
        }
      }
      all.mul(op.matrix(numbers));
    }
    return all;
  }

  private static void apply(Moved m, double[] numbers, double seconds) {
    KeyCurve[] curves = m.curves().curves();
    if (m.component() >= 0) {
      if (m.component() < numbers.length) {
        numbers[m.component()] = curves[0].at(seconds);
      }
      return;
    }
    // One number for a turn is its angle.
    int first = curves.length == 1 && numbers.length == 4 ? 3 : 0;
    for (int c = 0; c < curves.length && first + c < numbers.length; c++) {
      numbers[first + c] = curves[c].at(seconds);
    }
  }

  /**
   * Moments to sample: all keys, and frames between them where something turns or bends. Matrices
   * are taken at their keys alone: between two of them parts are blended, not the numbers.
   */
  private double[] times(DaeTransform transform) {
    List<KeyCurve> curves = new ArrayList<>();
    boolean bends = false;
    for (Moved m : moved) {
      curves.addAll(List.of(m.curves().curves()));
      String kind = transform.ops.get(m.op()).kind();
      boolean straight = kind.equals("matrix") || kind.equals("scale") || kind.equals("translate");
      bends |= !straight && m.curves().seconds().length > 1;
    }
    // Two transforms that move together are no line of parts, unless they are apart as parts are.
    bends |= moved.stream().map(Moved::op).distinct().count() > 1 && !isPlain(transform);
    for (KeyCurve curve : curves) {
      bends |= !curve.all(KeyCurve.LINE) && !curve.all(KeyCurve.HOLD);
    }
    return bends ? moments(curves) : keys(curves);
  }

  private static boolean isPlain(DaeTransform transform) {
    return transform.ops.size() <= 2
        && transform.ops.stream().allMatch(o -> o.kind().matches("translate|scale"))
        && transform.ops.get(0).kind().equals("translate");
  }

  private static double[] keys(List<KeyCurve> curves) {
    TreeSet<Double> times = new TreeSet<>();
    for (KeyCurve curve : curves) {
      for (double t : curve.seconds()) {
        times.add(t);
      }
      times.addAll(curve.beforeJumps());
    }
    return times.stream().mapToDouble(Double::doubleValue).toArray();
  }

  /** All keys and {@value #RATE} samples a second between the first and the last. */
  static double[] moments(List<KeyCurve> curves) {
    double[] keys = keys(curves);
    double first = keys[0];
    double last = keys[keys.length - 1];
    int count = (int) Math.min(MOST, Math.ceil((last - first) * RATE));
    TreeSet<Double> times = new TreeSet<>();
    for (double key : keys) {
      times.add(key);
    }
    for (int i = 1; i < count; i++) {
      double t = first + (last - first) * i / count;
      Double near = times.floor(t + 1e-4);
      if (near == null || near < t - 1e-4) {
        times.add(t);
      }
    }
    return times.stream().mapToDouble(Double::doubleValue).toArray();
  }
}
