package ferry.stone.core.format.usd.layer;

import ferry.stone.core.format.FormatException;
import java.io.IOException;

/** Values of an attribute at time codes; of a crate they are read when they are asked for. */
public interface UsdSamples {
  /** Rising. */
  double[] codes();

  /** A {@link UsdValue}, or a {@link UsdBlock}. */
  Object value(int sample) throws IOException, FormatException;

  /** How many numbers or texts a sample has, 0 where it is blocked. */
  default int length(int sample) throws IOException, FormatException {
    return value(sample) instanceof UsdValue value ? value.length() : 0;
  }

  /**
   * Copies numbers {@code from} to {@code from + count} of a sample.
   *
   * @throws FormatException where it has fewer
   */
  default void floats(int sample, int from, int count, float[] target)
      throws IOException, FormatException {
    float[] all = value(sample) instanceof UsdValue value ? value.floats() : new float[0];
    if (from + count > all.length) {
      throw new FormatException(
          FormatException.Kind.CORRUPT,
          "",
          "time code " + codes()[sample],
          "a sample has " + all.length + " numbers, others have more. Export the file again.");
    }
    System.arraycopy(all, from, target, 0, count);
  }

  /** All in memory. */
  record Held(double[] codes, Object[] values) implements UsdSamples {
    @Override
    public Object value(int sample) {
      return values[sample];
    }
  }
}
