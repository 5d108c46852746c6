package ferry.stone.core.scene.node;

import java.util.Map;

/**
 * A light shining along its own −Z.
 *
 * @param intensity candela for point and spot, lux for directional
 * @param range reach in scene units, infinite if unlimited
 * @param innerAngleRadians half angle of full light of a spot
 * @param outerAngleRadians half angle where a spot ends
 */
public record Light(
    int id,
    String name,
    Kind kind,
    float[] linearColour,
    double intensity,
    double range,
    double innerAngleRadians,
    double outerAngleRadians,
    Map<String, Object> properties) {
  public Light withId(int newId) {
    return new Light(
        newId,
        name,
        kind,
        linearColour,
        intensity,
        range,
        innerAngleRadians,
        outerAngleRadians,
        properties);
  }

  /** Where the light comes from. */
  public enum Kind {
    DIRECTIONAL,
    POINT,
    SPOT,
    AREA,
    DOME
  }
}
