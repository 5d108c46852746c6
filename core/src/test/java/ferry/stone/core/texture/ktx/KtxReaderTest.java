package ferry.stone.core.texture.ktx;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.ImageException;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Base64;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.zip.Deflater;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import org.junit.jupiter.api.Test;

/**
 * Images that ktx2-encoder 0.6.0 wrote as ETC1S, UASTC and UASTC with Zstandard, and one of random
 * blocks of all nineteen modes of UASTC. What is expected is what three 0.187's transcoder reads:
 * the sum of each byte times 1 + its place modulo 97.
 */
class KtxReaderTest {
  private static Map<String, byte[]> images() throws IOException {
    Map<String, byte[]> all = new TreeMap<>();
    try (ZipInputStream zip =
        new ZipInputStream(KtxReaderTest.class.getResourceAsStream("/ktx/images.zip"))) {
      for (ZipEntry e = zip.getNextEntry(); e != null; e = zip.getNextEntry()) {
        all.put(e.getName(), zip.readAllBytes());
      }
    }
    return all;
  }

  @Test
  void everyPixelIsAsTheTranscoderReadsIt() throws Exception {
    Map<String, byte[]> images = images();
    String expected = new String(images.get("expected.tsv"), StandardCharsets.UTF_8);
    int compared = 0;
    for (String line : expected.strip().split("\n")) {
      String[] is = line.split("\t");
      Pixels pixels = ImageCodec.decode(images.get(is[0] + ".ktx2"), is[0]);
      assertThat(pixels.width()).isEqualTo(Integer.parseInt(is[1]));
      assertThat(pixels.height()).isEqualTo(Integer.parseInt(is[2]));
      long sum = 0;
      for (int i = 0; i < pixels.argb().length; i++) {
        int p = pixels.argb()[i];
        int[] rgba = {p >> 16 & 0xff, p >> 8 & 0xff, p & 0xff, p >>> 24};
        for (int c = 0; c < 4; c++) {
          sum += (long) rgba[c] * (1 + (4 * i + c) % 97);
        }
      }
      assertThat(sum).as(is[0]).isEqualTo(Long.parseLong(is[4]));
      compared++;
    }
    assertThat(compared).isEqualTo(19);
  }

  @Test
  void damagedImagesEndInASentence() throws Exception {
    int refused = 0;
    for (Map.Entry<String, byte[]> image : images().entrySet()) {
      if (!image.getKey().endsWith(".ktx2")) {
        continue;
      }
      Random random = new Random(image.getKey().hashCode());
      for (int round = 0; round < 80; round++) {
        byte[] bad = image.getValue().clone();
        if (round % 3 == 0) {
          bad = Arrays.copyOf(bad, 12 + random.nextInt(bad.length - 12));
        } else {
          for (int i = 0; i < 4; i++) {
            bad[12 + random.nextInt(bad.length - 12)] = (byte) random.nextInt();
          }
        }
        try {
          ImageCodec.decode(bad, "a.ktx2");
        } catch (ImageException e) {
          assertThat(e.getMessage()).startsWith("a.ktx2").hasSizeGreaterThan(30);
          refused++;
        }
      }
    }
    assertThat(refused).isGreaterThan(500);
  }

  /** A square whose only image is KTX2, as web files have it. */
  private static TestFiles square(byte[] image) {
    String uri = "data:image/ktx2;base64," + Base64.getEncoder().encodeToString(image);
    ByteBuffer data = ByteBuffer.allocate(80).order(ByteOrder.LITTLE_ENDIAN);
    for (float f : new float[] {0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0, 0, 1, 1, 1, 1, 0, 0, 0}) {
      data.putFloat(f);
    }
    String buffer =
        "data:application/octet-stream;base64," + Base64.getEncoder().encodeToString(data.array());
    String json =
        """
        {"asset":{"version":"2.0"},"extensionsUsed":["KHR_texture_basisu"],
        "extensionsRequired":["KHR_texture_basisu"],"scene":0,"scenes":[{"nodes":[0]}],
        "nodes":[{"mesh":0,"name":"pane"}],"meshes":[{"primitives":[{"attributes":{"POSITION":0,
        "TEXCOORD_0":1},"mode":6,"material":0}]}],"materials":[{"name":"glass",
        "pbrMetallicRoughness":{"baseColorTexture":{"index":0}}}],
        "textures":[{"extensions":{"KHR_texture_basisu":{"source":0}}}],
        "images":[{"name":"pane","uri":"%s"}],"accessors":[{"bufferView":0,"componentType":5126,
        "count":4,"type":"VEC3","min":[0,0,0],"max":[1,1,0]},{"bufferView":1,"componentType":5126,
        "count":4,"type":"VEC2"}],"bufferViews":[{"buffer":0,"byteLength":48},{"buffer":0,
        "byteOffset":48,"byteLength":32}],"buffers":[{"byteLength":80,"uri":"%s"}]}
        """
            .formatted(uri, buffer);
    return new TestFiles().with("pane.gltf", json);
  }

  @Test
  void anImageOfTheWebLandsPlainAndIsProvedByItsPixels() throws Exception {
    for (String name : new String[] {"smooth_etc1s.ktx2", "alpha_zstd.ktx2"}) {
      byte[] image = images().get(name);
      TestFiles files = square(image);
      Scene scene = CargoReader.read("pane", ReadContext.of(files));
      for (String format : new String[] {"glb", "fbx", "obj", "usdz"}) {
        LandingOptions options = LandingOptions.of(format);
        options = format.equals("glb") ? options.with("plainImages", true) : options;
        TestFiles out = new TestFiles();
        Landing landing = Landing.write(scene, options, "landed", files, out, Progress.NONE);
        Proof proof = Proof.of(scene, scene, landing.landed(options, out), files, Progress.NONE);
        assertThat(proof.rows())
            .as(format)
            .filteredOn(r -> r.fact().contains("ase colour texture"))
            .singleElement()
            .satisfies(r -> assertThat(r.differs()).startsWith("0"))
            .extracting(LedgerRow::verdict)
            .isEqualTo(Verdict.KEPT);
        assertThat(out.paths()).noneMatch(path -> path.endsWith(".ktx2"));
        if (format.equals("glb")) {
          String json = new String(out.bytes("landed.glb"), StandardCharsets.ISO_8859_1);
          assertThat(json).doesNotContain("basisu").contains("image/png");
        }
      }
    }
  }

  /** A container of plain bytes, 2 × 1 pixels: KTX 2.0, section 3, by hand. */
  private static byte[] plain(int packing, byte[] data) {
    int at = 80 + 24 + 44;
    ByteBuffer file = ByteBuffer.allocate(at + data.length).order(ByteOrder.LITTLE_ENDIAN);
    file.put(new byte[] {(byte) 0xAB, 'K', 'T', 'X', ' ', '2', '0', (byte) 0xBB, 13, 10, 26, 10});
    for (int number : new int[] {37, 1, 2, 1, 0, 0, 1, 1, packing, 104, 44, 0, 0}) {
      file.putInt(number);
    }
    file.putLong(0).putLong(0).putLong(at).putLong(data.length).putLong(8);
    file.putInt(44).putInt(0).putInt(2 | 40 << 16).putInt(1);
    file.position(at);
    return file.put(data).array();
  }

  @Test
  void plainAndDeflatedPixelsAreRead() throws Exception {
    byte[] rgba = {10, 20, 30, 40, (byte) 250, (byte) 240, (byte) 230, (byte) 220};
    Deflater deflater = new Deflater();
    deflater.setInput(rgba);
    deflater.finish();
    byte[] packed = new byte[64];
    packed = Arrays.copyOf(packed, deflater.deflate(packed));
    for (byte[] file : new byte[][] {plain(0, rgba), plain(3, packed)}) {
      Pixels pixels = ImageCodec.decode(file, "a.ktx2");
      assertThat(pixels.argb()).containsExactly(0x280a141e, 0xdcfaf0e6);
      assertThat(ImageCodec.probe(file, "a.ktx2").width()).isEqualTo(2);
    }
  }

  @Test
  void whatIsNotReadSaysWhy() {
    byte[] rgba = new byte[8];
    byte[] other = plain(0, rgba);
    other[12] = 50;
    assertThatThrownBy(() -> ImageCodec.decode(other, "a.ktx2"))
        .isInstanceOf(ImageException.class)
        .hasMessage(
            "a.ktx2: the KTX2 image cannot be read: its pixels are of a kind that is not read"
                + " (format 50, model 1). Save it again.");
    byte[] cube = plain(0, rgba);
    cube[36] = 6;
    assertThatThrownBy(() -> ImageCodec.decode(cube, "a.ktx2"))
        .hasMessageContaining("no single flat picture");
    assertThatThrownBy(() -> ImageCodec.decode(plain(9, rgba), "a.ktx2"))
        .hasMessageContaining("packed in an unknown way");
    byte[] wide = plain(0, rgba);
    wide[22] = 1;
    assertThatThrownBy(() -> ImageCodec.decode(wide, "a.ktx2"))
        .hasMessageContaining("65538 × 1 pixels; at most");
    assertThatThrownBy(() -> ImageCodec.decode(plain(3, rgba), "a.ktx2"))
        .hasMessageContaining("damaged");
  }
}
