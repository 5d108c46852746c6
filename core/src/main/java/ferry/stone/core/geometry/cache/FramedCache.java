package ferry.stone.core.geometry.cache;

import ferry.stone.core.scene.time.DerivedCache;
import ferry.stone.core.scene.time.PointCache;
import java.io.IOException;
import java.util.BitSet;
import org.joml.Matrix4d;

/**
 * Another cache with the points of some samples through a matrix, as they are read.
 *
 * @param samples that change
 */
public record FramedCache(PointCache of, MovedCache moved, BitSet samples) implements DerivedCache {
  public static FramedCache of(PointCache of, Matrix4d matrix, BitSet samples) {
    return new FramedCache(of, new MovedCache(of, matrix), samples);
  }

  @Override
  public void read(int sample, int from, int count, float[] target) throws IOException {
    (samples.get(sample) ? moved : of).read(sample, from, count, target);
  }
}
