package ferry.stone.core.texture.atlas;

import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.atlas.AtlasTile.Layer;
import java.util.Arrays;
import java.util.List;

/** Draws tiles into an atlas; around each its border goes on as far as the padding. */
public final class AtlasPainter {
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
    int side = packed.side();
    int[] argb = new int[side * side];
    Arrays.fill(argb, layer == Layer.NORMAL ? 0xff8080ff : 0xff000000);
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
          int pixel = tiles.get(t).pixel(layer, u, v);
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
