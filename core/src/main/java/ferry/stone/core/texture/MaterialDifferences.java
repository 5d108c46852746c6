package ferry.stone.core.texture;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;

/** In what two materials of a scene differ, whatever they are called. */
public final class MaterialDifferences {
  private MaterialDifferences() {}

  /** The name without the number that tells copies apart: oak of oak.001. */
  public static String plainName(Material material) {
    return material.name().replaceAll("[._ -]?\\d{3}$", "");
  }

  /** Words for each difference; empty where they look the same. */
  public static List<String> of(Scene scene, Material a, Material b) {
    List<String> found = new ArrayList<>();
    if (a.shading() != b.shading()) {
      found.add("shading");
    }
    if (a.alpha() != b.alpha()
        || a.alpha() == Material.Alpha.MASK && a.alphaCutoff() != b.alphaCutoff()) {
      found.add("transparency");
    }
    if (a.doubleSided() != b.doubleSided()) {
      found.add("sides");
    }
    Set<Channel> channels = EnumSet.noneOf(Channel.class);
    channels.addAll(a.channels().keySet());
    channels.addAll(b.channels().keySet());
    for (Channel channel : channels) {
      Material.Value own = a.channels().get(channel);
      Material.Value other = b.channels().get(channel);
      if (own == null || other == null || !isSame(scene, own, other)) {
        found.add(channel.label());
      }
    }
    if (!a.properties().equals(b.properties())) {
      found.add("custom values");
    }
    return found;
  }

  private static boolean isSame(Scene scene, Material.Value a, Material.Value b) {
    return Arrays.equals(a.factor(), b.factor()) && isSame(scene, a.texture(), b.texture());
  }

  private static boolean isSame(Scene scene, TextureUse a, TextureUse b) {
    if (a == null || b == null) {
      return a == b;
    }
    boolean lieAlike = a.withTexture(0).equals(b.withTexture(0));
    return lieAlike
        && (a.textureId() == b.textureId()
            || isSame(
                scene.texture(a.textureId()).orElse(null),
                scene.texture(b.textureId()).orElse(null)));
  }

  private static boolean isSame(Texture a, Texture b) {
    if (a == null || b == null || a.isFound() != b.isFound()) {
      return false;
    }
    if (a.embedded() != null || b.embedded() != null) {
      return Arrays.equals(a.embedded(), b.embedded());
    }
    return a.isFound() ? a.resource().equals(b.resource()) : a.written().equals(b.written());
  }
}
