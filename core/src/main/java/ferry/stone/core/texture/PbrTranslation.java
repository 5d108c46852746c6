package ferry.stone.core.texture;

import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.LayerParts;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.PbrMaterial.Note;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Phong and mixed materials to metallic-roughness.
 *
 * <ul>
 *   <li>Colours of files that state no colour space are taken as sRGB, as three's MTL reader does.
 *   <li>Roughness from the Phong exponent n: α = √(2 / (n + 2)) (Walter, Marschner, Li and Torrance
 *       2007, "Microfacet models for refraction through rough surfaces", equation for the
 *       Blinn-Phong width), and glTF's roughness = √α (glTF 2.0, appendix B.2.3).
 *   <li>Metallic from Phong colours: a body darker than 0.04 (the reflectance of plastics and glass
 *       at normal incidence, glTF 2.0 appendix B.2.3) with a highlight brighter than {@value
 *       #METAL_HIGHLIGHT} can only be metal, its highlight colour being the metal's; all else is 0.
 *       Common practice, no source.
 * </ul>
 */
public final class PbrTranslation {
  private static final double DIELECTRIC = 0.04;
  private static final double METAL_HIGHLIGHT = 0.3;
  private static final Set<Channel> NOT_CARRIED =
      Set.of(
          Channel.AMBIENT,
          Channel.TRANSMISSION,
          Channel.IOR,
          Channel.REFLECTION,
          Channel.SHEEN,
          Channel.CLEARCOAT,
          Channel.CLEARCOAT_ROUGHNESS,
          Channel.ANISOTROPY,
          Channel.ANISOTROPY_ROTATION,
          Channel.DISPLACEMENT,
          Channel.DECAL,
          Channel.SHARPNESS);

  private final Material material;
  private final boolean linear;
  private final List<Note> notes = new ArrayList<>();

  private PbrTranslation(Material material, boolean linear) {
    this.material = material;
    this.linear = linear;
  }

  /** Roughness of a Phong exponent; 1 for 0, falling towards 0. */
  public static double roughnessOfExponent(double exponent) {
    return Math.pow(2 / (Math.max(0, exponent) + 2), 0.25);
  }

  /** The exponent that {@link #roughnessOfExponent} makes a roughness of; large for 0. */
  public static double exponentOfRoughness(double roughness) {
    return Math.max(0, 2 / Math.pow(Math.max(1e-3, Math.min(1, roughness)), 4) - 2);
  }

  /**
   * @param linear whether the material's colour numbers are linear light; sRGB otherwise
   */
  public static PbrMaterial translate(Material material, boolean linear) {
    return new PbrTranslation(material, linear).run();
  }

  private PbrMaterial run() {
    double opacity = clamp(material.factor(Channel.OPACITY, 1)[0]);
    TextureUse base = map(Channel.BASE_COLOUR);
    double[] body = body(base);
    double metallic = metallic();
    double[] colour = body;
    if (metallic == 1 && material.get(Channel.METALLIC).isEmpty() && base == null) {
      colour = linear(material.factor(Channel.SPECULAR, 0, 0, 0));
      notes.add(
          new Note(
              "metallic", "dark body, bright highlight", "metal in the highlight's colour", false));
    }
    double[] emission = emission();
    double strength = Math.max(1, Math.max(emission[0], Math.max(emission[1], emission[2])));
    double[] emissive = {emission[0] / strength, emission[1] / strength, emission[2] / strength};
    specularNote();
    Map<Channel, Material.Value> layers = layers();
    for (Channel channel : material.channels().keySet()) {
      if (layers.containsKey(channel)) {
        continue;
      }
      if (NOT_CARRIED.contains(channel) && !isNeutral(channel)) {
        notes.add(new Note(channel.label(), describe(channel), "not carried", true));
      }
    }
    double exponent = material.factor(Channel.SHININESS, 0)[0];
    return new PbrMaterial(
        new double[] {clamp(colour[0]), clamp(colour[1]), clamp(colour[2]), opacity},
        metallic,
        roughness(),
        emissive,
        strength,
        material.alpha(),
        material.alphaCutoff(),
        material.doubleSided(),
        base,
        map(Channel.OPACITY),
        map(Channel.METALLIC),
        map(Channel.ROUGHNESS),
        map(Channel.ROUGHNESS) == null ? map(Channel.SHININESS) : null,
        exponent,
        map(Channel.OCCLUSION_ROUGHNESS_METALLIC),
        map(Channel.NORMAL),
        map(Channel.NORMAL) == null ? map(Channel.BUMP) : null,
        map(Channel.OCCLUSION),
        map(Channel.EMISSIVE),
        material.shading() == Material.Shading.UNLIT,
        layers,
        notes);
  }

  /** The layers of a material that is metallic-roughness already; Phong numbers mean others. */
  private Map<Channel, Material.Value> layers() {
    Map<Channel, Material.Value> layers = new EnumMap<>(Channel.class);
    if (material.shading() != Material.Shading.METALLIC_ROUGHNESS) {
      return layers;
    }
    material
        .channels()
        .forEach(
            (channel, value) -> {
              double[] numbers = value.factor();
              if (!LayerParts.isLayer(channel)
                  || numbers != null && numbers.length != LayerParts.otherwise(channel).length) {
                return;
              }
              double[] factor = value.factor();
              layers.put(
                  channel,
                  new Material.Value(
                      factor != null && channel.isColour() ? linear(factor) : factor,
                      value.texture()));
            });
    return layers;
  }

  private TextureUse map(Channel channel) {
    return material.texture(channel).orElse(null);
  }

  private double[] body(TextureUse base) {
    double[] written = material.factor(Channel.BASE_COLOUR, base == null ? grey() : white());
    if (base != null && written[0] == 0 && written[1] == 0 && written[2] == 0) {
      // Some exporters write a black factor beside a texture; multiplied, nothing would be seen.
      notes.add(
          new Note("base colour", "black factor with a texture", "factor taken as white", false));
      return white();
    }
    return linear(written);
  }

  private double[] linear(double[] written) {
    return linear
        ? new double[] {written[0], written[1], written[2]}
        : ColourSpace.toLinear(written);
  }

  private static double[] grey() {
    return new double[] {0.8, 0.8, 0.8};
  }

  private static double[] white() {
    return new double[] {1, 1, 1};
  }

  private double[] emission() {
    boolean hasMap = map(Channel.EMISSIVE) != null;
    double[] written = material.factor(Channel.EMISSIVE, hasMap ? white() : new double[3]);
    if (hasMap && written[0] == 0 && written[1] == 0 && written[2] == 0) {
      return white();
    }
    return linear(written);
  }

  private double metallic() {
    if (material.get(Channel.METALLIC).isPresent()
        || material.get(Channel.OCCLUSION_ROUGHNESS_METALLIC).isPresent()) {
      return clamp(material.factor(Channel.METALLIC, 1)[0]);
    }
    if (material.shading() != Material.Shading.PHONG) {
      return 0;
    }
    double[] kd = material.factor(Channel.BASE_COLOUR, grey());
    double[] ks = material.factor(Channel.SPECULAR, 0, 0, 0);
    boolean metal =
        map(Channel.BASE_COLOUR) == null
            && Math.max(kd[0], Math.max(kd[1], kd[2])) < DIELECTRIC
            && Math.max(ks[0], Math.max(ks[1], ks[2])) > METAL_HIGHLIGHT;
    return metal ? 1 : 0;
  }

  private double roughness() {
    if (material.get(Channel.ROUGHNESS).isPresent()
        || material.get(Channel.OCCLUSION_ROUGHNESS_METALLIC).isPresent()) {
      return clamp(material.factor(Channel.ROUGHNESS, 1)[0]);
    }
    if (map(Channel.SHININESS) != null) {
      return 1;
    }
    if (material.get(Channel.SHININESS).isEmpty()) {
      return 1;
    }
    double exponent = material.factor(Channel.SHININESS, 0)[0];
    double roughness = roughnessOfExponent(exponent);
    notes.add(
        new Note(
            "roughness",
            "Phong exponent " + Figures.plain(exponent),
            Figures.plain(roughness) + " by (2 / (n + 2))^¼",
            false));
    return roughness;
  }

  private void specularNote() {
    double[] ks = material.factor(Channel.SPECULAR, 0, 0, 0);
    boolean bright = ks[0] + ks[1] + ks[2] > 0;
    if (map(Channel.SPECULAR) != null) {
      notes.add(new Note("specular", describe(Channel.SPECULAR), "not carried", true));
    } else if (bright && material.shading() == Material.Shading.PHONG) {
      notes.add(
          new Note(
              "specular",
              describe(Channel.SPECULAR),
              "the highlight now follows from metallic and roughness",
              false));
    }
  }

  /** Whether a value changes nothing: white ambient, no filter, refraction of 1 and the like. */
  private boolean isNeutral(Channel channel) {
    Material.Value value = material.channels().get(channel);
    if (value.texture() != null) {
      return false;
    }
    double[] f = value.factor();
    return switch (channel) {
      case AMBIENT, SHARPNESS -> true;
      case TRANSMISSION -> (f[0] == 1 && f[1] == 1 && f[2] == 1) || f[0] + f[1] + f[2] == 0;
      case IOR -> Math.abs(f[0] - 1.5) < 0.06 || f[0] <= 1;
      default -> f[0] == 0 && (f.length < 3 || f[1] + f[2] == 0);
    };
  }

  private String describe(Channel channel) {
    Material.Value value = material.channels().get(channel);
    StringBuilder text = new StringBuilder();
    if (value.factor() != null) {
      for (double f : value.factor()) {
        text.append(text.isEmpty() ? "" : " ").append(Figures.plain(f));
      }
    }
    if (value.texture() != null) {
      text.append(text.isEmpty() ? "" : ", ").append("a texture");
    }
    return text.toString();
  }

  private static double clamp(double value) {
    return Double.isNaN(value) ? 1 : Math.max(0, Math.min(1, value));
  }
}
