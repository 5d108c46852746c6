package ferry.stone.core.format.gltf.read;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.gltf.raw.GltfContainer;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.IntBuffer;
import java.nio.ShortBuffer;
import java.util.Map;

/** Reads accessors of every component type: strided, normalised and sparse. */
final class GltfAccessors {
  private static final Map<String, Integer> COMPONENTS =
      Map.of("SCALAR", 1, "VEC2", 2, "VEC3", 3, "VEC4", 4, "MAT2", 4, "MAT3", 9, "MAT4", 16);
  private static final int BYTE = 5120;
  private static final int UNSIGNED_BYTE = 5121;
  private static final int SHORT = 5122;
  private static final int UNSIGNED_SHORT = 5123;
  private static final int UNSIGNED_INT = 5125;
  private static final int FLOAT = 5126;

  /** Numbers that stay near the core between two looks at them. */
  private static final int PIECE = 1 << 12;

  private final GltfContainer container;

  GltfAccessors(GltfContainer container) {
    this.container = container;
  }

  int count(int index, String from) throws FormatException {
    JsonNode accessor = container.item("accessors", index, from);
    int count = container.integer(accessor, "count", -1, "/accessors/" + index);
    if (count < 0) {
      throw container.error(Kind.CORRUPT, "/accessors/" + index + "/count", "is missing.");
    }
    return count;
  }

  int components(int index, String from) throws FormatException {
    JsonNode accessor = container.item("accessors", index, from);
    Integer components = COMPONENTS.get(accessor.path("type").asText());
    if (components == null) {
      throw container.error(
          Kind.CORRUPT,
          "/accessors/" + index + "/type",
          "\"" + accessor.path("type").asText() + "\" is no accessor type.");
    }
    return components;
  }

  boolean isFloat(int index, String from) throws FormatException {
    JsonNode accessor = container.item("accessors", index, from);
    return container.integer(accessor, "componentType", -1, "/accessors/" + index) == FLOAT;
  }

  /** Whether its numbers mean themselves, and not parts of 1. */
  boolean isWhole(int index, String from) throws FormatException {
    boolean parts = container.item("accessors", index, from).path("normalized").asBoolean(false);
    return !parts && !isFloat(index, from);
  }

  /** All numbers as floats; normalised integers become 0–1 or −1–1 (section 3.6.2.2). */
  float[] floats(int index, int wanted, String from) throws IOException, FormatException {
    int components = components(index, from);
    if (wanted > 0 && components != wanted) {
      throw container.error(
          Kind.CORRUPT, from, "expected " + wanted + " numbers a value, found " + components + ".");
    }
    int count = count(index, from);
    JsonNode accessor = container.item("accessors", index, from);
    boolean normalised = accessor.path("normalized").asBoolean(false);
    String path = "/accessors/" + index;
    Source source = source(index, accessor, path, components, count);
    float[] values = new float[checked(count, components, path)];
    if (source != null && count > 0 && source.isPacked(FLOAT, components)) {
      source.from().asFloatBuffer().get(values);
    } else if (source != null) {
      for (int i = 0, k = 0; i < count; i++) {
        for (int c = 0; c < components; c++) {
          values[k++] = (float) source.get(i, c, normalised);
        }
      }
    }
    applySparse(accessor, path, components, count, normalised, (i, v) -> values[i] = (float) v);
    return values;
  }

  /** Whole numbers of one component, e.g. indices. */
  int[] integers(int index, String from) throws IOException, FormatException {
    return integers(index, 1, from);
  }

  /** Whole numbers, a given number for each value. */
  int[] integers(int index, int components, String from) throws IOException, FormatException {
    return integers(index, components, from, Integer.MAX_VALUE);
  }

  /** Indices of so many vertices. */
  int[] indices(int index, String from, int vertices) throws IOException, FormatException {
    return integers(index, 1, from, vertices);
  }

  private int[] integers(int index, int components, String from, int below)
      throws IOException, FormatException {
    int count = count(index, from);
    if (components(index, from) != components) {
      throw container.error(
          Kind.CORRUPT,
          from,
          "expected " + components + " numbers a value, found " + components(index, from) + ".");
    }
    JsonNode accessor = container.item("accessors", index, from);
    String path = "/accessors/" + index;
    int type = container.integer(accessor, "componentType", -1, path);
    if (type == FLOAT) {
      throw container.error(Kind.CORRUPT, path + "/componentType", "indices cannot be floats.");
    }
    Source source = source(index, accessor, path, components, count);
    int[] values = new int[checked(count, components, path)];
    // Below 0 while it is not known that all lie within.
    int signs = -1;
    if (source != null && count > 0 && source.isPacked(UNSIGNED_SHORT, components)) {
      ShortBuffer shorts = source.from().asShortBuffer();
      for (int i = 0; i < values.length; i++) {
        values[i] = shorts.get(i) & 0xffff;
      }
    } else if (source != null && count > 0 && source.isPacked(UNSIGNED_INT, components)) {
      signs = copied(source.from().asIntBuffer(), values, below);
      for (int i = 0; signs < 0 && i < values.length; i++) {
        if (values[i] < 0) {
          throw container.error(
              Kind.CORRUPT, path, "index " + (values[i] & 0xffff_ffffL) + " is out of range.");
        }
      }
    } else if (source != null) {
      for (int i = 0, k = 0; i < count; i++) {
        for (int c = 0; c < components; c++) {
          double value = source.get(i, c, false);
          if (value > Integer.MAX_VALUE) {
            throw container.error(
                Kind.CORRUPT, path, "index " + (long) value + " is out of range.");
          }
          values[k++] = (int) value;
        }
      }
    }
    applySparse(accessor, path, components, count, false, (i, v) -> values[i] = (int) v);
    if (below < Integer.MAX_VALUE && (signs < 0 || accessor.has("sparse"))) {
      within(values, below, from);
    }
    return values;
  }

  private void within(int[] values, int below, String from) throws FormatException {
    for (int i = 0; i < values.length; i++) {
      if (values[i] < 0 || values[i] >= below) {
        throw container.error(
            Kind.CORRUPT,
            from,
            "index " + values[i] + " at place " + i + ", but there are " + below + " vertices.");
      }
    }
  }

  /**
   * Fills all values and looks at them while they are near the core.
   *
   * @return below 0 if any is, or is not below a number
   */
  private static int copied(IntBuffer from, int[] values, int below) {
    int signs = 0;
    for (int done = 0; done < values.length; done += PIECE) {
      int end = Math.min(values.length, done + PIECE);
      from.get(values, done, end - done);
      for (int i = done; i < end; i++) {
        signs |= values[i] | below - 1 - values[i];
      }
    }
    return signs;
  }

  /** How many numbers there are; taken from the budget, since one without data may claim any. */
  private int checked(int count, int components, String path) throws FormatException {
    long numbers = (long) count * components;
    container.budget().claim(Float.BYTES * numbers, path + "/count", "an accessor");
    if (numbers > Integer.MAX_VALUE - 8) {
      throw container.error(
          Kind.TOO_LARGE, path + "/count", numbers + " numbers are more than fit. Split the mesh.");
    }
    return (int) numbers;
  }

  private record Source(ByteBuffer bytes, int offset, int stride, int type) {
    /** Whether the values stand one after another in this type. */
    boolean isPacked(int wanted, int components) {
      return type == wanted && stride == components * size(type);
    }

    /** The bytes from the first value on. */
    ByteBuffer from() {
      return bytes.duplicate().position(offset).slice().order(ByteOrder.LITTLE_ENDIAN);
    }

    double get(int element, int component, boolean normalised) {
      int at = offset + element * stride + component * size(type);
      return switch (type) {
        case BYTE -> {
          byte v = bytes.get(at);
          yield normalised ? Math.max(v / 127.0, -1) : v;
        }
        case UNSIGNED_BYTE -> {
          int v = bytes.get(at) & 0xff;
          yield normalised ? v / 255.0 : v;
        }
        case SHORT -> {
          short v = bytes.getShort(at);
          yield normalised ? Math.max(v / 32767.0, -1) : v;
        }
        case UNSIGNED_SHORT -> {
          int v = bytes.getShort(at) & 0xffff;
          yield normalised ? v / 65535.0 : v;
        }
        case UNSIGNED_INT -> bytes.getInt(at) & 0xffff_ffffL;
        default -> bytes.getFloat(at);
      };
    }
  }

  private static int size(int type) {
    return switch (type) {
      case BYTE, UNSIGNED_BYTE -> 1;
      case SHORT, UNSIGNED_SHORT -> 2;
      case UNSIGNED_INT, FLOAT -> 4;
      default -> 0;
    };
  }

  /** The bytes of an accessor, which may be packed with its primitive. */
  private Source source(int index, JsonNode accessor, String path, int components, int count)
      throws IOException, FormatException {
    if (accessor.has("bufferView") || !container.draco().has(index)) {
      return source(accessor, path, components, count);
    }
    int type = container.integer(accessor, "componentType", -1, path);
    if (size(type) == 0) {
      throw container.error(Kind.CORRUPT, path + "/componentType", type + " is no component type.");
    }
    ByteBuffer bytes = container.draco().bytes(index, type, size(type), components, count);
    return new Source(bytes, 0, components * size(type), type);
  }

  /** The bytes behind an accessor, checked to hold all of it; {@code null} when it is all zeros. */
  private Source source(JsonNode owner, String path, int components, int count)
      throws IOException, FormatException {
    int type = container.integer(owner, "componentType", -1, path);
    return source(owner, type, path, components, count);
  }

  private Source source(JsonNode owner, int type, String path, int components, int count)
      throws IOException, FormatException {
    if (size(type) == 0) {
      throw container.error(Kind.CORRUPT, path + "/componentType", type + " is no component type.");
    }
    int view = container.integer(owner, "bufferView", -1, path);
    if (view < 0) {
      return null;
    }
    ByteBuffer bytes = container.view(view, path + "/bufferView");
    int packed = components * size(type);
    int stride =
        container.integer(
            container.item("bufferViews", view, path),
            "byteStride",
            packed,
            "/bufferViews/" + view);
    int offset = container.integer(owner, "byteOffset", 0, path);
    long end = count == 0 ? 0 : offset + (long) stride * (count - 1) + packed;
    if (offset < 0 || stride < packed || end > bytes.capacity()) {
      throw container.error(
          Kind.CORRUPT,
          path,
          count + " values need " + end + " bytes but its view has " + bytes.capacity() + ".");
    }
    return new Source(bytes, offset, stride, type);
  }

  /** Takes a value that replaces one of an accessor. */
  private interface Replacer {
    void replace(int place, double value);
  }

  private void applySparse(
      JsonNode accessor,
      String path,
      int components,
      int count,
      boolean normalised,
      Replacer values)
      throws IOException, FormatException {
    JsonNode sparse = accessor.path("sparse");
    if (sparse.isMissingNode()) {
      return;
    }
    String at = path + "/sparse";
    int changed = container.integer(sparse, "count", 0, at);
    if (changed < 0 || changed > count) {
      throw container.error(Kind.CORRUPT, at + "/count", "names more values than there are.");
    }
    Source indices = source(sparse.path("indices"), at + "/indices", 1, changed);
    int type = container.integer(accessor, "componentType", -1, path);
    Source replaced = source(sparse.path("values"), type, at + "/values", components, changed);
    for (int i = 0; i < changed; i++) {
      long place = (long) indices.get(i, 0, false);
      if (place < 0 || place >= count) {
        throw container.error(Kind.CORRUPT, at + "/indices", place + " is out of range.");
      }
      for (int c = 0; c < components; c++) {
        values.replace((int) place * components + c, replaced.get(i, c, normalised));
      }
    }
  }
}
