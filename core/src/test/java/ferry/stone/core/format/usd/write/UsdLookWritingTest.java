package ferry.stone.core.format.usd.write;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.field.Values;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.format.Formats;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.Light;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.survey.Survey;
import ferry.stone.core.work.Progress;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Materials, colours, cameras and lights of a stage, in the text and in the scene that is read. */
class UsdLookWritingTest extends Landed {
  private int textured(TextureUse base, TextureUse packed, Material.Alpha alpha) {
    Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    channels.put(Channel.BASE_COLOUR, new Material.Value(new double[] {0.5, 0.25, 1}, base));
    channels.put(Channel.ROUGHNESS, new Material.Value(null, packed.withComponent('g')));
    channels.put(
        Channel.METALLIC, new Material.Value(new double[] {0.5}, packed.withComponent('b')));
    channels.put(Channel.OPACITY, new Material.Value(new double[] {0.75}, null));
    channels.put(Channel.SHEEN, new Material.Value(new double[] {1, 1, 1}, null));
    int id = scene.newId();
    scene.add(
        new Material(
            id,
            "oak, wet",
            Material.Shading.METALLIC_ROUGHNESS,
            channels,
            alpha,
            0.4,
            true,
            Map.of()));
    return id;
  }

  private TextureUse image(String name) {
    int id = scene.newId();
    scene.add(new Texture(id, name, name, name, null));
    files.with(name, new byte[] {1});
    return TextureUse.of(id);
  }

  @Test
  void materialsArePreviewSurfacesWithWhatReadsTheirImages() throws Exception {
    scene.linearColours(true);
    TextureUse base = image("oak.png");
    TextureUse placed =
        new TextureUse(base.textureId(), 1, 0.25, 0.5, 2, 3, 0.5, base.wrap(), (char) 0, 1, "");
    int material = textured(placed, image("oak_orm.png"), Material.Alpha.MASK);
    int id = mesh("plank");
    PolygonMesh plank = scene.build().mesh(id).orElseThrow();
    scene.meshes(
        List.of(
            plank.toBuilder()
                .materials(new int[] {material}, null)
                .attributes(List.of(uv("map1"), uv("detail")))
                .build()));
    node("plank", -1, Content.MeshContent.of(id));
    Scene back = written();
    Material read = back.materials().get(0);
    assertThat(read.name()).isEqualTo("oak, wet");
    assertThat(read.doubleSided()).isTrue();
    assertThat(read.alpha()).isEqualTo(Material.Alpha.MASK);
    assertThat(read.alphaCutoff()).isCloseTo(0.4, within(1e-6));
    TextureUse use = read.texture(Channel.BASE_COLOUR).orElseThrow();
    assertThat(use.uvSet()).isEqualTo(1);
    assertThat(use.offsetU()).isEqualTo(0.25);
    assertThat(use.scaleV()).isEqualTo(3);
    assertThat(use.rotationRadians()).isCloseTo(0.5, within(1e-6));
    assertThat(read.factor(Channel.BASE_COLOUR)).containsExactly(0.5, 0.25, 1);
    assertThat(read.texture(Channel.ROUGHNESS).orElseThrow().component()).isEqualTo('g');
    assertThat(read.texture(Channel.METALLIC).orElseThrow().component()).isEqualTo('b');
    assertThat(read.factor(Channel.METALLIC)).containsExactly(0.5);
    // Where a surface is cut out, the alpha of its colour counts.
    assertThat(read.texture(Channel.OPACITY).orElseThrow().component()).isEqualTo('a');
    assertThat(read.get(Channel.SHEEN)).isEmpty();
    assertThat(codes()).contains("material-values-not-carried");
    assertThat(back.meshes().get(0).all(Semantic.UV).stream().map(Attribute::name))
        .containsExactly("map1", "detail");
    assertThat(text)
        .contains("primvars:st1")
        .contains("inputs:varname = \"st1\"")
        .contains("inputs:sourceColorSpace = \"sRGB\"")
        .contains("asset inputs:file = @textures/oak.png@");
  }

  private static Attribute uv(String name) {
    return new Attribute(
        name, Semantic.UV, Domain.VERTEX, 2, new float[] {0, 0, 1, 0, 1, 1, 0, 1}, null);
  }

  @Test
  void theLookOfAStageDressesACacheThatCameWithout() throws Exception {
    TextureUse use = image("oak.png");
    int material = textured(use, use, Material.Alpha.OPAQUE);
    int id = mesh("plank");
    PolygonMesh bare = scene.build().mesh(id).orElseThrow();
    scene.meshes(
        List.of(
            bare.toBuilder()
                .materials(new int[] {material}, null)
                .attributes(List.of(uv("map1")))
                .build()));
    node("plank", -1, Content.MeshContent.of(id));
    written();
    // The same plank, from an archive that knows no looks.
    SceneBuilder take =
        new SceneBuilder("take").frame(Frame.Y_UP_METRE, FrameSource.STATED, FrameSource.STATED);
    take.add(PolygonMesh.of(1, "plank_geo", bare.points(), bare.faces()));
    take.add(Node.of(2, "plank_geo", -1, Content.MeshContent.of(1)));
    SceneWriter alembic = Formats.writer("abc");
    alembic.write(
        take.build(),
        Values.of(alembic.fields(), Map.of()),
        new SceneWriter.Target("take", files, files, said, Progress.NONE));
    Scene both = CargoReader.read("yard", List.of("take.abc", "yard.usda"), ReadContext.of(files));
    Finding beside =
        Survey.of(both, List.of(), Progress.NONE).findings().stream()
            .filter(f -> f.code().equals("look-beside"))
            .findFirst()
            .orElseThrow();
    Offer offer = beside.offers().get(0);
    Step step = new Step("a", offer.kind(), offer.params(), true, offer.nodeIds());
    Scene dressed = Handling.result(both, Handling.run(both, List.of(step), Progress.NONE));
    for (Scene.ShownMesh shown : dressed.shownMeshes()) {
      Material worn = dressed.material(shown.mesh().materialIds()[0]).orElseThrow();
      assertThat(worn.name()).isEqualTo("oak, wet");
      assertThat(worn.texture(Channel.BASE_COLOUR)).isPresent();
      assertThat(shown.mesh().first(Semantic.UV)).isPresent();
    }
    assertThat(dressed.shownMeshes()).hasSize(2);
  }

  @Test
  void aNormalMapIsReadAsDirections() throws Exception {
    TextureUse use = image("grain_normal.png");
    TextureUse half =
        new TextureUse(use.textureId(), 0, 0, 0, 1, 1, 0, use.wrap(), (char) 0, 0.5, "");
    Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    channels.put(Channel.NORMAL, new Material.Value(null, half));
    scene.add(
        new Material(
            scene.newId(),
            "grain",
            Material.Shading.METALLIC_ROUGHNESS,
            channels,
            Material.Alpha.OPAQUE,
            0.5,
            false,
            Map.of()));
    Scene back = written();
    assertThat(text)
        .contains("inputs:scale = (1, 1, 2, 1)")
        .contains("inputs:bias = (-0.5, -0.5, -1, 0)")
        .contains("inputs:sourceColorSpace = \"raw\"");
    // Nothing shows it, and it is there.
    assertThat(back.materials().get(0).texture(Channel.NORMAL).orElseThrow().amount())
        .isEqualTo(0.5);
  }

  @Test
  void colourWithOpacityIsTwoPrimvarsAndOneLayerAgain() throws Exception {
    int id = mesh("sail");
    float[] rgba = {1, 0, 0, 1, 0, 1, 0, 0.5f, 0, 0, 1, 0.25f, 1, 1, 1, 0};
    Attribute colour = new Attribute("dye", Semantic.COLOUR, Domain.VERTEX, 4, rgba, null);
    scene.linearColours(true);
    scene.meshes(List.of(scene.build().mesh(id).orElseThrow().withAttributes(List.of(colour))));
    node("sail", -1, Content.MeshContent.of(id));
    Scene back = written();
    assertThat(text).contains("primvars:displayColor").contains("primvars:displayOpacity");
    Attribute read = back.meshes().get(0).attributes().get(0);
    assertThat(back.meshes().get(0).attributes()).hasSize(1);
    assertThat(read.name()).isEqualTo("dye");
    assertThat(read.values()).containsExactly(rgba);
  }

  @Test
  void camerasAndLightsSayInTheirUnitsWhatTheyAre() throws Exception {
    int camera = scene.newId();
    scene.add(new Camera(camera, "lens", 0.8, 0, 0, 0.1, Double.POSITIVE_INFINITY, null, Map.of()));
    node("eye", -1, new Content.CameraContent(camera));
    int flat = scene.newId();
    scene.add(new Camera(flat, "plan", 0, 4, 2, 0.1, 10, null, Map.of()));
    node("plan", -1, new Content.CameraContent(flat));
    for (Light.Kind kind : Light.Kind.values()) {
      int id = scene.newId();
      boolean spot = kind == Light.Kind.SPOT;
      scene.add(
          new Light(
              id,
              kind.name(),
              kind,
              new float[] {1, 0.5f, 0.25f},
              12,
              Double.POSITIVE_INFINITY,
              spot ? 0.2 : 0,
              spot ? 0.4 : 0,
              Map.of()));
      node(kind.name(), -1, new Content.LightContent(id));
    }
    Scene back = written();
    assertThat(codes()).contains("camera-closed");
    Camera eye = back.cameras().get(0);
    assertThat(eye.name()).isEqualTo("lens");
    assertThat(eye.verticalAngleRadians()).isCloseTo(0.8, within(1e-6));
    assertThat(eye.aspect()).isCloseTo(16.0 / 9, within(1e-6));
    Camera plan = back.cameras().get(1);
    assertThat(plan.verticalAngleRadians()).isZero();
    assertThat(plan.height()).isCloseTo(4, within(1e-6));
    assertThat(back.lights()).hasSize(Light.Kind.values().length);
    for (Light light : back.lights()) {
      assertThat(light.kind().name()).isEqualTo(light.name());
      assertThat(light.intensity()).as(light.name()).isCloseTo(12, within(1e-5));
      assertThat(light.linearColour()).containsExactly(1, 0.5f, 0.25f);
    }
    Light spot =
        back.lights().stream().filter(l -> l.kind() == Light.Kind.SPOT).findFirst().orElseThrow();
    assertThat(spot.innerAngleRadians()).isCloseTo(0.2, within(1e-6));
    assertThat(spot.outerAngleRadians()).isCloseTo(0.4, within(1e-6));
    assertThat(text).contains("def SphereLight \"POINT\"").contains("inputs:normalize = true");
  }
}
