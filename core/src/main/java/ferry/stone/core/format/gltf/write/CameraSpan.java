package ferry.stone.core.format.gltf.write;

import ferry.stone.core.scene.node.Camera;

/**
 * From where to where a camera is written to see: a perspective view begins above 0, a parallel one
 * ends somewhere, and both end behind their beginning (glTF 2.0, section 3.10).
 *
 * @param far infinite where the file says nothing
 */
public record CameraSpan(double near, double far) {
  private static final double LEAST_NEAR = 0.01;
  private static final double PARALLEL_DEPTH = 1000;

  static CameraSpan of(Camera camera) {
    boolean perspective = camera.verticalAngleRadians() > 0;
    double near = camera.near();
    if (perspective) {
      near = near > 0 ? near : LEAST_NEAR;
    } else {
      near = Math.max(0, near);
    }
    if (Double.isInfinite(camera.far())) {
      return new CameraSpan(near, perspective ? camera.far() : near + PARALLEL_DEPTH);
    }
    return new CameraSpan(near, Math.max(camera.far(), near * 1.001 + 1e-6));
  }

  /** Whether the file says of a camera what the scene does. */
  public static boolean holds(Camera camera) {
    CameraSpan span = of(camera);
    boolean shaped = camera.verticalAngleRadians() > 0 || camera.aspect() > 0;
    return span.near == camera.near() && span.far == camera.far() && shaped;
  }
}
