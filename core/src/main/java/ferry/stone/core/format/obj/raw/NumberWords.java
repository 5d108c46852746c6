package ferry.stone.core.format.obj.raw;

/** Numbers as text that reads back the same. */
public final class NumberWords {
  private NumberWords() {}

  public static String of(float value) {
    return bare(Float.toString(value));
  }

  public static String of(double value) {
    // What is exactly a float needs no more digits than one.
    return value == (float) value ? of((float) value) : bare(Double.toString(value));
  }

  private static String bare(String text) {
    return text.endsWith(".0") ? text.substring(0, text.length() - 2) : text;
  }
}
