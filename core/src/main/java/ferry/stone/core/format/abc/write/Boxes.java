package ferry.stone.core.format.abc.write;

import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.DoubleList;
import java.util.Arrays;

/** The boxes around a shape, one a sample. */
final class Boxes {
  /** The box of nothing: from the largest number to the smallest. */
  static final double[] NOTHING = {
    Double.MAX_VALUE, Double.MAX_VALUE, Double.MAX_VALUE,
    -Double.MAX_VALUE, -Double.MAX_VALUE, -Double.MAX_VALUE
  };

  private static final int NUMBERS = 6;

  private final DoubleList numbers = new DoubleList(NUMBERS);
  private double[] seconds;

  /**
   * @param moments of the samples, {@code null} for what rests
   */
  void begin(double[] moments) {
    seconds = moments;
  }

  /** Lowest x, y, z, then highest. */
  void add(double[] box) {
    for (double number : box) {
      numbers.add(number);
    }
  }

  int count() {
    return numbers.size() / NUMBERS;
  }

  /** Of the samples; {@code null} for what rests. */
  double[] seconds() {
    return seconds;
  }

  /** That of the sample at or before a moment. */
  Bounds at(double moment) {
    int sample = 0;
    if (seconds != null && count() > 1) {
      int found = Arrays.binarySearch(seconds, moment);
      sample = Math.max(0, Math.min(count() - 1, found >= 0 ? found : -found - 2));
    }
    int at = NUMBERS * sample;
    return new Bounds(
        numbers.get(at),
        numbers.get(at + 1),
        numbers.get(at + 2),
        numbers.get(at + 3),
        numbers.get(at + 4),
        numbers.get(at + 5));
  }
}
