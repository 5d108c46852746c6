package ferry.stone.core.handling.step.place;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.handling.step.parts.NodeTree;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;
import org.joml.Matrix4dc;
import org.joml.Vector3d;

/**
 * Mirrors parts to the other side, or adds mirrored copies. Vertices are mirrored and faces turned
 * round, so that no negative scale is left; the pivot goes to the mirrored place.
 */
public final class MirrorParts extends BasicStep<MirrorParts.Params> {
  private static final Field ACROSS_CHOICE =
      Field.choice(
          "across",
          "Across",
          "The direction that turns over.",
          "side",
          "left and right",
          "up",
          "top and bottom",
          "front",
          "front and back");
  private static final Field ABOUT_CHOICE =
      Field.choice(
          "about",
          "About",
          "Where the mirror stands.",
          "origin",
          "the origin",
          "centre",
          "middle of the parts",
          "pivot",
          "each part's pivot");
  private static final Field RESULT_CHOICE =
      Field.choice(
          "result",
          "Result",
          "What is left.",
          "copy",
          "a mirrored copy beside",
          "move",
          "the parts themselves");

  /**
   * @param across {@code side} (left and right), {@code up} or {@code front}: the direction that
   *     turns over
   * @param about {@code origin}, {@code centre} of the chosen parts' box or each part's {@code
   *     pivot}
   * @param result {@code move} or {@code copy}
   */
  public record Params(String across, String about, String result) {
    public Params {
      across = ACROSS_CHOICE.chosen(across);
      about = ABOUT_CHOICE.chosen(about);
      result = RESULT_CHOICE.chosen(result);
    }
  }

  public MirrorParts() {
    super(
        Group.PARTS,
        "mirror",
        "Mirror",
        "Mirrors the chosen parts to the other side, without leaving a negative scale.",
        Params.class,
        true,
        RESULT_CHOICE,
        ACROSS_CHOICE,
        ABOUT_CHOICE);
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    return new Work(scene, selection, params).run();
  }

  private static final class Work {
    private final Scene scene;
    private final Selection selection;
    private final Params params;
    private final Vector3d axis;
    private final Matrix4d[] world;

    Work(Scene scene, Selection selection, Params params) {
      this.scene = scene;
      this.selection = selection;
      this.params = params;
      world = scene.worldMatrices();
      axis =
          switch (params.across()) {
            case "up" -> scene.frame().up().vector();
            case "front" -> scene.frame().front().vector();
            default -> scene.frame().side();
          };
    }

    StepResult run() {
      int[] tops = selection.isAll() ? roots() : selection.tops(scene);
      refuseMoving(tops);
      Bounds box = Placement.bounds(scene, selection);
      Scene copied = scene;
      Map<Integer, Integer> copyOf = new HashMap<>();
      if (params.result().equals("copy")) {
        copied = withCopies(tops, copyOf);
      }
      SceneBuilder builder = copied.toBuilder();
      BakedMeshes baked = new BakedMeshes(copied, builder);
      List<Node> nodes = new ArrayList<>(copied.nodes());
      Map<Integer, Integer> places = copied.nodePlaces();
      for (int top : tops) {
        int id = scene.nodes().get(top).id();
        Matrix4d reflection = reflection(top, box);
        mirror(nodes, places.get(copyOf.getOrDefault(id, id)), reflection, baked);
      }
      builder.nodes(nodes);
      return StepResult.of(baked.build(), Figures.count(tops.length, "part") + " mirrored");
    }

    private int[] roots() {
      return java.util.stream.IntStream.range(0, scene.nodes().size())
          .filter(i -> scene.nodes().get(i).parent() < 0)
          .toArray();
    }

    private void refuseMoving(int[] tops) {
      MotionCarry motion = new MotionCarry(scene);
      boolean[] within = new boolean[scene.nodes().size()];
      for (int top : tops) {
        within[top] = true;
      }
      for (int i = 0; i < within.length; i++) {
        Node node = scene.nodes().get(i);
        within[i] |= node.parent() >= 0 && within[node.parent()];
        boolean skinned =
            node.content() instanceof Node.Content.MeshContent content && content.skinId() >= 0;
        if (within[i]
            && (skinned
                || node.content() instanceof Node.Content.Joint
                || motion.moves(node.id()))) {
          throw new IllegalArgumentException(
              "\""
                  + node.name()
                  + "\" is "
                  + (skinned ? "moved by joints" : "a joint or moves in a clip")
                  + ", and a mirror cannot go into that. Choose parts that do not move");
        }
      }
    }

    private Matrix4d reflection(int top, Bounds box) {
      Vector3d point = new Vector3d();
      if (params.about().equals("centre") && !box.isEmpty()) {
        point = box.centre();
      } else if (params.about().equals("pivot")) {
        point = world[top].getTranslation(new Vector3d());
      }
      Matrix4d flip = new Matrix4d();
      for (int k = 0; k < 3; k++) {
        flip.set(k, k, axis.get(k) != 0 ? -1 : 1);
      }
      return new Matrix4d().translate(point).mul(flip).translate(new Vector3d(point).negate());
    }

    /**
     * With R the reflection in the world and F the flip of a local axis: M becomes R·M·F and what
     * is shown F·p. Children get F·L·F, so that every one of them stays without a mirror.
     */
    private void mirror(List<Node> nodes, int top, Matrix4dc reflection, BakedMeshes baked) {
      Matrix4d flip = new Matrix4d().scaling(-1, 1, 1);
      Node root = nodes.get(top);
      Matrix4dc above = root.parent() < 0 ? scene.placement() : parentWorld(nodes, root.parent());
      Matrix4d local =
          new Matrix4d(above)
              .invert()
              .mul(reflection)
              .mul(above)
              .mul(root.transform().toMatrix())
              .mul(flip);
      nodes.set(top, shown(root.withTransform(MotionCarry.plain(local)), flip, baked));
      boolean[] within = new boolean[nodes.size()];
      within[top] = true;
      for (int i = top + 1; i < nodes.size(); i++) {
        Node node = nodes.get(i);
        if (node.parent() >= 0 && within[node.parent()]) {
          within[i] = true;
          Matrix4d own = new Matrix4d(flip).mul(node.transform().toMatrix()).mul(flip);
          nodes.set(i, shown(node.withTransform(MotionCarry.plain(own)), flip, baked));
        }
      }
    }

    private Matrix4d parentWorld(List<Node> nodes, int place) {
      Matrix4d result = new Matrix4d();
      for (int at = place; at >= 0; at = nodes.get(at).parent()) {
        result.mulLocal(nodes.get(at).transform().toMatrix());
      }
      return result.mulLocal(new Matrix4d(scene.placement()));
    }

    private static Node shown(Node node, Matrix4d flip, BakedMeshes baked) {
      Matrix4d geometric = node.geometric().toMatrix();
      if (node.content() instanceof Node.Content.MeshContent) {
        // F·G·p = G'·F·p with G' = F·G·F.
        Matrix4d turned = new Matrix4d(flip).mul(geometric).mul(flip);
        return baked.bake(node.withGeometric(MotionCarry.plain(turned)), flip);
      }
      if (node.content() instanceof Node.Content.KeptShape) {
        return node.withGeometric(MotionCarry.plain(new Matrix4d(flip).mul(geometric)));
      }
      return node;
    }

    private Scene withCopies(int[] tops, Map<Integer, Integer> copyOf) {
      SceneBuilder builder = scene.toBuilder();
      NodeTree tree = new NodeTree(scene);
      for (int top : tops) {
        boolean[] within = new boolean[scene.nodes().size()];
        within[top] = true;
        for (int i = top; i < within.length; i++) {
          Node node = scene.nodes().get(i);
          boolean below = node.parent() >= 0 && within[node.parent()];
          if (i == top || below) {
            within[i] = true;
            int id = builder.newId();
            copyOf.put(node.id(), id);
            int parentId = tree.parent(node.id());
            tree.add(
                node.withId(id).withName(otherSide(node.name())).withParent(-1),
                i == top ? parentId : copyOf.get(parentId));
          }
        }
      }
      return tree.into(builder).build();
    }
  }

  /** Left becomes right in a name; others say that they are mirrored. */
  public static String otherSide(String name) {
    String[][] pairs = {
      {"left", "right"},
      {"Left", "Right"},
      {"LEFT", "RIGHT"},
      {"_l", "_r"},
      {"_L", "_R"},
      {".l", ".r"},
      {".L", ".R"}
    };
    for (String[] pair : pairs) {
      for (int k = 0; k < 2; k++) {
        boolean token = pair[0].length() == 2;
        String from = pair[k];
        if (token ? name.endsWith(from) : name.contains(from)) {
          int at = token ? name.length() - 2 : name.indexOf(from);
          return name.substring(0, at) + pair[1 - k] + name.substring(at + from.length());
        }
      }
    }
    return name + "_mirrored";
  }
}
