package ferry.stone.core.texture.atlas;

import java.util.Comparator;
import java.util.Optional;
import java.util.stream.IntStream;

/**
 * Puts rectangles into the smallest square of a power of two, on shelves, the tallest first. Each
 * stands in a cell that is wider by the padding on all sides and begins and ends at multiples of
 * it, so that smaller levels of the image, down to one in which the padding is a pixel, mix no
 * pixels of two cells.
 */
public final class AtlasPacker {
  private static final int SMALLEST = 32;

  private AtlasPacker() {}

  /**
   * @param side of the square in pixels
   * @param x left of each rectangle, without its padding
   * @param y top likewise, counted from the top
   */
  public record Packed(int side, int[] x, int[] y) {}

  /**
   * @param width of each rectangle in pixels
   * @param padding a power of two
   * @param most largest side of the square
   * @return empty where they do not fit
   */
  public static Optional<Packed> pack(int[] width, int[] height, int padding, int most) {
    for (int side = SMALLEST; side <= most; side *= 2) {
      Optional<Packed> packed = into(side, width, height, padding);
      if (packed.isPresent()) {
        return packed;
      }
    }
    return Optional.empty();
  }

  private static Optional<Packed> into(int side, int[] width, int[] height, int padding) {
    int[] order =
        IntStream.range(0, width.length)
            .boxed()
            .sorted(
                Comparator.comparingInt((Integer i) -> -height[i])
                    .thenComparingInt(i -> -width[i])
                    .thenComparingInt(i -> i))
            .mapToInt(i -> i)
            .toArray();
    int[] x = new int[width.length];
    int[] y = new int[width.length];
    int shelfX = 0;
    int shelfY = 0;
    int shelfHeight = 0;
    for (int i : order) {
      int w = cell(width[i], padding);
      int h = cell(height[i], padding);
      if (w > side) {
        return Optional.empty();
      }
      if (shelfX + w > side) {
        shelfX = 0;
        shelfY += shelfHeight;
        shelfHeight = 0;
      }
      if (shelfY + h > side) {
        return Optional.empty();
      }
      x[i] = shelfX + padding;
      y[i] = shelfY + padding;
      shelfX += w;
      shelfHeight = Math.max(shelfHeight, h);
    }
    return Optional.of(new Packed(side, x, y));
  }

  private static int cell(int length, int padding) {
    return (length + 2 * padding + padding - 1) / padding * padding;
  }
}
