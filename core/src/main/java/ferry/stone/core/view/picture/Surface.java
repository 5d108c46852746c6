package ferry.stone.core.view.picture;

import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.files.TextureBytes;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.look.Wrap;
import ferry.stone.core.texture.ColourSpace;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import java.io.IOException;
import java.util.HashMap;
import java.util.Map;

/** What a material looks like where it is lit: its colour with its image, and how much is seen. */
final class Surface {
  private static final float[] LINEAR = new float[256];

  static {
    for (int i = 0; i < LINEAR.length; i++) {
      LINEAR[i] = (float) ColourSpace.toLinear(i / 255.0);
    }
  }

  private final float red;
  private final float green;
  private final float blue;
  private final float opacity;
  private final float emitted;
  private final Material.Alpha alpha;
  private final double cutoff;
  private final Pixels image;
  private final TextureUse use;
  private final boolean fromTop;

  private Surface(
      double[] colour,
      double opacity,
      double emitted,
      Material material,
      Pixels image,
      TextureUse use,
      boolean fromTop) {
    red = (float) colour[0];
    green = (float) colour[1];
    blue = (float) colour[2];
    this.opacity = (float) opacity;
    this.emitted = (float) emitted;
    alpha = material == null ? Material.Alpha.OPAQUE : material.alpha();
    cutoff = material == null ? 0.5 : material.alphaCutoff();
    this.image = image;
    this.use = use;
    this.fromTop = fromTop;
  }

  /** What has no material. */
  static Surface plain() {
    return new Surface(new double[] {0.6, 0.6, 0.58}, 1, 0, null, null, null, false);
  }

  /** All materials of a scene by their ids; images that cannot be read are left out. */
  static Map<Integer, Surface> all(Scene scene, Resources files) {
    Map<Integer, Pixels> images = new HashMap<>();
    Map<Integer, Surface> all = new HashMap<>();
    for (Material material : scene.materials()) {
      // Of a cache a name is known and nothing else.
      boolean known = !material.channels().isEmpty();
      all.put(material.id(), known ? of(scene, material, files, images) : plain());
    }
    return all;
  }

  private static Surface of(
      Scene scene, Material material, Resources files, Map<Integer, Pixels> images) {
    double[] colour = material.factor(Channel.BASE_COLOUR, 1, 1, 1).clone();
    double opacity = material.factor(Channel.OPACITY, 1)[0];
    if (colour.length > 3) {
      opacity *= colour[3];
    }
    double[] three = new double[3];
    for (int i = 0; i < 3; i++) {
      double own = colour[Math.min(i, colour.length - 1)];
      three[i] = scene.linearColours() ? own : ColourSpace.toLinear(Math.min(1, Math.max(0, own)));
    }
    double[] glow = material.factor(Channel.EMISSIVE, 0);
    double emitted = 0;
    for (double each : glow) {
      emitted = Math.max(emitted, each);
    }
    if (material.shading() == Material.Shading.UNLIT) {
      emitted = 1;
    }
    TextureUse use = material.texture(Channel.BASE_COLOUR).orElse(null);
    Pixels image =
        use == null ? null : images.computeIfAbsent(use.textureId(), id -> image(scene, id, files));
    boolean fromTop = scene.uvOrigin() == UvOrigin.TOP_LEFT;
    return new Surface(three, opacity, Math.min(1, emitted), material, image, use, fromTop);
  }

  private static Pixels image(Scene scene, int id, Resources files) {
    Texture texture = scene.texture(id).orElse(null);
    if (texture == null || !texture.isFound()) {
      return null;
    }
    try {
      return ImageCodec.decode(TextureBytes.read(texture, files), texture.name());
    } catch (IOException e) {
      return null;
    }
  }

  boolean isSeenThrough() {
    return alpha == Material.Alpha.BLEND && (opacity < 1 || image != null && image.hasAlpha());
  }

  float emitted() {
    return emitted;
  }

  int uvSet() {
    return image == null ? -1 : use.uvSet();
  }

  /**
   * @param into linear red, green and blue, and how much is seen; the last is 0 where there is a
   *     hole
   */
  void at(float u, float v, float[] into) {
    into[0] = red;
    into[1] = green;
    into[2] = blue;
    into[3] = alpha == Material.Alpha.OPAQUE ? 1 : opacity;
    if (image != null) {
      sample(u, v, into);
    }
    if (alpha == Material.Alpha.MASK) {
      into[3] = into[3] < cutoff ? 0 : 1;
    }
  }

  private void sample(float u, float v, float[] into) {
    double x = u;
    double y = v;
    if (use.hasTransform()) {
      double su = use.scaleU() * u;
      double sv = use.scaleV() * v;
      double sin = StrictMath.sin(use.rotationRadians());
      double cos = StrictMath.cos(use.rotationRadians());
      x = cos * su - sin * sv + use.offsetU();
      y = sin * su + cos * sv + use.offsetV();
    }
    double px = x * image.width() - 0.5;
    double py = (fromTop ? y : 1 - y) * image.height() - 0.5;
    if (!Double.isFinite(px + py) || Math.abs(px) > 1e9 || Math.abs(py) > 1e9) {
      return;
    }
    int left = (int) Math.floor(px);
    int top = (int) Math.floor(py);
    float fx = (float) (px - left);
    float fy = (float) (py - top);
    Wrap wrap = use.wrap();
    int x0 = inside(left, image.width(), wrap.u());
    int x1 = inside(left + 1, image.width(), wrap.u());
    int y0 = inside(top, image.height(), wrap.v());
    int y1 = inside(top + 1, image.height(), wrap.v());
    int a = image.argb()[y0 * image.width() + x0];
    int b = image.argb()[y0 * image.width() + x1];
    int c = image.argb()[y1 * image.width() + x0];
    int d = image.argb()[y1 * image.width() + x1];
    for (int k = 0; k < 3; k++) {
      int shift = 16 - 8 * k;
      float upper = mix(LINEAR[a >> shift & 255], LINEAR[b >> shift & 255], fx);
      float lower = mix(LINEAR[c >> shift & 255], LINEAR[d >> shift & 255], fx);
      into[k] *= mix(upper, lower, fy);
    }
    if (alpha != Material.Alpha.OPAQUE && image.hasAlpha()) {
      float upper = mix(a >>> 24, b >>> 24, fx);
      float lower = mix(c >>> 24, d >>> 24, fx);
      into[3] *= mix(upper, lower, fy) / 255;
    }
  }

  private static float mix(float a, float b, float t) {
    return a + (b - a) * t;
  }

  private static int inside(int at, int size, Wrap.Edge edge) {
    return switch (edge) {
      case CLAMP -> Math.max(0, Math.min(size - 1, at));
      case MIRROR -> {
        int period = Math.floorMod(at, 2 * size);
        yield period < size ? period : 2 * size - 1 - period;
      }
      default -> Math.floorMod(at, size);
    };
  }
}
