package ferry.stone.core.format.collada;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.EulerOrder;
import ferry.stone.core.scene.node.LocalTransform.MatrixTransform;
import ferry.stone.core.scene.node.LocalTransform.PivotTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * The transforms of a node in the order of the file: the first is the outermost. Matrices are
 * written row by row, angles in degrees.
 */
final class DaeTransform {
  private static final Set<String> KINDS =
      Set.of("matrix", "translate", "rotate", "scale", "lookat", "skew");
  private static final double SAME = 1e-9;

  final List<Op> ops = new ArrayList<>();

  /** One transform with its numbers, which motion may change. */
  record Op(String kind, String sid, double[] numbers) {
    Matrix4d matrix(double[] n) {
      return switch (kind) {
        case "matrix" ->
            new Matrix4d(
                n[0], n[4], n[8], n[12], n[1], n[5], n[9], n[13], n[2], n[6], n[10], n[14], n[3],
                n[7], n[11], n[15]);
        case "translate" -> new Matrix4d().translation(n[0], n[1], n[2]);
        case "scale" -> new Matrix4d().scaling(n[0], n[1], n[2]);
        case "rotate" -> {
          Vector3d axis = new Vector3d(n[0], n[1], n[2]);
          yield axis.lengthSquared() == 0
              ? new Matrix4d()
              : new Matrix4d().rotation(Math.toRadians(n[3]), axis.normalize());
        }
        case "lookat" -> lookat(n);
        default -> skew(n);
      };
    }

    /** Eye, point of interest, up: the node stands at the eye and looks along its −Z. */
    private static Matrix4d lookat(double[] n) {
      Matrix4d view = new Matrix4d().lookAt(n[0], n[1], n[2], n[3], n[4], n[5], n[6], n[7], n[8]);
      return view.isFinite() && view.determinant() != 0 ? view.invert() : new Matrix4d();
    }

    /** Angle, axis that turns, axis it turns towards: as in the RenderMan specification. */
    private static Matrix4d skew(double[] n) {
      double angle = Math.toRadians(n[0]);
      Vector3d turning = new Vector3d(n[1], n[2], n[3]).normalize();
      Vector3d along = new Vector3d(n[4], n[5], n[6]).normalize();
      double part = along.dot(turning);
      Vector3d across = new Vector3d(turning).sub(new Vector3d(along).mul(part));
      double width = across.length();
      if (!(width > SAME)) {
        return new Matrix4d();
      }
      across.div(width);
      // How much farther along the second axis the first one leans than it did.
      double lean = Math.tan(Math.atan2(part, width) + angle) - part / width;
      Matrix4d m = new Matrix4d();
      for (int column = 0; column < 3; column++) {
        for (int row = 0; row < 3; row++) {
          m.set(column, row, (column == row ? 1 : 0) + lean * along.get(row) * across.get(column));
        }
      }
      return m;
    }
  }

  static DaeTransform of(DaeDocument document, DaeElement node) throws FormatException {
    DaeTransform transform = new DaeTransform();
    for (DaeElement child : node.children) {
      if (!KINDS.contains(child.name)) {
        continue;
      }
      double[] numbers = child.numbers();
      int needed =
          switch (child.name) {
            case "matrix" -> 16;
            case "rotate" -> 4;
            case "lookat" -> 9;
            case "skew" -> 7;
            default -> 3;
          };
      if (numbers.length < needed) {
        throw document.broken(
            child,
            "it has "
                + numbers.length
                + " numbers where "
                + needed
                + " are expected. Export the file again.");
      }
      transform.ops.add(new Op(child.name, child.attribute("sid"), numbers));
    }
    return transform;
  }

  Matrix4d matrix() {
    Matrix4d all = new Matrix4d();
    ops.forEach(op -> all.mul(op.matrix(op.numbers())));
    return all;
  }

  /** As it is written, as far as the scene has a form for it. */
  LocalTransform local() {
    if (ops.isEmpty()) {
      return LocalTransform.IDENTITY;
    }
    PivotTransform angles = angles();
    if (angles != null) {
      return angles;
    }
    return plain(matrix());
  }

  /** Translation, rotation and scale where that says the same; else the matrix. */
  static LocalTransform plain(Matrix4d matrix) {
    Trs nearest = Trs.nearest(matrix);
    double size = Math.max(1, matrix.getTranslation(new Vector3d()).length());
    boolean same = matrix.isFinite() && nearest.toMatrix().equals(matrix, SAME * size);
    return same ? nearest : new MatrixTransform(matrix);
  }

  /**
   * A translation, up to three turns about different axes, a scale, each at most once and in that
   * order: angles as they were written. {@code null} for others.
   */
  private PivotTransform angles() {
    Vector3d translation = new Vector3d();
    Vector3d degrees = new Vector3d();
    Vector3d scale = new Vector3d(1);
    StringBuilder order = new StringBuilder();
    int stage = 0;
    for (Op op : ops) {
      double[] n = op.numbers();
      switch (op.kind()) {
        case "translate" -> {
          if (stage > 0) {
            return null;
          }
          stage = 1;
          translation.set(n);
        }
        case "rotate" -> {
          int axis = axis(n);
          if (stage > 2 || axis < 0 || order.indexOf("" + "XYZ".charAt(axis)) >= 0) {
            return null;
          }
          stage = 2;
          // The outermost comes first here and last in the order's name.
          order.insert(0, "XYZ".charAt(axis));
          degrees.setComponent(axis, n[3]);
        }
        case "scale" -> {
          if (stage > 2) {
            return null;
          }
          stage = 3;
          scale.set(n);
        }
        default -> {
          return null;
        }
      }
    }
    for (char axis : "XYZ".toCharArray()) {
      if (order.indexOf("" + axis) < 0) {
        order.append(axis);
      }
    }
    EulerOrder euler = order.length() == 3 ? EulerOrder.valueOf(order.toString()) : EulerOrder.XYZ;
    return PivotTransform.clean(translation, degrees, euler, scale);
  }

  private static int axis(double[] n) {
    for (int k = 0; k < 3; k++) {
      if (n[k] == 1 && n[(k + 1) % 3] == 0 && n[(k + 2) % 3] == 0) {
        return k;
      }
    }
    return -1;
  }
}
