package ferry.stone.core.geometry.cache;

import ferry.stone.core.scene.time.DerivedCache;
import ferry.stone.core.scene.time.PointCache;
import java.io.IOException;

/**
 * Some points of another cache, in an order of their own. Reads the whole range that a request
 * touches once.
 *
 * @param source point of the other cache for each point
 */
public record PickedCache(PointCache of, int[] source) implements DerivedCache {
  @Override
  public int pointCount() {
    return source.length;
  }

  @Override
  public void read(int sample, int from, int count, float[] target) throws IOException {
    int low = Integer.MAX_VALUE;
    int high = -1;
    for (int i = from; i < from + count; i++) {
      low = Math.min(low, source[i]);
      high = Math.max(high, source[i]);
    }
    if (high < 0) {
      return;
    }
    float[] range = new float[3 * (high - low + 1)];
    of.read(sample, low, high - low + 1, range);
    for (int i = 0; i < count; i++) {
      System.arraycopy(range, 3 * (source[from + i] - low), target, 3 * i, 3);
    }
  }
}
