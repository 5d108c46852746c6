package ferry.stone.core.math;

import java.util.Locale;
import java.util.Optional;

/** Lengths that 3D files are written in. Inch and foot by the international yard of 1959. */
public enum LengthUnit {
  MILLIMETRE("mm", "millimetre", 0.001),
  CENTIMETRE("cm", "centimetre", 0.01),
  DECIMETRE("dm", "decimetre", 0.1),
  METRE("m", "metre", 1.0),
  KILOMETRE("km", "kilometre", 1000.0),
  INCH("in", "inch", 0.0254),
  FOOT("ft", "foot", 0.3048),
  YARD("yd", "yard", 0.9144);

  /** All symbols, for people. */
  public static final String SYMBOLS = "mm, cm, dm, m, km, in, ft or yd";

  private final String symbol;
  private final String word;
  private final double metres;

  LengthUnit(String symbol, String word, double metres) {
    this.symbol = symbol;
    this.word = word;
    this.metres = metres;
  }

  public String symbol() {
    return symbol;
  }

  public String word() {
    return word;
  }

  /** How many metres one of this unit is. */
  public double metres() {
    return metres;
  }

  /** Reads a symbol or a word, whatever its case; empty for anything else. */
  public static Optional<LengthUnit> parse(String text) {
    if (text == null) {
      return Optional.empty();
    }
    String wanted = text.strip().toLowerCase(Locale.ROOT);
    for (LengthUnit unit : values()) {
      if (unit.symbol.equals(wanted) || unit.word.equals(wanted)) {
        return Optional.of(unit);
      }
    }
    return Optional.empty();
  }

  /**
   * Metres of a unit by its symbol or word, or of a number of metres.
   *
   * @throws IllegalArgumentException in a sentence
   */
  public static double metresOf(String text) {
    double metres;
    try {
      metres = parse(text).map(LengthUnit::metres).orElseGet(() -> Double.valueOf(text));
    } catch (NumberFormatException e) {
      metres = Double.NaN;
    }
    if (!(metres > 0) || Double.isInfinite(metres)) {
      throw new IllegalArgumentException(
          "unit must be " + SYMBOLS + ", or metres above 0, not \"" + text + "\"");
    }
    return metres;
  }

  /** The symbol of the unit with so many metres, or that number; {@link #metresOf} reads it. */
  public static String textOf(double metres) {
    return ofMetres(metres).map(LengthUnit::symbol).orElse(String.valueOf(metres));
  }

  /** The unit with this many metres, within one part in a million; empty if none is. */
  public static Optional<LengthUnit> ofMetres(double metres) {
    for (LengthUnit unit : values()) {
      if (Math.abs(unit.metres - metres) <= unit.metres * 1e-6) {
        return Optional.of(unit);
      }
    }
    return Optional.empty();
  }
}
