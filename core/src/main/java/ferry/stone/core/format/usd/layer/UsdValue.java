package ferry.stone.core.format.usd.layer;

import java.util.Arrays;

/**
 * A value of an attribute or a field.
 *
 * @param array whether it is an array, also one of a single value
 * @param data primitive array by {@link UsdType.Kind}: all components of all values one after
 *     another
 */
public record UsdValue(UsdType type, boolean array, Object data) {

  public static UsdValue text(UsdType.Kind kind, String... texts) {
    String name =
        switch (kind) {
          case ASSET -> "asset";
          case STRING -> "string";
          default -> "token";
        };
    return new UsdValue(UsdType.known(name), texts.length != 1, texts);
  }

  public static UsdValue real(double number) {
    return new UsdValue(UsdType.known("double"), false, new double[] {number});
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof UsdValue value
        && type.equals(value.type)
        && array == value.array
        && Arrays.deepEquals(new Object[] {data}, new Object[] {value.data});
  }

  @Override
  public int hashCode() {
    return 31 * type.hashCode() + Arrays.deepHashCode(new Object[] {data});
  }

  /** How many values there are, each of all its components. */
  public int count() {
    return type.components() == 0 ? 0 : length() / type.components();
  }

  /** Numbers or texts. */
  public int length() {
    return data == null ? 0 : java.lang.reflect.Array.getLength(data);
  }

  /** The first text, {@code null} where it has none. */
  public String text() {
    return data instanceof String[] texts && texts.length > 0 ? texts[0] : null;
  }

  /** A number of any kind; a truth is 1 or 0. */
  public double number(int i) {
    if (data instanceof double[] d) {
      return d[i];
    }
    if (data instanceof float[] f) {
      return f[i];
    }
    if (data instanceof int[] w) {
      return w[i];
    }
    if (data instanceof long[] l) {
      return l[i];
    }
    return data instanceof boolean[] b ? b[i] ? 1 : 0 : Double.NaN;
  }

  /** Numbers as floats; takes them over where they are some. */
  public float[] floats() {
    if (data instanceof float[] f) {
      return f;
    }
    float[] all = new float[length()];
    for (int i = 0; i < all.length; i++) {
      all[i] = (float) number(i);
    }
    return all;
  }

  /** Numbers as doubles; takes them over where they are some. */
  public double[] doubles() {
    if (data instanceof double[] d) {
      return d;
    }
    double[] all = new double[length()];
    for (int i = 0; i < all.length; i++) {
      all[i] = number(i);
    }
    return all;
  }

  /** Whole numbers; takes them over where they are some. */
  public int[] ints() {
    if (data instanceof int[] w) {
      return w;
    }
    int[] all = new int[length()];
    for (int i = 0; i < all.length; i++) {
      all[i] = (int) number(i);
    }
    return all;
  }

  /** Texts, none where it has others. */
  public String[] texts() {
    return data instanceof String[] texts ? texts : new String[0];
  }
}
