package ferry.stone.core.format.gltf.read;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.files.TextureBytes;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.SpecularGlossiness;
import ferry.stone.core.texture.SpecularGlossiness.Images;
import ferry.stone.core.texture.SpecularGlossiness.MetallicRoughness;
import ferry.stone.core.texture.SpecularGlossiness.Specular;
import java.io.IOException;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;

/**
 * Materials of KHR_materials_pbrSpecularGlossiness as metallic-roughness: the extension is
 * archived, so few programs read it, and without it such a model is grey.
 */
final class GltfSpecularGlossiness {
  private final SceneBuilder scene;
  private final Resources resources;

  /** What was made of the same images and factors once. */
  private final Map<String, int[]> made = new HashMap<>();

  private final Map<String, Double> off = new HashMap<>();

  GltfSpecularGlossiness(SceneBuilder scene, Resources resources) {
    this.scene = scene;
    this.resources = resources;
  }

  /**
   * Puts what it says on the channels.
   *
   * @param factors linear
   * @param diffuse use of the diffuse image, or {@code null}
   * @param specular use of the image of specular colour and glossiness, or {@code null}
   */
  void put(
      Map<Channel, Material.Value> channels,
      String name,
      Specular factors,
      double opacity,
      TextureUse diffuse,
      TextureUse specular,
      Findings findings) {
    MetallicRoughness plain = SpecularGlossiness.toMetallic(factors);
    double off = SpecularGlossiness.off(factors, SpecularGlossiness.toSpecular(plain));
    double[] base = {plain.baseColour()[0], plain.baseColour()[1], plain.baseColour()[2], opacity};
    double metallic = plain.metallic();
    double roughness = plain.roughness();
    TextureUse baseUse = diffuse;
    TextureUse packedUse = null;
    Pixels diffusePixels = pixels(diffuse);
    Pixels specularPixels = liesAlike(diffuse, specular) ? pixels(specular) : null;
    if (diffusePixels != null || specularPixels != null) {
      String key =
          id(diffuse, diffusePixels)
              + " "
              + id(specular, specularPixels)
              + " "
              + java.util.Arrays.toString(factors.diffuse())
              + java.util.Arrays.toString(factors.specular())
              + factors.glossiness();
      if (!made.containsKey(key)) {
        make(key, name, diffusePixels, specularPixels, factors);
      }
      TextureUse like = diffuse != null ? diffuse : specular;
      base = new double[] {1, 1, 1, opacity};
      metallic = 1;
      roughness = 1;
      baseUse = like.withTexture(made.get(key)[0]);
      packedUse = like.withTexture(made.get(key)[1]);
      off = this.off.get(key);
    }
    channels.put(Channel.BASE_COLOUR, new Material.Value(base, baseUse));
    channels.put(Channel.OPACITY, new Material.Value(new double[] {opacity}, null));
    channels.put(
        Channel.METALLIC,
        new Material.Value(
            new double[] {metallic}, packedUse == null ? null : packedUse.withComponent('b')));
    channels.put(
        Channel.ROUGHNESS,
        new Material.Value(
            new double[] {roughness}, packedUse == null ? null : packedUse.withComponent('g')));
    String left =
        specular != null && specularPixels == null
            ? " Its image of specular colour lies otherwise than the diffuse one, or cannot be read:"
                + " its numbers alone were taken."
            : "";
    findings.add(
        Finding.of(
                "specular-glossiness-converted",
                left.isEmpty() ? Severity.NOTE : Severity.LOOK,
                name,
                "The material is of specular-glossiness, which few programs read: it became"
                    + " metallic-roughness by the published formulas."
                    + left)
            .measured(String.format(Locale.ROOT, "%.1f / 255 off in the mean", 255 * off)));
  }

  private void make(String key, String name, Pixels diffuse, Pixels specular, Specular factors) {
    Images images = SpecularGlossiness.images(diffuse, specular, factors);
    String stem = name.isEmpty() ? "material" : name;
    made.put(
        key,
        new int[] {
          add(stem + "_base.png", images.baseColour()),
          add(stem + "_rough.png", images.roughMetal())
        });
    off.put(key, images.off());
  }

  private int add(String name, Pixels pixels) {
    int id = scene.newId();
    scene.add(new Texture(id, name, name, null, ImageCodec.encodePng(pixels)));
    return id;
  }

  private static String id(TextureUse use, Pixels pixels) {
    return pixels == null ? "-" : String.valueOf(use.textureId());
  }

  private static boolean liesAlike(TextureUse a, TextureUse b) {
    return a == null || b == null || a.withTexture(0).equals(b.withTexture(0));
  }

  private Pixels pixels(TextureUse use) {
    Texture texture = use == null ? null : scene.texture(use.textureId()).orElse(null);
    if (texture == null || !texture.isFound()) {
      return null;
    }
    try {
      return ImageCodec.decode(TextureBytes.read(texture, resources), texture.name());
    } catch (IOException e) {
      // Told where it is written; its numbers stand in for it here.
      return null;
    }
  }
}
