package ferry.stone.core.format.usd.read;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.motion.MovingPlace;
import ferry.stone.core.format.usd.UsdNames;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.compose.UsdProperty;
import ferry.stone.core.format.usd.read.stage.Said;
import ferry.stone.core.format.usd.read.stage.UsdReading;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.EulerOrder;
import ferry.stone.core.scene.node.LocalTransform.PivotTransform;
import ferry.stone.core.scene.node.LocalTransform.ScaleInheritance;
import ferry.stone.core.scene.time.Clip;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * Where a prim stands: the operations that {@code xformOpOrder} lists, the first the outermost; one
 * that is not listed does nothing, {@code !resetXformStack!} cancels those before it and what the
 * prims above say.
 */
final class XformOps implements MovingPlace {
  private static final String ORDER = "xformOpOrder";
  private static final String RESET = "!resetXformStack!";
  private static final String INVERSE = "!invert!";

  /** Degrees of a turn that a line between two rotations still follows. */
  private static final double FINE = 1;

  private static final int MOST_PARTS = 360;

  /** Before a value jumps, in seconds. */
  private static final double JUMP = 1e-5;

  private final List<XformOp> ops;
  private final boolean resets;
  private final LocalTransform form;
  private final double[] moments;

  private XformOps(List<XformOp> ops, boolean resets) {
    this.ops = ops;
    this.resets = resets;
    form = pivots();
    moments = allMoments();
  }

  /** {@code null} for a prim that stands where its parent does. */
  static XformOps of(UsdReading reading, UsdPrim prim) throws IOException, FormatException {
    String[] order = Said.texts(prim, ORDER);
    if (order.length == 0) {
      return null;
    }
    if (Said.moves(prim, ORDER)) {
      reading.still(prim, ORDER);
    }
    List<XformOp> ops = new ArrayList<>();
    boolean resets = false;
    for (String entry : order) {
      if (entry.equals(UsdNames.SOURCE_FRAME) && UsdNames.isKeptShape(prim.typeName())) {
        continue;
      }
      if (entry.equals(RESET)) {
        resets = true;
        ops.clear();
        continue;
      }
      boolean inverse = entry.startsWith(INVERSE);
      String name = inverse ? entry.substring(INVERSE.length()) : entry;
      UsdProperty property = prim.property(name);
      XformOp op =
          property == null ? null : XformOp.of(reading, prim.path(), property, name, inverse);
      if (op == null) {
        reading
            .report()
            .lost(
                "transform-op-not-read",
                prim.path(),
                "Its order of operations names \""
                    + entry
                    + "\", which has no value or is of no known kind: it does nothing here.");
      } else {
        ops.add(op);
      }
    }
    return new XformOps(ops, resets);
  }

  @Override
  public boolean leavesItsParent() {
    return resets;
  }

  @Override
  public boolean inherits(double seconds) {
    return !resets;
  }

  @Override
  public boolean moves() {
    return moments.length > 1;
  }

  @Override
  public double restSeconds() {
    return Double.NaN;
  }

  @Override
  public Matrix4d at(double seconds) {
    Matrix4d all = new Matrix4d();
    for (XformOp op : ops) {
      op.apply(all, seconds);
    }
    return all;
  }

  @Override
  public double[] moments() {
    return moments;
  }

  private double[] allMoments() {
    TreeSet<Double> keys = new TreeSet<>();
    TreeSet<Double> all = new TreeSet<>();
    for (XformOp op : ops) {
      for (double t : op.seconds()) {
        keys.add(t);
      }
      for (double t : op.jumps()) {
        all.add(t - JUMP);
      }
    }
    Double before = null;
    for (double key : keys) {
      if (before != null) {
        double turn = 0;
        for (XformOp op : ops) {
          turn = Math.max(turn, op.degrees(before, key));
        }
        int parts = (int) Math.max(1, Math.min(MOST_PARTS, Math.ceil(turn / FINE)));
        for (int p = 1; p < parts; p++) {
          all.add(before + (key - before) * p / parts);
        }
      }
      all.add(key);
      before = key;
    }
    return all.stream().mapToDouble(Double::doubleValue).toArray();
  }

  /** Adds the samples of angles and their like as they are written, where the form has a place. */
  void keys(int nodeId, List<Clip.Keys> keys) {
    if (form == null || resets) {
      return;
    }
    for (XformOp op : ops) {
      if (op.is("translate", "")) {
        op.keys(nodeId, Clip.TRANSLATION, keys);
      } else if (op.order() != null) {
        op.keys(nodeId, Clip.ROTATION, keys);
      } else if (op.is("scale", "")) {
        op.keys(nodeId, Clip.SCALE, keys);
      }
    }
  }

  /** Angles and pivots where the list says nothing else; {@code null} otherwise. */
  private LocalTransform pivots() {
    int at = 0;
    int n = ops.size();
    XformOp translate = at < n && ops.get(at).is("translate", "") ? ops.get(at++) : null;
    XformOp pivot = at < n && ops.get(at).is("translate", "pivot") ? ops.get(at++) : null;
    XformOp turn = at < n && ops.get(at).order() != null ? ops.get(at++) : null;
    XformOp scale = at < n && ops.get(at).is("scale", "") ? ops.get(at++) : null;
    boolean closed = pivot == null || at < n && ops.get(at++).inverts(pivot);
    boolean pivotMoves = pivot != null && pivot.seconds().length > 1;
    if (at < n || !closed || pivotMoves || turn == null && pivot == null) {
      return null;
    }
    Vector3d none = new Vector3d();
    Vector3d place = pivot == null ? none : pivot.rest();
    return new PivotTransform(
        translate == null ? none : translate.rest(),
        none,
        place,
        none,
        turn == null ? none : turn.rest(),
        none,
        none,
        place,
        scale == null ? new Vector3d(1) : scale.rest(),
        turn == null ? EulerOrder.XYZ : turn.order(),
        ScaleInheritance.NORMAL);
  }

  @Override
  public LocalTransform form() {
    return form;
  }
}
