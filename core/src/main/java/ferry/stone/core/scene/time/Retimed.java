package ferry.stone.core.scene.time;

/** Samples of others at times of their own, each as it is. */
interface Retimed extends DerivedSamples {
  /** Of the others, one for each of these. */
  int[] samples();

  /** Rising, as many. */
  double[] seconds();

  /** Refuses numbers that do not belong together. */
  static void check(int[] samples, double[] seconds) {
    if (samples.length != seconds.length || samples.length == 0) {
      throw new IllegalArgumentException(samples.length + " samples at " + seconds.length);
    }
  }

  @Override
  default int sampleCount() {
    return samples().length;
  }

  @Override
  default double timeSeconds(int sample) {
    return seconds()[sample];
  }
}
