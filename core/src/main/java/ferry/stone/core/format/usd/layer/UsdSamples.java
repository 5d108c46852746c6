package ferry.stone.core.format.usd.layer;

import ferry.stone.core.format.FormatException;
import java.io.IOException;

/** Values of an attribute at time codes; of a crate they are read when they are asked for. */
public interface UsdSamples {
  /** Rising. */
  double[] codes();

  /** A {@link UsdValue}, or a {@link UsdBlock}. */
  Object value(int sample) throws IOException, FormatException;

  /** All in memory. */
  record Held(double[] codes, Object[] values) implements UsdSamples {
    @Override
    public Object value(int sample) {
      return values[sample];
    }
  }
}
