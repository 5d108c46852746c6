package ferry.stone.core.format.fbx.raw;

import ferry.stone.core.scene.look.Channel;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;

/**
 * Which property of a material is which channel. Property sets of physically based materials are
 * told by the last part of a property's name, whoever wrote it: common practice, no source.
 */
public final class FbxChannels {
  /** Begins the names of the set that is written here. */
  public static final String SET = "Physical|";

  public static final String ALPHA = SET + "alphaMode";
  public static final String CUTOFF = SET + "alphaCutoff";
  public static final String DOUBLE_SIDED = SET + "doubleSided";
  public static final String SHADING = SET + "shading";

  /** Full brightness of the colour that stands beside it in the open set. */
  public static final String BASE_WEIGHT = SET + "base";

  public static final String EMISSION_WEIGHT = SET + "emissionWeight";

  /**
   * Names of the channels in the open shading language's set of a standard surface, which readers
   * of binding tables know. Its colours are written as sRGB numbers, as all colours of the format.
   */
  private static final Map<Channel, String> OPEN =
      Map.ofEntries(
          Map.entry(Channel.BASE_COLOUR, "base_color"),
          Map.entry(Channel.METALLIC, "metalness"),
          Map.entry(Channel.ROUGHNESS, "specular_roughness"),
          Map.entry(Channel.EMISSIVE, "emission_color"),
          Map.entry(Channel.NORMAL, "normalCamera"),
          Map.entry(Channel.OPACITY, "opacity"),
          Map.entry(Channel.CLEARCOAT, "coat"),
          Map.entry(Channel.CLEARCOAT_ROUGHNESS, "coat_roughness"),
          Map.entry(Channel.CLEARCOAT_NORMAL, "coat_normal"),
          Map.entry(Channel.SHEEN, "sheen_color"),
          Map.entry(Channel.SHEEN_ROUGHNESS, "sheen_roughness"),
          Map.entry(Channel.TRANSMISSION_WEIGHT, "transmission"),
          Map.entry(Channel.IOR, "specular_IOR"),
          Map.entry(Channel.SPECULAR_WEIGHT, "specular"),
          Map.entry(Channel.SPECULAR_TINT, "specular_color"),
          Map.entry(Channel.ANISOTROPY, "specular_anisotropy"));

  private static final Map<String, Channel> CLASSIC =
      Map.ofEntries(
          Map.entry("DiffuseColor", Channel.BASE_COLOUR),
          Map.entry("AmbientColor", Channel.AMBIENT),
          Map.entry("SpecularColor", Channel.SPECULAR),
          Map.entry("EmissiveColor", Channel.EMISSIVE),
          Map.entry("ShininessExponent", Channel.SHININESS),
          Map.entry("Shininess", Channel.SHININESS),
          Map.entry("NormalMap", Channel.NORMAL),
          Map.entry("Bump", Channel.BUMP),
          Map.entry("TransparentColor", Channel.OPACITY),
          Map.entry("TransparencyFactor", Channel.OPACITY),
          Map.entry("ReflectionColor", Channel.REFLECTION),
          Map.entry("DisplacementColor", Channel.DISPLACEMENT));

  private static final Map<String, Channel> PHYSICAL = physical();

  private FbxChannels() {}

  private static Map<String, Channel> physical() {
    Map<String, Channel> all = new HashMap<>();
    for (Channel channel : Channel.values()) {
      all.put(letters(name(channel)), channel);
    }
    all.putAll(
        Map.ofEntries(
            Map.entry("basecolour", Channel.BASE_COLOUR),
            Map.entry("metallic", Channel.METALLIC),
            Map.entry("emissive", Channel.EMISSIVE),
            Map.entry("specularroughness", Channel.ROUGHNESS),
            Map.entry("emissioncolor", Channel.EMISSIVE),
            Map.entry("emission", Channel.EMISSIVE),
            Map.entry("normalcamera", Channel.NORMAL),
            Map.entry("ao", Channel.OCCLUSION),
            Map.entry("ambientocclusion", Channel.OCCLUSION)));
    Map<String, Channel> withMaps = new HashMap<>(all);
    all.forEach((name, channel) -> withMaps.put(name + "map", channel));
    return withMaps;
  }

  /** The channel of a classic property, or {@code null}. */
  public static Channel classic(String property) {
    return CLASSIC.get(property);
  }

  /** The channel of a property of a physically based set, or {@code null}. */
  public static Channel physical(String property) {
    return PHYSICAL.get(letters(property.substring(property.lastIndexOf('|') + 1)));
  }

  /** Whether other readers know the channel of a physically based material. */
  public static boolean isOpen(Channel channel) {
    return OPEN.containsKey(channel);
  }

  /** Name in the open set by the property that is written, for a binding table. */
  public static Map<String, String> bindings() {
    Map<String, String> all = new TreeMap<>();
    OPEN.forEach((channel, name) -> all.put(SET + name(channel), name));
    all.put(BASE_WEIGHT, "base");
    all.put(EMISSION_WEIGHT, "emission");
    return all;
  }

  private static String letters(String name) {
    return name.toLowerCase(Locale.ROOT).replaceAll("[^a-z]", "");
  }

  /** The last part of the property's name that is written for a channel. */
  public static String name(Channel channel) {
    switch (channel) {
      case BASE_COLOUR:
        return "baseColor";
      case METALLIC:
        return "metalness";
      case EMISSIVE:
        return "emissionColor";
      default:
        break;
    }
    StringBuilder name = new StringBuilder();
    for (String word : channel.name().toLowerCase(Locale.ROOT).split("_")) {
      name.append(
          name.isEmpty() ? word : Character.toUpperCase(word.charAt(0)) + word.substring(1));
    }
    return name.toString();
  }
}
