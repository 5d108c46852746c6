package ferry.stone.core.format.fbx.raw;

import java.util.Arrays;
import java.util.List;

/** Makes records for writing. */
public final class FbxBuild {
  private FbxBuild() {}

  /** A record with values. */
  public static FbxRecord record(String name, Object... values) {
    FbxRecord record = new FbxRecord(name, "");
    record.values().addAll(Arrays.asList(values));
    return record;
  }

  /** A record with children alone. */
  public static FbxRecord list(String name, FbxRecord... children) {
    FbxRecord record = new FbxRecord(name, "");
    record.children().addAll(Arrays.asList(children));
    return record;
  }

  /** A record with values and children. */
  public static FbxRecord list(String name, List<?> values, List<FbxRecord> children) {
    FbxRecord record = new FbxRecord(name, "");
    record.values().addAll(values);
    record.children().addAll(children);
    return record;
  }

  /** Named properties of an object. */
  public static FbxRecord properties(List<FbxRecord> list) {
    return list("Properties70", List.of(), list);
  }

  /**
   * A property.
   *
   * @param label its second type name, as the format has it
   * @param flags {@code A} for one that can move, {@code U} for one that users added
   */
  public static FbxRecord p(
      String name, String type, String label, String flags, Object... values) {
    FbxRecord p = record("P", name, type, label, flags);
    p.values().addAll(Arrays.asList(values));
    return p;
  }

  public static FbxRecord whole(String name, int value) {
    return p(name, "int", "Integer", "", value);
  }

  public static FbxRecord choice(String name, int value) {
    return p(name, "enum", "", "", value);
  }

  public static FbxRecord flag(String name, boolean value) {
    return p(name, "bool", "", "", value ? 1 : 0);
  }

  public static FbxRecord number(String name, double value) {
    return p(name, "double", "Number", "", value);
  }

  /** A number that can move. */
  public static FbxRecord moving(String name, double value) {
    return p(name, "Number", "", "A", value);
  }

  public static FbxRecord vector(String name, double x, double y, double z) {
    return p(name, "Vector3D", "Vector", "", x, y, z);
  }

  public static FbxRecord colour(String name, double[] rgb) {
    return p(name, "Color", "", "A", rgb[0], rgb[1], rgb[2]);
  }

  public static FbxRecord text(String name, String value) {
    return p(name, "KString", "", "", value);
  }

  public static FbxRecord time(String name, double seconds) {
    return p(name, "KTime", "Time", "", FbxSettings.ticks(seconds));
  }
}
