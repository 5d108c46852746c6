package ferry.stone.core.format.cache;

import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.RandomBytes;
import ferry.stone.core.scene.time.PointCache;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;

/**
 * Samples of float32 in a file, read where and when they are asked for: a file of gigabytes is open
 * at once.
 *
 * @param dataAt place of the first number
 * @param seconds of each sample
 */
record FileCache(
    int id,
    String name,
    int meshId,
    RandomBytes file,
    long dataAt,
    ByteOrder order,
    int pointCount,
    double[] seconds)
    implements PointCache {
  private static final int POINTS_AT_ONCE = 1 << 16;

  /** The cache of a file under the name of the file. */
  static FileCache of(
      int id, int meshId, String path, RandomBytes file, CacheKind kind, CacheKind.Head head) {
    return new FileCache(
        id,
        CargoPath.stem(path),
        meshId,
        file,
        head.dataAt(),
        kind.order,
        head.points(),
        head.seconds());
  }

  @Override
  public int sampleCount() {
    return seconds.length;
  }

  @Override
  public double timeSeconds(int sample) {
    return seconds[sample];
  }

  @Override
  public void read(int sample, int from, int count, float[] target) throws IOException {
    long at = dataAt + 12L * ((long) sample * pointCount + from);
    byte[] block = new byte[12 * Math.min(count, POINTS_AT_ONCE)];
    for (int done = 0; done < count; ) {
      int points = Math.min(count - done, POINTS_AT_ONCE);
      file.read(at + 12L * done, block, 0, 12 * points);
      ByteBuffer.wrap(block).order(order).asFloatBuffer().get(target, 3 * done, 3 * points);
      done += points;
    }
  }
}
