package ferry.stone.core.format.fbx;

import java.util.Arrays;
import java.util.List;

/** Makes records for writing. */
final class FbxBuild {
  private FbxBuild() {}

  /** A record with values. */
  static FbxRecord record(String name, Object... values) {
    FbxRecord record = new FbxRecord(name, "");
    record.values().addAll(Arrays.asList(values));
    return record;
  }

  /** A record with children alone. */
  static FbxRecord list(String name, FbxRecord... children) {
    FbxRecord record = new FbxRecord(name, "");
    record.children().addAll(Arrays.asList(children));
    return record;
  }

  /** A record with values and children. */
  static FbxRecord list(String name, List<?> values, List<FbxRecord> children) {
    FbxRecord record = new FbxRecord(name, "");
    record.values().addAll(values);
    record.children().addAll(children);
    return record;
  }

  /** Named properties of an object. */
  static FbxRecord properties(List<FbxRecord> list) {
    return list("Properties70", List.of(), list);
  }

  /**
   * A property.
   *
   * @param label its second type name, as the format has it
   * @param flags {@code A} for one that can move, {@code U} for one that users added
   */
  static FbxRecord p(String name, String type, String label, String flags, Object... values) {
    FbxRecord p = record("P", name, type, label, flags);
    p.values().addAll(Arrays.asList(values));
    return p;
  }

  static FbxRecord whole(String name, int value) {
    return p(name, "int", "Integer", "", value);
  }

  static FbxRecord choice(String name, int value) {
    return p(name, "enum", "", "", value);
  }

  static FbxRecord flag(String name, boolean value) {
    return p(name, "bool", "", "", value ? 1 : 0);
  }

  static FbxRecord number(String name, double value) {
    return p(name, "double", "Number", "", value);
  }

  /** A number that can move. */
  static FbxRecord moving(String name, double value) {
    return p(name, "Number", "", "A", value);
  }

  static FbxRecord vector(String name, double x, double y, double z) {
    return p(name, "Vector3D", "Vector", "", x, y, z);
  }

  static FbxRecord colour(String name, double[] rgb) {
    return p(name, "Color", "", "A", rgb[0], rgb[1], rgb[2]);
  }

  static FbxRecord text(String name, String value) {
    return p(name, "KString", "", "", value);
  }

  static FbxRecord time(String name, double seconds) {
    return p(name, "KTime", "Time", "", FbxSettings.ticks(seconds));
  }
}
