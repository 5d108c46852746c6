package ferry.stone.core.handling.step.parts;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.handling.step.place.MotionCarry;
import ferry.stone.core.handling.step.place.Placement;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.List;
import org.joml.Matrix4d;
import org.joml.Matrix4dc;
import org.joml.Vector3d;

/** Puts chosen parts under a new group. The picture stays. */
public final class GroupParts extends BasicStep<GroupParts.Params> {
  private static final Field AT_CHOICE =
      Field.choice(
          "at",
          "Pivot",
          "The point that the group turns about.",
          "parent",
          "as the parent's",
          "centre",
          "middle of the parts",
          "base",
          "middle of their base");

  /**
   * @param name of the group
   * @param at where the group's own pivot is: {@code parent}, {@code centre} or {@code base}
   */
  public record Params(String name, String at) {
    public Params {
      name = name == null || name.isBlank() ? "group" : name.strip();
      at = AT_CHOICE.chosen(at);
    }
  }

  public GroupParts() {
    super(
        Group.PARTS,
        "group",
        "Group",
        "Puts the chosen parts under a new group, where the first of them hangs.",
        Params.class,
        true,
        Field.text("name", "Name", "group", "Name of the group."),
        AT_CHOICE);
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    int[] tops = selection.isAll() ? roots(scene) : selection.tops(scene);
    if (tops.length == 0) {
      throw new IllegalArgumentException("No part is chosen");
    }
    SceneBuilder builder = scene.toBuilder();
    int group = builder.newId();
    int parent = scene.nodes().get(tops[0]).parent();
    Matrix4d[] world = scene.worldMatrices();
    Matrix4dc above = parent < 0 ? scene.placement() : world[parent];
    Vector3d pivot =
        new Matrix4d(above).invert().transformPosition(pivot(scene, tops, params, above));
    NodeTree tree = new NodeTree(scene);
    tree.add(
        Node.of(group, params.name(), -1, Node.Content.GROUP)
            .withTransform(MotionCarry.plain(new Matrix4d().translation(pivot))),
        parent < 0 ? -1 : scene.nodes().get(parent).id());
    Reparent move = new Reparent(scene, tree);
    Matrix4d groupWorld = new Matrix4d(above).translate(pivot);
    for (int top : tops) {
      move.hang(top, group, groupWorld, parent);
    }
    Scene result = tree.into(builder).clips(move.clips()).build();
    return StepResult.of(result, Figures.count(tops.length, "part"));
  }

  private static Vector3d pivot(Scene scene, int[] tops, Params params, Matrix4dc above) {
    List<Integer> ids = new ArrayList<>();
    for (int top : tops) {
      ids.add(scene.nodes().get(top).id());
    }
    Bounds box = Placement.bounds(scene, new Selection(ids));
    if (params.at().equals("parent") || box.isEmpty()) {
      return above.getTranslation(new Vector3d());
    }
    Vector3d point = box.centre();
    SignedAxis up = scene.frame().up();
    if (params.at().equals("base")) {
      point.setComponent(up.index(), up.sign() > 0 ? box.min(up.index()) : box.max(up.index()));
    }
    return point;
  }

  private static int[] roots(Scene scene) {
    return java.util.stream.IntStream.range(0, scene.nodes().size())
        .filter(i -> scene.nodes().get(i).parent() < 0)
        .toArray();
  }
}
