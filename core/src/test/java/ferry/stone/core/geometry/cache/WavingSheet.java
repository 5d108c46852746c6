package ferry.stone.core.geometry.cache;

import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.time.PointCache;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * A bent sheet that waves by a closed form: at rest at its first sample, and each sample through a
 * matrix of its own.
 */
public record WavingSheet(int id, int meshId, int sampleCount, Frames frames)
    implements PointCache {
  private static final int ACROSS = 12;
  private static final int DOWN = 7;

  /** What a sample went through. */
  public interface Frames {
    Matrix4d of(int sample);
  }

  @Override
  public String name() {
    return "sheet";
  }

  @Override
  public int pointCount() {
    return ACROSS * DOWN;
  }

  @Override
  public double timeSeconds(int sample) {
    return sample / 24.0;
  }

  /** Where a point is before any matrix. */
  public static Vector3d at(int point, int sample) {
    double x = (point % ACROSS) / 4.0;
    double y = (point / ACROSS) / 3.0 + 0.2 * x;
    double z = 0.3 * x * x + 0.15 * x * Math.sin(0.4 * sample) + 0.1 * y;
    return new Vector3d(x, y, z);
  }

  public static Coordinates rest() {
    float[] points = new float[3 * ACROSS * DOWN];
    for (int v = 0; v < ACROSS * DOWN; v++) {
      Vector3d p = at(v, 0);
      points[3 * v] = (float) p.x;
      points[3 * v + 1] = (float) p.y;
      points[3 * v + 2] = (float) p.z;
    }
    return Coordinates.of(points);
  }

  @Override
  public void read(int sample, int from, int count, float[] target) {
    Matrix4d frame = frames.of(sample);
    for (int i = 0; i < count; i++) {
      Vector3d p = frame.transformPosition(at(from + i, sample));
      target[3 * i] = (float) p.x;
      target[3 * i + 1] = (float) p.y;
      target[3 * i + 2] = (float) p.z;
    }
  }
}
