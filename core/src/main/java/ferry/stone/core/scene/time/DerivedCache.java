package ferry.stone.core.scene.time;

import java.io.IOException;

/** A cache that is worked out of another one. */
public interface DerivedCache extends PointCache, DerivedSamples {
  @Override
  PointCache of();

  @Override
  default int pointCount() {
    return of().pointCount();
  }

  @Override
  default void read(int sample, int from, int count, float[] target) throws IOException {
    of().read(sample, from, count, target);
  }
}
