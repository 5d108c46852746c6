package ferry.stone.core.format.fbx.raw;

import ferry.stone.core.format.files.SeekableOutput;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.zip.Deflater;

/**
 * Writes a tree of records in the binary form, one value after the other: what is held is the
 * deflated size of the largest array.
 */
public final class FbxBinaryWriter {
  /** Arrays shorter than this in bytes are not worth deflating. */
  private static final int WORTH_DEFLATING = 128;

  private static final int CHUNK = 1 << 16;
  private static final int CLOSING_ZEROS = 120;

  /**
   * Closes the list of records and the file. Readers check them against the moment and the id of
   * the head, so these are always the same: common practice, no source.
   */
  private static final byte[] CLOSE = {
    (byte) 0xfa,
    (byte) 0xbc,
    (byte) 0xab,
    0x09,
    (byte) 0xd0,
    (byte) 0xc8,
    (byte) 0xd4,
    0x66,
    (byte) 0xb1,
    0x76,
    (byte) 0xfb,
    (byte) 0x83,
    0x1c,
    (byte) 0xf7,
    0x26,
    0x7e
  };

  private static final byte[] END = {
    (byte) 0xf8,
    0x5a,
    (byte) 0x8c,
    0x6a,
    (byte) 0xde,
    (byte) 0xf5,
    (byte) 0xd9,
    0x7e,
    (byte) 0xec,
    (byte) 0xe9,
    0x0c,
    (byte) 0xe3,
    0x75,
    (byte) 0x8f,
    0x29,
    0x0b
  };

  /** Bytes of what follows the last list: the version, zeros and the last mark. */
  public static final int FOOT = 4 + CLOSING_ZEROS + END.length;

  /** The id of the file that belongs to {@link #CLOSE} and {@link #MOMENT}. */
  public static final byte[] FILE_ID = {
    0x28,
    (byte) 0xb3,
    0x2a,
    (byte) 0xeb,
    (byte) 0xb6,
    0x24,
    (byte) 0xcc,
    (byte) 0xc2,
    (byte) 0xbf,
    (byte) 0xc8,
    (byte) 0xb0,
    0x2a,
    (byte) 0xa9,
    0x2b,
    (byte) 0xfc,
    (byte) 0xf1
  };

  /** When the file says it was made: always the same, so that the same scene gives the same. */
  public static final String MOMENT = "1970-01-01 10:00:00:000";

  private final boolean wide;
  private final boolean packed;
  private final SeekableOutput out;

  private FbxBinaryWriter(int version, boolean packed, SeekableOutput out) {
    this.out = out;
    wide = version >= FbxBinaryParser.WIDE_HEADS;
    this.packed = packed;
  }

  /**
   * @param root its children are the top records
   * @param version 7400 has 32-bit heads, 7500 has 64-bit heads
   * @param packed whether arrays are deflated
   */
  public static void write(FbxRecord root, int version, boolean packed, SeekableOutput out)
      throws IOException {
    FbxBinaryWriter writer = new FbxBinaryWriter(version, packed, out);
    out.write(FbxBinaryParser.MARK);
    out.write(little(4).putInt(version).array());
    for (FbxRecord child : root.children()) {
      writer.write(child);
    }
    out.write(new byte[writer.head()]);
    out.write(CLOSE);
    out.write(new byte[4]);
    // A full block follows when the place is even already.
    out.write(new byte[(int) (16 - out.position() % 16)]);
    out.write(little(4).putInt(version).array());
    out.write(new byte[CLOSING_ZEROS]);
    out.write(END);
  }

  /** Whether the last bytes of a file are those that close it. */
  public static boolean closes(byte[] foot, int version) {
    byte[] wanted = new byte[FOOT];
    little(4).putInt(version).flip().get(wanted, 0, 4);
    System.arraycopy(END, 0, wanted, FOOT - END.length, END.length);
    return Arrays.equals(foot, wanted);
  }

  private int head() {
    return wide ? 25 : 13;
  }

  /** Heads say where their record ends: they are written once more when that is known. */
  private void write(FbxRecord record) throws IOException {
    long start = out.position();
    byte[] name = record.name().getBytes(StandardCharsets.UTF_8);
    out.write(new byte[head()]);
    out.write(name);
    long first = out.position();
    for (Object value : record.values()) {
      ByteArrayOutputStream coded = new ByteArrayOutputStream();
      value(coded, value);
      out.write(coded.toByteArray());
    }
    long values = out.position() - first;
    for (FbxRecord child : record.children()) {
      write(child);
    }
    // Records with children, and those that hold nothing at all, close with an empty head.
    if (!record.children().isEmpty() || record.values().isEmpty()) {
      out.write(new byte[head()]);
    }
    long end = out.position();
    if (!wide && end > 0xffff_ffffL) {
      throw new IOException("the file would be over 4 GB: write version 7500 instead");
    }
    ByteBuffer head = little(head());
    if (wide) {
      head.putLong(end).putLong(record.values().size()).putLong(values);
    } else {
      head.putInt((int) end).putInt(record.values().size()).putInt((int) values);
    }
    out.patch(start, head.put((byte) name.length).array());
  }

  private static ByteBuffer little(int size) {
    return ByteBuffer.allocate(size).order(ByteOrder.LITTLE_ENDIAN);
  }

  private void value(ByteArrayOutputStream out, Object value) {
    if (value instanceof Integer i) {
      out.write('I');
      out.writeBytes(little(4).putInt(i).array());
    } else if (value instanceof Long l) {
      out.write('L');
      out.writeBytes(little(8).putLong(l).array());
    } else if (value instanceof Double d) {
      out.write('D');
      out.writeBytes(little(8).putDouble(d).array());
    } else if (value instanceof Float f) {
      out.write('F');
      out.writeBytes(little(4).putFloat(f).array());
    } else if (value instanceof Boolean b) {
      out.write('C');
      out.write(b ? 1 : 0);
    } else if (value instanceof String s) {
      text(out, s);
    } else if (value instanceof FbxName name) {
      text(out, name.binary());
    } else if (value instanceof byte[] bytes) {
      out.write('R');
      out.writeBytes(little(4).putInt(bytes.length).array());
      out.writeBytes(bytes);
    } else if (value instanceof double[] d) {
      array(out, 'd', d, d.length, 8);
    } else if (value instanceof float[] f) {
      array(out, 'f', f, f.length, 4);
    } else if (value instanceof int[] ints) {
      array(out, 'i', ints, ints.length, 4);
    } else if (value instanceof long[] longs) {
      array(out, 'l', longs, longs.length, 8);
    } else {
      throw new IllegalArgumentException("no FBX value: " + value);
    }
  }

  private static void text(ByteArrayOutputStream out, String text) {
    byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
    out.write('S');
    out.writeBytes(little(4).putInt(bytes.length).array());
    out.writeBytes(bytes);
  }

  /** Coded in pieces, so that an array is never held twice. */
  private void array(ByteArrayOutputStream out, char type, Object values, int count, int width) {
    out.write(type);
    boolean deflate = packed && (long) count * width >= WORTH_DEFLATING;
    ByteBuffer piece = little(CHUNK);
    int step = CHUNK / width;
    if (!deflate) {
      out.writeBytes(little(12).putInt(count).putInt(0).putInt(count * width).array());
      for (int from = 0; from < count; from += step) {
        int length = Math.min(count - from, step);
        fill(piece, values, from, length);
        out.write(piece.array(), 0, length * width);
      }
      return;
    }
    ByteArrayOutputStream deflated = new ByteArrayOutputStream(Math.max(64, count));
    Deflater deflater = new Deflater(Deflater.BEST_SPEED);
    byte[] buffer = new byte[CHUNK];
    for (int from = 0; from < count; from += step) {
      int length = Math.min(count - from, step);
      fill(piece, values, from, length);
      deflater.setInput(piece.array(), 0, length * width);
      drain(deflater, buffer, deflated);
    }
    deflater.finish();
    drain(deflater, buffer, deflated);
    deflater.end();
    out.writeBytes(little(12).putInt(count).putInt(1).putInt(deflated.size()).array());
    out.writeBytes(deflated.toByteArray());
  }

  private static void fill(ByteBuffer piece, Object values, int from, int length) {
    piece.clear();
    if (values instanceof double[] d) {
      piece.asDoubleBuffer().put(d, from, length);
    } else if (values instanceof float[] f) {
      piece.asFloatBuffer().put(f, from, length);
    } else if (values instanceof int[] i) {
      piece.asIntBuffer().put(i, from, length);
    } else {
      piece.asLongBuffer().put((long[]) values, from, length);
    }
  }

  private static void drain(Deflater deflater, byte[] buffer, ByteArrayOutputStream out) {
    int length;
    while ((length = deflater.deflate(buffer)) > 0) {
      out.write(buffer, 0, length);
    }
  }
}
