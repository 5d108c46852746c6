package ferry.stone.core.texture.match;

import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import java.util.Random;

/** Small images of every kind, the same for the same seed. */
public final class TestImages {
  private static final int SIDE = 64;

  private TestImages() {}

  public static byte[] colours(int seed) {
    Random random = new Random(seed);
    int tone = random.nextInt(0x1000000);
    return png((x, y) -> 0xff000000 | (tone ^ (random.nextInt() & 0x1f1f1f)) | 0x400000);
  }

  public static byte[] grey(int seed) {
    Random random = new Random(seed);
    return png((x, y) -> 0xff000000 | 0x10101 * (60 + random.nextInt(120)));
  }

  /**
   * A normal map of waves that run across each other.
   *
   * @param up whether green points up in the image
   */
  public static byte[] normals(boolean up) {
    return png(
        (x, y) -> {
          double a = 2 * Math.PI * x / 32.0;
          double b = 2 * Math.PI * y / 21.0;
          // Height sin(a + b/2) + cos(b - a/3), rows going down.
          double alongX = Math.cos(a + b / 2) * 0.5 + Math.sin(b - a / 3) / 6;
          double alongDown = Math.cos(a + b / 2) * 0.25 - Math.sin(b - a / 3) * 0.5;
          double length = Math.sqrt(alongX * alongX + alongDown * alongDown + 1);
          return 0xff000000
              | byteOf(-alongX / length) << 16
              | byteOf((up ? alongDown : -alongDown) / length) << 8
              | byteOf(1 / length);
        });
  }

  /** Red, green and blue of three greys. */
  public static byte[] packed(int seed) {
    Random random = new Random(seed);
    return png(
        (x, y) ->
            0xff000000
                | (200 + random.nextInt(50)) << 16
                | random.nextInt(255) << 8
                | (x % 2) * 255);
  }

  private interface Paint {
    int at(int x, int y);
  }

  private static byte[] png(Paint paint) {
    int[] argb = new int[SIDE * SIDE];
    for (int i = 0; i < argb.length; i++) {
      argb[i] = paint.at(i % SIDE, i / SIDE);
    }
    return ImageCodec.encodePng(new Pixels(SIDE, SIDE, argb, false));
  }

  private static int byteOf(double value) {
    return (int) Math.round(127.5 * (value + 1));
  }
}
