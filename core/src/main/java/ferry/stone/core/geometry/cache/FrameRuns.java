package ferry.stone.core.geometry.cache;

import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.work.Cancel;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import org.joml.Matrix3d;

/**
 * Samples of a cache whose axes contradict those before them: exporters mirror and turn what lies
 * between the first and the last. The first is taken to be right, and each other is compared with
 * the one before it as that comes out right.
 */
public final class FrameRuns {
  /** Samples that are looked at first; between two that differ the border is halved down to. */
  private static final int LOOKED_AT = 128;

  /** Points that are compared. */
  private static final int POINTS = 2048;

  /** A jump counts from this part of the size on, and where another frame leaves but a fifth. */
  private static final double JUMP = 0.05;

  private static final double FIFTH = 0.2;

  private final PointCache cache;
  private final int stride;
  private final int points;
  private final double size;
  private final float[] all;

  /**
   * Samples in a frame of their own.
   *
   * @param first of them
   * @param last of them
   * @param axes what brings them to those of the first sample
   */
  public record Run(int first, int last, AxisFrame axes) {}

  private FrameRuns(PointCache cache) throws IOException {
    this.cache = cache;
    stride = Math.max(1, cache.pointCount() / POINTS);
    points = (cache.pointCount() + stride - 1) / stride;
    all = new float[3 * cache.pointCount()];
    double[] rest = sample(0, AxisFrame.SAME);
    size = new PointPairs(floats(rest), rest).size();
  }

  /** Runs in other frames than the first sample, in order; none where all agree. */
  public static List<Run> of(PointCache cache) throws IOException {
    return cache.sampleCount() < 2 || cache.pointCount() == 0
        ? List.of()
        : new FrameRuns(cache).runs();
  }

  private double[] sample(int sample, AxisFrame axes) throws IOException {
    cache.read(sample, 0, cache.pointCount(), all);
    Matrix3d map = axes.matrix();
    double[] some = new double[3 * points];
    for (int i = 0; i < points; i++) {
      int at = 3 * i * stride;
      for (int c = 0; c < 3; c++) {
        some[3 * i + c] =
            map.get(0, c) * all[at] + map.get(1, c) * all[at + 1] + map.get(2, c) * all[at + 2];
      }
    }
    return some;
  }

  private static float[] floats(double[] numbers) {
    float[] floats = new float[numbers.length];
    for (int i = 0; i < floats.length; i++) {
      floats[i] = (float) numbers[i];
    }
    return floats;
  }

  private List<Run> runs() throws IOException {
    int count = cache.sampleCount();
    int looked = Math.min(count, LOOKED_AT);
    int[] at = new int[looked];
    for (int k = 0; k < looked; k++) {
      at[k] = (int) Math.round((double) k * (count - 1) / Math.max(1, looked - 1));
    }
    List<Run> runs = new ArrayList<>();
    AxisFrame now = AxisFrame.SAME;
    int since = 0;
    double[] before = sample(0, now);
    for (int k = 1; k < looked; k++) {
      Cancel.point();
      AxisFrame own = nearest(at[k], before, now);
      if (!own.equals(now)) {
        int border = border(at[k - 1], at[k], before, now, own);
        add(runs, since, border - 1, now);
        since = border;
        now = own;
      }
      before = sample(at[k], now);
    }
    add(runs, since, count - 1, now);
    return List.copyOf(runs);
  }

  private static void add(List<Run> runs, int first, int last, AxisFrame axes) {
    if (!axes.equals(AxisFrame.SAME)) {
      runs.add(new Run(first, last, axes));
    }
  }

  /** The frame in which a sample comes nearest to the one before; that one's where it is close. */
  private AxisFrame nearest(int sample, double[] before, AxisFrame now) throws IOException {
    double[] raw = sample(sample, AxisFrame.SAME);
    PointPairs pairs = new PointPairs(floats(raw), before);
    double stays = Math.sqrt(pairs.leftInPlace(now.matrix(), 1));
    if (stays <= JUMP * size) {
      return now;
    }
    AxisFrame best = now;
    double least = stays * FIFTH;
    for (AxisFrame frame : AxisFrame.ALL) {
      double left = Math.sqrt(pairs.leftInPlace(frame.matrix(), 1));
      if (left < least * (1 - 1e-6)) {
        least = left;
        best = frame;
      }
    }
    return best;
  }

  /** The first sample that is in the later frame. */
  private int border(int known, int other, double[] before, AxisFrame now, AxisFrame own)
      throws IOException {
    int low = known;
    int high = other;
    double[] nearby = before;
    while (high - low > 1) {
      int middle = (low + high) >>> 1;
      PointPairs pairs = new PointPairs(floats(sample(middle, AxisFrame.SAME)), nearby);
      boolean later = pairs.leftInPlace(own.matrix(), 1) < pairs.leftInPlace(now.matrix(), 1);
      if (later) {
        high = middle;
      } else {
        low = middle;
        nearby = sample(middle, now);
      }
    }
    return high;
  }
}
