package ferry.stone.core.texture.ktx;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ferry.stone.core.texture.ImageLoss;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.ktx.KtxWriter.Content;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;
import java.util.Random;
import java.util.TreeSet;
import java.util.function.IntBinaryOperator;
import java.util.zip.CRC32;
import org.junit.jupiter.api.Test;

class KtxWriterTest {
  private static Pixels pixels(int width, int height, boolean alpha, IntBinaryOperator colour) {
    int[] argb = new int[width * height];
    for (int i = 0; i < argb.length; i++) {
      argb[i] = (alpha ? 0 : 0xff000000) | colour.applyAsInt(i % width, i / width);
    }
    return new Pixels(width, height, argb, alpha);
  }

  private static int wave(int x, int times) {
    int t = x * times & 0x1ff;
    return t < 256 ? t : 511 - t;
  }

  /** Soft and hard edges, ramps that run against each other, and a little grain. */
  private static Pixels planks(boolean alpha) {
    Random grain = new Random(5);
    return pixels(
        64,
        48,
        alpha,
        (x, y) -> {
          int seam = x % 21 == 0 ? 90 : 0;
          int r = Math.max(0, Math.min(255, wave(x, 3) / 2 + wave(y, 7) / 4 + grain.nextInt(9)));
          int g = Math.max(0, r * 2 / 3 - seam);
          int b = Math.max(0, wave(y, 5) / 2 - seam);
          return r << 16 | g << 8 | b | (alpha ? wave(x + 2 * y, 4) << 24 : 0);
        });
  }

  private static ByteBuffer head(byte[] file) {
    return ByteBuffer.wrap(file).order(ByteOrder.LITTLE_ENDIAN);
  }

  /**
   * The file's CRC, and the sum over its pixels as three 0.187's transcoder reads them: each byte
   * times 1 + its place modulo 97 ({@code ktx/sum.mjs}, which also has it make ETC1, ETC2, BC1,
   * BC3, BC7 and ASTC of every level). {@code -Dferry.keep=FOLDER} keeps the files for it.
   */
  @Test
  void anotherReaderSeesTheSamePixels() throws Exception {
    long[][] expected = {{CRC_OPAQUE, SUM_OPAQUE}, {CRC_ALPHA, SUM_ALPHA}};
    for (int k = 0; k < 2; k++) {
      byte[] file = KtxWriter.write(planks(k == 1), Content.COLOUR);
      if (System.getProperty("ferry.keep") != null) {
        java.nio.file.Files.write(
            java.nio.file.Path.of(System.getProperty("ferry.keep"), "planks" + k + ".ktx2"), file);
      }
      CRC32 crc = new CRC32();
      crc.update(file);
      Pixels read = KtxReader.read(file);
      long sum = 0;
      for (int i = 0; i < read.argb().length; i++) {
        int p = read.argb()[i];
        int[] rgba = {p >> 16 & 0xff, p >> 8 & 0xff, p & 0xff, p >>> 24};
        for (int c = 0; c < 4; c++) {
          sum += (long) rgba[c] * (1 + (4 * i + c) % 97);
        }
      }
      assertThat(new long[] {crc.getValue(), sum}).as("image " + k).isEqualTo(expected[k]);
    }
  }

  private static final long CRC_OPAQUE = 3_081_973_674L;
  private static final long SUM_OPAQUE = 67_854_908L;
  private static final long CRC_ALPHA = 1_655_081_267L;
  private static final long SUM_ALPHA = 51_023_192L;

  @Test
  void littleIsLost() throws Exception {
    // ktx2-encoder 0.6.0 at its level 2 loses as much of such images: 50.2 and 33.8 dB of others.
    Pixels opaque = planks(false);
    Pixels alpha = planks(true);
    Pixels grey = pixels(32, 32, true, (x, y) -> 0x10101 * wave(x, 9) | wave(y, 11) << 24);
    assertThat(decibels(opaque)).isGreaterThan(42);
    assertThat(decibels(alpha)).isGreaterThan(38);
    assertThat(decibels(grey)).isGreaterThan(40);
  }

  private static double decibels(Pixels pixels) throws Exception {
    return ImageLoss.decibels(
        pixels, KtxReader.read(KtxWriter.write(pixels, KtxWriter.Content.DATA)));
  }

  @Test
  void blocksOfOneColourAndNoiseAreRead() throws Exception {
    Random random = new Random(11);
    Pixels flat = pixels(40, 8, true, (x, y) -> 0x01020304 * (1 + x / 4));
    assertThat(KtxReader.read(KtxWriter.write(flat, Content.DATA)).argb()).isEqualTo(flat.argb());
    for (int round = 0; round < 20; round++) {
      boolean alpha = round % 2 == 0;
      Pixels noise = pixels(16, 16, alpha, (x, y) -> random.nextInt(alpha ? -1 >>> 1 : 1 << 24));
      Pixels read = KtxReader.read(KtxWriter.write(noise, Content.DATA));
      assertThat(ImageLoss.decibels(noise, read)).isGreaterThan(8);
    }
  }

  @Test
  void theSearchUsesModesOfAllKinds() {
    TreeSet<Integer> modes = new TreeSet<>();
    for (Pixels pixels :
        new Pixels[] {
          planks(false),
          planks(true),
          pixels(8, 8, true, (x, y) -> 0x10101 * (40 * x & 0xff) | 30 * y << 24),
          pixels(8, 4, false, (x, y) -> 0x345678),
          pixels(8, 8, false, (x, y) -> (x + y & 1) == 0 ? 0xff0000 | 9 * x : 0x00ff00 | 20 * y),
        }) {
      int across = pixels.width() / 4;
      byte[] blocks = new byte[Uastc.BLOCK * across * pixels.height() / 4];
      UastcWriter writer = new UastcWriter(blocks);
      for (int i = 0; i * Uastc.BLOCK < blocks.length; i++) {
        int x = 4 * (i % across);
        int y = 4 * (i / across);
        writer.block(pixels.argb(), pixels.width(), pixels.height(), x, y, i * Uastc.BLOCK);
        modes.add(UastcTables.MODE_OF[blocks[i * Uastc.BLOCK] & 0x7f]);
      }
    }
    assertThat(modes).contains(0, 6, 8, 9, 10, 11, 12, 17).containsAnyOf(2, 4);
  }

  @Test
  void theContainerSaysWhatIsInIt() {
    byte[] file = KtxWriter.write(planks(true), Content.COLOUR);
    ByteBuffer head = head(file);
    // KTX 2.0 section 3; KHR_texture_basisu: one face, no layers, UASTC, sRGB for colours.
    assertThat(head.getInt(12)).isZero();
    assertThat(head.getInt(20)).isEqualTo(64);
    assertThat(head.getInt(24)).isEqualTo(48);
    assertThat(head.getInt(36)).isEqualTo(1);
    assertThat(head.getInt(40)).as("levels down to one pixel").isEqualTo(7);
    assertThat(head.getInt(44)).isEqualTo(2);
    int descriptor = head.getInt(48);
    assertThat(file[descriptor + 12] & 0xff).isEqualTo(166);
    assertThat(file[descriptor + 14]).isEqualTo((byte) 2);
    byte[] data = KtxWriter.write(planks(false), Content.DATA);
    assertThat(data[head(data).getInt(48) + 14]).isEqualTo((byte) 1);
    assertThat(KtxWriter.write(planks(true), Content.COLOUR)).isEqualTo(file);
    assertThatThrownBy(
            () -> KtxWriter.write(pixels(6, 4, false, (x, y) -> 0), KtxWriter.Content.DATA))
        .hasMessageContaining("multiples of 4");
  }

  @Test
  void smallerLevelsAreMeansOfLightAndDirectionsStayOfLengthOne() throws Exception {
    // Half black, half white is 188 of 255 in sRGB: IEC 61966-2-1.
    Pixels board = pixels(4, 4, false, (x, y) -> (x + y & 1) == 0 ? 0xffffff : 0);
    assertThat(level(KtxWriter.write(board, Content.COLOUR), 1).argb()[0] & 0xff).isEqualTo(188);
    assertThat(level(KtxWriter.write(board, Content.DATA), 1).argb()[0] & 0xff).isEqualTo(128);
    Pixels slopes = pixels(4, 4, false, (x, y) -> x % 2 == 0 ? 0xdb80db : 0x2480db);
    int mean = level(KtxWriter.write(slopes, Content.NORMALS), 1).argb()[0];
    assertThat(mean & 0xff).as("straight up").isEqualTo(255);
    assertThat(mean >> 16 & 0xff).isBetween(127, 128);
  }

  /** A level as a file of its own. */
  private static Pixels level(byte[] file, int number) throws Exception {
    ByteBuffer head = head(file);
    byte[] alone = Arrays.copyOf(file, file.length);
    ByteBuffer changed = head(alone);
    changed.putInt(20, head.getInt(20) >> number).putInt(24, head.getInt(24) >> number);
    for (int k = 0; k < 3; k++) {
      changed.putLong(80 + 8 * k, head.getLong(80 + 24 * number + 8 * k));
    }
    return KtxReader.read(alone);
  }
}
