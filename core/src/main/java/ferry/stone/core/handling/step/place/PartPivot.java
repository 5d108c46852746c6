package ferry.stone.core.handling.step.place;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.util.List;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * Moves the pivot of parts: the point they turn and scale about. Nothing moves in the picture, at
 * rest or in any clip.
 */
public final class PartPivot extends BasicStep<PartPivot.Params> {
  private static final Field MOTION_CHOICE =
      Field.choice(
          "motion",
          "Clips",
          "Whether motion looks as before, or turns about the new pivot.",
          "keep",
          "look as before",
          "follow",
          "turn about the new pivot");
  private static final Field TO_CHOICE =
      Field.choice(
          "to",
          "To",
          "Where the pivot goes.",
          "box",
          "a point of its box",
          "vertex",
          "a picked vertex",
          "point",
          "a point by its numbers",
          "origin",
          "the origin",
          "mirror",
          "the other side of the middle plane");
  private static final Field SIDE_CHOICE =
      Field.choice(
              "side",
              "Across",
              "Point of the box.",
              "middle",
              "middle",
              "left",
              "left",
              "right",
              "right")
          .when("to=box");
  private static final Field HEIGHT_CHOICE =
      Field.choice(
              "height",
              "Height",
              "Point of the box.",
              "middle",
              "middle",
              "base",
              "base",
              "top",
              "top")
          .when("to=box");
  private static final Field DEPTH_CHOICE =
      Field.choice(
              "depth",
              "Depth",
              "Point of the box.",
              "middle",
              "middle",
              "front",
              "front",
              "back",
              "back")
          .when("to=box");

  private static final double COARSEST = 1000;
  private static final double FARTHEST = 1e9;

  /**
   * @param to {@code box}, {@code vertex}, {@code point}, {@code origin} or {@code mirror}
   * @param side of the box: {@code middle}, {@code left} or {@code right} of the asset
   * @param height of the box: {@code middle}, {@code base} or {@code top}
   * @param depth of the box: {@code middle}, {@code front} or {@code back}
   * @param vertex {@code node:vertex} as picked on the near side
   * @param x of the point in metres, in the axes of the far view: to the right
   * @param y upwards
   * @param z to the front
   * @param snap grid in metres that the pivot is rounded to, 0 for none
   * @param motion {@code keep}: clips look as before; {@code follow}: they turn about the new pivot
   */
  public record Params(
      String to,
      String side,
      String height,
      String depth,
      String vertex,
      double x,
      double y,
      double z,
      double snap,
      String motion) {
    public Params {
      motion = MOTION_CHOICE.chosen(motion);
      to = TO_CHOICE.chosen(to);
      side = SIDE_CHOICE.chosen(side);
      height = HEIGHT_CHOICE.chosen(height);
      depth = DEPTH_CHOICE.chosen(depth);
      vertex = vertex == null ? "" : vertex;
      Field.within("x", x, -FARTHEST, FARTHEST);
      Field.within("y", y, -FARTHEST, FARTHEST);
      Field.within("z", z, -FARTHEST, FARTHEST);
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
        TO_CHOICE,
        SIDE_CHOICE,
        HEIGHT_CHOICE,
        DEPTH_CHOICE,
        Field.pick("vertex", "Vertex", "vertex", "Pick it in the view.").when("to=vertex"),
        coordinate("x", "X", "Point of the view, to the right."),
        coordinate("y", "Y", "Point of the view, upwards."),
        coordinate("z", "Z", "Point of the view, to the front."),
        Field.number("snap", "Snap to grid", "m", 0, COARSEST, 0, "0 keeps the exact point."),
        MOTION_CHOICE);
  }

  private static Field coordinate(String name, String label, String help) {
    return Field.number(name, label, "m", -FARTHEST, FARTHEST, 0, help).when("to=point");
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    return new Work(scene, params).run(selection);
  }

  private static final class Work {
    private final Scene scene;
    private final Params params;
    private final Matrix4d[] world;
    private final PivotMove move;
    private final Bounds[] boxes;

    Work(Scene scene, Params params) {
      this.scene = scene;
      this.params = params;
      world = scene.worldMatrices();
      move = new PivotMove(scene);
      boxes = params.to().equals("box") ? Placement.boxesBelow(scene) : null;
    }

    StepResult run(Selection selection) {
      boolean[] chosen =
          (selection.isAll() ? new Selection(List.of(), "", "mesh") : selection).exact(scene);
      Vector3d same = params.to().equals("vertex") ? vertex() : null;
      if (params.to().equals("point")) {
        same = point();
      }
      int done = 0;
      double farthest = 0;
      for (int i = 0; i < chosen.length; i++) {
        if (!chosen[i] || !PivotMove.hasPivot(scene.nodes().get(i))) {
          continue;
        }
        Vector3d wanted = same != null ? new Vector3d(same) : wanted(i);
        if (wanted == null) {
          continue;
        }
        snap(wanted);
        farthest = Math.max(farthest, move.to(i, wanted, params.motion().equals("follow")));
        done++;
      }
      if (done == 0) {
        throw new IllegalArgumentException(
            "None of the chosen parts has a pivot of its own: choose meshes or groups without skins");
      }
      return StepResult.of(
          move.build(),
          Figures.count(done, "part")
              + " · up to "
              + Figures.length(farthest * scene.frame().metresPerUnit()));
    }

    private Vector3d vertex() {
      Picked picked = Picked.of(params.vertex(), scene);
      Node node = scene.nodes().get(picked.place());
      int meshId = ((Node.Content.MeshContent) node.content()).meshId();
      PolygonMesh mesh = scene.mesh(meshId).orElseThrow();
      int v = picked.one("vertex", mesh.points().count());
      Vector3d p = new Vector3d(mesh.points().x(v), mesh.points().y(v), mesh.points().z(v));
      return scene.contentMatrices()[picked.place()].transformPosition(p);
    }

    /** The point by its numbers, from the axes of the view. */
    private Vector3d point() {
      return Frame.Y_UP_METRE
          .matrixTo(scene.frame())
          .transformPosition(new Vector3d(params.x(), params.y(), params.z()));
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
      Bounds box = boxes[place];
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
  }
}
