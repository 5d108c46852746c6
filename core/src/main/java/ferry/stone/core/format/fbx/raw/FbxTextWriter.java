package ferry.stone.core.format.fbx.raw;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.nio.charset.StandardCharsets;
import java.util.Base64;

/** Writes a tree of records as text. */
public final class FbxTextWriter {
  /** Numbers on a line of an array. */
  private static final int ROW = 256;

  /** Bytes of media on a line: a multiple of three, so that lines join up. */
  private static final int MEDIA_ROW = 3 * 256;

  private final BufferedWriter out;

  private FbxTextWriter(BufferedWriter out) {
    this.out = out;
  }

  public static void write(FbxRecord root, OutputStream target) throws IOException {
    BufferedWriter out =
        new BufferedWriter(new OutputStreamWriter(target, StandardCharsets.UTF_8), 1 << 16);
    out.write("; FBX 7.4.0 project file\n; Written by Stone Ferry\n");
    FbxTextWriter writer = new FbxTextWriter(out);
    for (FbxRecord child : root.children()) {
      out.write("\n");
      writer.record(child, 0);
    }
    out.flush();
  }

  private void record(FbxRecord record, int depth) throws IOException {
    tabs(depth);
    out.write(record.name());
    out.write(": ");
    boolean first = true;
    boolean array = false;
    for (Object value : record.values()) {
      // A space before texts, none before numbers: some readers split lines so.
      boolean text = value instanceof String || value instanceof FbxName;
      out.write(first ? "" : text ? ", " : ",");
      first = false;
      array |= value.getClass().isArray() && !(value instanceof byte[]);
      value(record.name(), value, depth);
    }
    boolean block = !record.children().isEmpty() || record.values().isEmpty();
    if (block && !array) {
      out.write(first ? "{\n" : " {\n");
      for (FbxRecord child : record.children()) {
        record(child, depth + 1);
      }
      tabs(depth);
      out.write("}");
    }
    out.write("\n");
  }

  private void tabs(int depth) throws IOException {
    for (int i = 0; i < depth; i++) {
      out.write('\t');
    }
  }

  private void value(String record, Object value, int depth) throws IOException {
    if (value instanceof String s) {
      quoted(s);
    } else if (value instanceof FbxName name) {
      quoted(name.text());
    } else if (value instanceof Boolean b) {
      out.write(b ? "T" : "F");
    } else if (value instanceof byte[] bytes) {
      for (int at = 0; at < bytes.length || at == 0; at += MEDIA_ROW) {
        int to = Math.min(bytes.length, at + MEDIA_ROW);
        // The form begins with a comma, so that the first row has a line of its own.
        out.write(",\n");
        quoted(Base64.getEncoder().encodeToString(java.util.Arrays.copyOfRange(bytes, at, to)));
      }
    } else if (value instanceof double[] d) {
      array(d.length, depth, i -> number(d[i]));
    } else if (value instanceof float[] f) {
      boolean keys = record.equals("KeyAttrDataFloat");
      // Two lengths are packed into the bits of a number: text shows the bits of all of them.
      array(
          f.length,
          depth,
          i -> keys ? String.valueOf(Float.floatToRawIntBits(f[i])) : number(f[i]));
    } else if (value instanceof int[] ints) {
      array(ints.length, depth, i -> String.valueOf(ints[i]));
    } else if (value instanceof long[] longs) {
      array(longs.length, depth, i -> String.valueOf(longs[i]));
    } else if (value instanceof Double d) {
      out.write(number(d));
    } else {
      out.write(String.valueOf(value));
    }
  }

  /** Whole numbers without a point, as the form has it. */
  private static String number(double value) {
    return value == Math.rint(value) && Math.abs(value) < 1e15
        ? String.valueOf((long) value)
        : String.valueOf(value);
  }

  private static String number(float value) {
    return value == Math.rint(value) && Math.abs(value) < 1e7
        ? String.valueOf((long) value)
        : String.valueOf(value);
  }

  private void quoted(String text) throws IOException {
    out.write('"');
    out.write(text.replace("\"", "&quot;").replace("\r", "&cr;").replace("\n", "&lf;"));
    out.write('"');
  }

  private interface Item {
    String text(int index);
  }

  private void array(int count, int depth, Item item) throws IOException {
    out.write("*" + count + " {\n");
    tabs(depth + 1);
    out.write("a: ");
    for (int i = 0; i < count; i++) {
      if (i > 0) {
        out.write(i % ROW == 0 ? ",\n" : ",");
      }
      out.write(item.text(i));
    }
    out.write("\n");
    tabs(depth);
    out.write("} ");
  }
}
