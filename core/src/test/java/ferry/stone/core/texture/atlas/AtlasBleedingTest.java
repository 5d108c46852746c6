package ferry.stone.core.texture.atlas;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.texture.Pixels;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Nothing of one tile is seen in another, at any level down to that of the padding. */
class AtlasBleedingTest {
  private static AtlasTile tile(int width, int height, int argb) {
    int[] all = new int[width * height];
    java.util.Arrays.fill(all, argb);
    Pixels image = new Pixels(width, height, all, false);
    double[] white = {1, 1, 1, 1};
    double[] none = {0, 0, 0};
    return new AtlasTile(
        image,
        white,
        null,
        1,
        null,
        'r',
        1,
        null,
        'g',
        1,
        null,
        'b',
        1,
        null,
        none,
        java.util.Map.of(),
        1,
        1);
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 2, 4, 8, 16})
  void eachTileHasItsOwnColourAtEveryLevel(int padding) {
    for (int seed = 0; seed < 12; seed++) {
      Random random = new Random(seed);
      int count = 3 + random.nextInt(12);
      int[] width = new int[count];
      int[] height = new int[count];
      List<AtlasTile> tiles = new ArrayList<>();
      for (int i = 0; i < count; i++) {
        width[i] = 4 + random.nextInt(60);
        height[i] = 4 + random.nextInt(60);
        tiles.add(tile(width[i], height[i], colour(i)));
      }
      AtlasPacker.Packed packed = AtlasPacker.pack(width, height, padding, 4096).orElseThrow();
      Pixels level =
          AtlasPainter.paint(AtlasTile.Layer.BASE, tiles, packed, width, height, padding);
      for (int size = 1; size <= padding; size *= 2) {
        for (int i = 0; i < count; i++) {
          for (int sample = 0; sample < 30; sample++) {
            double x = packed.x()[i] + random.nextDouble() * width[i];
            double y = packed.y()[i] + random.nextDouble() * height[i];
            assertThat(blended(level, x / size, y / size))
                .as("seed %d, level of %d, tile %d", seed, size, i)
                .isEqualTo(colour(i));
          }
        }
        level = half(level);
      }
    }
  }

  private static int colour(int i) {
    return 0xff000000 | (i * 40503 + 77) * 2654435 & 0xffffff;
  }

  /** As a graphics card blends four pixels: all of them have to be the tile's. */
  private static int blended(Pixels image, double x, double y) {
    int left = (int) Math.floor(x - 0.5);
    int top = (int) Math.floor(y - 0.5);
    int first = at(image, left, top);
    for (int k = 1; k < 4; k++) {
      if (at(image, left + (k & 1), top + (k >> 1)) != first) {
        return 0;
      }
    }
    return first;
  }

  private static int at(Pixels image, int x, int y) {
    int w = image.width();
    int cx = Math.max(0, Math.min(w - 1, x));
    int cy = Math.max(0, Math.min(image.height() - 1, y));
    return image.argb()[cy * w + cx];
  }

  /** The next smaller level: the mean of four pixels. */
  private static Pixels half(Pixels image) {
    int w = image.width() / 2;
    int h = image.height() / 2;
    int[] argb = new int[w * h];
    for (int i = 0; i < argb.length; i++) {
      int x = 2 * (i % w);
      int y = 2 * (i / w);
      int sum = 0xff000000;
      for (int shift = 0; shift <= 16; shift += 8) {
        int part = 0;
        for (int k = 0; k < 4; k++) {
          part += at(image, x + (k & 1), y + (k >> 1)) >> shift & 0xff;
        }
        sum |= part / 4 << shift;
      }
      argb[i] = sum;
    }
    return new Pixels(w, h, argb, false);
  }
}
