package ferry.stone.core.geometry.frame;

import ferry.stone.core.geometry.cache.MovedCache;
import ferry.stone.core.geometry.mesh.MeshMove;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.Light;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.InheritedTransform;
import ferry.stone.core.scene.node.LocalTransform.PivotTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.ChangedSequence;
import ferry.stone.core.scene.time.MeshSequence;
import java.util.ArrayList;
import java.util.List;
import org.joml.Matrix3d;
import org.joml.Matrix4d;
import org.joml.Matrix4dc;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * Carries a scene, with its placement, into another frame.
 *
 * <p>With M the placement followed by the change of frame and A its linear part (a scale times a
 * rotation or mirror): points become M·p in a flat scene, where no node has a transform; elsewhere
 * A·p, local matrices A·L·A⁻¹, and roots take the move as well, so that pivots stay where they are
 * on the part. Directions become the rotation or mirror of themselves. A mirror turns faces round.
 * Inverse bind matrices become A·B·A⁻¹, deltas of morph targets A·d, keys of clips follow what they
 * move. Cameras and lights look along axes of their own: they are turned inside their nodes.
 *
 * <p>A turn by other than right angles cannot go into the scales of moving nodes: such a scene
 * takes the change on a root.
 *
 * <p>Point caches are carried point by point as they are read ({@link MovedCache}).
 */
public final class Rebase {
  private static final double EXACT = 1e-12;

  private final Scene scene;
  private final Frame target;
  private final Matrix4d whole;
  private final Matrix4d linear;
  private final Matrix3d directions;
  private final double scale;

  private Rebase(Scene scene, Frame target) {
    this.scene = scene;
    this.target = target;
    whole = matrix(scene, target);
    linear = new Matrix4d(whole).setTranslation(0, 0, 0);
    scale = Math.cbrt(Math.abs(linear.determinant3x3()));
    directions = linear.get3x3(new Matrix3d()).scale(1 / scale);
  }

  /** The placement followed by the change of frame. */
  public static Matrix4d matrix(Scene scene, Frame target) {
    return scene.frame().matrixTo(target).mul(scene.placement(), new Matrix4d());
  }

  /** Whether the change of frame has to go onto a root, since moving parts cannot take it. */
  public static boolean needsRoot(Scene scene, Frame target) {
    Rebase rebase = new Rebase(scene, target);
    return !rebase.whole.equals(new Matrix4d(), EXACT)
        && !new RebaseMotion(rebase.linear, rebase.whole).fits(scene);
  }

  /** Whether anything has to change at all. */
  public static boolean changes(Scene scene, Frame target) {
    return !new Rebase(scene, target).whole.equals(new Matrix4d(), EXACT);
  }

  /** The clean way: all numbers change, nodes stay as clean as they were. */
  public static Scene intoData(Scene scene, Frame target) {
    Rebase rebase = new Rebase(scene, target);
    if (rebase.whole.equals(new Matrix4d(), EXACT)) {
      return rebase.arrived().build();
    }
    return new RebaseMotion(rebase.linear, rebase.whole).fits(scene)
        ? rebase.dataScene()
        : onRoot(scene, target);
  }

  /** The light way: one root node carries the change; all other numbers stay. */
  public static Scene onRoot(Scene scene, Frame target) {
    Rebase rebase = new Rebase(scene, target);
    var builder = rebase.arrived();
    if (rebase.whole.equals(new Matrix4d(), EXACT)) {
      return builder.build();
    }
    List<Node> nodes = new ArrayList<>();
    nodes.add(
        Node.of(builder.newId(), scene.name(), -1, Node.Content.GROUP)
            .withTransform(rebase.rootTransform()));
    scene.nodes().forEach(node -> nodes.add(node.withParent(node.parent() + 1)));
    List<Skin> skins = scene.skins().stream().map(s -> underRoot(s, rebase.whole)).toList();
    return builder.nodes(nodes).skins(skins).build();
  }

  /** A skin was bound where its mesh stands now. */
  private static Skin underRoot(Skin skin, Matrix4d whole) {
    if (skin.bindMatrix() == null) {
      return skin;
    }
    double[] bind = new double[16];
    whole.mul(new Matrix4d().set(skin.bindMatrix()), new Matrix4d()).get(bind, 0);
    return skin.withBind(skin.inverseBind(), bind);
  }

  private SceneBuilder arrived() {
    return scene.toBuilder()
        .placement(new Matrix4d())
        .frame(target, FrameSource.CHOSEN, FrameSource.CHOSEN);
  }

  private LocalTransform rootTransform() {
    if (directions.determinant() < 0) {
      return new LocalTransform.MatrixTransform(whole);
    }
    return Trs.of(
        whole.getTranslation(new Vector3d()),
        new Quaterniond().setFromNormalized(directions),
        new Vector3d(scale));
  }

  private Scene dataScene() {
    boolean flat =
        scene.skins().isEmpty()
            && scene.clips().isEmpty()
            && scene.nodes().stream()
                .allMatch(
                    n ->
                        n.transform() == LocalTransform.IDENTITY
                            && n.geometric() == LocalTransform.IDENTITY
                            && !n.content().isPlacedInside());
    Matrix4d forPoints = flat ? whole : linear;
    List<PolygonMesh> meshes = scene.meshes().stream().map(m -> mesh(m, forPoints)).toList();
    List<Node> nodes = scene.nodes();
    if (!flat) {
      nodes = new ArrayList<>();
      for (Node node : scene.nodes()) {
        LocalTransform moved = conjugate(node.transform());
        if (node.parent() < 0) {
          Vector3d move = whole.getTranslation(new Vector3d());
          moved = translated(moved, move);
        }
        LocalTransform inside = conjugate(node.geometric());
        if (looks(node)) {
          inside = turned(inside);
        } else if (node.content() instanceof Node.Content.KeptShape) {
          inside =
              new LocalTransform.MatrixTransform(
                  new Matrix4d(linear).mul(node.geometric().toMatrix()));
        } else if (node.content() instanceof Node.Content.DetailGroup group) {
          node = node.withContent(levels(group));
        }
        nodes.add(node.withTransform(moved).withGeometric(inside));
      }
    }
    RebaseMotion motion = new RebaseMotion(linear, whole);
    return arrived()
        .meshes(meshes)
        .nodes(nodes)
        .skins(scene.skins().stream().map(motion::skin).toList())
        .clips(motion.clips(scene))
        .cameras(scene.cameras().stream().map(this::camera).toList())
        .lights(scene.lights().stream().map(this::light).toList())
        .mapCaches(c -> new MovedCache(c, forPoints))
        .sequences(
            scene.sequences().stream()
                .map(s -> (MeshSequence) ChangedSequence.of(s, m -> mesh(m, forPoints)))
                .toList())
        .build();
  }

  /** Whether a node shows something that looks along an axis of its own. */
  private static boolean looks(Node node) {
    return node.content() instanceof Node.Content.CameraContent
        || node.content() instanceof Node.Content.LightContent;
  }

  /**
   * The turn that gives back their direction to cameras and lights. Through a mirror the picture
   * keeps its sides: a camera cannot be mirrored, so its own X stays opposite to the mirrored one.
   */
  private LocalTransform turned(LocalTransform inside) {
    Matrix3d turn = new Matrix3d(directions);
    if (turn.determinant() < 0) {
      turn.mul(new Matrix3d().scaling(-1, 1, 1));
    }
    if (turn.equals(new Matrix3d(), EXACT)) {
      return inside;
    }
    Quaterniond rotation = new Quaterniond().setFromNormalized(turn);
    if (inside == LocalTransform.IDENTITY) {
      return Trs.of(new Vector3d(), rotation, new Vector3d(1));
    }
    return new LocalTransform.MatrixTransform(inside.toMatrix().rotate(rotation));
  }

  private Node.Content levels(Node.Content.DetailGroup group) {
    if (group.measure() != Node.Content.DetailGroup.Measure.DISTANCE) {
      return group;
    }
    double[] scaled = group.thresholds().clone();
    for (int i = 0; i < scaled.length; i++) {
      scaled[i] *= scale;
    }
    return new Node.Content.DetailGroup(scaled, group.measure());
  }

  private Camera camera(Camera c) {
    return new Camera(
        c.id(),
        c.name(),
        c.verticalAngleRadians(),
        scale * c.height(),
        c.aspect(),
        scale * c.near(),
        scale * c.far(),
        c.lens() == null ? null : c.lens().scaled(scale),
        c.properties());
  }

  private Light light(Light l) {
    return new Light(
        l.id(),
        l.name(),
        l.kind(),
        l.linearColour(),
        l.intensity(),
        scale * l.range(),
        l.innerAngleRadians(),
        l.outerAngleRadians(),
        l.properties());
  }

  private static LocalTransform translated(LocalTransform transform, Vector3d move) {
    if (move.lengthSquared() == 0) {
      return transform;
    }
    if (transform instanceof Trs trs) {
      return new Trs(new Vector3d(trs.translation()).add(move), trs.rotation(), trs.scale());
    }
    if (transform instanceof PivotTransform pivots) {
      return pivots.withTranslation(new Vector3d(pivots.translation()).add(move));
    }
    if (transform instanceof InheritedTransform inherited) {
      return new InheritedTransform(
          (PivotTransform) translated(inherited.own(), move),
          new Matrix4d().translation(move).mul(inherited.matrix()));
    }
    return new LocalTransform.MatrixTransform(
        new Matrix4d().translation(move).mul(transform.toMatrix()));
  }

  /** A·L·A⁻¹; stays translation, rotation and scale where that is exact. */
  private LocalTransform conjugate(LocalTransform local) {
    if (local == LocalTransform.IDENTITY) {
      return local;
    }
    if (local instanceof Trs trs && (isAxisPermutation(directions) || isUniform(trs))) {
      Vector3d t = linear.transformDirection(new Vector3d(trs.translation()));
      Matrix3d rotation =
          new Matrix3d(directions)
              .mul(new Matrix3d().set(trs.rotation()))
              .mul(new Matrix3d(directions).transpose());
      Vector3d s = new Vector3d(trs.scale());
      if (!isUniform(trs)) {
        s = new Matrix3d(directions).transform(s).absolute();
        signs(trs, s);
      }
      return Trs.of(t, new Quaterniond().setFromNormalized(rotation), s);
    }
    if (isAxisPermutation(directions)) {
      if (local instanceof PivotTransform pivots) {
        return new RebasePivots(linear, directions).apply(pivots);
      }
      if (local instanceof InheritedTransform inherited) {
        return new InheritedTransform(
            new RebasePivots(linear, directions).apply(inherited.own()),
            conjugate(inherited.matrix()));
      }
    }
    return new LocalTransform.MatrixTransform(conjugate(local.toMatrix()));
  }

  private Matrix4d conjugate(Matrix4dc local) {
    return new Matrix4d(linear).mul(local).mul(new Matrix4d(linear).invert());
  }

  /** Negative scales follow their axes. */
  private void signs(Trs trs, Vector3d s) {
    for (int from = 0; from < 3; from++) {
      for (int to = 0; to < 3; to++) {
        if (Math.abs(directions.get(from, to)) > 0.5) {
          s.setComponent(to, trs.scale().get(from));
        }
      }
    }
  }

  private static boolean isUniform(Trs trs) {
    return trs.scale().x() == trs.scale().y() && trs.scale().y() == trs.scale().z();
  }

  /** Whether a rotation or mirror takes axes to axes. */
  static boolean isAxisPermutation(Matrix3d directions) {
    for (int c = 0; c < 3; c++) {
      for (int r = 0; r < 3; r++) {
        double v = Math.abs(directions.get(c, r));
        if (v > EXACT && Math.abs(v - 1) > EXACT) {
          return false;
        }
      }
    }
    return true;
  }

  private PolygonMesh mesh(PolygonMesh mesh, Matrix4d forPoints) {
    return MeshMove.by(mesh, forPoints);
  }
}
