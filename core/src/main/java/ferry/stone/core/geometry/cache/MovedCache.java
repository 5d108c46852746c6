package ferry.stone.core.geometry.cache;

import ferry.stone.core.scene.time.DerivedCache;
import ferry.stone.core.scene.time.PointCache;
import java.io.IOException;
import org.joml.Matrix4d;

/**
 * Another cache with every point through a matrix, as it is read: a file of gigabytes changes frame
 * without being read.
 */
public record MovedCache(PointCache of, Matrix4d matrix) implements DerivedCache {
  @Override
  public void read(int sample, int from, int count, float[] target) throws IOException {
    of.read(sample, from, count, target);
    Matrix4d m = matrix;
    for (int i = 0; i < 3 * count; i += 3) {
      double x = target[i];
      double y = target[i + 1];
      double z = target[i + 2];
      target[i] = (float) (m.m00() * x + m.m10() * y + m.m20() * z + m.m30());
      target[i + 1] = (float) (m.m01() * x + m.m11() * y + m.m21() * z + m.m31());
      target[i + 2] = (float) (m.m02() * x + m.m12() * y + m.m22() * z + m.m32());
    }
  }
}
