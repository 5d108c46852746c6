package ferry.stone.core.geometry.cache;

import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.work.Cancel;
import java.io.IOException;
import org.joml.Matrix3d;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * A cache as the motion of one stiff thing: what turns and moves the mesh at rest to each sample,
 * and how much is left over.
 *
 * @param places of each sample: points of the mesh at rest to those of the cache
 * @param centre of the mesh at rest, about which it turns
 * @param farthest that a point of any sample is off, in numbers of the mesh
 */
public record RigidFit(Matrix4d[] places, Vector3d centre, double farthest) {
  /**
   * @param most stops where more is left over
   * @return {@code null} where more is left over
   */
  public static RigidFit of(PointCache cache, Coordinates rest, double most) throws IOException {
    int count = rest.count();
    float[] from = rest.toFloats();
    float[] points = new float[3 * count];
    double[] to = new double[3 * count];
    Matrix4d[] places = new Matrix4d[cache.sampleCount()];
    double farthest = 0;
    Vector3d p = new Vector3d();
    for (int s = 0; s < places.length; s++) {
      Cancel.point();
      cache.read(s, 0, count, points);
      for (int i = 0; i < to.length; i++) {
        to[i] = points[i];
      }
      PointPairs pairs = new PointPairs(from, to);
      if (pairs.count() < count) {
        return null;
      }
      Matrix3d turn = pairs.turn(false);
      places[s] = new Matrix4d(turn).setTranslation(pairs.move(turn, 1));
      for (int v = 0; v < count; v++) {
        places[s].transformPosition(p.set(from[3 * v], from[3 * v + 1], from[3 * v + 2]));
        farthest = Math.max(farthest, p.distance(to[3 * v], to[3 * v + 1], to[3 * v + 2]));
      }
      if (!(farthest <= most)) {
        return null;
      }
    }
    return new RigidFit(places, rest.bounds().centre(), farthest);
  }
}
