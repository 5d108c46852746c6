package ferry.stone.core.scene.time;

import java.io.IOException;

/** A cache that is worked out of another one as it is read; what it does not say is the other's. */
public interface DerivedCache extends PointCache {
  PointCache of();

  @Override
  default int id() {
    return of().id();
  }

  @Override
  default String name() {
    return of().name();
  }

  @Override
  default int meshId() {
    return of().meshId();
  }

  @Override
  default int sampleCount() {
    return of().sampleCount();
  }

  @Override
  default int pointCount() {
    return of().pointCount();
  }

  @Override
  default double timeSeconds(int sample) {
    return of().timeSeconds(sample);
  }

  @Override
  default void read(int sample, int from, int count, float[] target) throws IOException {
    of().read(sample, from, count, target);
  }
}
