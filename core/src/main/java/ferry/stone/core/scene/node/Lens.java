package ferry.stone.core.scene.node;

import java.util.LinkedHashMap;
import java.util.Map;

/**
 * The optics behind the angle of view of a perspective camera. Its focal length follows from the
 * angle and the gate: half the gate's height by the tangent of half the angle.
 *
 * @param gateWidth of the film or sensor in millimetres, above 0
 * @param gateHeight in millimetres, above 0
 * @param shiftX how far the picture's window is moved to the right on the gate, in millimetres
 * @param shiftY upwards, in millimetres
 * @param focusDistance to what is sharp in scene units, 0 when unsaid
 * @param fStop focal length by the width of the aperture, 0 when unsaid or everything is sharp
 */
public record Lens(
    double gateWidth,
    double gateHeight,
    double shiftX,
    double shiftY,
    double focusDistance,
    double fStop) {
  private static final String GATE_WIDTH = "filmWidthMillimetres";
  private static final String GATE_HEIGHT = "filmHeightMillimetres";
  private static final String FOCAL_LENGTH = "focalLengthMillimetres";
  private static final String SHIFT_X = "filmShiftXMillimetres";
  private static final String SHIFT_Y = "filmShiftYMillimetres";
  private static final String FOCUS = "focusDistance";

  /** The f-stop by its name among custom values, for formats that have no place of their own. */
  public static final String F_STOP = "fStop";

  public Lens {
    if (!(gateWidth > 0 && gateHeight > 0)) {
      throw new IllegalArgumentException("a gate of " + gateWidth + " by " + gateHeight + " mm");
    }
  }

  /** In millimetres, for a vertical angle of view. */
  public double focalLength(double verticalAngleRadians) {
    return gateHeight / 2 / Math.tan(verticalAngleRadians / 2);
  }

  /** The same in a scene of which a unit of this one is so many units. */
  public Lens scaled(double factor) {
    return new Lens(gateWidth, gateHeight, shiftX, shiftY, factor * focusDistance, fStop);
  }

  /** As custom values, for formats without lenses; the focal length is for people to read. */
  public Map<String, Object> values(double verticalAngleRadians) {
    Map<String, Object> values = new LinkedHashMap<>();
    values.put(GATE_WIDTH, gateWidth);
    values.put(GATE_HEIGHT, gateHeight);
    values.put(FOCAL_LENGTH, focalLength(verticalAngleRadians));
    put(values, SHIFT_X, shiftX);
    put(values, SHIFT_Y, shiftY);
    put(values, FOCUS, focusDistance);
    put(values, F_STOP, fStop);
    return values;
  }

  private static void put(Map<String, Object> values, String name, double value) {
    if (value != 0) {
      values.put(name, value);
    }
  }

  /** Takes the lens out of custom values; {@code null} and nothing taken where there is none. */
  public static Lens take(Map<String, Object> values) {
    double width = number(values, GATE_WIDTH);
    double height = number(values, GATE_HEIGHT);
    if (!(width > 0 && height > 0)) {
      return null;
    }
    Lens lens =
        new Lens(
            width,
            height,
            number(values, SHIFT_X),
            number(values, SHIFT_Y),
            number(values, FOCUS),
            number(values, F_STOP));
    for (String name :
        new String[] {GATE_WIDTH, GATE_HEIGHT, FOCAL_LENGTH, SHIFT_X, SHIFT_Y, FOCUS, F_STOP}) {
      values.remove(name);
    }
    return lens;
  }

  private static double number(Map<String, Object> values, String name) {
    return values.get(name) instanceof Number n && Double.isFinite(n.doubleValue())
        ? n.doubleValue()
        : 0;
  }
}
