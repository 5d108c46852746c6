package ferry.stone.core.geometry.cache;

import ferry.stone.core.math.SignedAxis;
import java.util.ArrayList;
import java.util.List;
import org.joml.Matrix3d;
import org.joml.Matrix4d;

/**
 * One of the 48 ways in which three axes can stand for three others, 24 of which mirror.
 *
 * @param x which axis of the old numbers becomes X
 */
public record AxisFrame(SignedAxis x, SignedAxis y, SignedAxis z) {
  public static final AxisFrame SAME =
      new AxisFrame(SignedAxis.PLUS_X, SignedAxis.PLUS_Y, SignedAxis.PLUS_Z);

  /** All, those first that change least: same axes before others, turns before mirrors. */
  public static final List<AxisFrame> ALL = all();

  public AxisFrame {
    if (x.index() == y.index() || y.index() == z.index() || z.index() == x.index()) {
      throw new IllegalArgumentException(
          "each axis must be named once, not " + x.text() + ", " + y.text() + ", " + z.text());
    }
  }

  private static List<AxisFrame> all() {
    List<AxisFrame> frames = new ArrayList<>();
    for (SignedAxis x : SignedAxis.values()) {
      for (SignedAxis y : SignedAxis.values()) {
        for (SignedAxis z : SignedAxis.values()) {
          if (x.index() != y.index() && y.index() != z.index() && z.index() != x.index()) {
            frames.add(new AxisFrame(x, y, z));
          }
        }
      }
    }
    frames.sort(
        (a, b) ->
            a.isMirror() != b.isMirror()
                ? a.isMirror() ? 1 : -1
                : Double.compare(trace(b.matrix()), trace(a.matrix())));
    return List.copyOf(frames);
  }

  private static double trace(Matrix3d m) {
    return m.m00() + m.m11() + m.m22();
  }

  /**
   * Reads {@code x,-z,y}.
   *
   * @throws IllegalArgumentException in a sentence
   */
  public static AxisFrame parse(String text) {
    String[] parts = text.split("[,\\s]+");
    SignedAxis[] axes = new SignedAxis[3];
    for (int i = 0; i < 3; i++) {
      axes[i] = parts.length == 3 ? SignedAxis.parse(parts[i]).orElse(null) : null;
      if (axes[i] == null) {
        throw new IllegalArgumentException(
            "axes must be three like x,-z,y: which of the cache's axes become X, Y and Z; not \""
                + text
                + "\"");
      }
    }
    return new AxisFrame(axes[0], axes[1], axes[2]);
  }

  public String text() {
    return x.text() + "," + y.text() + "," + z.text();
  }

  /** Words for people: {@code Y ↔ Z}, {@code −X → X, Z → Y}; what stays is left out. */
  public String label() {
    for (int i = 0; i < 3; i++) {
      int a = (i + 1) % 3;
      int b = (i + 2) % 3;
      SignedAxis[] change = {x, y, z};
      boolean swap =
          change[i] == SignedAxis.of(i, 1)
              && change[a] == SignedAxis.of(b, 1)
              && change[b] == SignedAxis.of(a, 1);
      if (swap) {
        return "XYZ".charAt(Math.min(a, b)) + " ↔ " + "XYZ".charAt(Math.max(a, b));
      }
    }
    List<String> changes = new ArrayList<>();
    String[] own = {"X", "Y", "Z"};
    SignedAxis[] from = {x, y, z};
    for (int i = 0; i < 3; i++) {
      if (from[i] != SignedAxis.of(i, 1)) {
        changes.add(from[i].label() + " → " + own[i]);
      }
    }
    return changes.isEmpty() ? "same axes" : String.join(", ", changes);
  }

  public Matrix3d matrix() {
    Matrix3d m = new Matrix3d().zero();
    SignedAxis[] from = {x, y, z};
    for (int row = 0; row < 3; row++) {
      m.set(from[row].index(), row, from[row].sign());
    }
    return m;
  }

  public boolean isMirror() {
    return matrix().determinant() < 0;
  }

  /** With a scale. */
  public Matrix4d matrix(double scale) {
    return new Matrix4d(matrix()).scaleLocal(scale);
  }
}
