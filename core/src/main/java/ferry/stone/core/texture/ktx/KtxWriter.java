package ferry.stone.core.texture.ktx;

import ferry.stone.core.texture.ColourSpace;
import ferry.stone.core.texture.Pixels;
import io.airlift.compress.zstd.ZstdCompressor;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;

/**
 * Writes a picture with all its smaller levels as UASTC in a KTX2 container, packed with Zstandard:
 * what KHR_texture_basisu takes. Same pixels, same bytes.
 */
public final class KtxWriter {
  /** KHR_texture_basisu wants sides that are multiples of this. */
  public static final int SIDE = 4;

  private static final byte[] MARK = {
    (byte) 0xAB, 'K', 'T', 'X', ' ', '2', '0', (byte) 0xBB, '\r', '\n', 0x1A, '\n'
  };
  private static final int HEAD = 80;
  private static final int LEVEL = 24;
  private static final int DESCRIPTOR = 44;
  private static final int ZSTANDARD = 2;
  private static final String WRITER = "KTXwriter\0Stone Ferry\0";
  private static final int UASTC = 166;
  private static final int BT709 = 1;
  private static final int LINEAR = 1;
  private static final int SRGB = 2;
  private static final int RGBA_CHANNEL = 3;

  /** What the values of a picture are: how its smaller levels come to be. */
  public enum Content {
    /** Colours by the curve of sRGB, averaged as light. */
    COLOUR,
    DATA,
    /** Directions, of length one in each level. */
    NORMALS
  }

  private KtxWriter() {}

  /**
   * @param pixels sides multiples of {@link #SIDE}
   */
  public static byte[] write(Pixels pixels, Content content) {
    if (pixels.width() % SIDE != 0 || pixels.height() % SIDE != 0) {
      throw new IllegalArgumentException("sides must be multiples of " + SIDE);
    }
    List<byte[]> levels = new ArrayList<>();
    List<Integer> sizes = new ArrayList<>();
    boolean alpha = isClear(pixels);
    Pixels level = pixels;
    while (true) {
      byte[] blocks = blocks(level);
      sizes.add(blocks.length);
      levels.add(packed(blocks));
      if (level.width() == 1 && level.height() == 1) {
        break;
      }
      level = half(level, content);
    }
    return container(pixels, content, alpha, levels, sizes);
  }

  private static boolean isClear(Pixels pixels) {
    for (int p : pixels.argb()) {
      if (p >>> 24 != 0xff) {
        return true;
      }
    }
    return false;
  }

  private static byte[] blocks(Pixels level) {
    int across = (level.width() + 3) / 4;
    int down = (level.height() + 3) / 4;
    byte[] out = new byte[Uastc.BLOCK * across * down];
    IntStream.range(0, down)
        .parallel()
        .forEach(
            row -> {
              UastcWriter writer = new UastcWriter(out);
              for (int x = 0; x < across; x++) {
                writer.block(
                    level.argb(),
                    level.width(),
                    level.height(),
                    4 * x,
                    4 * row,
                    Uastc.BLOCK * (row * across + x));
              }
            });
    return out;
  }

  private static byte[] packed(byte[] blocks) {
    ZstdCompressor zstd = new ZstdCompressor();
    byte[] out = new byte[zstd.maxCompressedLength(blocks.length)];
    return Arrays.copyOf(out, zstd.compress(blocks, 0, blocks.length, out, 0, out.length));
  }

  /** Each new pixel the mean of the four it covers; colours count by their alpha. */
  private static Pixels half(Pixels from, Content content) {
    int w = Math.max(1, from.width() / 2);
    int h = Math.max(1, from.height() / 2);
    int[] argb = new int[w * h];
    double[] sum = new double[5];
    double[] values = IntStream.range(0, 256).mapToDouble(v -> value(v, content)).toArray();
    for (int i = 0; i < argb.length; i++) {
      Arrays.fill(sum, 0);
      for (int k = 0; k < 4; k++) {
        int x = Math.min(from.width() - 1, i % w * 2 + (k & 1));
        int y = Math.min(from.height() - 1, i / w * 2 + (k >> 1));
        int p = from.argb()[y * from.width() + x];
        double alpha = content == Content.COLOUR ? (p >>> 24) / 255.0 : 1;
        for (int c = 0; c < 3; c++) {
          sum[c] += alpha * values[p >> 16 - 8 * c & 0xff];
        }
        sum[3] += alpha;
        sum[4] += p >>> 24;
      }
      argb[i] = pixel(sum, content) | (int) Math.round(sum[4] / 4) << 24;
    }
    return new Pixels(w, h, argb, from.hasAlpha());
  }

  private static double value(int stored, Content content) {
    return switch (content) {
      case COLOUR -> ColourSpace.toLinear(stored / 255.0);
      case DATA -> stored / 255.0;
      case NORMALS -> stored / 127.5 - 1;
    };
  }

  private static int pixel(double[] sum, Content content) {
    double length = Math.sqrt(sum[0] * sum[0] + sum[1] * sum[1] + sum[2] * sum[2]);
    int pixel = 0;
    for (int c = 0; c < 3; c++) {
      double mean = sum[3] == 0 ? 0 : sum[c] / sum[3];
      double stored =
          switch (content) {
            case COLOUR -> ColourSpace.toSrgb(mean);
            case DATA -> mean;
            case NORMALS -> length == 0 ? 0.5 : (sum[c] / length + 1) / 2;
          };
      pixel |= (int) Math.round(255 * Math.max(0, Math.min(1, stored))) << 16 - 8 * c;
    }
    return pixel;
  }

  private static byte[] container(
      Pixels pixels, Content content, boolean alpha, List<byte[]> levels, List<Integer> sizes) {
    byte[] words = WRITER.getBytes(StandardCharsets.US_ASCII);
    int descriptorAt = HEAD + LEVEL * levels.size();
    int wordsAt = descriptorAt + DESCRIPTOR;
    int wordsLength = 4 + (words.length + 3) / 4 * 4;
    int size = wordsAt + wordsLength + levels.stream().mapToInt(l -> l.length).sum();
    ByteBuffer out = ByteBuffer.allocate(size).order(ByteOrder.LITTLE_ENDIAN);
    out.put(MARK);
    // Format (none of its own), type size, sides, depth, layers, faces, levels, packing.
    for (int n : new int[] {0, 1, pixels.width(), pixels.height(), 0, 0, 1, levels.size()}) {
      out.putInt(n);
    }
    out.putInt(ZSTANDARD).putInt(descriptorAt).putInt(DESCRIPTOR);
    out.putInt(wordsAt).putInt(wordsLength).putLong(0).putLong(0);
    // The smallest level stands first in the file, and is listed last.
    int[] from = new int[levels.size()];
    int at = wordsAt + wordsLength;
    for (int k = levels.size() - 1; k >= 0; k--) {
      from[k] = at;
      at += levels.get(k).length;
    }
    for (int k = 0; k < from.length; k++) {
      out.putLong(from[k]).putLong(levels.get(k).length).putLong(sizes.get(k));
    }
    descriptor(out, content == Content.COLOUR ? SRGB : LINEAR, alpha);
    out.putInt(words.length).put(words);
    for (int k = levels.size() - 1; k >= 0; k--) {
      out.position(from[k]).put(levels.get(k));
    }
    return out.array();
  }

  /** Khronos Data Format: one block of 4 × 4 pixels in 16 bytes, whose size packing hides. */
  private static void descriptor(ByteBuffer out, int transfer, boolean alpha) {
    out.putInt(DESCRIPTOR).putInt(0).putShort((short) 2).putShort((short) (DESCRIPTOR - 4));
    out.put((byte) UASTC).put((byte) BT709).put((byte) transfer).put((byte) 0);
    out.put((byte) 3).put((byte) 3).put((byte) 0).put((byte) 0);
    out.putLong(0);
    out.putShort((short) 0).put((byte) 127).put((byte) (alpha ? RGBA_CHANNEL : 0));
    out.putInt(0).putInt(0).putInt(-1);
  }
}
