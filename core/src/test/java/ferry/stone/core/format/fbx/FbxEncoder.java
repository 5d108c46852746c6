package ferry.stone.core.format.fbx;

import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.zip.Deflater;

/** Writes record trees in both forms, for tests of the reader. */
final class FbxEncoder {
  private FbxEncoder() {}

  /** A record with values. */
  static FbxRecord record(String name, Object... values) {
    FbxRecord record = new FbxRecord(name, "");
    record.values().addAll(Arrays.asList(values));
    return record;
  }

  /** A record with children. */
  static FbxRecord list(String name, Object[] values, FbxRecord... children) {
    FbxRecord record = record(name, values);
    record.children().addAll(Arrays.asList(children));
    return record;
  }

  static byte[] binary(FbxRecord root, int version, boolean packed) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    out.writeBytes(FbxBinaryParser.MARK);
    out.writeBytes(little(4).putInt(version).array());
    boolean wide = version >= 7500;
    for (FbxRecord child : root.children()) {
      write(out, child, wide, packed);
    }
    out.writeBytes(new byte[wide ? 25 : 13]);
    out.writeBytes(new byte[160]);
    return out.toByteArray();
  }

  private static ByteBuffer little(int size) {
    return ByteBuffer.allocate(size).order(ByteOrder.LITTLE_ENDIAN);
  }

  private static void write(
      ByteArrayOutputStream out, FbxRecord record, boolean wide, boolean packed) {
    ByteArrayOutputStream values = new ByteArrayOutputStream();
    record.values().forEach(v -> value(values, v, packed));
    byte[] name = record.name().getBytes(StandardCharsets.UTF_8);
    int start = out.size() + (wide ? 25 : 13) + name.length + values.size();
    ByteArrayOutputStream inner = new ByteArrayOutputStream();
    inner.writeBytes(new byte[start]);
    for (FbxRecord child : record.children()) {
      write(inner, child, wide, packed);
    }
    if (!record.children().isEmpty()) {
      inner.writeBytes(new byte[wide ? 25 : 13]);
    }
    ByteBuffer head = little(wide ? 25 : 13);
    if (wide) {
      head.putLong(inner.size()).putLong(record.values().size()).putLong(values.size());
    } else {
      head.putInt(inner.size()).putInt(record.values().size()).putInt(values.size());
    }
    out.writeBytes(head.put((byte) name.length).array());
    out.writeBytes(name);
    out.writeBytes(values.toByteArray());
    byte[] all = inner.toByteArray();
    out.write(all, start, all.length - start);
  }

  private static void value(ByteArrayOutputStream out, Object value, boolean packed) {
    if (value instanceof Integer i) {
      out.write('I');
      out.writeBytes(little(4).putInt(i).array());
    } else if (value instanceof Long l) {
      out.write('L');
      out.writeBytes(little(8).putLong(l).array());
    } else if (value instanceof Double d) {
      out.write('D');
      out.writeBytes(little(8).putDouble(d).array());
    } else if (value instanceof String s) {
      int colons = s.indexOf("::");
      String text =
          colons < 0 ? s : s.substring(colons + 2) + "\u0000\u0001" + s.substring(0, colons);
      byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
      out.write('S');
      out.writeBytes(little(4).putInt(bytes.length).array());
      out.writeBytes(bytes);
    } else if (value instanceof byte[] bytes) {
      out.write('R');
      out.writeBytes(little(4).putInt(bytes.length).array());
      out.writeBytes(bytes);
    } else if (value instanceof double[] d) {
      ByteBuffer data = little(8 * d.length);
      data.asDoubleBuffer().put(d);
      array(out, 'd', d.length, data.array(), packed);
    } else if (value instanceof float[] f) {
      ByteBuffer data = little(4 * f.length);
      data.asFloatBuffer().put(f);
      array(out, 'f', f.length, data.array(), packed);
    } else if (value instanceof int[] i) {
      ByteBuffer data = little(4 * i.length);
      data.asIntBuffer().put(i);
      array(out, 'i', i.length, data.array(), packed);
    } else if (value instanceof long[] l) {
      ByteBuffer data = little(8 * l.length);
      data.asLongBuffer().put(l);
      array(out, 'l', l.length, data.array(), packed);
    } else {
      throw new IllegalArgumentException(String.valueOf(value));
    }
  }

  private static void array(
      ByteArrayOutputStream out, char type, int count, byte[] data, boolean packed) {
    byte[] stored = data;
    if (packed) {
      Deflater deflater = new Deflater();
      deflater.setInput(data);
      deflater.finish();
      byte[] buffer = new byte[data.length + 64];
      stored = Arrays.copyOf(buffer, deflater.deflate(buffer));
      System.arraycopy(buffer, 0, stored, 0, stored.length);
      deflater.end();
    }
    out.write(type);
    out.writeBytes(little(12).putInt(count).putInt(packed ? 1 : 0).putInt(stored.length).array());
    out.writeBytes(stored);
  }

  static byte[] text(FbxRecord root) {
    StringBuilder out = new StringBuilder("; FBX 7.4.0 project file\n; written by a test\n\n");
    root.children().forEach(child -> text(out, child, 0));
    return out.toString().getBytes(StandardCharsets.UTF_8);
  }

  private static void text(StringBuilder out, FbxRecord record, int depth) {
    String tabs = "\t".repeat(depth);
    out.append(tabs).append(record.name()).append(": ");
    boolean first = true;
    for (Object value : record.values()) {
      out.append(first ? "" : ", ");
      first = false;
      String array = array(value);
      if (array != null) {
        out.append(array);
      } else if (value instanceof String s) {
        out.append('"').append(s).append('"');
      } else {
        out.append(value);
      }
    }
    if (!record.children().isEmpty()) {
      out.append(" {\n");
      record.children().forEach(child -> text(out, child, depth + 1));
      out.append(tabs).append("}");
    }
    out.append('\n');
  }

  private static String array(Object value) {
    String numbers =
        value instanceof double[] d
            ? Arrays.toString(d)
            : value instanceof int[] i
                ? Arrays.toString(i)
                : value instanceof long[] l
                    ? Arrays.toString(l)
                    : value instanceof float[] f ? floats(f) : null;
    if (numbers == null) {
      return null;
    }
    int count = java.lang.reflect.Array.getLength(value);
    return "*" + count + " {\n\t\ta: " + numbers.substring(1, numbers.length() - 1) + "\n} ";
  }

  /** Bits that are no sensible float are written as a whole number, as the format does. */
  private static String floats(float[] values) {
    StringBuilder out = new StringBuilder("[");
    for (int i = 0; i < values.length; i++) {
      boolean bits = values[i] != 0 && Math.abs(values[i]) < 1e-20;
      out.append(i == 0 ? "" : ", ")
          .append(bits ? String.valueOf(Float.floatToRawIntBits(values[i])) : values[i]);
    }
    return out.append("]").toString();
  }
}
