package ferry.stone.core.format.fbx.write;

import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;

/**
 * Factors on textures. In the format a texture takes the place of a value, so that a factor beside
 * one is lost on most readers: it is multiplied into the image instead.
 */
public final class FbxTint {
  private FbxTint() {}

  /** The factor to multiply into a channel's image, or {@code null} for none. */
  public static double[] of(Channel channel, Material.Value value) {
    double[] f = value.factor();
    boolean image =
        switch (channel) {
          case NORMAL, BUMP, DISPLACEMENT, OCCLUSION, CLEARCOAT_NORMAL -> false;
          default -> value.texture() != null;
        };
    if (!image || f == null || value.isOne() || isBlackBase(channel, f)) {
      return null;
    }
    for (int i = 0; i < Math.min(3, f.length); i++) {
      if (!(f[i] >= 0 && f[i] <= 1)) {
        return null;
      }
    }
    return f;
  }

  /** Some writers say black where a texture follows: nothing would be seen of it. */
  public static boolean isBlackBase(Channel channel, double[] f) {
    return channel == Channel.BASE_COLOUR && f.length >= 3 && f[0] + f[1] + f[2] == 0;
  }
}
