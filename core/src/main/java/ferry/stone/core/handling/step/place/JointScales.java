package ferry.stone.core.handling.step.place;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * Takes scales out of joints without moving anything. A joint's world matrix W becomes W' with W =
 * W'·D, where D is the scale that is gone; its inverse bind matrix B becomes D·B, so the skin's W·B
 * stays the same at every moment. What hangs on the joint gets D in front. An even D passes through
 * any rotation; an uneven one can only be taken from a joint that nothing hangs on.
 */
final class JointScales {
  private static final double ONE = 1e-6;
  private static final double EVEN = 1e-6;

  private final Scene scene;
  private final MotionCarry motion;
  private final List<Node> nodes;
  private final List<Finding> findings;

  /** The scale that a node lost, by its place; {@code null} for none. */
  private final Vector3d[] gone;

  private int done;

  /**
   * @param nodes are changed in place
   */
  JointScales(Scene scene, MotionCarry motion, List<Node> nodes, List<Finding> findings) {
    this.scene = scene;
    this.motion = motion;
    this.nodes = nodes;
    this.findings = findings;
    gone = new Vector3d[nodes.size()];
  }

  /** How many joints lost their scale. */
  int run(boolean[] chosen) {
    boolean[] parents = new boolean[nodes.size()];
    boolean[] compensated = new boolean[nodes.size()];
    for (Node node : nodes) {
      if (node.parent() >= 0) {
        parents[node.parent()] = true;
        compensated[node.parent()] |= node.transform() instanceof LocalTransform.InheritedTransform;
      }
    }
    for (int i = 0; i < nodes.size(); i++) {
      Node node = nodes.get(i);
      Vector3d above = node.parent() < 0 ? null : gone[node.parent()];
      if (above != null) {
        node = motion.before(node, new Matrix4d().scaling(above));
        nodes.set(i, node);
      }
      boolean joint = node.content() instanceof Node.Content.Joint;
      if (joint && (chosen[i] || above != null)) {
        take(i, node, parents[i], compensated[i]);
      }
    }
    return done;
  }

  private void take(int place, Node node, boolean parent, boolean compensated) {
    Trs own = plain(node.transform());
    if (own != null && isOne(own.scale())) {
      return;
    }
    String why = null;
    if (own == null) {
      why = "The joint is sheared: its scale was left.";
    } else if (!isPositive(own.scale())) {
      why = "The joint's scale is negative or nothing: it was left.";
    } else if (parent && !isEven(own.scale())) {
      why = "The joint's scale is uneven and other joints hang on it: it was left.";
    } else if (compensated) {
      why = "What hangs on the joint makes up for its scale: it was left.";
    }
    if (why != null) {
      findings.add(
          Finding.of("not-reset", Severity.LOOK, scene.paths().get(place), why)
              .nodes(List.of(node.id())));
      return;
    }
    gone[place] = new Vector3d(own.scale());
    nodes.set(place, motion.unscaled(node, own));
    done++;
  }

  private static Trs plain(LocalTransform transform) {
    if (transform instanceof Trs trs) {
      return trs;
    }
    return transform instanceof LocalTransform.InheritedTransform
        ? null
        : MotionCarry.plain(transform.toMatrix()) instanceof Trs trs ? trs : null;
  }

  private static boolean isOne(org.joml.Vector3dc s) {
    return Math.abs(s.x() - 1) < ONE && Math.abs(s.y() - 1) < ONE && Math.abs(s.z() - 1) < ONE;
  }

  private static boolean isPositive(org.joml.Vector3dc s) {
    return s.x() > ONE && s.y() > ONE && s.z() > ONE;
  }

  private static boolean isEven(org.joml.Vector3dc s) {
    return Math.abs(s.x() - s.y()) <= EVEN * s.x() && Math.abs(s.x() - s.z()) <= EVEN * s.x();
  }

  /** The skins with what their joints lost in the inverse bind matrices. */
  List<Skin> skins() {
    Map<Integer, Vector3d> lost = new HashMap<>();
    for (int i = 0; i < gone.length; i++) {
      if (gone[i] != null) {
        lost.put(nodes.get(i).id(), gone[i]);
      }
    }
    List<Skin> skins = new ArrayList<>();
    for (Skin skin : scene.skins()) {
      double[] binds = skin.inverseBind().clone();
      for (int j = 0; j < skin.jointNodeIds().length; j++) {
        Vector3d d = lost.get(skin.jointNodeIds()[j]);
        if (d != null) {
          new Matrix4d().scaling(d).mul(new Matrix4d().set(binds, 16 * j)).get(binds, 16 * j);
        }
      }
      skins.add(lost.isEmpty() ? skin : skin.withInverseBind(binds));
    }
    return skins;
  }
}
