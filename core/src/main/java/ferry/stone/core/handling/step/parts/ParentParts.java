package ferry.stone.core.handling.step.parts;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import org.joml.Matrix4d;

/** Hangs chosen parts on another part, such as a prop on the joint of a hand. */
public final class ParentParts extends BasicStep<ParentParts.Params> {
  private static final Field KEEP_CHOICE =
      Field.choice(
          "keep",
          "Keep",
          "Kept numbers put a part where the new parent has it.",
          "place",
          "where they stand",
          "numbers",
          "their own numbers");

  /**
   * @param parent id of the new parent, 0 for none
   * @param keep {@code place}: the picture stays; {@code numbers}: the parts' own transforms stay
   */
  public record Params(int parent, String keep) {
    public Params {
      keep = KEEP_CHOICE.chosen(keep);
    }
  }

  public ParentParts() {
    super(
        Group.PARTS,
        "parent",
        "Hang on another part",
        "Hangs the chosen parts on another one: a prop on a joint, a lid on its hinge.",
        Params.class,
        true,
        new Field(
            "parent",
            "On",
            "part",
            "",
            null,
            null,
            java.util.List.of(),
            0,
            "The new parent; none makes them roots."),
        KEEP_CHOICE);
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    if (selection.isAll()) {
      throw new IllegalArgumentException("Choose the parts to hang on another one");
    }
    Integer place =
        params.parent() == 0 ? Integer.valueOf(-1) : scene.nodePlaces().get(params.parent());
    if (place == null) {
      throw new IllegalArgumentException("The new parent is not there any more: choose another");
    }
    NodeTree tree = new NodeTree(scene);
    Reparent move = new Reparent(scene, tree);
    Matrix4d world = place < 0 ? new Matrix4d(scene.placement()) : scene.worldMatrices()[place];
    int count = 0;
    for (int top : selection.tops(scene)) {
      Node node = scene.nodes().get(top);
      if (place >= 0 && tree.isWithin(params.parent(), node.id())) {
        throw new IllegalArgumentException(
            "\"" + node.name() + "\" cannot hang on itself or on what hangs on it");
      }
      int parentId = place < 0 ? -1 : params.parent();
      if (params.keep().equals("place")) {
        move.hang(top, parentId, world, place);
      } else {
        tree.setParent(node.id(), parentId);
      }
      count++;
    }
    String on = place < 0 ? "the top" : "“" + scene.nodes().get(place).name() + "”";
    return StepResult.of(
        tree.into(scene.toBuilder().clips(move.clips())).clips(move.clips()).build(),
        Figures.count(count, "part") + " on " + on);
  }
}
