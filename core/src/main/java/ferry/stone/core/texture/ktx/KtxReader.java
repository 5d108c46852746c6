package ferry.stone.core.texture.ktx;

import ferry.stone.core.texture.ImageException;
import ferry.stone.core.texture.Pixels;
import io.airlift.compress.zstd.ZstdDecompressor;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.zip.DataFormatException;
import java.util.zip.Inflater;

/**
 * Reads the largest picture of a KTX2 container whose pixels are ETC1S, UASTC or plain bytes.
 *
 * <table>
 * <caption>Container, little-endian (KTX 2.0, section 3)</caption>
 * <tr><td>mark</td><td>12 bytes</td></tr>
 * <tr><td>format, type size, width, height, depth, layers, faces, levels, packing</td><td>9 × uint32;
 * packing 0 none, 1 BasisLZ, 2 Zstandard, 3 ZLIB</td></tr>
 * <tr><td>descriptor, values</td><td>2 × (uint32 offset, uint32 length)</td></tr>
 * <tr><td>books of BasisLZ</td><td>uint64 offset, uint64 length</td></tr>
 * <tr><td>levels, the largest first</td><td>uint64 offset, length, unpacked length</td></tr>
 * </table>
 */
public final class KtxReader {
  private static final int LEVELS_AT = 80;
  private static final int LEVEL = 24;
  private static final int ETC1S = 163;
  private static final int UASTC = 166;
  private static final int RGBA_UNORM = 37;
  private static final int RGBA_SRGB = 43;
  private static final int NO_PACKING = 0;
  private static final int BASIS = 1;
  private static final int ZSTANDARD = 2;
  private static final int ZLIB = 3;

  private final byte[] file;
  private final ByteBuffer head;
  private final int width;
  private final int height;
  private final int packing;

  private KtxReader(byte[] file) throws ImageException {
    this.file = file;
    head = ByteBuffer.wrap(file).order(ByteOrder.LITTLE_ENDIAN);
    need(0, LEVELS_AT + LEVEL);
    width = head.getInt(20);
    height = head.getInt(24);
    packing = head.getInt(44);
    boolean flat = head.getInt(28) == 0 && head.getInt(32) <= 1 && head.getInt(36) == 1;
    if (width < 1 || height < 1 || !flat) {
      throw new ImageException("it holds no single flat picture");
    }
  }

  /**
   * @param file whose width and height were held to the limits for images
   * @throws ImageException with what is wrong, without the name of the file
   */
  public static Pixels read(byte[] file) throws ImageException {
    try {
      return new KtxReader(file).pixels();
    } catch (IndexOutOfBoundsException | NegativeArraySizeException | ArithmeticException e) {
      throw new ImageException("its numbers lead out of the file");
    }
  }

  private Pixels pixels() throws ImageException {
    int descriptor = head.getInt(48);
    need(descriptor, 24);
    int model = file[descriptor + 12] & 0xff;
    long at = head.getLong(LEVELS_AT);
    long length = head.getLong(LEVELS_AT + 8);
    need(at, length);
    if (packing == BASIS && model == ETC1S) {
      return etc1s((int) at);
    }
    int format = head.getInt(12);
    boolean plain = format == RGBA_UNORM || format == RGBA_SRGB;
    if (model != UASTC && !plain) {
      throw new ImageException(
          "its pixels are of a kind that is not read (format " + format + ", model " + model + ")");
    }
    long across = (width + 3L) / 4;
    long size = plain ? 4L * width * height : Uastc.BLOCK * across * ((height + 3L) / 4);
    byte[] data = unpacked((int) at, (int) length, size);
    int from = packing == NO_PACKING ? (int) at : 0;
    return plain ? plain(data, from) : uastc(data, from, (int) across);
  }

  private void need(long at, long length) throws ImageException {
    if (at < 0 || length < 0 || at > file.length - length) {
      throw new ImageException("it ends early");
    }
  }

  private byte[] unpacked(int at, int length, long size) throws ImageException {
    if (size > Integer.MAX_VALUE - 8) {
      throw new ImageException("it is too large");
    }
    int got;
    byte[] out = packing == NO_PACKING ? file : new byte[(int) size];
    try {
      got =
          switch (packing) {
            case NO_PACKING -> length;
            case ZSTANDARD ->
                new ZstdDecompressor().decompress(file, at, length, out, 0, out.length);
            case ZLIB -> inflated(at, length, out);
            default -> throw new ImageException("it is packed in an unknown way");
          };
    } catch (io.airlift.compress.MalformedInputException | DataFormatException e) {
      throw new ImageException("what is packed in it is damaged");
    } catch (IllegalArgumentException e) {
      throw new ImageException("it is larger than it says");
    }
    if (got < size) {
      throw new ImageException("it ends early");
    }
    return out;
  }

  private int inflated(int at, int length, byte[] out) throws DataFormatException {
    Inflater inflater = new Inflater();
    try {
      inflater.setInput(file, at, length);
      int got = 0;
      while (got < out.length) {
        int more = inflater.inflate(out, got, out.length - got);
        if (more == 0) {
          break;
        }
        got += more;
      }
      return got;
    } finally {
      inflater.end();
    }
  }

  private Pixels plain(byte[] data, int from) {
    int[] argb = new int[width * height];
    for (int i = 0; i < argb.length; i++) {
      int p = from + 4 * i;
      argb[i] =
          (data[p + 3] & 0xff) << 24
              | (data[p] & 0xff) << 16
              | (data[p + 1] & 0xff) << 8
              | data[p + 2] & 0xff;
    }
    return new Pixels(width, height, argb, true);
  }

  private Pixels uastc(byte[] data, int from, int across) throws ImageException {
    int[] argb = new int[width * height];
    int[] block = new int[16];
    Uastc blocks = new Uastc(data);
    boolean alpha = false;
    for (int by = 0; 4 * by < height; by++) {
      for (int bx = 0; bx < across; bx++) {
        blocks.block(from + Uastc.BLOCK * (by * across + bx), block);
        for (int y = 0; y < 4 && 4 * by + y < height; y++) {
          for (int x = 0; x < 4 && 4 * bx + x < width; x++) {
            int pixel = block[4 * y + x];
            alpha |= pixel >>> 24 != 0xff;
            argb[(4 * by + y) * width + 4 * bx + x] = pixel;
          }
        }
      }
    }
    return new Pixels(width, height, argb, alpha);
  }

  /** Books first, then the slices of each picture: colour, and alpha as a second one. */
  private Pixels etc1s(int level) throws ImageException {
    long global = head.getLong(64);
    need(global, 20);
    int at = (int) global;
    int colours = head.getShort(at) & 0xffff;
    int patterns = head.getShort(at + 2) & 0xffff;
    int[] lengths = {head.getInt(at + 4), head.getInt(at + 8), head.getInt(at + 12)};
    int pictures = Math.max(1, head.getInt(40));
    need(at + 20L, 20L * pictures);
    long books = at + 20L + 20L * pictures;
    for (int length : lengths) {
      need(books, length);
    }
    need(books, (long) lengths[0] + lengths[1] + lengths[2]);
    Etc1s etc = new Etc1s(file, (int) books, colours, patterns, lengths);
    int[] argb = slice(etc, level, at + 24);
    int alphaLength = head.getInt(at + 36);
    int[] alpha = alphaLength > 0 ? slice(etc, level, at + 32) : null;
    for (int i = 0; i < argb.length; i++) {
      argb[i] |= alpha == null ? 0xff000000 : (alpha[i] & 0xff00) << 16;
    }
    return new Pixels(width, height, argb, alpha != null);
  }

  private int[] slice(Etc1s etc, int level, int told) throws ImageException {
    int[] into = new int[width * height];
    long from = (long) level + Integer.toUnsignedLong(head.getInt(told));
    need(from, head.getInt(told + 4));
    etc.slice(new CodedBits(file, (int) from, head.getInt(told + 4)), width, height, into);
    return into;
  }
}
