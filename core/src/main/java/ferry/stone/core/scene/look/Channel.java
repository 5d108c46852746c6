package ferry.stone.core.scene.look;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/** What a material says about one side of its look. */
public enum Channel {
  BASE_COLOUR("base colour", true),
  AMBIENT("ambient", true),
  SPECULAR("specular", true),
  SHININESS("shininess", false),
  METALLIC("metallic", false),
  ROUGHNESS("roughness", false),
  OCCLUSION_ROUGHNESS_METALLIC("occlusion, roughness, metallic in one", false),
  NORMAL("normal", false),
  BUMP("bump", false),
  DISPLACEMENT("displacement", false),
  OCCLUSION("occlusion", false),
  EMISSIVE("emissive", true),
  OPACITY("opacity", false),
  TRANSMISSION("transmission filter", true),
  IOR("index of refraction", false),
  REFLECTION("reflection map", true),
  SHEEN("sheen", true),
  CLEARCOAT("clearcoat", false),
  CLEARCOAT_ROUGHNESS("clearcoat roughness", false),
  ANISOTROPY("anisotropy", false),
  ANISOTROPY_ROTATION("anisotropy rotation", false),
  DECAL("decal", true),
  SHARPNESS("reflection sharpness", false),
  CLEARCOAT_NORMAL("clearcoat normal", false),
  SHEEN_ROUGHNESS("sheen roughness", false),
  SPECULAR_WEIGHT("specular weight", false),
  SPECULAR_TINT("specular tint", true),
  TRANSMISSION_WEIGHT("transmission", false),
  THICKNESS("thickness", false),
  ATTENUATION_DISTANCE("attenuation distance", false),
  ATTENUATION_COLOUR("attenuation colour", true),
  IRIDESCENCE("iridescence", false),
  IRIDESCENCE_IOR("iridescence index of refraction", false),
  IRIDESCENCE_THICKNESS_LEAST("least iridescence thickness", false),
  IRIDESCENCE_THICKNESS("iridescence thickness", false),
  DISPERSION("dispersion", false),
  DIFFUSE_TRANSMISSION("diffuse transmission", false),
  DIFFUSE_TRANSMISSION_COLOUR("diffuse transmission colour", true);

  private final String label;
  private final boolean colour;

  Channel(String label, boolean colour) {
    this.label = label;
    this.colour = colour;
  }

  public String label() {
    return label;
  }

  /** The channel of a label or a name, however it is spelled. */
  public static Optional<Channel> named(String text) {
    String plain = plain(text);
    return Arrays.stream(values())
        .filter(c -> plain(c.label).equals(plain) || plain(c.name()).equals(plain))
        .findFirst();
  }

  private static String plain(String text) {
    return text.toLowerCase(Locale.ROOT).replace("color", "colour").replaceAll("[^a-z]", "");
  }

  /** Whether its images hold sRGB colour; the others hold data. */
  public boolean isColour() {
    return colour;
  }
}
