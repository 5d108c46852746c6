package ferry.stone.core.format.usd.write.look;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.write.spec.Spec;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.ColourSpace;
import ferry.stone.core.texture.PbrMaterial;
import ferry.stone.core.texture.PbrTranslation;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * What a preview surface holds of a material: its inputs, colours linear, parts of images by name.
 * A material of another model is translated first.
 */
public final class Preview {
  /**
   * An input.
   *
   * @param type of its values
   */
  record Input(String name, String type) {}

  public static final Map<Channel, Input> INPUTS = new EnumMap<>(Channel.class);

  static {
    INPUTS.put(Channel.BASE_COLOUR, new Input("diffuseColor", "color3f"));
    INPUTS.put(Channel.EMISSIVE, new Input("emissiveColor", "color3f"));
    INPUTS.put(Channel.SPECULAR, new Input("specularColor", "color3f"));
    INPUTS.put(Channel.METALLIC, new Input("metallic", "float"));
    INPUTS.put(Channel.ROUGHNESS, new Input("roughness", "float"));
    INPUTS.put(Channel.CLEARCOAT, new Input("clearcoat", "float"));
    INPUTS.put(Channel.CLEARCOAT_ROUGHNESS, new Input("clearcoatRoughness", "float"));
    INPUTS.put(Channel.OPACITY, new Input("opacity", "float"));
    INPUTS.put(Channel.IOR, new Input("ior", "float"));
    INPUTS.put(Channel.NORMAL, new Input("normal", "normal3f"));
    INPUTS.put(Channel.DISPLACEMENT, new Input("displacement", "float"));
    INPUTS.put(Channel.OCCLUSION, new Input("occlusion", "float"));
  }

  private Preview() {}

  static UsdValue value(Input input, double[] numbers) {
    boolean three = !input.type().equals("float");
    float[] all = new float[three ? 3 : 1];
    for (int i = 0; i < all.length; i++) {
      all[i] = (float) numbers[Math.min(i, numbers.length - 1)];
    }
    return Spec.value(input.type(), false, all);
  }

  /** The materials as the file holds them. */
  public static List<Material> held(Scene scene) {
    List<Material> held = new ArrayList<>();
    for (Material material : scene.materials()) {
      held.add(held(material, scene));
    }
    return held;
  }

  /** What becomes of materials, in words. */
  public static List<Finding> said(Scene scene) {
    List<Finding> said = new ArrayList<>();
    for (Material material : scene.materials()) {
      boolean own =
          material.shading() == Material.Shading.METALLIC_ROUGHNESS
              || material.shading() == Material.Shading.SPECULAR_GLOSSINESS;
      List<String> lost = new ArrayList<>();
      if (own) {
        material.channels().keySet().stream()
            .filter(c -> !INPUTS.containsKey(c) && c != Channel.OCCLUSION_ROUGHNESS_METALLIC)
            .filter(c -> isSaid(material, c))
            .forEach(c -> lost.add(c.label()));
      } else {
        PbrMaterial pbr = PbrTranslation.translate(material, scene.linearColours());
        said.add(
            Finding.of(
                "material-translated",
                Severity.NOTE,
                material.name(),
                "A preview surface is metallic-roughness: the material is translated to it."));
        pbr.notes().stream().filter(PbrMaterial.Note::lost).forEach(n -> lost.add(n.channel()));
        if (pbr.shininess() != null) {
          lost.add("image of the shininess");
        }
      }
      if (!lost.isEmpty()) {
        said.add(
            Finding.of(
                    "material-values-not-carried",
                    Severity.LOOK,
                    material.name(),
                    "The preview surface has no input for these: they are left out.")
                .measured(String.join(", ", lost)));
      }
    }
    return said;
  }

  /** Whether a channel changes anything. */
  private static boolean isSaid(Material material, Channel channel) {
    Material.Value value = material.channels().get(channel);
    boolean zero = value.factor() != null && Arrays.stream(value.factor()).allMatch(f -> f == 0);
    return value.texture() != null || !zero;
  }

  private static Material held(Material material, Scene scene) {
    boolean own =
        material.shading() == Material.Shading.METALLIC_ROUGHNESS
            || material.shading() == Material.Shading.SPECULAR_GLOSSINESS;
    Map<Channel, Material.Value> channels =
        own
            ? own(material, scene.linearColours())
            : translated(PbrTranslation.translate(material, scene.linearColours()));
    opacity(material, channels);
    boolean flip = scene.uvOrigin() == UvOrigin.TOP_LEFT;
    channels.replaceAll(
        (channel, value) ->
            new Material.Value(value.factor(), use(channel, value.texture(), flip)));
    Material.Value clear = channels.get(Channel.OPACITY);
    boolean seen = clear != null && (clear.texture() != null || clear.scalar(1) < 1);
    Material.Alpha alpha =
        material.alpha() == Material.Alpha.MASK && material.alphaCutoff() > 0
            ? Material.Alpha.MASK
            : seen ? Material.Alpha.BLEND : Material.Alpha.OPAQUE;
    return new Material(
        material.id(),
        material.name(),
        material.shading() == Material.Shading.SPECULAR_GLOSSINESS
            ? Material.Shading.SPECULAR_GLOSSINESS
            : Material.Shading.METALLIC_ROUGHNESS,
        channels,
        alpha,
        alpha == Material.Alpha.MASK ? material.alphaCutoff() : 0.5,
        material.doubleSided(),
        new LinkedHashMap<>(material.properties()));
  }

  /** Channels that a metallic-roughness material has by its nature, colours linear. */
  private static Map<Channel, Material.Value> own(Material material, boolean linear) {
    Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    material
        .channels()
        .forEach(
            (channel, value) -> {
              if (channel == Channel.OCCLUSION_ROUGHNESS_METALLIC && value.texture() != null) {
                TextureUse use = value.texture();
                put(channels, Channel.OCCLUSION, use.withComponent('r'));
                put(channels, Channel.ROUGHNESS, use.withComponent('g'));
                put(channels, Channel.METALLIC, use.withComponent('b'));
              } else if (INPUTS.containsKey(channel)) {
                channels.merge(
                    channel,
                    new Material.Value(linear(channel, value.factor(), linear), value.texture()),
                    (packed, said) ->
                        new Material.Value(
                            said.factor(),
                            said.texture() == null ? packed.texture() : said.texture()));
              }
            });
    boolean specular = material.shading() == Material.Shading.SPECULAR_GLOSSINESS;
    channels.remove(specular ? Channel.METALLIC : Channel.SPECULAR);
    return channels;
  }

  private static void put(Map<Channel, Material.Value> channels, Channel channel, TextureUse use) {
    channels.merge(
        channel,
        new Material.Value(null, use),
        (said, packed) -> new Material.Value(said.factor(), packed.texture()));
  }

  private static double[] linear(Channel channel, double[] factor, boolean linear) {
    if (factor == null) {
      return null;
    }
    if (!channel.isColour()) {
      return new double[] {factor[0]};
    }
    double[] colour = new double[3];
    for (int i = 0; i < 3; i++) {
      double own = factor[Math.min(i, factor.length - 1)];
      colour[i] = linear ? own : ColourSpace.toLinear(own);
    }
    return colour;
  }

  private static Map<Channel, Material.Value> translated(PbrMaterial pbr) {
    Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    double[] base = pbr.baseColour();
    channels.put(
        Channel.BASE_COLOUR,
        new Material.Value(new double[] {base[0], base[1], base[2]}, pbr.base()));
    channels.put(Channel.OPACITY, new Material.Value(new double[] {base[3]}, pbr.opacity()));
    channels.put(
        Channel.METALLIC, new Material.Value(new double[] {pbr.metallic()}, pbr.metallicMap()));
    channels.put(
        Channel.ROUGHNESS, new Material.Value(new double[] {pbr.roughness()}, pbr.roughnessMap()));
    double[] e = pbr.emissive();
    double strength = pbr.emissiveStrength();
    channels.put(
        Channel.EMISSIVE,
        new Material.Value(
            new double[] {e[0] * strength, e[1] * strength, e[2] * strength}, pbr.emissiveMap()));
    if (pbr.normal() != null) {
      channels.put(Channel.NORMAL, new Material.Value(null, pbr.normal()));
    }
    if (pbr.occlusion() != null) {
      channels.put(Channel.OCCLUSION, new Material.Value(null, pbr.occlusion()));
    }
    pbr.layers()
        .forEach(
            (channel, value) -> {
              if (INPUTS.containsKey(channel)) {
                channels.put(channel, value);
              }
            });
    return channels;
  }

  /** Where a surface is opaque no opacity counts; where it is not, the alpha of its colour does. */
  private static void opacity(Material material, Map<Channel, Material.Value> channels) {
    Material.Value clear = channels.get(Channel.OPACITY);
    Material.Value base = channels.get(Channel.BASE_COLOUR);
    boolean opaque = material.alpha() == Material.Alpha.OPAQUE;
    boolean cut = clear != null && clear.texture() != null;
    if (opaque && !cut) {
      channels.remove(Channel.OPACITY);
    } else if (!cut && base != null && base.texture() != null) {
      double[] factor = clear == null ? null : clear.factor();
      channels.put(Channel.OPACITY, new Material.Value(factor, base.texture().withComponent('a')));
    }
  }

  /** A use of an image as the format says it: by the name of a part, V from below. */
  private static TextureUse use(Channel channel, TextureUse use, boolean flip) {
    if (use == null) {
      return null;
    }
    boolean whole = channel.isColour() || channel == Channel.NORMAL;
    char part = use.component();
    boolean named = "rgba".indexOf(part) >= 0 && part != 0;
    TextureUse read = use.withComponent(named ? part : whole ? (char) 0 : 'r');
    return flip ? read.flipped(UvOrigin.BOTTOM_LEFT) : read;
  }
}
