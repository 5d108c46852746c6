package ferry.stone.core.scene.time;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/**
 * Caches one after another in time as one; where two lie over each other, the earlier one counts up
 * to its end.
 *
 * @param parts each beginning after the one before it
 * @param part for each sample, which of them has it
 * @param sample for each sample, which of that one's it is
 */
public record JoinedCache(
    int id, String name, int meshId, List<PointCache> parts, int[] part, int[] sample)
    implements PointCache {
  private static final double SAME = 1e-6;

  /**
   * @param parts in the order of their beginnings, with as many points each
   */
  public static JoinedCache of(int id, String name, int meshId, List<? extends PointCache> parts) {
    List<int[]> order = order(parts);
    int[] part = order.stream().mapToInt(o -> o[0]).toArray();
    int[] sample = order.stream().mapToInt(o -> o[1]).toArray();
    return new JoinedCache(id, name, meshId, List.copyOf(parts), part, sample);
  }

  /** Which part and which of its samples each sample of all is: times rise. */
  static List<int[]> order(List<? extends Samples> parts) {
    List<int[]> order = new ArrayList<>();
    double last = Double.NEGATIVE_INFINITY;
    for (int p = 0; p < parts.size(); p++) {
      for (int s = 0; s < parts.get(p).sampleCount(); s++) {
        double t = parts.get(p).timeSeconds(s);
        if (t > last + SAME) {
          order.add(new int[] {p, s});
          last = t;
        }
      }
    }
    return order;
  }

  @Override
  public int sampleCount() {
    return part.length;
  }

  @Override
  public int pointCount() {
    return parts.get(0).pointCount();
  }

  @Override
  public double timeSeconds(int of) {
    return parts.get(part[of]).timeSeconds(sample[of]);
  }

  @Override
  public void read(int of, int from, int count, float[] target) throws IOException {
    parts.get(part[of]).read(sample[of], from, count, target);
  }
}
