package ferry.stone.core.handling.step.place;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * Moves the pivot of parts: the point they turn and scale about. Nothing moves in the picture, at
 * rest or in any clip.
 */
public final class PartPivot extends BasicStep<PartPivot.Params> {
  private static final double COARSEST = 1000;

  /**
   * @param to {@code box}, {@code vertex}, {@code origin} or {@code mirror}
   * @param side of the box: {@code middle}, {@code left} or {@code right} of the asset
   * @param height of the box: {@code middle}, {@code base} or {@code top}
   * @param depth of the box: {@code middle}, {@code front} or {@code back}
   * @param vertex {@code node:vertex} as picked on the near side
   * @param snap grid in metres that the pivot is rounded to, 0 for none
   * @param motion {@code keep}: clips look as before; {@code follow}: they turn about the new pivot
   */
  public record Params(
      String to,
      String side,
      String height,
      String depth,
      String vertex,
      double snap,
      String motion) {
    public Params {
      motion = Field.oneOf("motion", motion == null ? "keep" : motion, "keep", "follow");
      to = Field.oneOf("to", to == null ? "box" : to, "box", "vertex", "origin", "mirror");
      side = Field.oneOf("side", side == null ? "middle" : side, "middle", "left", "right");
      height = Field.oneOf("height", height == null ? "middle" : height, "middle", "base", "top");
      depth = Field.oneOf("depth", depth == null ? "middle" : depth, "middle", "front", "back");
      vertex = vertex == null ? "" : vertex;
      Field.within("snap", snap, 0, COARSEST);
    }
  }

  public PartPivot() {
    super(
        Group.PLACE,
        "pivot",
        "Set pivots",
        "Moves the point that parts turn about: a point of the box, a vertex, the origin, or its"
            + " mirror image on the other side. The picture stays.",
        Params.class,
        true,
        Field.choice(
            "to",
            "To",
            "Where the pivot goes.",
            "box",
            "a point of the part's box",
            "vertex",
            "a picked vertex",
            "origin",
            "the origin",
            "mirror",
            "the other side of the middle plane"),
        Field.choice(
            "side",
            "Across",
            "Point of the box.",
            "middle",
            "middle",
            "left",
            "left",
            "right",
            "right"),
        Field.choice(
            "height",
            "Height",
            "Point of the box.",
            "middle",
            "middle",
            "base",
            "base",
            "top",
            "top"),
        Field.choice(
            "depth",
            "Depth",
            "Point of the box.",
            "middle",
            "middle",
            "front",
            "front",
            "back",
            "back"),
        Field.pick("vertex", "Vertex", "vertex", "Pick it in the view."),
        Field.number("snap", "Snap to grid", "m", 0, COARSEST, 0, "0 keeps the exact point."),
        Field.choice(
            "motion",
            "Clips",
            "Whether motion looks as before, or turns about the new pivot.",
            "keep",
            "look as before",
            "follow",
            "turn about the new pivot"));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    return new Work(scene, params).run(selection);
  }

  private static final class Work {
    private final Scene scene;
    private final Params params;
    private final Matrix4d[] world;
    private final MotionCarry motion;
    private final List<Node> nodes;
    private final Map<Integer, PolygonMesh> meshes;
    private final SceneBuilder builder;
    private final BakedMeshes baked;

    Work(Scene scene, Params params) {
      this.scene = scene;
      this.params = params;
      world = scene.worldMatrices();
      motion = new MotionCarry(scene);
      nodes = new ArrayList<>(scene.nodes());
      meshes = scene.meshesById();
      builder = scene.toBuilder();
      baked = new BakedMeshes(scene, builder);
    }

    StepResult run(Selection selection) {
      boolean[] chosen = selection.isAll() ? meshNodes() : selection.exact(scene);
      Vector3d picked = params.to().equals("vertex") ? vertex() : null;
      int done = 0;
      double farthest = 0;
      for (int i = 0; i < chosen.length; i++) {
        Node node = scene.nodes().get(i);
        boolean skinned =
            node.content() instanceof Node.Content.MeshContent content && content.skinId() >= 0;
        if (!chosen[i] || skinned || node.content() instanceof Node.Content.Joint) {
          continue;
        }
        Vector3d wanted = picked != null ? picked : wanted(i);
        if (wanted == null) {
          continue;
        }
        snap(wanted);
        Vector3d inPart = world[i].invert(new Matrix4d()).transformPosition(new Vector3d(wanted));
        if (!inPart.isFinite()) {
          throw new IllegalArgumentException(
              "\"" + node.name() + "\" is scaled to nothing, so it has no pivot");
        }
        farthest = Math.max(farthest, world[i].getTranslation(new Vector3d()).distance(wanted));
        move(i, inPart);
        done++;
      }
      if (done == 0) {
        throw new IllegalArgumentException(
            "None of the chosen parts has a pivot of its own: choose meshes or groups without skins");
      }
      builder.nodes(nodes).clips(motion.clips());
      return StepResult.of(
          baked.build(),
          Figures.count(done, "part")
              + " · up to "
              + Figures.length(farthest * scene.frame().metresPerUnit()));
    }

    private boolean[] meshNodes() {
      boolean[] chosen = new boolean[nodes.size()];
      for (int i = 0; i < chosen.length; i++) {
        chosen[i] = nodes.get(i).content() instanceof Node.Content.MeshContent;
      }
      return chosen;
    }

    private Vector3d vertex() {
      Picked picked = Picked.of(params.vertex(), scene);
      Node node = scene.nodes().get(picked.place());
      int meshId = ((Node.Content.MeshContent) node.content()).meshId();
      PolygonMesh mesh = meshes.get(meshId);
      int v = picked.one("vertex", mesh.points().count());
      Vector3d p = new Vector3d(mesh.points().x(v), mesh.points().y(v), mesh.points().z(v));
      return scene.contentMatrices()[picked.place()].transformPosition(p);
    }

    /** The wanted pivot in the world, {@code null} for parts that show nothing. */
    private Vector3d wanted(int place) {
      if (params.to().equals("origin")) {
        return new Vector3d();
      }
      if (params.to().equals("mirror")) {
        // The asset's left and right change; up and front stay.
        Vector3d pivot = world[place].getTranslation(new Vector3d());
        Vector3d side = scene.frame().side();
        return pivot.fma(-2 * pivot.dot(side), side);
      }
      Bounds box = Placement.bounds(scene, new Selection(List.of(scene.nodes().get(place).id())));
      if (box.isEmpty()) {
        return null;
      }
      Vector3d point = box.centre();
      side(point, box, scene.frame().side(), params.side(), "left", "right");
      side(point, box, scene.frame().up().vector(), params.height(), "top", "base");
      side(point, box, scene.frame().front().vector(), params.depth(), "front", "back");
      return point;
    }

    private static void side(
        Vector3d point,
        Bounds box,
        Vector3d axis,
        String choice,
        String positive,
        String negative) {
      int index = axis.maxComponent();
      double sign = Math.signum(axis.get(index));
      if (choice.equals(positive)) {
        point.setComponent(index, sign > 0 ? box.max(index) : box.min(index));
      } else if (choice.equals(negative)) {
        point.setComponent(index, sign > 0 ? box.min(index) : box.max(index));
      }
    }

    private void snap(Vector3d point) {
      double grid = params.snap() / scene.frame().metresPerUnit();
      for (int k = 0; k < 3 && grid > 0; k++) {
        point.setComponent(k, Math.rint(point.get(k) / grid) * grid);
      }
    }

    /** Puts the pivot at a point of the part; what it shows and its children step back. */
    private void move(int place, Vector3d by) {
      Vector3d back = new Vector3d(by).negate();
      boolean follow = params.motion().equals("follow");
      Node node =
          follow ? motion.aboutNewPivot(nodes.get(place), by) : motion.after(nodes.get(place), by);
      if (node.content() instanceof Node.Content.MeshContent) {
        node = shown(node, back);
      } else if (node.geometric() != LocalTransform.IDENTITY || looks(node)) {
        node =
            node.withGeometric(
                MotionCarry.plain(
                    new Matrix4d().translation(back).mul(node.geometric().toMatrix())));
      }
      nodes.set(place, node);
      for (int i = 0; i < nodes.size(); i++) {
        if (nodes.get(i).parent() == place) {
          nodes.set(i, motion.before(nodes.get(i), new Matrix4d().translation(back)));
        }
      }
    }

    private static boolean looks(Node node) {
      return node.content() instanceof Node.Content.CameraContent
          || node.content() instanceof Node.Content.LightContent;
    }

    /** The mesh steps back in its own numbers. */
    private Node shown(Node node, Vector3d back) {
      Matrix4d geometric = node.geometric().toMatrix();
      return baked.bake(
          node,
          new Matrix4d(geometric).invert().mul(new Matrix4d().translation(back)).mul(geometric));
    }
  }
}
