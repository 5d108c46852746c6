package ferry.stone.core.texture.atlas;

import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.atlas.AtlasTile.Layer;
import java.util.Arrays;
import java.util.List;

/** Draws tiles into an atlas; around each its border goes on as far as the padding. */
public final class AtlasPainter {
  private static final int BLACK = 0xff000000;

  /** What is drawn of a tile. */
  private interface Ink {
    int at(AtlasTile tile, double u, double v);
  }

  private AtlasPainter() {}

  /**
   * @param width of each tile in pixels
   */
  public static Pixels paint(
      Layer layer,
      List<AtlasTile> tiles,
      AtlasPacker.Packed packed,
      int[] width,
      int[] height,
      int padding) {
    Ink ink = (tile, u, v) -> tile.pixel(layer, u, v);
    int blank = layer == Layer.NORMAL ? AtlasTile.FLAT : BLACK;
    return paint(ink, blank, tiles, packed, width, height, padding);
  }

  /** The image of a layer above metallic and roughness. */
  public static Pixels paint(
      LayerPaint layer,
      List<AtlasTile> tiles,
      AtlasPacker.Packed packed,
      int[] width,
      int[] height,
      int padding) {
    Ink ink = (tile, u, v) -> tile.pixel(layer, u, v);
    int blank = layer.channel() == Channel.CLEARCOAT_NORMAL ? AtlasTile.FLAT : BLACK;
    return paint(ink, blank, tiles, packed, width, height, padding);
  }

  private static Pixels paint(
      Ink ink,
      int blank,
      List<AtlasTile> tiles,
      AtlasPacker.Packed packed,
      int[] width,
      int[] height,
      int padding) {
    int side = packed.side();
    int[] argb = new int[side * side];
    Arrays.fill(argb, blank);
    boolean alpha = false;
    for (int t = 0; t < tiles.size(); t++) {
      int left = packed.x()[t];
      int top = packed.y()[t];
      // Cells reach to multiples of the padding.
      int right = (left + width[t] + padding + padding - 1) / padding * padding;
      int bottom = (top + height[t] + padding + padding - 1) / padding * padding;
      for (int y = top - padding; y < Math.min(side, bottom); y++) {
        double v = (inside(y - top, height[t]) + 0.5) / height[t];
        for (int x = left - padding; x < Math.min(side, right); x++) {
          double u = (inside(x - left, width[t]) + 0.5) / width[t];
          int pixel = ink.at(tiles.get(t), u, v);
          alpha |= pixel >>> 24 != 0xff;
          argb[y * side + x] = pixel;
        }
      }
    }
    return new Pixels(side, side, argb, alpha);
  }

  private static int inside(int place, int length) {
    return Math.max(0, Math.min(length - 1, place));
  }
}
