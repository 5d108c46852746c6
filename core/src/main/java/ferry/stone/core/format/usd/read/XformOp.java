package ferry.stone.core.format.usd.read;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.compose.UsdProperty;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.read.stage.Said;
import ferry.stone.core.format.usd.read.stage.UsdReading;
import ferry.stone.core.scene.node.LocalTransform.EulerOrder;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.KeyCurve;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * One operation of a transform over time: numbers run straight between samples, quaternions along
 * the sphere. A block among samples is no operation until the next one.
 *
 * <table>
 * <caption>Kinds, by the second part of the name</caption>
 * <tr><td>translate, scale</td><td>x, y, z</td></tr>
 * <tr><td>translateX … scaleZ</td><td>one of them</td></tr>
 * <tr><td>rotateX, rotateY, rotateZ</td><td>degrees</td></tr>
 * <tr><td>rotateXYZ … rotateZYX</td><td>degrees about x, y, z; the first letter turns first</td></tr>
 * <tr><td>orient</td><td>quaternion, the real part first</td></tr>
 * <tr><td>transform</td><td>matrix for row vectors, row by row</td></tr>
 * </table>
 */
final class XformOp {
  private static final Map<String, Integer> WIDTH =
      Map.of("translate", 3, "scale", 3, "orient", 4, "transform", 16);

  private static final double[] NO_TURN = {1, 0, 0, 0};

  private final String name;
  private final String kind;
  private final boolean inverse;
  private final int width;
  private final double[] seconds;
  private final double[][] values;
  private final double[] rest;

  private XformOp(
      String name,
      String kind,
      boolean inverse,
      int width,
      double[] seconds,
      double[][] values,
      double[] rest) {
    this.name = name;
    this.kind = kind;
    this.inverse = inverse;
    this.width = width;
    this.seconds = seconds;
    this.values = values;
    this.rest = rest;
  }

  /** {@code null} for what has no value or is of no known kind. */
  static XformOp of(
      UsdReading reading, String path, UsdProperty property, String name, boolean inverse)
      throws IOException, FormatException {
    String[] parts = name.split(":", 3);
    String kind = parts.length > 1 ? parts[1] : "";
    Integer fixed = WIDTH.get(kind);
    int width = fixed != null ? fixed : order(kind) != null ? 3 : isSingle(kind) ? 1 : 0;
    UsdSamples samples = property.samples();
    double[] codes = samples == null ? new double[0] : samples.codes();
    double[] seconds = new double[codes.length];
    double[][] values = new double[codes.length][];
    reading.report().claim(8L * (width + 4L) * codes.length, path, "its motion");
    for (int s = 0; s < codes.length; s++) {
      seconds[s] = reading.seconds(codes[s]);
      values[s] = numbers(samples.value(s), width);
    }
    double[] rest = numbers(Said.value(property), width);
    return width == 0 || rest == null
        ? null
        : new XformOp(name, kind, inverse, width, seconds, values, rest);
  }

  private static boolean isSingle(String kind) {
    return kind.matches("(translate|scale|rotate)[XYZ]");
  }

  private static double[] numbers(Object value, int width) {
    return value instanceof UsdValue v && v.length() >= width && width > 0 ? v.doubles() : null;
  }

  private static EulerOrder order(String kind) {
    for (EulerOrder order : EulerOrder.values()) {
      if (kind.equals("rotate" + order)) {
        return order;
      }
    }
    return null;
  }

  /** In which order it turns, {@code null} for other kinds and what is inverted. */
  EulerOrder order() {
    return inverse || name.indexOf(':', name.indexOf(':') + 1) >= 0 ? null : order(kind);
  }

  /** Whether it is of a kind, with a suffix or none, and not inverted. */
  boolean is(String wanted, String suffix) {
    return !inverse && name.equals("xformOp:" + wanted + (suffix.isEmpty() ? "" : ":" + suffix));
  }

  /** Whether it undoes another one. */
  boolean inverts(XformOp other) {
    return inverse && !other.inverse && name.equals(other.name);
  }

  /** Its three numbers at rest. */
  Vector3d rest() {
    return new Vector3d(rest[0], rest[1], rest[2]);
  }

  double[] seconds() {
    return seconds;
  }

  /** Moments at which it comes or goes at once. */
  double[] jumps() {
    double[] all = new double[seconds.length];
    int count = 0;
    for (int s = 1; s < seconds.length; s++) {
      if ((values[s] == null) != (values[s - 1] == null)) {
        all[count++] = seconds[s];
      }
    }
    return Arrays.copyOf(all, count);
  }

  /** Degrees by which it turns between two moments, where a line does not follow it. */
  double degrees(double from, double to) {
    if (!kind.startsWith("rotate")) {
      return 0;
    }
    double[] a = numbersAt(from);
    double[] b = numbersAt(to);
    double most = 0;
    for (int i = 0; a != null && b != null && i < width; i++) {
      most = Math.max(most, Math.abs(b[i] - a[i]));
    }
    return most;
  }

  /** Its numbers at a moment, those at rest for no number; {@code null} where it is blocked. */
  private double[] numbersAt(double t) {
    if (Double.isNaN(t) || seconds.length == 0) {
      return rest;
    }
    int found = Arrays.binarySearch(seconds, t + 1e-9);
    int low = Math.max(0, found >= 0 ? found : -found - 2);
    int high = Math.min(low + 1, seconds.length - 1);
    double span = seconds[high] - seconds[low];
    double part = span <= 0 || t <= seconds[low] ? 0 : (t - seconds[low]) / span;
    double[] a = values[low];
    double[] b = values[high];
    if (a == null || b == null || part == 0) {
      return a;
    }
    double[] v = new double[width];
    if (kind.equals("orient")) {
      Quaterniond q = quaternion(a).slerp(quaternion(b), part);
      return new double[] {q.w, q.x, q.y, q.z};
    }
    for (int i = 0; i < width; i++) {
      v[i] = a[i] + part * (b[i] - a[i]);
    }
    return v;
  }

  private static Quaterniond quaternion(double[] v) {
    Quaterniond q = new Quaterniond(v[1], v[2], v[3], v[0]);
    return q.lengthSquared() == 0
        ? q.set(NO_TURN[1], NO_TURN[2], NO_TURN[3], NO_TURN[0])
        : q.normalize();
  }

  /** Adds its three numbers over time as straight lines; nothing where it rests or is blocked. */
  void keys(int nodeId, String property, List<Clip.Keys> keys) {
    if (seconds.length < 2 || Arrays.stream(values).anyMatch(v -> v == null)) {
      return;
    }
    for (int c = 0; c < width; c++) {
      int component = c;
      double[] own = Arrays.stream(values).mapToDouble(v -> v[component]).toArray();
      if (Arrays.stream(own).anyMatch(v -> v != own[0])) {
        keys.add(new Clip.Keys(nodeId, property, c, KeyCurve.lines(seconds, own)));
      }
    }
  }

  /** Goes on from a matrix at a moment. */
  void apply(Matrix4d all, double t) {
    double[] v = numbersAt(t);
    if (v == null) {
      return;
    }
    Matrix4d own = matrix(v);
    all.mul(inverse ? own.invert() : own);
  }

  private Matrix4d matrix(double[] v) {
    Matrix4d own = new Matrix4d();
    EulerOrder order = order(kind);
    if (order != null) {
      return own.rotate(order.quaternion(new Vector3d(v[0], v[1], v[2])));
    }
    return switch (kind) {
      case "translate" -> own.translate(v[0], v[1], v[2]);
      case "scale" -> own.scale(v[0], v[1], v[2]);
      case "orient" -> own.rotate(quaternion(v));
      // Rows of a row-vector matrix are the columns of ours.
      case "transform" -> own.set(v);
      default -> single(own, kind.toLowerCase(Locale.ROOT), v[0]);
    };
  }

  private static Matrix4d single(Matrix4d own, String kind, double value) {
    int axis = kind.charAt(kind.length() - 1) - 'x';
    Vector3d along = new Vector3d().setComponent(axis, 1);
    if (kind.startsWith("rotate")) {
      return own.rotate(Math.toRadians(value), along);
    }
    if (kind.startsWith("translate")) {
      return own.translate(along.mul(value));
    }
    return own.scale(new Vector3d(1).setComponent(axis, value));
  }
}
