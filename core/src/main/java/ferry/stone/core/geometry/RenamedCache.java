package ferry.stone.core.geometry;

import ferry.stone.core.scene.PointCache;

/** Another cache under an id of its own, for another mesh. */
public record RenamedCache(PointCache of, int id, int meshId) implements PointCache {
  @Override
  public String name() {
    return of.name();
  }

  @Override
  public int sampleCount() {
    return of.sampleCount();
  }

  @Override
  public int pointCount() {
    return of.pointCount();
  }

  @Override
  public double timeSeconds(int sample) {
    return of.timeSeconds(sample);
  }

  @Override
  public void read(int sample, int from, int count, float[] target) {
    of.read(sample, from, count, target);
  }
}
