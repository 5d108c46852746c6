package ferry.stone.core.format.gltf;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.landing.Forecast;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.match.TestImages;
import ferry.stone.core.work.Progress;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;

/** Images written as WebP and as KTX2: what is lost is told before, said, and seen in the proof. */
class ImageKindsTest {
  private static final String OBJ =
      """
      mtllib m.mtl
      o hatch
      v 0 0 0
      v 1 0 0
      v 1 1 0
      v 0 1 0
      vt 0 0
      vt 1 0
      vt 1 1
      vt 0 1
      vn 0 0 1
      usemtl oak
      f 1/1/1 2/2/1 3/3/1 4/4/1
      """;
  private static final String MTL =
      """
      newmtl oak
      Kd 1 1 1
      map_Kd oak.png
      norm slopes.png
      map_Pr rough.png
      Pm 0
      """;

  private record Landed(JsonNode json, TestFiles out, Proof proof, Forecast forecast, Scene again) {
    Map<String, LedgerRow> images() {
      Map<String, LedgerRow> rows = new TreeMap<>();
      for (LedgerRow row : proof.rows()) {
        if (row.fact().endsWith("texture")) {
          rows.put(row.fact(), row);
        }
      }
      return rows;
    }
  }

  private static TestFiles cargo(int odd) throws Exception {
    TestFiles cargo = TestFiles.of("a.obj", OBJ).with("m.mtl", MTL);
    byte[] rough = TestImages.grey(4);
    if (odd > 0) {
      rough = ImageCodec.encodePng(new Pixels(odd, odd, new int[odd * odd], true));
    }
    return cargo
        .with("oak.png", TestImages.colours(3))
        .with("slopes.png", TestImages.normals(true))
        .with("rough.png", rough);
  }

  private static Landed land(TestFiles cargo, String kind) throws Exception {
    Scene far = CargoReader.read("a.obj", ReadContext.of(cargo));
    LandingOptions options = LandingOptions.of("gltf").with("imageKind", kind);
    TestFiles out = new TestFiles();
    Landing landed = Landing.write(far, options, "b", cargo, out, Progress.NONE);
    JsonNode json = new ObjectMapper().readTree(out.bytes("b.gltf"));
    return new Landed(
        json,
        out,
        Proof.of(far, far, landed.landed(options, out), cargo, Progress.NONE),
        Forecast.of(far, options, cargo),
        CargoReader.read("b.gltf", ReadContext.of(out)));
  }

  @Test
  void everyKindIsNeededByNameAndReadAgain() throws Exception {
    for (String kind : List.of("exact", "webp", "ktx2")) {
      Landed landed = land(cargo(0), kind);
      String extension = kind.equals("ktx2") ? "KHR_texture_basisu" : "EXT_texture_webp";
      assertThat(landed.json().path("extensionsRequired").toString()).contains(extension);
      for (JsonNode texture : landed.json().path("textures")) {
        JsonNode source = texture.at("/extensions/" + extension + "/source");
        assertThat(source.isInt()).as(kind).isTrue();
        String uri = landed.json().at("/images/" + source.asInt() + "/uri").asText();
        assertThat(uri).endsWith(kind.equals("ktx2") ? ".ktx2" : ".webp");
        assertThat(ImageCodec.probe(landed.out().bytes(uri), uri).width()).isEqualTo(64);
      }
      assertThat(landed.again().textures()).hasSize(3);
    }
  }

  @Test
  void withoutLossNothingIsTold() throws Exception {
    Landed landed = land(cargo(0), "exact");
    assertThat(landed.images().values()).hasSize(3);
    assertThat(landed.images().values()).allMatch(row -> row.verdict() == Verdict.KEPT);
    assertThat(landed.forecast().items())
        .noneMatch(item -> item.capability() == Capability.PACKING);
  }

  @Test
  void whatIsLostIsForetoldAndMeasured() throws Exception {
    for (String kind : List.of("webp", "ktx2")) {
      Landed landed = land(cargo(0), kind);
      LedgerRow colour = landed.images().get("Base colour texture");
      assertThat(colour.verdict()).as(kind).isEqualTo(Verdict.CHANGED);
      assertThat(colour.note()).contains(" dB");
      assertThat(landed.proof().rows()).noneMatch(row -> row.verdict() == Verdict.LOST);
      assertThat(landed.forecast().items())
          .anyMatch(
              item ->
                  item.capability() == Capability.PACKING
                      && item.measured().startsWith(kind.equals("ktx2") ? "3" : "1"));
    }
    // Data stays as it is in WebP.
    assertThat(land(cargo(0), "webp").images().get("Normal texture").verdict())
        .isEqualTo(Verdict.KEPT);
  }

  @Test
  void ktx2SaysWhatItsValuesAre() throws Exception {
    Landed landed = land(cargo(0), "ktx2");
    Map<String, Integer> transfer = new TreeMap<>();
    for (JsonNode image : landed.json().path("images")) {
      byte[] file = landed.out().bytes(image.path("uri").asText());
      int descriptor = file[48] & 0xff | (file[49] & 0xff) << 8;
      transfer.put(image.path("name").asText(), (int) file[descriptor + 14]);
    }
    assertThat(transfer).containsEntry("oak", 2).containsEntry("slopes", 1);
    assertThat(transfer.values().stream().filter(t -> t == 1)).hasSize(2);
  }

  @Test
  void sidesThatDoNotFitBecomeMultiplesOfFourAndThatIsSaid() throws Exception {
    Landed landed = land(cargo(5), "ktx2");
    assertThat(landed.proof().rows())
        .anyMatch(row -> row.landed().equals("8 × 8") && row.verdict() == Verdict.CHANGED);
  }

  @Test
  void anImageThatIsColourAndDataIsTwoOnlyWhereThatDiffers() throws Exception {
    for (String kind : List.of("same", "exact", "webp", "ktx2")) {
      TestFiles cargo =
          TestFiles.of("a.obj", OBJ)
              .with("m.mtl", "newmtl oak\nKd 1 1 1\nmap_Kd o.png\nmap_Ke o.png\nnorm o.png\n")
              .with("o.png", TestImages.normals(true));
      Landed landed = land(cargo, kind);
      int files = kind.equals("ktx2") || kind.equals("webp") ? 2 : 1;
      assertThat(landed.json().path("images")).as(kind).hasSize(files);
    }
  }

  @Test
  void webpOfTheCargoGoesAsItIsUnlessItIsNotWanted() throws Exception {
    Pixels pixels = ImageCodec.decode(TestImages.colours(9), "oak.png");
    byte[] webp = ImageCodec.encodeWebp(pixels, true);
    TestFiles cargo =
        TestFiles.of("a.obj", OBJ)
            .with("m.mtl", "newmtl oak\nKd 1 1 1\nmap_Kd oak.webp\n")
            .with("oak.webp", webp);
    for (String kind : List.of("same", "exact", "webp")) {
      Landed landed = land(cargo, kind);
      String uri = landed.json().at("/images/0/uri").asText();
      assertThat(uri).as(kind).endsWith(".webp");
      assertThat(landed.out().bytes(uri)).isEqualTo(webp);
      assertThat(landed.images().get("Base colour texture").verdict()).isEqualTo(Verdict.KEPT);
      assertThat(landed.forecast().items())
          .noneMatch(item -> item.capability() == Capability.IMAGE_FORMATS)
          .noneMatch(item -> item.capability() == Capability.PACKING);
    }
    Scene far = CargoReader.read("a.obj", ReadContext.of(cargo));
    LandingOptions plain = LandingOptions.of("gltf").with("plainImages", true);
    TestFiles out = new TestFiles();
    Landing.write(far, plain, "b", cargo, out, Progress.NONE);
    assertThat(ImageCodec.decode(out.bytes("textures/oak.png"), "oak.png").argb())
        .isEqualTo(pixels.argb());
    assertThat(Forecast.of(far, plain, cargo).items())
        .anyMatch(item -> item.capability() == Capability.IMAGE_FORMATS);
  }
}
