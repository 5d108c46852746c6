package ferry.stone.core.view.picture;

import org.joml.Vector3d;

/**
 * A camera without sides that run together: what is seen is as large wherever it is, so that two
 * pictures from one side can be laid over each other.
 *
 * @param right across the picture
 * @param up up the picture
 * @param back towards the viewer
 * @param centre of the picture
 * @param reach metres from the centre to the nearer edge
 */
record Eye(Vector3d right, Vector3d up, Vector3d back, Vector3d centre, double reach) {
  /** Room around what is shown. */
  private static final double MARGIN = 1.06;

  private static final double LEAST = 1e-6;

  /**
   * @param points {@code double[3*n]}, all that has to be seen
   * @param aspect width over height
   */
  static Eye on(double[] points, ViewFrom from, double aspect) {
    double turn = from.turn();
    double rise = from.rise();
    Vector3d back =
        new Vector3d(
            StrictMath.sin(turn) * StrictMath.cos(rise),
            StrictMath.sin(rise),
            StrictMath.cos(turn) * StrictMath.cos(rise));
    Vector3d right = new Vector3d(StrictMath.cos(turn), 0, -StrictMath.sin(turn));
    Vector3d up = new Vector3d(back).cross(right);
    double[] low = {Double.MAX_VALUE, Double.MAX_VALUE, Double.MAX_VALUE};
    double[] high = {-Double.MAX_VALUE, -Double.MAX_VALUE, -Double.MAX_VALUE};
    Vector3d[] axes = {right, up, back};
    for (int i = 0; i + 2 < points.length; i += 3) {
      double x = points[i];
      double y = points[i + 1];
      double z = points[i + 2];
      if (Double.isFinite(x + y + z)) {
        for (int k = 0; k < 3; k++) {
          double v = axes[k].x * x + axes[k].y * y + axes[k].z * z;
          low[k] = Math.min(low[k], v);
          high[k] = Math.max(high[k], v);
        }
      }
    }
    if (low[0] > high[0]) {
      return new Eye(right, up, back, new Vector3d(), 1);
    }
    Vector3d centre = new Vector3d();
    for (int k = 0; k < 3; k++) {
      centre.fma((low[k] + high[k]) / 2, axes[k]);
    }
    double across = (high[0] - low[0]) / 2;
    double along = (high[1] - low[1]) / 2;
    double reach =
        aspect >= 1 ? Math.max(along, across / aspect) : Math.max(across, along * aspect);
    return new Eye(right, up, back, centre, Math.max(MARGIN * reach, LEAST));
  }

  /** In units of the nearer edge: across, up and towards the viewer. */
  void place(double x, double y, double z, double[] into) {
    double dx = x - centre.x;
    double dy = y - centre.y;
    double dz = z - centre.z;
    into[0] = (right.x * dx + right.y * dy + right.z * dz) / reach;
    into[1] = (up.x * dx + up.y * dy + up.z * dz) / reach;
    into[2] = (back.x * dx + back.y * dy + back.z * dz) / reach;
  }
}
