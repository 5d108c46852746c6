package ferry.stone.core.format.usd.write;

import ferry.stone.core.format.usd.UsdNames;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.write.spec.Spec;
import ferry.stone.core.format.usd.write.spec.TimeCodes;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.EulerOrder;
import ferry.stone.core.scene.node.LocalTransform.MatrixTransform;
import ferry.stone.core.scene.node.LocalTransform.PivotTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.List;
import org.joml.Matrix4d;
import org.joml.Quaterniondc;
import org.joml.Vector3d;
import org.joml.Vector3dc;

/**
 * Places of parts: translate, rotate and scale, with a pivot where there is one; a quaternion where
 * a rotation moves, since its keys are some; a matrix where it shears.
 */
final class XformOut {
  private static final String PREFIX = "xformOp:";
  private static final String INVERSE = "!invert!";

  private final PrimSpec prim;
  private final TimeCodes times;
  private final List<String> order = new ArrayList<>();

  private XformOut(PrimSpec prim, TimeCodes times) {
    this.prim = prim;
    this.times = times;
  }

  static void write(PrimSpec prim, Node node, TimeCodes times) {
    XformOut out = new XformOut(prim, times);
    out.ops(node);
    out.source(node);
    if (!out.order.isEmpty()) {
      Spec.uniform(prim, "xformOpOrder", Spec.tokens(out.order));
    }
  }

  private void ops(Node node) {
    Clip.Track t = times.track(node.id(), Clip.TRANSLATION);
    Clip.Track r = times.track(node.id(), Clip.ROTATION);
    Clip.Track s = times.track(node.id(), Clip.SCALE);
    boolean moves = t != null || r != null || s != null;
    LocalTransform transform = node.transform();
    if (!moves && transform instanceof MatrixTransform matrix) {
      op("transform", "matrix4d", matrix.matrix().get(new double[16]));
    } else if (!moves && transform instanceof PivotTransform pivot && isSaid(pivot)) {
      pivot(pivot);
    } else {
      Trs trs = transform instanceof Trs own ? own : Trs.nearest(transform.toMatrix());
      parts(trs, t, r, s);
    }
  }

  /** A kept shape has the numbers of its source: the innermost operation takes them from there. */
  private void source(Node node) {
    Matrix4d inside = node.geometric().toMatrix();
    if (node.content() instanceof Content.KeptShape shape
        && UsdNames.hasNumbers(shape.schema())
        && !inside.equals(new Matrix4d(), 0)) {
      String kind = UsdNames.SOURCE_FRAME.substring(PREFIX.length());
      op(kind, "matrix4d", inside.get(new double[16]));
    }
  }

  /** Whether the operations here say all of it. */
  static boolean isSaid(PivotTransform p) {
    Vector3d none = new Vector3d();
    return p.rotationPivot().equals(p.scalingPivot())
        && p.rotationOffset().equals(none)
        && p.scalingOffset().equals(none)
        && p.preRotation().equals(none)
        && p.postRotation().equals(none)
        && p.inheritance() == LocalTransform.ScaleInheritance.NORMAL;
  }

  private void pivot(PivotTransform p) {
    Vector3d none = new Vector3d();
    boolean pivots = !p.rotationPivot().equals(none);
    three("translate", p.translation(), none, false);
    if (pivots) {
      op("translate:pivot", "double3", numbers(p.rotationPivot()));
    }
    op("rotate" + p.order(), "double3", numbers(p.rotation()));
    three("scale", p.scaling(), new Vector3d(1), false);
    if (pivots) {
      order.add(INVERSE + PREFIX + "translate:pivot");
    }
  }

  private void parts(Trs trs, Clip.Track t, Clip.Track r, Clip.Track s) {
    PropertySpec moved = three("translate", trs.translation(), new Vector3d(), t != null);
    if (t != null) {
      moved.samples(times.samples(t, false, v -> Spec.value("double3", false, v)));
    }
    if (r != null) {
      PropertySpec turned = op("orient", "quatd", realFirst(trs.rotation()));
      turned.samples(
          times.samples(
              r, false, v -> Spec.value("quatd", false, new double[] {v[3], v[0], v[1], v[2]})));
    } else {
      // Not by its parts: what is no turn has no angles of 1e-15 either.
      Matrix4d turn = new Matrix4d().rotate(trs.rotation());
      if (!turn.equals(new Matrix4d(), 0)) {
        op("rotateXYZ", "double3", numbers(EulerOrder.XYZ.degrees(trs.rotation())));
      }
    }
    PropertySpec scaled = three("scale", trs.scale(), new Vector3d(1), s != null);
    if (s != null) {
      scaled.samples(times.samples(s, false, v -> Spec.value("double3", false, v)));
    }
  }

  private static double[] realFirst(Quaterniondc q) {
    return new double[] {q.w(), q.x(), q.y(), q.z()};
  }

  private static double[] numbers(Vector3dc v) {
    return new double[] {v.x(), v.y(), v.z()};
  }

  /** An operation that is left out where it does nothing. */
  private PropertySpec three(String kind, Vector3dc value, Vector3dc nothing, boolean always) {
    return always || !value.equals(nothing) ? op(kind, "double3", numbers(value)) : null;
  }

  private PropertySpec op(String kind, String type, double[] numbers) {
    order.add(PREFIX + kind);
    UsdValue value = Spec.value(type, false, numbers);
    return Spec.set(prim, PREFIX + kind, value);
  }
}
