package ferry.stone.core.handling.step.look;

import ferry.stone.core.texture.atlas.AtlasPacker;
import java.util.Optional;

/**
 * How large the tiles of an atlas are: as large as their images where that fits; else so that
 * surfaces get the same number of pixels for their area, none more than its image has.
 *
 * @param scale the smallest part of its resolution that a tile has, 0 to 1
 */
record AtlasSizes(AtlasPacker.Packed packed, int[] width, int[] height, double scale) {
  private static final int ROUNDS = 24;
  private static final int LEAST = 4;

  /**
   * @param full width and height of each tile at the resolution of its images
   * @param area of the surface of each; 0 for tiles that stay as they are
   */
  static Optional<AtlasSizes> fitting(int[][] full, double[] area, int padding, int most) {
    Optional<AtlasSizes> whole = at(Double.MAX_VALUE, full, area, padding, most);
    if (whole.isPresent()) {
      return whole;
    }
    double low = 0;
    double high = 0;
    for (int i = 0; i < full.length; i++) {
      if (area[i] > 0) {
        high = Math.max(high, Math.sqrt(full[i][0] * (double) full[i][1] / area[i]));
      }
    }
    Optional<AtlasSizes> best = Optional.empty();
    for (int i = 0; i < ROUNDS; i++) {
      double density = (low + high) / 2;
      Optional<AtlasSizes> fit = at(density, full, area, padding, most);
      if (fit.isPresent()) {
        best = fit;
        low = density;
      } else {
        high = density;
      }
    }
    return best;
  }

  /**
   * @param density pixels a length of surface
   */
  private static Optional<AtlasSizes> at(
      double density, int[][] full, double[] area, int padding, int most) {
    int[] width = new int[full.length];
    int[] height = new int[full.length];
    double least = 1;
    for (int i = 0; i < full.length; i++) {
      double own = Math.sqrt(full[i][0] * (double) full[i][1]);
      double scale = area[i] > 0 ? Math.min(1, density * Math.sqrt(area[i]) / own) : 1;
      width[i] = Math.max(LEAST, (int) Math.round(full[i][0] * scale));
      height[i] = Math.max(LEAST, (int) Math.round(full[i][1] * scale));
      least = Math.min(least, scale);
    }
    double smallest = least;
    return AtlasPacker.pack(width, height, padding, most)
        .map(p -> new AtlasSizes(p, width, height, smallest));
  }
}
