package ferry.stone.core.format.fbx;

import ferry.stone.core.scene.Channel;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;

/**
 * Which property of a material is which channel. Property sets of physically based materials are
 * told by the last part of a property's name, whoever wrote it: common practice, no source.
 */
final class FbxChannels {
  /** Begins the names of the set that is written here. */
  static final String SET = "Physical|";

  static final String ALPHA = SET + "alphaMode";
  static final String CUTOFF = SET + "alphaCutoff";
  static final String DOUBLE_SIDED = SET + "doubleSided";
  static final String SHADING = SET + "shading";

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
            Map.entry("metalness", Channel.METALLIC),
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
  static Channel classic(String property) {
    return CLASSIC.get(property);
  }

  /** The channel of a property of a physically based set, or {@code null}. */
  static Channel physical(String property) {
    return PHYSICAL.get(letters(property.substring(property.lastIndexOf('|') + 1)));
  }

  private static String letters(String name) {
    return name.toLowerCase(Locale.ROOT).replaceAll("[^a-z]", "");
  }

  /** The last part of the property's name that is written for a channel. */
  static String name(Channel channel) {
    if (channel == Channel.BASE_COLOUR) {
      return "baseColor";
    }
    StringBuilder name = new StringBuilder();
    for (String word : channel.name().toLowerCase(Locale.ROOT).split("_")) {
      name.append(
          name.isEmpty() ? word : Character.toUpperCase(word.charAt(0)) + word.substring(1));
    }
    return name.toString();
  }
}
