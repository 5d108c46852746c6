package ferry.stone.core.format.gltf.raw;

import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What KHR_animation_pointer can point at besides nodes' transforms and weights: the same values in
 * the file and in the scene. Pointers at other members of the elements are kept as they are.
 */
public final class GltfPointers {
  /** Begins the property of a track whose pointer is known to glTF alone. */
  static final String OTHER = "gltf:";

  /** What a pointer begins with, and the kind of element that it names. */
  public enum Kind {
    NODE("/nodes/"),
    CAMERA("/cameras/"),
    LIGHT("/extensions/KHR_lights_punctual/lights/"),
    MATERIAL("/materials/");

    private final String start;
    private final Pattern pattern;

    Kind(String start) {
      this.start = start;
      pattern = Pattern.compile(Pattern.quote(start) + "(\\d{1,8})(/.+)");
    }
  }

  /**
   * An element and one of its values.
   *
   * @param index place of the element in the file
   * @param factor the scene's number for 1 in the file
   */
  public record Target(Kind kind, int index, String property, double factor) {}

  private record Value(Kind kind, String property, String pointer, double factor) {}

  private static final List<Value> VALUES = values();

  private GltfPointers() {}

  private static List<Value> values() {
    List<Value> values = new ArrayList<>();
    values.add(new Value(Kind.NODE, Clip.VISIBLE, "/extensions/KHR_node_visibility/visible", 1));
    values.add(new Value(Kind.CAMERA, Clip.CAMERA_ANGLE, "/perspective/yfov", 1));
    values.add(new Value(Kind.CAMERA, Clip.CAMERA_HEIGHT, "/orthographic/ymag", 2));
    values.add(new Value(Kind.LIGHT, Clip.LIGHT_COLOUR, "/color", 1));
    values.add(new Value(Kind.LIGHT, Clip.LIGHT_INTENSITY, "/intensity", 1));
    values.add(new Value(Kind.LIGHT, Clip.LIGHT_RANGE, "/range", 1));
    values.add(new Value(Kind.LIGHT, Clip.LIGHT_INNER_ANGLE, "/spot/innerConeAngle", 1));
    values.add(new Value(Kind.LIGHT, Clip.LIGHT_OUTER_ANGLE, "/spot/outerConeAngle", 1));
    values.add(material(Channel.BASE_COLOUR, "/pbrMetallicRoughness/baseColorFactor"));
    values.add(material(Channel.METALLIC, "/pbrMetallicRoughness/metallicFactor"));
    values.add(material(Channel.ROUGHNESS, "/pbrMetallicRoughness/roughnessFactor"));
    for (GltfMaterialExtensions.Extension extension : GltfMaterialExtensions.ALL) {
      for (GltfMaterialExtensions.Member member : extension.members()) {
        if (member.factor() != null) {
          String pointer = "/extensions/" + extension.name() + "/" + member.factor();
          values.add(material(member.channel(), pointer));
        }
      }
    }
    return values;
  }

  private static Value material(Channel channel, String pointer) {
    return new Value(Kind.MATERIAL, Clip.MATERIAL + channel.name(), pointer, 1);
  }

  /** What a pointer means; empty when it names no element that is read. */
  public static Optional<Target> read(String pointer) {
    for (Kind kind : Kind.values()) {
      Matcher matcher = kind.pattern.matcher(pointer);
      if (matcher.matches()) {
        String rest = matcher.group(2);
        int index = Integer.parseInt(matcher.group(1));
        return Optional.of(
            VALUES.stream()
                .filter(v -> v.kind() == kind && v.pointer().equals(rest))
                .findFirst()
                .map(v -> new Target(kind, index, v.property(), v.factor()))
                .orElse(new Target(kind, index, OTHER + rest, 1)));
      }
    }
    return Optional.empty();
  }

  /**
   * A pointer and its factor for a track, or empty when glTF has no place for the value.
   *
   * @param index place of the element in the file
   */
  public static Optional<Map.Entry<String, Double>> write(Kind kind, int index, String property) {
    if (property.startsWith(OTHER)) {
      return Optional.of(Map.entry(kind.start + index + property.substring(OTHER.length()), 1.0));
    }
    return VALUES.stream()
        .filter(v -> v.kind() == kind && v.property().equals(property))
        .findFirst()
        .map(v -> Map.entry(kind.start + index + v.pointer(), v.factor()));
  }
}
