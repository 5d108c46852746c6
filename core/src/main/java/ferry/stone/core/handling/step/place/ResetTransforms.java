package ferry.stone.core.handling.step.place;

import ferry.stone.core.field.Field;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.List;
import org.joml.Matrix3d;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * Bakes rotation, scale or all of a part's transform into its vertices, so that the part reads 0,
 * 0, 0 and 1, 1, 1. What hangs on it takes the rest, so nothing moves in the picture. A mirrored
 * scale turns faces round on the way. Of joints the scale alone is taken, into the skins that they
 * move; skinned meshes are left as they are.
 */
public final class ResetTransforms extends BasicStep<ResetTransforms.Params> {
  private static final Field WHAT_CHOICE =
      Field.choice(
          "what",
          "Bake",
          "What goes into the vertices.",
          "scale",
          "scale",
          "rotation",
          "rotation and scale",
          "all",
          "place, rotation and scale");

  /**
   * @param what {@code scale}, {@code rotation} (with the scale) or {@code all}
   */
  public record Params(String what) {
    public Params {
      WHAT_CHOICE.checked(what);
    }
  }

  public ResetTransforms() {
    super(
        Group.PLACE,
        "reset",
        "Reset transforms",
        "Bakes scale, rotation or all into the vertices, so that parts read 0, 0, 0 and 1, 1, 1."
            + " Of joints the scale goes into the skins they move. The picture stays.",
        Params.class,
        true,
        WHAT_CHOICE);
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    boolean[] chosen = selection.exact(scene);
    SceneBuilder builder = scene.toBuilder();
    BakedMeshes baked = new BakedMeshes(scene, builder);
    MotionCarry motion = new MotionCarry(scene);
    List<Node> nodes = new ArrayList<>(scene.nodes());
    List<Finding> findings = new ArrayList<>();
    List<List<Integer>> children = children(scene);
    int done = 0;
    for (int i = 0; i < chosen.length; i++) {
      progress.checkCancelled();
      // Parents come first: what they bake is in their children's transforms by now.
      Node node = nodes.get(i);
      if (!chosen[i] || !isBakeable(node)) {
        continue;
      }
      motion.dropStill(node);
      String why = refusal(node, params, motion);
      if (why != null) {
        findings.add(
            Finding.of("not-reset", Severity.LOOK, scene.paths().get(i), why)
                .nodes(List.of(node.id())));
        continue;
      }
      Matrix4d old = node.transform().toMatrix();
      Matrix4d kept = kept(node.transform(), params.what());
      Matrix4d rest = new Matrix4d(kept).invert().mul(old);
      if (rest.equals(new Matrix4d(), 1e-12) && isClean(node.transform())) {
        continue;
      }
      Matrix4d inside = new Matrix4d(rest).mul(node.geometric().toMatrix());
      nodes.set(i, bake(node, kept, inside, baked));
      for (int child : children.get(i)) {
        nodes.set(child, motion.before(nodes.get(child), rest));
      }
      done++;
    }
    List<Skin> skins = scene.skins();
    if (params.what().equals("scale")) {
      JointScales joints = new JointScales(scene, motion, nodes, findings);
      done += joints.run(chosen);
      skins = joints.skins();
    }
    builder.nodes(nodes).clips(motion.clips()).skins(skins);
    return new StepResult(baked.build(), findings, Figures.count(done, "part"));
  }

  private static List<List<Integer>> children(Scene scene) {
    List<List<Integer>> children = new ArrayList<>();
    for (int i = 0; i < scene.nodes().size(); i++) {
      children.add(new ArrayList<>(0));
      if (scene.nodes().get(i).parent() >= 0) {
        children.get(scene.nodes().get(i).parent()).add(i);
      }
    }
    return children;
  }

  private static Node bake(Node node, Matrix4d kept, Matrix4d inside, BakedMeshes baked) {
    Node plain = node.withTransform(plainTransform(node.transform(), kept));
    if (node.content() instanceof Node.Content.MeshContent) {
      return baked.bake(plain.withGeometric(LocalTransform.IDENTITY), inside);
    }
    return node.content().isPlacedInside() ? plain.withGeometric(MotionCarry.plain(inside)) : plain;
  }

  /** A rotation that stays is the very one it was: clips turn it. */
  private static LocalTransform plainTransform(LocalTransform old, Matrix4d kept) {
    boolean turned = !kept.get3x3(new Matrix3d()).equals(new Matrix3d(), 0);
    return turned && old instanceof Trs trs
        ? new Trs(trs.translation(), trs.rotation(), new Vector3d(1))
        : MotionCarry.plain(kept);
  }

  private static boolean isClean(LocalTransform transform) {
    return transform instanceof Trs;
  }

  private static boolean isBakeable(Node node) {
    boolean skinned =
        node.content() instanceof Node.Content.MeshContent content && content.skinId() >= 0;
    return !skinned && !(node.content() instanceof Node.Content.Joint);
  }

  private static String refusal(Node node, Params params, MotionCarry motion) {
    boolean turns = motion.moves(node.id(), Clip.ROTATION);
    boolean scales = motion.moves(node.id(), Clip.SCALE);
    boolean travels = motion.moves(node.id(), Clip.TRANSLATION);
    boolean blocked =
        switch (params.what()) {
          case "scale" -> scales;
          case "rotation" -> scales || turns;
          default -> scales || turns || travels;
        };
    return blocked ? "A clip moves what would be baked: it was left as it is." : null;
  }

  /** What stays in the transform. */
  private static Matrix4d kept(LocalTransform transform, String what) {
    Matrix4d old = transform.toMatrix();
    if (what.equals("all")) {
      return new Matrix4d();
    }
    Vector3d place = old.getTranslation(new Vector3d());
    if (what.equals("rotation")) {
      return new Matrix4d().translation(place);
    }
    Trs trs = transform instanceof Trs own ? own : Trs.nearest(old);
    Quaterniond turn = new Quaterniond(trs.rotation());
    return new Matrix4d().translationRotate(place.x, place.y, place.z, turn);
  }
}
