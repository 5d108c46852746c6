package ferry.stone.core.format.collada;

import ferry.stone.core.math.Frame;
import ferry.stone.core.math.Handedness;
import ferry.stone.core.math.SignedAxis;
import java.util.IdentityHashMap;
import java.util.Map;
import org.joml.Matrix4d;

/**
 * Unit and up axis, which an {@code asset} states for all that is beside it: for the file, and
 * seldom for one element of it. Axes after the table of {@code up_axis}: X up has the right along
 * −Y and looks along +Z, Y up +X and +Z, Z up +X and −Y.
 */
final class DaeFrames {
  private final Frame file;
  private final boolean unitStated;
  private final boolean axesStated;
  private final Map<DaeElement, Frame> known = new IdentityHashMap<>();

  DaeFrames(DaeElement root) {
    DaeElement unit = root.at("asset", "unit");
    unitStated = unit != null && metres(unit) > 0;
    axesStated = root.at("asset", "up_axis") != null;
    file = of(root, Frame.Y_UP_METRE);
    known.put(root, file);
  }

  Frame file() {
    return file;
  }

  boolean isUnitStated() {
    return unitStated;
  }

  boolean isAxesStated() {
    return axesStated;
  }

  /** What the numbers below an element mean. */
  Frame of(DaeElement element) {
    DaeElement at = element;
    while (!known.containsKey(at) && at.child("asset") == null) {
      at = at.parent;
    }
    Frame frame = known.get(at);
    if (frame == null) {
      frame = of(at, of(at.parent));
      known.put(at, frame);
    }
    known.put(element, frame);
    return frame;
  }

  /** What brings the numbers of an element to those of the file; {@code null} when nothing. */
  Matrix4d toFile(DaeElement element) {
    Frame own = of(element);
    return own.equals(file) ? null : own.matrixTo(file);
  }

  private static double metres(DaeElement unit) {
    double metres =
        DaeNumbers.real(unit.attribute("meter").isEmpty() ? "1" : unit.attribute("meter"));
    return metres > 0 && Double.isFinite(metres) ? metres : 0;
  }

  private static Frame of(DaeElement element, Frame otherwise) {
    DaeElement unit = element.at("asset", "unit");
    DaeElement up = element.at("asset", "up_axis");
    double metres = unit == null || metres(unit) == 0 ? otherwise.metresPerUnit() : metres(unit);
    if (up == null) {
      return otherwise.withMetresPerUnit(metres);
    }
    return switch (up.text.strip()) {
      case "X_UP" -> frame(metres, "x", "z");
      case "Z_UP" -> frame(metres, "z", "-y");
      default -> frame(metres, "y", "z");
    };
  }

  private static Frame frame(double metres, String up, String front) {
    return new Frame(
        metres,
        SignedAxis.parse(up).orElseThrow(),
        SignedAxis.parse(front).orElseThrow(),
        Handedness.RIGHT);
  }
}
