package ferry.stone.core.geometry.cache;

import ferry.stone.core.math.LengthUnit;
import java.util.TreeSet;

/** How many of one usual unit another one is: what numbers in the wrong unit are off by. */
final class UnitRatios {
  /** All, those nearest to 1 first. */
  static final double[] ALL = all();

  private UnitRatios() {}

  private static double[] all() {
    TreeSet<Double> all = new TreeSet<>();
    for (LengthUnit a : LengthUnit.values()) {
      for (LengthUnit b : LengthUnit.values()) {
        double ratio = a.metres() / b.metres();
        Double near = all.floor(ratio * (1 + 1e-9));
        if (near == null || near < ratio * (1 - 1e-9)) {
          all.add(ratio);
        }
      }
    }
    return all.stream()
        .sorted((a, b) -> Double.compare(Math.abs(Math.log(a)), Math.abs(Math.log(b))))
        .mapToDouble(Double::doubleValue)
        .toArray();
  }
}
