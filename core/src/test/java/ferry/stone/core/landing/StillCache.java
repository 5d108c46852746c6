package ferry.stone.core.landing;

import ferry.stone.core.scene.time.PointCache;

/** A cache of four points that rise together, a unit a second. */
public record StillCache(int meshId) implements PointCache {

  @Override
  public int id() {
    return 90;
  }

  @Override
  public String name() {
    return "ripple";
  }

  @Override
  public int sampleCount() {
    return 2;
  }

  @Override
  public int pointCount() {
    return 4;
  }

  @Override
  public double timeSeconds(int sample) {
    return sample;
  }

  @Override
  public void read(int sample, int from, int count, float[] target) {
    java.util.Arrays.fill(target, 0, 3 * count, sample);
  }
}
