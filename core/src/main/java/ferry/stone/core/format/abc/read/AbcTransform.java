package ferry.stone.core.format.abc.read;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.abc.raw.AbcCompound;
import ferry.stone.core.format.abc.raw.AbcObject;
import ferry.stone.core.format.abc.raw.AbcProperty;
import ferry.stone.core.format.files.ReadReport;
import ferry.stone.core.format.motion.MovingPlace;
import ferry.stone.core.math.DoubleList;
import java.io.IOException;
import java.util.Arrays;
import org.joml.Matrix4d;

/**
 * Where an object stands: a list of operations, the first the outermost, whose numbers may change
 * over time. Between two samples each number runs on a line.
 *
 * <table>
 * <caption>Operations: type by 16, with a hint in the lower half</caption>
 * <tr><td>0</td><td>scale x, y, z</td></tr>
 * <tr><td>1</td><td>translation x, y, z</td></tr>
 * <tr><td>2</td><td>axis x, y, z and angle in degrees</td></tr>
 * <tr><td>3</td><td>matrix for row vectors, row by row</td></tr>
 * <tr><td>4, 5, 6</td><td>angle in degrees about x, y, z</td></tr>
 * </table>
 */
final class AbcTransform implements MovingPlace {
  private static final int[] WIDTH = {3, 3, 4, 16, 1, 1, 1};
  private static final int SCALE = 0;
  private static final int TRANSLATE = 1;
  private static final int MATRIX = 3;

  /** Degrees of a turn that a line between two rotations still follows. */
  private static final double FINE = 5;

  private static final int MOST_PARTS = 72;

  private final int[] ops;
  private final int width;
  private final double[] values;
  private final double[] seconds;
  private final boolean[] inherits;

  private AbcTransform(
      int[] ops, int width, double[] values, double[] seconds, boolean[] inherits) {
    this.ops = ops;
    this.width = width;
    this.values = values;
    this.seconds = seconds;
    this.inherits = inherits;
  }

  /** {@code null} for an object that is no transform. */
  static AbcTransform of(AbcObject object, ReadReport report) throws IOException, FormatException {
    AbcCompound xform = object.properties().compound(".xform").orElse(null);
    if (xform == null) {
      return null;
    }
    AbcProperty types = xform.value(".ops").orElse(null);
    AbcProperty numbers = xform.value(".vals").orElse(null);
    AbcProperty inheriting = xform.value(".inherits").orElse(null);
    int[] ops = types == null ? new int[0] : types.ints(0);
    int width = 0;
    for (int i = 0; i < ops.length; i++) {
      ops[i] >>>= 4;
      if (ops[i] < 0 || ops[i] >= WIDTH.length) {
        throw report.broken(object.path(), "a transform of an unknown kind (" + ops[i] + ").");
      }
      width += WIDTH[ops[i]];
    }
    AbcProperty longest = numbers;
    if (longest == null || inheriting != null && inheriting.sampleCount() > longest.sampleCount()) {
      longest = inheriting;
    }
    int samples = longest == null ? 1 : longest.sampleCount();
    report.claim(8L * (width + 2L) * samples, object.path(), "its motion");
    double[] values = new double[width * samples];
    double[] seconds = new double[samples];
    boolean[] inherits = new boolean[samples];
    for (int s = 0; s < samples; s++) {
      if (width > 0) {
        double[] own = numbers == null ? new double[0] : numbers.doubles(s);
        if (own.length < width) {
          throw report.broken(
              object.path(),
              "a transform has " + own.length + " numbers where its list needs " + width + ".");
        }
        System.arraycopy(own, 0, values, width * s, width);
      }
      seconds[s] = longest == null ? 0 : longest.seconds(s);
      inherits[s] = inheriting == null || inheriting.ints(s)[0] != 0;
    }
    return new AbcTransform(ops, width, values, seconds, inherits);
  }

  /** Whether any sample goes on from the world and not from the parent. */
  @Override
  public boolean leavesItsParent() {
    for (boolean each : inherits) {
      if (!each) {
        return true;
      }
    }
    return false;
  }

  /** Whether two samples differ. */
  @Override
  public boolean moves() {
    for (int i = width; i < values.length; i++) {
      if (values[i] != values[i % width]) {
        return true;
      }
    }
    for (boolean each : inherits) {
      if (each != inherits[0]) {
        return true;
      }
    }
    return false;
  }

  private int sampleAt(double t) {
    int found = Arrays.binarySearch(seconds, t + 1e-9);
    return Math.max(0, found >= 0 ? found : -found - 2);
  }

  /** Whether it goes on from its parent at a moment. */
  @Override
  public boolean inherits(double t) {
    return inherits[sampleAt(t)];
  }

  /** Its own points to those of its parent, or of the world. */
  @Override
  public Matrix4d at(double t) {
    int low = sampleAt(t);
    int high = Math.min(low + 1, seconds.length - 1);
    double span = seconds[high] - seconds[low];
    double part = span <= 0 || t <= seconds[low] ? 0 : (t - seconds[low]) / span;
    double[] v = new double[width];
    for (int i = 0; i < width; i++) {
      double before = values[width * low + i];
      v[i] = part == 0 ? before : before + part * (values[width * high + i] - before);
    }
    Matrix4d all = new Matrix4d();
    int at = 0;
    for (int op : ops) {
      apply(all, op, v, at);
      at += WIDTH[op];
    }
    return all;
  }

  private static void apply(Matrix4d all, int op, double[] v, int i) {
    switch (op) {
      case SCALE -> all.scale(v[i], v[i + 1], v[i + 2]);
      case TRANSLATE -> all.translate(v[i], v[i + 1], v[i + 2]);
      case 2 -> {
        double length = Math.sqrt(v[i] * v[i] + v[i + 1] * v[i + 1] + v[i + 2] * v[i + 2]);
        if (length > 0) {
          double angle = Math.toRadians(v[i + 3]);
          all.rotate(angle, v[i] / length, v[i + 1] / length, v[i + 2] / length);
        }
      }
      // Rows of a row-vector matrix are the columns of ours.
      case MATRIX -> all.mul(new Matrix4d().set(v, i));
      case 4 -> all.rotateX(Math.toRadians(v[i]));
      case 5 -> all.rotateY(Math.toRadians(v[i]));
      default -> all.rotateZ(Math.toRadians(v[i]));
    }
  }

  /** Moments of its samples, and between them as many as its turns need. */
  @Override
  public double[] moments() {
    DoubleList result = new DoubleList(seconds.length);
    for (int s = 0; s < seconds.length; s++) {
      if (s > 0) {
        int parts = parts(s);
        for (int p = 1; p < parts; p++) {
          result.add(seconds[s - 1] + (seconds[s] - seconds[s - 1]) * p / parts);
        }
      }
      result.add(seconds[s]);
    }
    return result.toArray();
  }

  /** Into how many parts the way to a sample is cut. */
  private int parts(int sample) {
    double most = 0;
    int at = 0;
    for (int op : ops) {
      if (op == 2 || op > MATRIX) {
        for (int i = 0; i < WIDTH[op]; i++) {
          int now = width * sample + at + i;
          // A moving axis turns too: a part of it for a part of a radian.
          double scale = op == 2 && i < 3 ? Math.toDegrees(1) : 1;
          most = Math.max(most, scale * Math.abs(values[now] - values[now - width]));
        }
      }
      at += WIDTH[op];
    }
    return (int) Math.max(1, Math.min(MOST_PARTS, Math.ceil(most / FINE)));
  }
}
