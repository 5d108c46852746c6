package ferry.stone.core.format.gltf;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.SpecularGlossiness;
import ferry.stone.core.texture.SpecularGlossiness.MetallicRoughness;
import ferry.stone.core.texture.SpecularGlossiness.Specular;
import ferry.stone.core.work.Progress;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** KHR_materials_pbrSpecularGlossiness, by the conversion that its text points to. */
class GltfSpecularGlossinessTest {
  private static double[] grey(double v) {
    return new double[] {v, v, v};
  }

  /** What is no metal reflects 0.04 (glTF 2.0, appendix B.2.3): the diffuse colour stays. */
  @Test
  void plasticStaysAndGoldIsMetal() {
    MetallicRoughness plastic =
        SpecularGlossiness.toMetallic(new Specular(new double[] {0.5, 0.2, 0.1}, grey(0.04), 0.3));
    assertThat(plastic.metallic()).isCloseTo(0, within(1e-9));
    assertThat(plastic.baseColour()).containsExactly(new double[] {0.5, 0.2, 0.1}, within(1e-9));
    assertThat(plastic.roughness()).isCloseTo(0.7, within(1e-9));

    double[] gold = {1, 0.766, 0.336};
    MetallicRoughness metal = SpecularGlossiness.toMetallic(new Specular(grey(0), gold, 0.9));
    assertThat(metal.metallic()).isCloseTo(1, within(0.01));
    assertThat(metal.baseColour()).containsExactly(gold, within(0.02));
  }

  @Test
  void thereAndBackIsTheSameForPlasticsAndMetals() {
    Random random = new Random(5);
    for (int i = 0; i < 200; i++) {
      double[] colour = {random.nextDouble(), random.nextDouble(), random.nextDouble()};
      double metallic = i % 2;
      MetallicRoughness own = new MetallicRoughness(colour, metallic, random.nextDouble());
      MetallicRoughness back = SpecularGlossiness.toMetallic(SpecularGlossiness.toSpecular(own));
      assertThat(back.roughness()).isCloseTo(own.roughness(), within(1e-9));
      if (metallic == 0) {
        assertThat(back.baseColour()).containsExactly(colour, within(1e-6));
      }
      assertThat(
              SpecularGlossiness.off(
                  SpecularGlossiness.toSpecular(own), SpecularGlossiness.toSpecular(back)))
          .isLessThan(0.02);
    }
  }

  private static Scene read(TestFiles files, Findings findings) throws Exception {
    return CargoReader.read("a", new ReadContext(files, Map.of(), findings, Progress.NONE));
  }

  private static String json(String extension) {
    return "{\"asset\":{\"version\":\"2.0\"},\"extensionsUsed\":[\"KHR_materials_pbrSpecularGlossiness\"],"
        + "\"materials\":[{\"name\":\"brass\",\"extensions\":{\"KHR_materials_pbrSpecularGlossiness\":"
        + extension
        + "}}],\"textures\":[{\"source\":0},{\"source\":1}],\"images\":[{\"uri\":\"d.png\"},{\"uri\":\"s.png\"}],"
        + "\"scene\":0,\"scenes\":[{\"nodes\":[0]}],\"nodes\":[{\"name\":\"empty\"}]}";
  }

  private static byte[] image(int argb) {
    int[] all = new int[16];
    java.util.Arrays.fill(all, argb);
    return ImageCodec.encodePng(new Pixels(4, 4, all, true));
  }

  @Test
  void imagesBecomeBaseColourRoughnessAndMetal() throws Exception {
    TestFiles files =
        new TestFiles()
            .with(
                "a.gltf",
                json(
                    "{\"diffuseTexture\":{\"index\":0},\"specularGlossinessTexture\":{\"index\":1},"
                        + "\"glossinessFactor\":0.5}"))
            .with("d.png", image(0xff000000))
            // Specular of a metal whose sRGB is 200, 150, 90, with half its gloss.
            .with("s.png", image(0x80c8965a));
    Findings findings = new Findings();
    Scene scene = read(files, findings);
    assertThat(findings.list()).anyMatch(f -> f.code().equals("specular-glossiness-converted"));
    Material brass = scene.materials().get(0);
    Pixels base = pixels(scene, brass, Channel.BASE_COLOUR);
    Pixels rough = pixels(scene, brass, Channel.ROUGHNESS);
    assertThat(base.get(0, 'r')).isBetween(196, 204);
    assertThat(base.get(0, 'g')).isBetween(146, 154);
    assertThat(base.get(0, 'b')).isBetween(86, 94);
    assertThat(rough.get(0, 'b')).isGreaterThan(240);
    // Glossiness 0.5 × 128 / 255.
    assertThat(rough.get(0, 'g')).isBetween(190, 192);
    assertThat(brass.texture(Channel.ROUGHNESS).orElseThrow().component()).isEqualTo('g');
    assertThat(brass.texture(Channel.METALLIC).orElseThrow().component()).isEqualTo('b');
  }

  @Test
  void numbersAloneNeedNoImages() throws Exception {
    TestFiles files =
        new TestFiles()
            .with(
                "a.gltf",
                json("{\"diffuseFactor\":[0.2,0.4,0.6,0.5],\"specularFactor\":[0.04,0.04,0.04]}"));
    Material material = read(files, new Findings()).materials().get(0);
    assertThat(material.factor(Channel.METALLIC)[0]).isCloseTo(0, within(1e-9));
    assertThat(material.factor(Channel.ROUGHNESS)[0]).isCloseTo(0, within(1e-9));
    assertThat(material.factor(Channel.BASE_COLOUR))
        .containsExactly(new double[] {0.2, 0.4, 0.6, 0.5}, within(1e-9));
    assertThat(material.texture(Channel.BASE_COLOUR)).isEmpty();
  }

  private static Pixels pixels(Scene scene, Material material, Channel channel) throws Exception {
    int id = material.texture(channel).orElseThrow().textureId();
    return ImageCodec.decode(scene.texture(id).orElseThrow().embedded(), "a.png");
  }
}
