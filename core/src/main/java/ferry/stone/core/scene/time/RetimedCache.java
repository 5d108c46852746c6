package ferry.stone.core.scene.time;

import java.io.IOException;

/**
 * Samples of another cache at times of their own, each as it is.
 *
 * @param samples of the other cache, one for each of this
 * @param seconds rising, as many
 */
public record RetimedCache(PointCache of, int[] samples, double[] seconds)
    implements DerivedCache, Retimed {
  public RetimedCache {
    Retimed.check(samples, seconds);
  }

  @Override
  public void read(int sample, int from, int count, float[] target) throws IOException {
    of.read(samples[sample], from, count, target);
  }
}
