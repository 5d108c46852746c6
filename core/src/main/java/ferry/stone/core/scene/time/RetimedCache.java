package ferry.stone.core.scene.time;

import java.io.IOException;

/**
 * Samples of another cache at times of their own, each as it is.
 *
 * @param samples of the other cache, one for each of this
 * @param seconds rising, as many
 */
public record RetimedCache(PointCache of, int[] samples, double[] seconds) implements DerivedCache {
  public RetimedCache {
    if (samples.length != seconds.length || samples.length == 0) {
      throw new IllegalArgumentException(samples.length + " samples at " + seconds.length);
    }
  }

  @Override
  public int sampleCount() {
    return samples.length;
  }

  @Override
  public double timeSeconds(int sample) {
    return seconds[sample];
  }

  @Override
  public void read(int sample, int from, int count, float[] target) throws IOException {
    of.read(samples[sample], from, count, target);
  }
}
