package ferry.stone.core.format.abc.write;

import ferry.stone.core.format.abc.raw.AbcProperty.Type;
import ferry.stone.core.format.abc.raw.CompoundOut;
import ferry.stone.core.format.abc.raw.Pod;
import ferry.stone.core.format.abc.raw.PropertyOut;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.scene.time.Samples;
import ferry.stone.core.work.Progress;
import java.io.IOException;

/** Points of a shape over time, the box around them, and how fast they move. */
final class PointsOut {
  static final String VELOCITIES = ".velocities";

  private final Boxes boxes;
  private final PropertyOut bounds;
  private final PropertyOut points;
  private final PropertyOut velocities;

  /**
   * @param seconds of the samples, {@code null} for what rests
   * @param scope of the points: {@code vtx} or {@code var}
   * @param boxes takes those of all samples
   */
  PointsOut(CompoundOut geometry, double[] seconds, String scope, boolean moving, Boxes boxes) {
    this.boxes = boxes;
    boxes.begin(seconds);
    bounds =
        geometry.property(
            ".selfBnds", new Type(false, Pod.FLOAT64, 6), "interpretation=box", seconds);
    Type three = new Type(true, Pod.FLOAT32, 3);
    points = geometry.property("P", three, "geoScope=" + scope + ";interpretation=point", seconds);
    velocities =
        moving ? geometry.property(VELOCITIES, three, "interpretation=vector", seconds) : null;
  }

  /** Of what is sampled; {@code null} for what rests. */
  static double[] seconds(Samples samples) {
    return samples == null ? null : samples.allSeconds();
  }

  /**
   * All samples.
   *
   * @param order vertex of the mesh for each point of the file; {@code null} for all as they are
   */
  void write(PolygonMesh mesh, PointCache cache, int[] order, Progress progress)
      throws IOException {
    if (cache == null) {
      add(picked(mesh.points().toFloats(), order));
      return;
    }
    float[] here = new float[3 * cache.pointCount()];
    float[] before = velocities == null ? null : new float[here.length];
    float[] after = velocities == null ? null : new float[here.length];
    for (int s = 0; s < cache.sampleCount(); s++) {
      progress.checkCancelled();
      cache.read(s, 0, cache.pointCount(), here);
      add(picked(here, order));
      if (velocities != null) {
        velocities.add(picked(speed(cache, s, before, after), order));
      }
    }
  }

  /** From the sample before to the sample after, by the time between them. */
  private static float[] speed(PointCache cache, int sample, float[] before, float[] after)
      throws IOException {
    int low = Math.max(0, sample - 1);
    int high = Math.min(cache.sampleCount() - 1, sample + 1);
    double span = cache.timeSeconds(high) - cache.timeSeconds(low);
    cache.read(low, 0, cache.pointCount(), before);
    cache.read(high, 0, cache.pointCount(), after);
    for (int i = 0; i < after.length; i++) {
      after[i] = span > 0 ? (float) ((after[i] - before[i]) / span) : 0;
    }
    return after;
  }

  private static float[] picked(float[] points, int[] order) {
    if (order == null) {
      return points;
    }
    float[] picked = new float[3 * order.length];
    for (int i = 0; i < order.length; i++) {
      System.arraycopy(points, 3 * order[i], picked, 3 * i, 3);
    }
    return picked;
  }

  /** The next sample. */
  void add(float[] xyz) throws IOException {
    points.add(xyz);
    double[] box = box(xyz);
    boxes.add(box);
    bounds.add(box);
  }

  /** In one pass, since caches are written through it; what is no number makes no box. */
  private static double[] box(float[] xyz) {
    float lowX = Float.POSITIVE_INFINITY;
    float lowY = Float.POSITIVE_INFINITY;
    float lowZ = Float.POSITIVE_INFINITY;
    float highX = Float.NEGATIVE_INFINITY;
    float highY = Float.NEGATIVE_INFINITY;
    float highZ = Float.NEGATIVE_INFINITY;
    for (int i = 0; i + 2 < xyz.length; i += 3) {
      float x = xyz[i];
      float y = xyz[i + 1];
      float z = xyz[i + 2];
      lowX = x < lowX ? x : lowX;
      lowY = y < lowY ? y : lowY;
      lowZ = z < lowZ ? z : lowZ;
      highX = x > highX ? x : highX;
      highY = y > highY ? y : highY;
      highZ = z > highZ ? z : highZ;
    }
    double[] box = {lowX, lowY, lowZ, highX, highY, highZ};
    for (int axis = 0; axis < 3; axis++) {
      if (!(box[axis] <= box[3 + axis])) {
        box[axis] = Boxes.NOTHING[axis];
        box[3 + axis] = Boxes.NOTHING[3 + axis];
      }
    }
    return box;
  }
}
