package ferry.stone.core.format.abc.raw;

/**
 * When the samples of a property are.
 *
 * @param perCycle seconds after which the stored times are repeated; infinite where all times are
 *     stored
 * @param stored times of a cycle, or all; at least one, rising
 */
public record TimeSampling(double perCycle, double[] stored) {
  /** What the format has in every archive: sample 0 at 0 s, one a second. */
  public static final TimeSampling IDENTITY = new TimeSampling(1, new double[] {0});

  public boolean isAcyclic() {
    return Double.isInfinite(perCycle);
  }

  /** One time a cycle. */
  public boolean isUniform() {
    return stored.length == 1 && !isAcyclic();
  }

  /** Seconds of a sample; of the last stored one where there are no more. */
  public double seconds(long sample) {
    if (isAcyclic()) {
      return stored[(int) Math.min(sample, stored.length - 1L)];
    }
    long cycle = sample / stored.length;
    return stored[(int) (sample % stored.length)] + cycle * perCycle;
  }
}
