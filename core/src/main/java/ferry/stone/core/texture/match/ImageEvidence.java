package ferry.stone.core.texture.match;

import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.ImageException;
import ferry.stone.core.texture.ImageInfo;
import ferry.stone.core.texture.Pixels;
import java.awt.Rectangle;

/**
 * What the pixels of an image look like. Shares are of the pixels that were looked at, at most
 * {@value #MOST} spread over the image.
 *
 * @param grey share whose red, green and blue are the same within {@value #GREY}
 * @param unit share that are directions of length one within a tenth, pointing out of the surface
 * @param cut share whose alpha is not full
 * @param colourful mean difference of the strongest and the weakest of red, green and blue, 0 to 1
 * @param spread standard deviation of the brightness, 0 to 1
 * @param brightness mean, 0 to 1
 * @param upward how much better the slopes fit a surface with green up than with green down: above
 *     0 up, below 0 down, at most 1 either way; 0 where nothing tells
 */
public record ImageEvidence(
    int width,
    int height,
    double grey,
    double unit,
    double cut,
    double colourful,
    double spread,
    double brightness,
    double upward) {
  private static final int MOST = 65_536;
  private static final int GREY = 6;
  private static final int PIECE = 512;

  /** Share of directions from which an image is a normal map. */
  private static final double NORMALS = 0.9;

  /** Least mean of how far a normal map's directions point out of the surface. */
  private static final double OUTWARDS = 0.4;

  private static final double ALL_GREY = 0.98;
  private static final double COLOURFUL = 0.06;
  private static final double FLAT = 0.004;

  /** How clearly the slopes have to say that green points down. */
  private static final double DOWNWARDS = -0.3;

  /**
   * @param file an image file
   * @param name for messages
   */
  public static ImageEvidence of(byte[] file, String name) throws ImageException {
    ImageInfo info = ImageCodec.probe(file, name);
    int w = info.width();
    int h = info.height();
    int step = Math.max(1, (int) Math.ceil(Math.sqrt((double) w * h / MOST)));
    ImageEvidence look = of(ImageCodec.sampled(file, name, null, step), w, h);
    if (!look.isNormalMap()) {
      return look;
    }
    // Slopes are compared between neighbours, so a piece is looked at pixel by pixel.
    Rectangle middle = new Rectangle(w, h);
    middle.grow(-Math.max(0, w - PIECE) / 2, -Math.max(0, h - PIECE) / 2);
    Pixels piece = ImageCodec.sampled(file, name, middle, 1);
    return new ImageEvidence(
        w,
        h,
        look.grey,
        look.unit,
        look.cut,
        look.colourful,
        look.spread,
        look.brightness,
        upward(piece));
  }

  private static ImageEvidence of(Pixels pixels, int width, int height) {
    int w = pixels.width();
    int h = pixels.height();
    long count = 0;
    long grey = 0;
    long unit = 0;
    long cut = 0;
    double colourful = 0;
    double sum = 0;
    double squares = 0;
    double out = 0;
    for (int y = 0; y < h; y++) {
      for (int x = 0; x < w; x++) {
        int p = pixels.argb()[y * w + x];
        int r = p >> 16 & 0xff;
        int g = p >> 8 & 0xff;
        int b = p & 0xff;
        int most = Math.max(r, Math.max(g, b));
        int least = Math.min(r, Math.min(g, b));
        double nx = r / 127.5 - 1;
        double ny = g / 127.5 - 1;
        double nz = b / 127.5 - 1;
        double length = Math.sqrt(nx * nx + ny * ny + nz * nz);
        count++;
        grey += most - least <= GREY ? 1 : 0;
        unit += Math.abs(length - 1) < 0.1 && nz > 0 ? 1 : 0;
        cut += p >>> 24 < 0xff ? 1 : 0;
        colourful += (most - least) / 255.0;
        double light = (r + g + b) / 765.0;
        sum += light;
        squares += light * light;
        out += nz;
      }
    }
    double mean = sum / count;
    return new ImageEvidence(
        width,
        height,
        (double) grey / count,
        out / count > OUTWARDS ? (double) unit / count : 0,
        (double) cut / count,
        colourful / count,
        Math.sqrt(Math.max(0, squares / count - mean * mean)),
        mean,
        0);
  }

  /**
   * Slopes of a surface have no curl (Frankot and Chellappa 1988, integrability): the change of the
   * slope along x with y is that of the slope along y with x. Turned green breaks that, so the
   * smaller curl tells which way it points.
   */
  private static double upward(Pixels pixels) {
    int w = pixels.width();
    int h = pixels.height();
    double up = 0;
    double down = 0;
    for (int y = 1; y + 1 < h; y++) {
      for (int x = 1; x + 1 < w; x++) {
        // With the image's top row first, up is towards smaller rows.
        double xy = (slope(pixels, x, y - 1, 16) - slope(pixels, x, y + 1, 16)) / 2;
        double yx = (slope(pixels, x + 1, y, 8) - slope(pixels, x - 1, y, 8)) / 2;
        up += (xy - yx) * (xy - yx);
        down += (xy + yx) * (xy + yx);
      }
    }
    return up + down == 0 ? 0 : (down - up) / (down + up);
  }

  private static double slope(Pixels pixels, int x, int y, int shift) {
    int p = pixels.argb()[y * pixels.width() + x];
    double out = Math.max(0.1, (p & 0xff) / 127.5 - 1);
    return -((p >> shift & 0xff) / 127.5 - 1) / out;
  }

  public boolean isNormalMap() {
    return unit > NORMALS;
  }

  public boolean isGrey() {
    return grey > ALL_GREY;
  }

  public boolean isColour() {
    return !isNormalMap() && !isGrey() && colourful > COLOURFUL;
  }

  /** Whether all pixels are much the same. */
  public boolean isFlat() {
    return spread < FLAT;
  }

  /**
   * How well the pixels go with a channel: above 1 they speak for it, below 1 against it.
   *
   * @param part of an image for several channels, or 0
   */
  double fits(Channel channel, char part) {
    boolean normal = channel == Channel.NORMAL || channel == Channel.CLEARCOAT_NORMAL;
    if (normal) {
      return isNormalMap() ? 1.1 : isFlat() ? 1 : 0.35;
    }
    if (isNormalMap()) {
      return 0.2;
    }
    if (part != 0) {
      return isColour() ? 1 : 0.9;
    }
    // Colours may be grey; data is not colourful.
    return channel.isColour() || !isColour() ? 1 : 0.6;
  }

  /**
   * Why an image with these pixels does not go with a channel, as a sentence; empty where it does.
   *
   * @param part of the image that is read, or 0
   */
  public String against(Channel channel, char part) {
    boolean normal = channel == Channel.NORMAL || channel == Channel.CLEARCOAT_NORMAL;
    if (normal) {
      return !isNormalMap() && !isFlat()
          ? isGrey()
              ? "The image is grey: it is no normal map, but may be heights."
              : "The image holds colours, and no directions."
          : upward < DOWNWARDS
              ? "Its slopes fit a surface only when green points down: bumps would look like dents."
              : "";
    }
    boolean data =
        channel == Channel.METALLIC
            || channel == Channel.ROUGHNESS
            || channel == Channel.OCCLUSION
            || channel == Channel.OCCLUSION_ROUGHNESS_METALLIC;
    if (isNormalMap() && (channel.isColour() || data)) {
      return "The image holds directions: it is a normal map.";
    }
    return data && part == 0 && channel != Channel.OCCLUSION_ROUGHNESS_METALLIC && isColour()
        ? "The image is colourful, and its numbers are read as data."
        : "";
  }

  /** Whether the slopes say clearly that green points down. */
  public boolean isDownward() {
    return upward < DOWNWARDS;
  }

  /** In words for people. */
  public String words() {
    String kind =
        isNormalMap()
            ? "directions, as a normal map has"
            : isGrey() ? "grey" : isColour() ? "colours" : "little colour";
    return width + " × " + height + ", " + kind + (cut > 0 ? ", with transparency" : "");
  }
}
