package ferry.stone.core.handling;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.survey.Survey;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.match.TestImages;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Loose images find their channels, and come to land on them. */
class PutTexturesTest {
  private static final String TWO_PARTS =
      "o lantern\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nusemtl lantern_body\nf 1/1 2/2 3/3\n"
          + "o post\nv 0 0 1\nv 1 0 1\nv 0 1 1\nusemtl wood\nf 4/1 5/2 6/3\n";

  /** A lantern on its post as FBX, with nine images that no material names. */
  private static TestFiles cargo() throws Exception {
    TestFiles obj = new TestFiles().with("yard.obj", "mtllib a.mtl\n" + TWO_PARTS);
    obj.with(
        "a.mtl",
        "newmtl lantern_body\nKd .2 .2 .2\nKs .5 .5 .5\nNs 40\nnewmtl wood\nKd .8 .8 .8\n");
    Scene scene = CargoReader.read("yard", ReadContext.of(obj));
    TestFiles files = new TestFiles();
    Landing.write(scene, LandingOptions.of("fbx"), "yard", obj, files, Progress.NONE);
    return files
        .with("tex/T_Lantern_Body_BaseColor_2k.png", TestImages.colours(1))
        .with("tex/T_Lantern_Body_Normal_DX.png", TestImages.normals(false))
        .with("tex/T_Lantern_Body_ORM.png", TestImages.packed(2))
        .with("tex/T_Lantern_Body_Emissive.png", TestImages.colours(3))
        .with("tex/post_diffuse.png", TestImages.colours(4))
        .with("tex/post_nrm.png", TestImages.normals(true))
        .with("tex/post_gloss.png", TestImages.grey(5))
        .with("tex/post-ao.png", TestImages.grey(6))
        .with("tex/post_metalness.png", TestImages.grey(7));
  }

  private static Material material(Scene scene, String name) {
    return scene.materials().stream().filter(m -> m.name().equals(name)).findFirst().orElseThrow();
  }

  private static String image(Scene scene, String material, Channel channel) {
    TextureUse use = material(scene, material).texture(channel).orElseThrow();
    String name = scene.texture(use.textureId()).map(Texture::name).orElseThrow();
    return use.component() == 0 ? name : name + " " + use.component();
  }

  private static Handling.Stage put(Scene scene, Map<String, Object> params) {
    List<Step> steps = List.of(new Step("a", "textures", params, true, List.of()));
    return Handling.run(scene, steps, Progress.NONE).get(0);
  }

  @Test
  void nineLooseImagesGoWhereTheyBelong() throws Exception {
    TestFiles files = cargo();
    Scene near = CargoReader.read("yard", ReadContext.of(files));
    Finding loose =
        Survey.of(near, List.of(), Progress.NONE).findings().stream()
            .filter(f -> f.code().equals("images-loose"))
            .findFirst()
            .orElseThrow();
    assertThat(loose.measured()).isEqualTo("9 images, 9 fit");

    Handling.Stage stage = put(near, loose.offers().get(0).params());
    Scene far = stage.scene();
    assertThat(stage.figure()).isEqualTo("11 images put");
    assertThat(image(far, "lantern_body", Channel.BASE_COLOUR)).contains("BaseColor");
    assertThat(image(far, "lantern_body", Channel.NORMAL)).endsWith("green_up.png");
    assertThat(image(far, "lantern_body", Channel.OCCLUSION)).endsWith("ORM.png r");
    assertThat(image(far, "lantern_body", Channel.ROUGHNESS)).endsWith("ORM.png g");
    assertThat(image(far, "lantern_body", Channel.METALLIC)).endsWith("ORM.png b");
    assertThat(image(far, "lantern_body", Channel.EMISSIVE)).contains("Emissive");
    assertThat(image(far, "wood", Channel.BASE_COLOUR)).isEqualTo("post_diffuse.png");
    assertThat(image(far, "wood", Channel.NORMAL)).isEqualTo("post_nrm.png");
    assertThat(image(far, "wood", Channel.ROUGHNESS)).isEqualTo("post_gloss_roughness.png");
    assertThat(image(far, "wood", Channel.OCCLUSION)).isEqualTo("post-ao.png");
    assertThat(image(far, "wood", Channel.METALLIC)).isEqualTo("post_metalness.png");
    assertThat(Survey.of(far, List.of(), Progress.NONE).findings())
        .extracting(Finding::code)
        .doesNotContain("images-loose", "green-points-down", "normal-map-misplaced");

    TestFiles out = new TestFiles();
    LandingOptions glb = LandingOptions.of("glb");
    Landing landing = Landing.write(far, glb, "yard", files, out, Progress.NONE);
    Proof proof = Proof.of(near, far, landing.landed(glb, out), files, Progress.NONE);
    assertThat(proof.rows()).noneMatch(r -> r.verdict() == Verdict.LOST);
    Scene landed = CargoReader.read("yard", ReadContext.of(out));
    assertThat(material(landed, "lantern_body").channels())
        .containsKeys(Channel.BASE_COLOUR, Channel.NORMAL, Channel.EMISSIVE, Channel.OCCLUSION);
    assertThat(material(landed, "wood").channels())
        .containsKeys(Channel.BASE_COLOUR, Channel.NORMAL, Channel.OCCLUSION);
  }

  @Test
  void glossAndTurnedGreenAreTheOppositePixelByPixel() throws Exception {
    TestFiles files = cargo();
    Scene far = put(CargoReader.read("yard", ReadContext.of(files)), Map.of()).scene();
    Pixels gloss = ImageCodec.decode(files.bytes("tex/post_gloss.png"), "a.png");
    Pixels rough = pixels(far, "wood", Channel.ROUGHNESS);
    Pixels down = ImageCodec.decode(files.bytes("tex/T_Lantern_Body_Normal_DX.png"), "a.png");
    Pixels up = pixels(far, "lantern_body", Channel.NORMAL);
    for (int i = 0; i < gloss.argb().length; i++) {
      assertThat(rough.get(i, 'r')).isEqualTo(255 - gloss.get(i, 'r'));
      assertThat(up.argb()[i]).isEqualTo(down.argb()[i] ^ 0x0000ff00);
    }
  }

  private static Pixels pixels(Scene scene, String material, Channel channel) throws IOException {
    int id = material(scene, material).texture(channel).orElseThrow().textureId();
    return ImageCodec.decode(scene.texture(id).orElseThrow().embedded(), "made.png");
  }

  @Test
  void whatIsPutByHandGoesFirstAndCanBeTakenAway() throws Exception {
    Scene near = CargoReader.read("yard", ReadContext.of(cargo()));
    String hand =
        "base colour @ wood = tex/T_Lantern_Body_BaseColor_2k.png; normal @ wood = -;"
            + " roughness @ wood = T_Lantern_Body_ORM.png [g, opposite]";
    Scene far = put(near, Map.of("bindings", hand)).scene();
    assertThat(image(far, "wood", Channel.BASE_COLOUR)).contains("Lantern_Body_BaseColor");
    assertThat(material(far, "wood").texture(Channel.NORMAL)).isEmpty();
    assertThat(image(far, "wood", Channel.ROUGHNESS)).endsWith("ORM_roughness.png");

    assertThat(put(near, Map.of("bindings", "normal @ wood = no.png")).failure())
        .contains("there is no image \"no.png\"");
    assertThat(put(near, Map.of("bindings", "norml @ wood = a.png")).failure())
        .contains("there is no channel \"norml\"");
    assertThat(put(near, Map.of("bindings", "normal @ tin = tex/post_nrm.png")).findings())
        .anyMatch(f -> f.message().contains("no material of this name"));
    assertThatThrownBy(() -> near.images().read("../secret.png")).isInstanceOf(Exception.class);
  }

  /** The folder was renamed and the file too; a lantern's folder does not make it the lantern's. */
  @Test
  void aRenamedFileIsFoundByTheNameThatIsWanted() throws Exception {
    TestFiles files = new TestFiles().with("yard.obj", "mtllib a.mtl\n" + TWO_PARTS);
    files.with(
        "a.mtl",
        "newmtl lantern_body\nKd 1 0 0\nnewmtl wood\nKd 1 1 1\nmap_Kd tex/timber_col.png\n");
    files.with("lantern/timber_colour.png", TestImages.colours(1));
    Scene far = put(CargoReader.read("yard", ReadContext.of(files)), Map.of()).scene();
    assertThat(image(far, "wood", Channel.BASE_COLOUR)).isEqualTo("timber_colour.png");
    assertThat(material(far, "lantern_body").texture(Channel.BASE_COLOUR)).isEmpty();
  }

  @Test
  void whatIsInTheWrongChannelIsFoundAndPutRight() throws Exception {
    TestFiles files = new TestFiles().with("yard.obj", "mtllib a.mtl\n" + TWO_PARTS);
    files.with(
        "a.mtl",
        "newmtl lantern_body\nmap_Kd n.png\nnorm c.png\nnewmtl wood\nnorm down.png\nmap_Pr c.png\n");
    files.with("n.png", TestImages.normals(true)).with("c.png", TestImages.colours(1));
    files.with("down.png", TestImages.normals(false));
    Scene near = CargoReader.read("yard", ReadContext.of(files));
    List<Finding> found = Survey.of(near, List.of(), Progress.NONE).findings();
    for (String code :
        List.of("normal-map-misplaced", "no-normal-map", "green-points-down", "colour-as-data")) {
      Finding finding = found.stream().filter(f -> f.code().equals(code)).findFirst().orElseThrow();
      Scene far = put(near, finding.offers().get(0).params()).scene();
      assertThat(Survey.of(far, List.of(), Progress.NONE).findings())
          .as(code)
          .noneMatch(f -> f.code().equals(code) && f.where().equals(finding.where()));
    }
  }
}
