package ferry.stone.bench;

import ferry.stone.core.scene.time.PointCache;

/** Waves that take next to no time to work out: a sample is another one moved. */
record WavingCloth(int id, int meshId, int sampleCount, float[] rest) implements PointCache {
  @Override
  public String name() {
    return "cloth";
  }

  @Override
  public int pointCount() {
    return rest.length / 3;
  }

  @Override
  public double timeSeconds(int sample) {
    return sample / 24.0;
  }

  @Override
  public void read(int sample, int from, int count, float[] target) {
    System.arraycopy(rest, 3 * from, target, 0, 3 * count);
    float up = 0.01f * sample;
    for (int i = 1; i < 3 * count; i += 3) {
      target[i] += up;
    }
  }
}
