package ferry.stone.core.scene.time;

/** Samples that are worked out of others as they are read; what these do not say is the others'. */
public interface DerivedSamples extends Samples {
  Samples of();

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
  default double timeSeconds(int sample) {
    return of().timeSeconds(sample);
  }
}
