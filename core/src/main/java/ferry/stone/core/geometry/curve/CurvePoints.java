package ferry.stone.core.geometry.curve;

import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.CurveForm;
import ferry.stone.core.scene.mesh.LooseElements;
import java.util.Arrays;

/**
 * Points along curves, each as a sum of control points: so they follow them wherever these move.
 *
 * @param offsets first point of each curve, {@code int[l+1]}
 * @param width control points of a sum
 * @param vertices {@code int[width*n]} of the mesh
 * @param factors {@code float[width*n]}, 1 together
 */
public record CurvePoints(int[] offsets, int width, int[] vertices, float[] factors) {
  /** Straight pieces that stand for a piece of a curve. */
  public static final int PIECES = 8;

  public int count() {
    return offsets[offsets.length - 1];
  }

  /**
   * Curves that have too few control points for a piece are straight through these.
   *
   * @param loose with a form
   */
  public static CurvePoints of(LooseElements loose, int pieces) {
    return new Work(loose, pieces).run();
  }

  /** Puts the points of all curves where the control points stand. */
  public float[] at(Places places) {
    float[] result = new float[3 * count()];
    for (int i = 0; i < count(); i++) {
      for (int k = 0; k < 3; k++) {
        double sum = 0;
        for (int w = 0; w < width; w++) {
          float factor = factors[width * i + w];
          sum += factor == 0 ? 0 : factor * places.at(3 * vertices[width * i + w] + k);
        }
        result[3 * i + k] = (float) sum;
      }
    }
    return result;
  }

  /** The control point that counts most for each point. */
  public int[] nearest() {
    int[] nearest = new int[count()];
    for (int i = 0; i < nearest.length; i++) {
      int best = 0;
      for (int w = 1; w < width; w++) {
        best = factors[width * i + w] > factors[width * i + best] ? w : best;
      }
      nearest[i] = vertices[width * i + best];
    }
    return nearest;
  }

  /** Coordinates of control points, three a point. */
  public interface Places {
    double at(int place);
  }

  private static final class Work {
    private final LooseElements loose;
    private final CurveForm form;
    private final int pieces;
    private final int width;
    private final IntList offsets = new IntList(16);
    private final IntList vertices = new IntList(256);
    private final FloatList factors = new FloatList(256);
    private final double[] sum;

    Work(LooseElements loose, int pieces) {
      this.loose = loose;
      this.pieces = pieces;
      form = loose.form();
      width = form.degree() + 1;
      sum = new double[width];
    }

    CurvePoints run() {
      offsets.add(0);
      for (int l = 0; l < loose.lineCount(); l++) {
        int from = loose.lineOffsets()[l];
        int count = loose.lineOffsets()[l + 1] - from;
        if (count < width || form.basis() == CurveForm.Basis.BEZIER && count < form.degree() + 1) {
          straight(from, count);
        } else if (form.basis() == CurveForm.Basis.NURBS) {
          nurbs(from, count, form.knots(loose, l));
        } else {
          uniform(from, count);
        }
        offsets.add(vertices.size() / width);
      }
      return new CurvePoints(offsets.toArray(), width, vertices.toArray(), factors.toArray());
    }

    private void straight(int from, int count) {
      for (int i = 0; i < count; i++) {
        Arrays.fill(sum, 0);
        sum[0] = 1;
        add(from + i, Math.min(1, count), 1);
      }
    }

    /** Bézier pieces step by the degree, splines by one. */
    private void uniform(int from, int count) {
      boolean bezier = form.basis() == CurveForm.Basis.BEZIER;
      int step = bezier ? form.degree() : 1;
      int spans = (count - 1 - form.degree()) / step + 1;
      for (int s = 0; s < spans; s++) {
        int last = s == spans - 1 ? pieces : pieces - 1;
        for (int i = 0; i <= last; i++) {
          double t = (double) i / pieces;
          switch (form.basis()) {
            case BEZIER -> bernstein(t);
            case BSPLINE -> bspline(t);
            default -> catmullRom(t);
          }
          add(from + s * step, width, weigh(from + s * step));
        }
      }
    }

    /** Bernstein polynomials by de Casteljau's steps. */
    private void bernstein(double t) {
      Arrays.fill(sum, 0);
      sum[0] = 1;
      for (int d = 1; d < width; d++) {
        for (int i = d; i > 0; i--) {
          sum[i] = sum[i] * (1 - t) + sum[i - 1] * t;
        }
        sum[0] *= 1 - t;
      }
    }

    /** The uniform cubic B-spline: de Boor, "A Practical Guide to Splines", 1978. */
    private void bspline(double t) {
      double u = 1 - t;
      sum[0] = u * u * u / 6;
      sum[1] = (3 * t * t * t - 6 * t * t + 4) / 6;
      sum[2] = (-3 * t * t * t + 3 * t * t + 3 * t + 1) / 6;
      sum[3] = t * t * t / 6;
    }

    /** Catmull and Rom, "A class of local interpolating splines", 1974, tension one half. */
    private void catmullRom(double t) {
      sum[0] = t * (-1 + t * (2 - t)) / 2;
      sum[1] = (2 + t * t * (-5 + 3 * t)) / 2;
      sum[2] = t * (1 + t * (4 - 3 * t)) / 2;
      sum[3] = t * t * (t - 1) / 2;
    }

    private void nurbs(int from, int count, double[] knots) {
      int degree = form.degree();
      int lastSpan = count - 1;
      while (lastSpan > degree && !(knots[lastSpan] < knots[lastSpan + 1])) {
        lastSpan--;
      }
      for (int span = degree; span <= lastSpan; span++) {
        double width = knots[span + 1] - knots[span];
        if (!(width > 0)) {
          continue;
        }
        int last = span == lastSpan ? pieces : pieces - 1;
        for (int i = 0; i <= last; i++) {
          basis(span, knots[span] + width * i / pieces, knots);
          add(from + span - degree, degree + 1, weigh(from + span - degree));
        }
      }
    }

    /** The basis functions that are not 0: Piegl and Tiller, "The NURBS Book", algorithm A2.2. */
    private void basis(int span, double u, double[] knots) {
      int degree = form.degree();
      double[] left = new double[degree + 1];
      double[] right = new double[degree + 1];
      sum[0] = 1;
      for (int j = 1; j <= degree; j++) {
        left[j] = u - knots[span + 1 - j];
        right[j] = knots[span + j] - u;
        double saved = 0;
        for (int r = 0; r < j; r++) {
          double between = right[r + 1] + left[j - r];
          double part = between == 0 ? 0 : sum[r] / between;
          sum[r] = saved + right[r + 1] * part;
          saved = left[j - r] * part;
        }
        sum[j] = saved;
      }
    }

    /** Multiplies the sum by the weights of its control points; what it comes to. */
    private double weigh(int first) {
      if (form.weights() == null) {
        return 1;
      }
      double whole = 0;
      for (int w = 0; w < width; w++) {
        sum[w] *= form.weights()[first + w];
        whole += sum[w];
      }
      return whole == 0 ? 1 : whole;
    }

    private void add(int first, int used, double whole) {
      for (int w = 0; w < width; w++) {
        vertices.add(loose.lineVertices()[w < used ? first + w : first]);
        factors.add(w < used ? (float) (sum[w] / whole) : 0);
      }
    }
  }
}
