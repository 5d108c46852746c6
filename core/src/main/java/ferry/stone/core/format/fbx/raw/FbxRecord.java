package ferry.stone.core.format.fbx.raw;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A record of the tree that both forms of the format hold.
 *
 * @param name what it is
 * @param values numbers as {@link Long} or {@link Double}, {@link String}, {@link Boolean}, {@code
 *     byte[]}, {@code int[]}, {@code long[]} or {@code double[]}
 * @param children records inside
 * @param place where it stands in the file, for messages
 */
public record FbxRecord(String name, List<Object> values, List<FbxRecord> children, String place) {
  static final FbxRecord NONE = new FbxRecord("", List.of(), List.of(), "");

  FbxRecord(String name, String place) {
    this(name, new ArrayList<>(), new ArrayList<>(), place);
  }

  public Optional<FbxRecord> child(String childName) {
    for (FbxRecord child : children) {
      if (child.name.equals(childName)) {
        return Optional.of(child);
      }
    }
    return Optional.empty();
  }

  /** The first child of a name, or an empty record. */
  public FbxRecord at(String childName) {
    return child(childName).orElse(NONE);
  }

  public List<FbxRecord> all(String childName) {
    return children.stream().filter(c -> c.name.equals(childName)).toList();
  }

  public String text(int index) {
    return index < values.size() && values.get(index) instanceof String s ? s : "";
  }

  /** A number or a truth value as a number; the default when there is none. */
  public double number(int index, double otherwise) {
    Object value = index < values.size() ? values.get(index) : null;
    if (value instanceof Number n) {
      return n.doubleValue();
    }
    if (value instanceof Boolean b) {
      return b ? 1 : 0;
    }
    return otherwise;
  }

  /** A whole number; 0 when there is none. */
  public long id(int index) {
    return index < values.size() && values.get(index) instanceof Number n ? n.longValue() : 0;
  }

  /** The numbers of this record, whether as an array or one by one. */
  public double[] doubles() {
    if (values.size() == 1 && values.get(0) instanceof double[] d) {
      return d;
    }
    if (values.size() == 1 && values.get(0) instanceof int[] ints) {
      double[] d = new double[ints.length];
      for (int i = 0; i < d.length; i++) {
        d[i] = ints[i];
      }
      return d;
    }
    if (values.size() == 1 && values.get(0) instanceof long[] longs) {
      double[] d = new double[longs.length];
      for (int i = 0; i < d.length; i++) {
        d[i] = longs[i];
      }
      return d;
    }
    if (values.size() == 1 && values.get(0) instanceof float[] floats) {
      double[] d = new double[floats.length];
      for (int i = 0; i < d.length; i++) {
        d[i] = floats[i];
      }
      return d;
    }
    return values.stream()
        .filter(Number.class::isInstance)
        .mapToDouble(v -> ((Number) v).doubleValue())
        .toArray();
  }

  public int[] ints() {
    if (values.size() == 1 && values.get(0) instanceof int[] ints) {
      return ints;
    }
    double[] d = doubles();
    int[] ints = new int[d.length];
    for (int i = 0; i < d.length; i++) {
      ints[i] = (int) d[i];
    }
    return ints;
  }

  public long[] longs() {
    if (values.size() == 1 && values.get(0) instanceof long[] longs) {
      return longs;
    }
    if (values.size() == 1) {
      double[] d = doubles();
      long[] longs = new long[d.length];
      for (int i = 0; i < d.length; i++) {
        longs[i] = (long) d[i];
      }
      return longs;
    }
    return values.stream()
        .filter(Number.class::isInstance)
        .mapToLong(v -> ((Number) v).longValue())
        .toArray();
  }
}
