package ferry.stone.core.texture;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.util.Random;
import java.util.zip.CRC32;
import java.util.zip.DeflaterOutputStream;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * Values of images are those that the file stores (PNG, third edition, section 7: samples), greys
 * as well, and 16 bits a channel stay 16 bits.
 */
class StoredValuesTest {
  private static void chunk(ByteArrayOutputStream out, String type, byte[] data) {
    byte[] name = type.getBytes(java.nio.charset.StandardCharsets.US_ASCII);
    CRC32 crc = new CRC32();
    crc.update(name);
    crc.update(data);
    out.writeBytes(ByteBuffer.allocate(4).putInt(data.length).array());
    out.writeBytes(name);
    out.writeBytes(data);
    out.writeBytes(ByteBuffer.allocate(4).putInt((int) crc.getValue()).array());
  }

  /** A PNG of one row. */
  private static byte[] png(int bits, int colourType, int... samples) throws Exception {
    int bands = new int[] {1, 0, 3, 0, 2, 0, 4}[colourType];
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    out.writeBytes(new byte[] {(byte) 0x89, 'P', 'N', 'G', '\r', '\n', 0x1a, '\n'});
    ByteBuffer head = ByteBuffer.allocate(13).putInt(samples.length / bands).putInt(1);
    chunk(out, "IHDR", head.put((byte) bits).put((byte) colourType).array());
    ByteArrayOutputStream packed = new ByteArrayOutputStream();
    try (DeflaterOutputStream row = new DeflaterOutputStream(packed)) {
      row.write(0);
      for (int sample : samples) {
        if (bits == 16) {
          row.write(sample >> 8);
        }
        row.write(sample);
      }
    }
    chunk(out, "IDAT", packed.toByteArray());
    chunk(out, "IEND", new byte[0]);
    return out.toByteArray();
  }

  @Test
  void greysAreNotBent() throws Exception {
    Pixels grey = ImageCodec.decode(png(8, 0, 0, 1, 64, 128, 254, 255), "g.png");
    assertThat(grey.argb())
        .containsExactly(0xff000000, 0xff010101, 0xff404040, 0xff808080, 0xfffefefe, -1);
    Pixels clear = ImageCodec.decode(png(8, 4, 64, 128, 200, 255), "g.png");
    assertThat(clear.argb()).containsExactly(0x80404040, 0xffc8c8c8);
    assertThat(clear.hasAlpha()).isTrue();
    Pixels deep = ImageCodec.decode(png(16, 0, 64 * 257, 30_000), "g.png");
    assertThat(deep.argb()).containsExactly(0xff404040, 0xff757575);
    assertThat(deep.get(1, 'l', Pixels.DEEP)).isEqualTo(30_000);
  }

  @Test
  void greysOfJpegAreNotBent() throws Exception {
    BufferedImage image = new BufferedImage(16, 16, BufferedImage.TYPE_BYTE_GRAY);
    for (int i = 0; i < 256; i++) {
      image.getRaster().setSample(i % 16, i / 16, 0, 64);
    }
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ImageIO.write(image, "jpeg", out);
    assertThat(ImageCodec.decode(out.toByteArray(), "g.jpg").get(20, 'r')).isBetween(63, 65);
  }

  @Test
  void sixteenBitsComeAndGo() throws Exception {
    int[] samples = {0, 1, 300, 40_000, 65_535, 12_345, 7, 30_000};
    for (int type : new int[] {2, 6}) {
      int[] used = type == 6 ? samples : java.util.Arrays.copyOf(samples, 6);
      Pixels read = ImageCodec.decode(png(16, type, used), "d.png");
      assertThat(read.isDeep()).isTrue();
      assertThat(read.get(0, 'b', Pixels.DEEP)).isEqualTo(300);
      Pixels again = ImageCodec.decode(ImageCodec.encodePng(read), "d.png");
      assertThat(again.deep()).isEqualTo(read.deep());
      assertThat(again.hasAlpha()).isEqualTo(type == 6);
    }
  }

  private static Pixels deep(int side, long seed) throws Exception {
    Random random = new Random(seed);
    PixelSink sink = new PixelSink(side, side, Pixels.DEEP);
    for (int i = 0; i < side * side; i++) {
      int v = random.nextInt(65_536);
      sink.put(i, Pixels.DEEP, v, random.nextInt(65_536), v / 3);
    }
    return sink.pixels(false);
  }

  @Test
  void whatIsMadeOfSixteenBitsHasSixteenBits() throws Exception {
    Pixels image = deep(8, 3);
    Pixels small = new Pixels(1, 1, new int[] {0xff336699}, false);
    Pixels turned = ImageEdits.greenTurned(image);
    Pixels opposite = ImageEdits.opposite(image, 'r');
    Pixels packed = ChannelPacking.metallicRoughness(image, 'g', 0, small, 'b');
    Pixels alpha = ChannelPacking.withAlpha(small, image, 'b');
    Pixels parts =
        PartSource.pack(
            new PartSource(image, 'b', true, 1),
            PartSource.constant(0.5),
            new PartSource(small, 'g', false, 1),
            null);
    Pixels tinted = Tint.of(image, new double[] {0.5}, false, true);
    for (int i = 0; i < 64; i++) {
      int r = image.get(i, 'r', Pixels.DEEP);
      int g = image.get(i, 'g', Pixels.DEEP);
      int b = image.get(i, 'b', Pixels.DEEP);
      assertThat(turned.get(i, 'g', Pixels.DEEP)).isEqualTo(65_535 - g);
      assertThat(turned.get(i, 'r', Pixels.DEEP)).isEqualTo(r);
      assertThat(opposite.get(i, 'g', Pixels.DEEP)).isEqualTo(65_535 - r);
      assertThat(packed.get(i, 'g', Pixels.DEEP)).isEqualTo(g);
      assertThat(packed.get(i, 'b', Pixels.DEEP)).isEqualTo(0x99 * 257);
      assertThat(alpha.get(i, 'a', Pixels.DEEP)).isEqualTo(b);
      assertThat(alpha.get(i, 'r', Pixels.DEEP)).isEqualTo(0x33 * 257);
      assertThat(parts.get(i, 'r', Pixels.DEEP)).isEqualTo(65_535 - b);
      assertThat(parts.get(i, 'g', Pixels.DEEP)).isEqualTo(32_768);
      assertThat(parts.get(i, 'b', Pixels.DEEP)).isEqualTo(0x66 * 257);
      assertThat(tinted.get(i, 'r', Pixels.DEEP)).isCloseTo(r / 2, within(1));
    }
    Pixels blended =
        LayerBlend.blend(
            java.util.List.of(
                new LayerBlend.Layer(image, LayerBlend.Mode.OVER, 1),
                new LayerBlend.Layer(image, LayerBlend.Mode.MULTIPLY, 1)));
    long first = image.get(0, 'r', Pixels.DEEP);
    assertThat(blended.get(0, 'r', Pixels.DEEP))
        .isCloseTo((int) (first * first / 65_535), within(1));
    SpecularGlossiness.Specular white =
        new SpecularGlossiness.Specular(new double[] {1, 1, 1}, new double[] {0, 0, 0}, 1);
    assertThat(SpecularGlossiness.images(image, null, white).baseColour().isDeep()).isTrue();
    Pixels half = ImageSize.to(image, 4, 4);
    int mean = 0;
    for (int i : new int[] {0, 1, 8, 9}) {
      mean += image.get(i, 'r', Pixels.DEEP);
    }
    assertThat(half.get(0, 'r', Pixels.DEEP)).isCloseTo(mean / 4, within(1));
  }

  @Test
  void flatSlopesOfSixteenBitsAreSeen() {
    // Sixteen steps of 65,535 over sixteen pixels: eight bits would see no slope at all.
    PixelSink sink = new PixelSink(16, 16, Pixels.DEEP);
    for (int i = 0; i < 256; i++) {
      int v = 30_000 + 16 * (i % 16);
      sink.put(i, Pixels.DEEP, v, v, v);
    }
    Pixels normals = BumpMap.toNormalMap(sink.pixels(false), 1);
    assertThat(normals.get(5 * 16 + 5, 'r', Pixels.DEEP)).isBetween(32_600, 32_767);
  }

  @ParameterizedTest
  @CsvSource({"glb", "gltf", "obj", "fbx", "usda"})
  void sixteenBitsLand(String format) throws Exception {
    String obj =
        "mtllib m.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nusemtl a\nf 1/1 2/2 3/3\n";
    TestFiles cargo =
        TestFiles.of("a.obj", obj)
            .with("m.mtl", "newmtl a\nKd 1 1 1\nmap_Kd d.png\nmap_Pr r.png\nPm 0\n")
            .with("d.png", ImageCodec.encodePng(deep(8, 5)))
            .with("r.png", png(16, 0, 1, 40_000, 12_345, 30_001));
    Scene far = CargoReader.read("a", ReadContext.of(cargo));
    TestFiles out = new TestFiles();
    LandingOptions options = LandingOptions.of(format);
    Landing landing = Landing.write(far, options, "a", cargo, out, Progress.NONE);
    Proof proof = Proof.of(far, far, landing.landed(options, out), cargo, Progress.NONE);
    assertThat(proof.rows())
        .filteredOn(row -> row.fact().endsWith("texture"))
        .hasSizeGreaterThanOrEqualTo(2)
        .allMatch(row -> row.verdict() == Verdict.KEPT);
  }

  @Test
  void eightBitsOfSixteenAreNotKept() throws Exception {
    String obj =
        "mtllib m.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nusemtl a\nf 1/1 2/2 3/3\n";
    TestFiles cargo =
        TestFiles.of("a.obj", obj)
            .with("m.mtl", "newmtl a\nKd 1 1 1\nmap_Kd d.png\n")
            .with("d.png", ImageCodec.encodePng(deep(8, 5)));
    Scene far = CargoReader.read("a", ReadContext.of(cargo));
    TestFiles out = new TestFiles();
    LandingOptions options = LandingOptions.of("gltf");
    Landing landing = Landing.write(far, options, "a", cargo, out, Progress.NONE);
    Pixels pixels = deep(8, 5);
    Pixels less = new Pixels(8, 8, pixels.argb(), false);
    out.with("textures/d.png", ImageCodec.encodePng(less));
    Proof proof = Proof.of(far, far, landing.landed(options, out), cargo, Progress.NONE);
    assertThat(proof.rows())
        .filteredOn(row -> row.fact().equals("Base colour texture"))
        .allMatch(row -> row.verdict() == Verdict.CHANGED && row.note().contains("16 bits"));
  }
}
