package ferry.stone.core.format.gltf.write;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.format.gltf.raw.GltfExtensions;
import ferry.stone.core.format.gltf.raw.MeshoptEncoder;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.ArrayList;
import java.util.List;

/**
 * Collects binary data with its buffer views and accessors. Every view starts at a multiple of 4.
 *
 * <p>Packed views follow EXT_meshopt_compression: what is packed stands in buffer 0, and the view
 * names its place in buffer 1, which is only there once unpacked. Views that packing would not make
 * smaller stay as they are.
 */
public final class GltfBuffer {
  static final int BYTE = 5120;
  static final int SHORT = 5122;
  public static final int UNSIGNED_BYTE = 5121;
  public static final int UNSIGNED_SHORT = 5123;
  public static final int UNSIGNED_INT = 5125;
  static final int FLOAT = 5126;
  private static final int ARRAY_BUFFER = 34962;
  private static final int ELEMENT_ARRAY_BUFFER = 34963;
  private static final int HIGHEST_SHORT_INDEX = 65_534;
  private static final int MOST_PACKED_STRIDE = 256;

  private final ArrayNode views;
  private final ArrayNode accessors;
  private final boolean packed;
  private final GltfPacking.IndexBits indexBits;
  private final List<byte[]> parts = new ArrayList<>();
  private long length;
  private long unpackedLength;

  GltfBuffer(ArrayNode views, ArrayNode accessors, GltfPacking packing) {
    this.views = views;
    this.accessors = accessors;
    packed = packing.compressed();
    indexBits = packing.indexBits();
  }

  private static String type(int components) {
    return switch (components) {
      case 1 -> "SCALAR";
      case 9 -> "MAT3";
      case 16 -> "MAT4";
      default -> "VEC" + components;
    };
  }

  /** Adds float vertex data; returns the accessor. */
  int addFloats(float[] values, int components, boolean withBounds) {
    ByteBuffer bytes = allocate(4L * values.length);
    bytes.asFloatBuffer().put(values);
    int view = addView(bytes.array(), ARRAY_BUFFER, 4 * components, false);
    int count = values.length / components;
    ObjectNode accessor = accessor(view, FLOAT, count, type(components));
    if (withBounds) {
      ArrayNode min = accessor.putArray("min");
      ArrayNode max = accessor.putArray("max");
      for (int k = 0; k < components; k++) {
        float lo = Float.POSITIVE_INFINITY;
        float hi = Float.NEGATIVE_INFINITY;
        for (int i = k; i < values.length; i += components) {
          lo = Math.min(lo, values[i]);
          hi = Math.max(hi, values[i]);
        }
        min.add(lo);
        max.add(hi);
      }
    }
    return accessors.size() - 1;
  }

  /**
   * Adds vertex data as normalised 16-bit numbers, each element at a multiple of 4 bytes.
   *
   * @param signed for values from −1 to 1; else from 0 to 1
   */
  int addShorts(float[] values, int components, boolean signed, boolean withBounds) {
    int count = values.length / components;
    int stride = (2 * components + 3) / 4 * 4;
    int most = signed ? GltfQuantization.MOST : 65_535;
    ByteBuffer bytes = allocate((long) stride * count);
    int[] lo = new int[components];
    int[] hi = new int[components];
    java.util.Arrays.fill(lo, Integer.MAX_VALUE);
    java.util.Arrays.fill(hi, Integer.MIN_VALUE);
    for (int i = 0; i < count; i++) {
      for (int k = 0; k < components; k++) {
        double value = Math.max(signed ? -1 : 0, Math.min(1, values[components * i + k]));
        int rounded = (int) Math.round(value * most);
        lo[k] = Math.min(lo[k], rounded);
        hi[k] = Math.max(hi[k], rounded);
        bytes.putShort(stride * i + 2 * k, (short) rounded);
      }
    }
    int view = addView(bytes.array(), ARRAY_BUFFER, stride, false);
    if (stride != 2 * components) {
      ((ObjectNode) views.get(view)).put("byteStride", stride);
    }
    ObjectNode accessor =
        accessor(view, signed ? SHORT : UNSIGNED_SHORT, count, "VEC" + components);
    accessor.put("normalized", true);
    if (withBounds) {
      ArrayNode min = accessor.putArray("min");
      ArrayNode max = accessor.putArray("max");
      for (int k = 0; k < components; k++) {
        min.add(lo[k]);
        max.add(hi[k]);
      }
    }
    return accessors.size() - 1;
  }

  /**
   * Adds vertex data as whole numbers, each element at a multiple of 4 bytes.
   *
   * @param width bytes of a number, below 0 for numbers with a sign
   */
  int addWholes(int[] values, int components, int width) {
    int size = Math.abs(width);
    int count = values.length / components;
    int stride = (size * components + 3) / 4 * 4;
    ByteBuffer bytes = allocate((long) stride * count);
    for (int i = 0; i < values.length; i++) {
      int at = stride * (i / components) + size * (i % components);
      if (size == 1) {
        bytes.put(at, (byte) values[i]);
      } else {
        bytes.putShort(at, (short) values[i]);
      }
    }
    int view = addView(bytes.array(), ARRAY_BUFFER, stride, false);
    if (stride != size * components) {
      ((ObjectNode) views.get(view)).put("byteStride", stride);
    }
    int type = size == 1 ? (width < 0 ? BYTE : UNSIGNED_BYTE) : width < 0 ? SHORT : UNSIGNED_SHORT;
    accessor(view, type, count, components == 1 ? "SCALAR" : "VEC" + components);
    return accessors.size() - 1;
  }

  /** Adds numbers that are no vertex data: key times, key values. */
  int addNumbers(float[] values, int components, boolean withBounds) {
    ByteBuffer bytes = allocate(4L * values.length);
    bytes.asFloatBuffer().put(values);
    int view = addView(bytes.array(), 0, 4 * components, false);
    ObjectNode accessor =
        accessor(
            view,
            FLOAT,
            values.length / components,
            components == 1 ? "SCALAR" : "VEC" + components);
    if (withBounds) {
      accessor.putArray("min").add(values[0]);
      accessor.putArray("max").add(values[values.length - 1]);
    }
    return accessors.size() - 1;
  }

  /** Adds yes and no as bytes. */
  int addFlags(float[] values) {
    ByteBuffer bytes = allocate(values.length);
    for (float value : values) {
      bytes.put((byte) (value >= 0.5 ? 1 : 0));
    }
    int view = addView(bytes.array(), 0, 1, true);
    accessor(view, UNSIGNED_BYTE, values.length, "SCALAR");
    return accessors.size() - 1;
  }

  /** Adds 4 × 4 matrices, column by column. */
  int addMatrices(double[] values) {
    ByteBuffer bytes = allocate(4L * values.length);
    for (int i = 0; i < values.length; i++) {
      // Inverse bind matrices must end in 0 0 0 1 exactly.
      bytes.putFloat(i % 16 == 15 ? 1 : i % 4 == 3 ? 0 : (float) values[i]);
    }
    int view = addView(bytes.array(), 0, 64, false);
    accessor(view, FLOAT, values.length / 16, "MAT4");
    return accessors.size() - 1;
  }

  /** Adds joint numbers, four a vertex, in 8 bits where they fit. */
  int addJoints(int[] joints, int jointCount) {
    boolean wide = jointCount > 256;
    ByteBuffer bytes = allocate((wide ? 2L : 1L) * joints.length);
    for (int joint : joints) {
      if (wide) {
        bytes.putShort((short) joint);
      } else {
        bytes.put((byte) joint);
      }
    }
    int view = addView(bytes.array(), ARRAY_BUFFER, wide ? 8 : 4, false);
    accessor(view, wide ? UNSIGNED_SHORT : UNSIGNED_BYTE, joints.length / 4, "VEC4");
    return accessors.size() - 1;
  }

  /** Adds weights of four joints a vertex in parts of 65,535. */
  int addShortWeights(int[] weights) {
    ByteBuffer bytes = allocate(2L * weights.length);
    for (int weight : weights) {
      bytes.putShort((short) weight);
    }
    int view = addView(bytes.array(), ARRAY_BUFFER, 8, false);
    accessor(view, UNSIGNED_SHORT, weights.length / 4, "VEC4").put("normalized", true);
    return accessors.size() - 1;
  }

  /** Adds the corners of triangles; returns the accessor. */
  int addIndices(int[] indices, int vertexCount) {
    boolean wide = indexBits == GltfPacking.IndexBits.LONG || vertexCount - 1 > HIGHEST_SHORT_INDEX;
    ByteBuffer bytes = allocate((wide ? 4L : 2L) * indices.length);
    for (int index : indices) {
      if (wide) {
        bytes.putInt(index);
      } else {
        bytes.putShort((short) index);
      }
    }
    byte[] small = packed ? MeshoptEncoder.triangles(indices) : null;
    int stride = wide ? 4 : 2;
    int view =
        small != null && small.length < bytes.capacity()
            ? addPacked(small, bytes.capacity(), stride, "TRIANGLES")
            : addView(bytes.array(), 0, stride, true);
    ((ObjectNode) views.get(view)).put("target", ELEMENT_ARRAY_BUFFER);
    accessor(view, wide ? UNSIGNED_INT : UNSIGNED_SHORT, indices.length, "SCALAR");
    return accessors.size() - 1;
  }

  /** Adds raw bytes, e.g. an image; returns the view. */
  int addBytes(byte[] bytes) {
    return addView(bytes, 0, 0, true);
  }

  private static ByteBuffer allocate(long bytes) {
    if (bytes > Integer.MAX_VALUE - 64) {
      throw new IllegalStateException("one mesh has more than 2 GB of vertex data");
    }
    return ByteBuffer.allocate((int) bytes).order(ByteOrder.LITTLE_ENDIAN);
  }

  private int addView(byte[] bytes, int target, int stride, boolean asIs) {
    if (packed && !asIs && bytes.length > 0 && stride % 4 == 0 && stride <= MOST_PACKED_STRIDE) {
      byte[] small = MeshoptEncoder.attributes(bytes, bytes.length / stride, stride);
      if (small.length < bytes.length) {
        int view = addPacked(small, bytes.length, stride, "ATTRIBUTES");
        if (target != 0) {
          // A stride may be stated for vertices only, and must be where it is not the natural one.
          ((ObjectNode) views.get(view)).put("target", target);
        }
        return view;
      }
    }
    ObjectNode view = views.addObject();
    view.put("buffer", 0).put("byteOffset", length).put("byteLength", bytes.length);
    if (target != 0) {
      view.put("target", target);
    }
    store(bytes);
    return views.size() - 1;
  }

  private int addPacked(byte[] small, int plainLength, int stride, String mode) {
    ObjectNode view = views.addObject();
    view.put("buffer", 1).put("byteOffset", unpackedLength).put("byteLength", plainLength);
    view.withObject("/extensions/" + GltfExtensions.MESHOPT)
        .put("buffer", 0)
        .put("byteOffset", length)
        .put("byteLength", small.length)
        .put("byteStride", stride)
        .put("count", plainLength / stride)
        .put("mode", mode);
    store(small);
    unpackedLength += plainLength + (-plainLength & 3);
    return views.size() - 1;
  }

  private void store(byte[] bytes) {
    parts.add(bytes);
    length += bytes.length;
    int pad = (int) (-length & 3);
    if (pad > 0) {
      parts.add(new byte[pad]);
      length += pad;
    }
  }

  private ObjectNode accessor(int view, int componentType, int count, String type) {
    ObjectNode accessor = accessors.addObject();
    accessor.put("bufferView", view).put("componentType", componentType).put("count", count);
    return accessor.put("type", type);
  }

  /** Bytes that are written. */
  long length() {
    return length;
  }

  /** Bytes of buffer 1 once unpacked, 0 when nothing is packed. */
  long unpackedLength() {
    return unpackedLength;
  }

  /** The data in order, without joining it. */
  List<byte[]> parts() {
    return parts;
  }
}
