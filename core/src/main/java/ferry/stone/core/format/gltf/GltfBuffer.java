package ferry.stone.core.format.gltf;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.ArrayList;
import java.util.List;

/**
 * Collects binary data with its buffer views and accessors. Every view starts at a multiple of 4.
 */
final class GltfBuffer {
  static final int UNSIGNED_BYTE = 5121;
  static final int UNSIGNED_SHORT = 5123;
  static final int UNSIGNED_INT = 5125;
  static final int FLOAT = 5126;
  private static final int ARRAY_BUFFER = 34962;
  private static final int ELEMENT_ARRAY_BUFFER = 34963;
  private static final int HIGHEST_SHORT_INDEX = 65_534;

  private final ArrayNode views;
  private final ArrayNode accessors;
  private final List<byte[]> parts = new ArrayList<>();
  private long length;

  GltfBuffer(ArrayNode views, ArrayNode accessors) {
    this.views = views;
    this.accessors = accessors;
  }

  /** Adds float vertex data; returns the accessor. */
  int addFloats(float[] values, int components, boolean withBounds) {
    ByteBuffer bytes = allocate(4L * values.length);
    bytes.asFloatBuffer().put(values);
    int view = addView(bytes.array(), ARRAY_BUFFER);
    int count = values.length / components;
    ObjectNode accessor =
        accessor(view, FLOAT, count, components == 2 ? "VEC2" : "VEC" + components);
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

  /** Adds numbers that are no vertex data: key times, key values. */
  int addNumbers(float[] values, int components, boolean withBounds) {
    ByteBuffer bytes = allocate(4L * values.length);
    bytes.asFloatBuffer().put(values);
    int view = addView(bytes.array(), 0);
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

  /** Adds 4 × 4 matrices, column by column. */
  int addMatrices(double[] values) {
    ByteBuffer bytes = allocate(4L * values.length);
    for (int i = 0; i < values.length; i++) {
      // Inverse bind matrices must end in 0 0 0 1 exactly.
      bytes.putFloat(i % 16 == 15 ? 1 : i % 4 == 3 ? 0 : (float) values[i]);
    }
    int view = addView(bytes.array(), 0);
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
    int view = addView(bytes.array(), ARRAY_BUFFER);
    accessor(view, wide ? UNSIGNED_SHORT : UNSIGNED_BYTE, joints.length / 4, "VEC4");
    return accessors.size() - 1;
  }

  /** Adds indices, in 16 bits where they fit; returns the accessor. */
  int addIndices(int[] indices, int vertexCount) {
    boolean wide = vertexCount - 1 > HIGHEST_SHORT_INDEX;
    ByteBuffer bytes = allocate((wide ? 4L : 2L) * indices.length);
    for (int index : indices) {
      if (wide) {
        bytes.putInt(index);
      } else {
        bytes.putShort((short) index);
      }
    }
    int view = addView(bytes.array(), ELEMENT_ARRAY_BUFFER);
    accessor(view, wide ? UNSIGNED_INT : UNSIGNED_SHORT, indices.length, "SCALAR");
    return accessors.size() - 1;
  }

  /** Adds raw bytes, e.g. an image; returns the view. */
  int addBytes(byte[] bytes) {
    return addView(bytes, 0);
  }

  private static ByteBuffer allocate(long bytes) {
    if (bytes > Integer.MAX_VALUE - 64) {
      throw new IllegalStateException("one mesh has more than 2 GB of vertex data");
    }
    return ByteBuffer.allocate((int) bytes).order(ByteOrder.LITTLE_ENDIAN);
  }

  private int addView(byte[] bytes, int target) {
    ObjectNode view = views.addObject();
    view.put("buffer", 0).put("byteOffset", length).put("byteLength", bytes.length);
    if (target != 0) {
      view.put("target", target);
    }
    parts.add(bytes);
    length += bytes.length;
    int pad = (int) (-length & 3);
    if (pad > 0) {
      parts.add(new byte[pad]);
      length += pad;
    }
    return views.size() - 1;
  }

  private ObjectNode accessor(int view, int componentType, int count, String type) {
    ObjectNode accessor = accessors.addObject();
    accessor.put("bufferView", view).put("componentType", componentType).put("count", count);
    return accessor.put("type", type);
  }

  long length() {
    return length;
  }

  /** The data in order, without joining it. */
  List<byte[]> parts() {
    return parts;
  }
}
