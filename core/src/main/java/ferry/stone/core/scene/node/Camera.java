package ferry.stone.core.scene.node;

import java.util.Map;

/**
 * A camera looking along its own −Z with +Y up.
 *
 * @param verticalAngleRadians angle of view; 0 for an orthographic camera
 * @param height height of view in scene units; 0 for a perspective camera
 * @param aspect width by height, 0 when the viewer decides
 * @param near nearest distance in scene units
 * @param far farthest distance, infinite if unlimited
 * @param lens what makes the angle of view, {@code null} when unsaid
 */
public record Camera(
    int id,
    String name,
    double verticalAngleRadians,
    double height,
    double aspect,
    double near,
    double far,
    Lens lens,
    Map<String, Object> properties) {

  /** A camera of which the source says no more than its view. */
  public Camera(
      int id,
      String name,
      double verticalAngleRadians,
      double height,
      double aspect,
      double near,
      double far,
      Map<String, Object> properties) {
    this(id, name, verticalAngleRadians, height, aspect, near, far, null, properties);
  }

  public Camera withId(int newId) {
    return new Camera(
        newId, name, verticalAngleRadians, height, aspect, near, far, lens, properties);
  }
}
