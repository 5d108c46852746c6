package ferry.stone.core.format.usd.read.stage;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.UsdNames;
import ferry.stone.core.format.usd.ValidNames;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.compose.UsdProperty;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.layer.UsdValue;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import java.util.Map;

/**
 * What a prim says at rest: the value that does not change, else the first of the samples that has
 * one; a single sample counts before that.
 */
public final class Said {
  private Said() {}

  /** {@code null} where nothing is said. */
  public static UsdValue value(UsdPrim prim, String name) throws IOException, FormatException {
    return value(prim.property(name));
  }

  public static UsdValue value(UsdProperty property) throws IOException, FormatException {
    if (property == null) {
      return null;
    }
    UsdSamples samples = property.samples();
    int count = samples == null ? 0 : samples.codes().length;
    // A single sample holds at all times, whatever stands beside it.
    boolean single = count == 1 && samples.value(0) instanceof UsdValue;
    if (!single && property.value() instanceof UsdValue value) {
      return value;
    }
    for (int s = 0; s < count; s++) {
      if (samples.value(s) instanceof UsdValue value) {
        return value;
      }
    }
    return null;
  }

  public static double number(UsdPrim prim, String name, double otherwise)
      throws IOException, FormatException {
    UsdValue value = value(prim, name);
    return value == null || value.length() == 0 || Double.isNaN(value.number(0))
        ? otherwise
        : decimal(value, 0);
  }

  /** A number as it is written: of 32 bits, and not the nearest to it of 64. */
  static double decimal(UsdValue value, int i) {
    double number = value.number(i);
    return value.data() instanceof float[]
        ? Double.parseDouble(Float.toString((float) number))
        : number;
  }

  /** All numbers as they are written. */
  public static double[] decimals(UsdValue value) {
    double[] all = new double[value.length()];
    Arrays.setAll(all, i -> decimal(value, i));
    return all;
  }

  public static boolean flag(UsdPrim prim, String name, boolean otherwise)
      throws IOException, FormatException {
    return number(prim, name, otherwise ? 1 : 0) != 0;
  }

  public static String text(UsdPrim prim, String name, String otherwise)
      throws IOException, FormatException {
    UsdValue value = value(prim, name);
    return value == null || value.text() == null ? otherwise : value.text();
  }

  public static String[] texts(UsdPrim prim, String name) throws IOException, FormatException {
    UsdValue value = value(prim, name);
    return value == null ? new String[0] : value.texts();
  }

  public static int[] ints(UsdPrim prim, String name) throws IOException, FormatException {
    UsdValue value = value(prim, name);
    return value == null ? new int[0] : value.ints();
  }

  public static float[] floats(UsdPrim prim, String name) throws IOException, FormatException {
    UsdValue value = value(prim, name);
    return value == null ? new float[0] : value.floats();
  }

  /** {@code otherwise} where nothing is said or fewer numbers are. */
  public static double[] doubles(UsdPrim prim, String name, double... otherwise)
      throws IOException, FormatException {
    UsdValue value = value(prim, name);
    return value == null || value.length() < otherwise.length ? otherwise : value.doubles();
  }

  /** Whether it says several values over time. */
  public static boolean moves(UsdPrim prim, String name) {
    return moves(prim.property(name));
  }

  public static boolean moves(UsdProperty property) {
    UsdSamples samples = property == null ? null : property.samples();
    return samples != null && samples.codes().length > 1;
  }

  /** What a prim was called before its name was made valid, where the two go together. */
  public static String name(UsdPrim prim) {
    return prim.field("displayName") instanceof UsdValue value
            && value.text() != null
            && ValidNames.isMadeOf(prim.name(), value.text())
        ? value.text()
        : prim.name();
  }

  /** The name of the camera or light that a part shows: its own, or that of the part. */
  public static String ownName(UsdPrim prim) {
    return prim.field("customData") instanceof Map<?, ?> map
            && map.get(UsdNames.OWN_NAME) instanceof UsdValue value
            && value.text() != null
        ? value.text()
        : name(prim);
  }

  public static List<String> targets(UsdPrim prim, String name) {
    UsdProperty property = prim.property(name);
    return property == null ? List.of() : property.targets();
  }

  /** A text among the fields of a property, such as {@code interpolation}. */
  public static String field(UsdProperty property, String name, String otherwise) {
    return property.field(name) instanceof UsdValue value && value.text() != null
        ? value.text()
        : otherwise;
  }

  /** Whether a prim has an interface applied. */
  static boolean has(UsdPrim prim, String schema) {
    return prim.field("apiSchemas") instanceof List<?> list && list.contains(schema);
  }

  /** The value at a time code, that at rest for no number; {@code null} for none. */
  public static UsdValue at(UsdProperty property, double code) throws IOException, FormatException {
    UsdSamples samples = property == null ? null : property.samples();
    if (Double.isNaN(code) || samples == null || samples.codes().length == 0) {
      return value(property);
    }
    int found = Arrays.binarySearch(samples.codes(), code + 1e-9);
    int sample = Math.max(0, found >= 0 ? found : -found - 2);
    return samples.value(sample) instanceof UsdValue value ? value : null;
  }
}
