package ferry.stone.core.format.gltf.raw;

import java.nio.ByteBuffer;

/** The filters of EXT_meshopt_compression, as its appendix B writes them. */
final class MeshoptFilters {
  private MeshoptFilters() {}

  static void apply(String filter, ByteBuffer data, int count, int stride)
      throws MeshoptDecoder.Damaged {
    switch (filter) {
      case "NONE" -> {}
      case "OCTAHEDRAL" -> {
        check(stride == 4 || stride == 8, filter, stride);
        octahedral(data, count, stride);
      }
      case "QUATERNION" -> {
        check(stride == 8, filter, stride);
        quaternion(data, count);
      }
      case "EXPONENTIAL" -> {
        check(stride % 4 == 0, filter, stride);
        exponential(data, count * stride / 4);
      }
      default -> throw new MeshoptDecoder.Damaged("the filter " + filter + " is not known");
    }
  }

  private static void check(boolean fits, String filter, int stride) throws MeshoptDecoder.Damaged {
    if (!fits) {
      throw new MeshoptDecoder.Damaged(
          "the filter " + filter + " does not fit elements of " + stride + " bytes");
    }
  }

  private static void octahedral(ByteBuffer data, int count, int stride) {
    boolean wide = stride == 8;
    double most = wide ? 32767 : 127;
    for (int i = 0; i < count; i++) {
      double x = get(data, i, 0, wide);
      double y = get(data, i, 1, wide);
      double one = get(data, i, 2, wide);
      x /= one;
      y /= one;
      double z = 1 - Math.abs(x) - Math.abs(y);
      double t = Math.min(z, 0);
      x += x >= 0 ? t : -t;
      y += y >= 0 ? t : -t;
      double h = most / Math.sqrt(x * x + y * y + z * z);
      put(data, i, 0, wide, x * h);
      put(data, i, 1, wide, y * h);
      put(data, i, 2, wide, z * h);
    }
  }

  private static double get(ByteBuffer data, int element, int component, boolean wide) {
    return wide ? data.getShort(8 * element + 2 * component) : data.get(4 * element + component);
  }

  private static void put(ByteBuffer data, int element, int component, boolean wide, double value) {
    long rounded = Math.round(value);
    if (wide) {
      data.putShort(8 * element + 2 * component, (short) rounded);
    } else {
      data.put(4 * element + component, (byte) rounded);
    }
  }

  private static void quaternion(ByteBuffer data, int count) {
    for (int i = 0; i < count; i++) {
      int at = 8 * i;
      int code = data.getShort(at + 6);
      int largest = code & 3;
      double range = 1 / Math.sqrt(2) / (code | 3);
      double x = data.getShort(at) * range;
      double y = data.getShort(at + 2) * range;
      double z = data.getShort(at + 4) * range;
      double w = Math.sqrt(Math.max(0, 1 - x * x - y * y - z * z));
      data.putShort(at + 2 * ((largest + 1) % 4), (short) Math.round(x * 32767));
      data.putShort(at + 2 * ((largest + 2) % 4), (short) Math.round(y * 32767));
      data.putShort(at + 2 * ((largest + 3) % 4), (short) Math.round(z * 32767));
      data.putShort(at + 2 * largest, (short) Math.round(w * 32767));
    }
  }

  private static void exponential(ByteBuffer data, int numbers) {
    for (int i = 0; i < numbers; i++) {
      int v = data.getInt(4 * i);
      data.putFloat(4 * i, (float) Math.scalb((double) (v << 8 >> 8), v >> 24));
    }
  }
}
