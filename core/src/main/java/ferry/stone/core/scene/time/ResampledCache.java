package ferry.stone.core.scene.time;

import java.io.IOException;

/**
 * Another cache at other moments, on the line between its samples.
 *
 * @param moments on the other cache's time line, one for each sample of this
 * @param seconds rising, as many
 */
public record ResampledCache(PointCache of, double[] moments, double[] seconds)
    implements DerivedCache {
  public ResampledCache {
    if (moments.length != seconds.length || moments.length == 0) {
      throw new IllegalArgumentException(moments.length + " samples at " + seconds.length);
    }
  }

  @Override
  public int sampleCount() {
    return seconds.length;
  }

  @Override
  public double timeSeconds(int sample) {
    return seconds[sample];
  }

  @Override
  public void read(int sample, int from, int count, float[] target) throws IOException {
    between(of, moments[sample], from, count, target);
  }

  /** Some points at a moment: before the first sample the first, after the last the last. */
  public static void between(PointCache cache, double moment, int from, int count, float[] target)
      throws IOException {
    int low = cache.sampleAt(moment);
    cache.read(low, from, count, target);
    double before = cache.timeSeconds(low);
    if (moment <= before || low + 1 >= cache.sampleCount()) {
      return;
    }
    float part = (float) ((moment - before) / (cache.timeSeconds(low + 1) - before));
    float[] next = new float[3 * count];
    cache.read(low + 1, from, count, next);
    for (int i = 0; i < next.length; i++) {
      target[i] += part * (next[i] - target[i]);
    }
  }
}
