package ferry.stone.core.handling.step.names;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;

/**
 * Names of images by the material that shows them first and by what they are for: {@code
 * oak_Normal}, {@code iron_ORM}. The words are common practice, no source.
 */
final class ImageNames {
  private static final Map<Channel, String> WORDS =
      Map.of(
          Channel.BASE_COLOUR, "BaseColor",
          Channel.OCCLUSION, "AO",
          Channel.OCCLUSION_ROUGHNESS_METALLIC, "ORM",
          Channel.SHEEN, "SheenColor");

  private ImageNames() {}

  /** By the ids of textures; none for those that no material shows. */
  static Map<Integer, String> of(Scene scene) {
    Map<Integer, Material> first = new HashMap<>();
    Map<Integer, Set<Channel>> channels = new HashMap<>();
    for (Material material : scene.materials()) {
      material
          .channels()
          .forEach(
              (channel, value) -> {
                TextureUse use = value.texture();
                if (use != null
                    && first.computeIfAbsent(use.textureId(), k -> material) == material) {
                  channels
                      .computeIfAbsent(use.textureId(), k -> EnumSet.noneOf(Channel.class))
                      .add(channel);
                }
              });
    }
    Map<Integer, String> names = new HashMap<>();
    first.forEach((id, by) -> names.put(id, by.name() + "_" + word(channels.get(id))));
    return names;
  }

  private static String word(Set<Channel> channels) {
    boolean rough = channels.contains(Channel.ROUGHNESS);
    boolean metal = channels.contains(Channel.METALLIC);
    if (rough && metal) {
      return channels.contains(Channel.OCCLUSION) ? "ORM" : "MetallicRoughness";
    }
    Channel first = channels.iterator().next();
    return WORDS.getOrDefault(first, joined(first.label()));
  }

  /** {@code clearcoat roughness} as {@code ClearcoatRoughness}. */
  private static String joined(String label) {
    StringBuilder word = new StringBuilder();
    for (String part : label.split("[^a-z]+")) {
      word.append(part.isEmpty() ? "" : Character.toUpperCase(part.charAt(0)) + part.substring(1));
    }
    return word.toString();
  }
}
