package ferry.stone.core.handling.step.parts;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content.DetailGroup;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.joml.Matrix4d;

/**
 * Bundles versions of one part under a group of detail levels, the finest first. The order is what
 * the step says, never the order in which the parts happened to be made.
 */
public final class DetailLevels extends BasicStep<DetailLevels.Params> {
  private static final Field MEASURE_CHOICE =
      Field.choice(
          "measure",
          "Thresholds are",
          "What tells when a level ends.",
          "screen",
          "parts of the picture's height",
          "distance",
          "distances in metres");

  /**
   * @param name of the group
   * @param order names of the levels, the finest first, apart by commas; empty for the order in
   *     which parts were picked, or by falling number of triangles for parts chosen by a pattern
   * @param thresholds where each level ends, apart by commas: falling parts of the picture's height
   *     from 1 to 0, or rising distances in metres; empty for a usual set
   * @param measure {@code screen} or {@code distance}
   */
  public record Params(String name, String order, String thresholds, String measure) {
    public Params {
      name = name == null || name.isBlank() ? "levels" : name.strip();
      order = order == null ? "" : order.strip();
      thresholds = thresholds == null ? "" : thresholds.strip();
      measure = MEASURE_CHOICE.chosen(measure);
      numbers(thresholds, measure);
    }

    private static double[] numbers(String text, String measure) {
      if (text.isEmpty()) {
        return new double[0];
      }
      String[] parts = text.split("[,;\\s]+");
      double[] result = new double[parts.length];
      for (int i = 0; i < result.length; i++) {
        try {
          result[i] = Double.parseDouble(parts[i]);
        } catch (NumberFormatException e) {
          throw new IllegalArgumentException(
              "thresholds must be numbers apart by commas, not \"" + parts[i] + "\"", e);
        }
        boolean screen = measure.equals("screen");
        boolean inRange = result[i] > 0 && (!screen || result[i] < 1);
        boolean inOrder =
            i == 0 || (screen ? result[i] < result[i - 1] : result[i] > result[i - 1]);
        if (!inRange || !inOrder) {
          throw new IllegalArgumentException(
              screen
                  ? "thresholds must fall and lie between 1 and 0"
                  : "thresholds must rise and be above 0");
        }
      }
      return result;
    }
  }

  public DetailLevels() {
    super(
        Group.PARTS,
        "levels",
        "Bundle as detail levels",
        "Puts versions of one part under one group, the finest first, so that the destination sees"
            + " one object with levels.",
        Params.class,
        true,
        Field.text("name", "Name", "levels", "Name of the group."),
        Field.text(
            "order",
            "Order",
            "",
            "Names of the levels, the finest first; empty for the order in which you picked them."),
        MEASURE_CHOICE,
        Field.text("thresholds", "Thresholds", "", "Like 0.5, 0.2 for three levels."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    if (selection.isAll()) {
      throw new IllegalArgumentException("Choose the versions of the part, the finest first");
    }
    List<Integer> places = ordered(scene, selection, params);
    if (places.size() < 2) {
      throw new IllegalArgumentException("Detail levels need two parts or more");
    }
    double[] thresholds = thresholds(scene, params, places.size());
    SceneBuilder builder = scene.toBuilder();
    int group = builder.newId();
    int parent = scene.nodes().get(places.get(0)).parent();
    NodeTree tree = new NodeTree(scene);
    DetailGroup.Measure measure =
        params.measure().equals("screen")
            ? DetailGroup.Measure.SCREEN
            : DetailGroup.Measure.DISTANCE;
    tree.add(
        Node.of(group, params.name(), -1, new DetailGroup(thresholds, measure)),
        parent < 0 ? -1 : scene.nodes().get(parent).id());
    Matrix4d above = parent < 0 ? new Matrix4d(scene.placement()) : scene.worldMatrices()[parent];
    Reparent move = new Reparent(scene, tree);
    List<Integer> ids = new ArrayList<>();
    for (int place : places) {
      move.hang(place, group, above, parent);
      ids.add(scene.nodes().get(place).id());
    }
    tree.inOrder(ids);
    Scene result = tree.into(builder).clips(move.clips()).build();
    return StepResult.of(withoutEmpty(result, scene), figure(scene, places));
  }

  /** Groups that held one level each and are empty now go. */
  private static Scene withoutEmpty(Scene result, Scene before) {
    Set<Integer> parentsBefore = new HashSet<>();
    before.nodes().forEach(n -> parentsBefore.add(n.parent()));
    Set<Integer> had = new HashSet<>();
    for (int i = 0; i < before.nodes().size(); i++) {
      if (parentsBefore.contains(i)) {
        had.add(before.nodes().get(i).id());
      }
    }
    Set<Integer> parents = new HashSet<>();
    result.nodes().forEach(n -> parents.add(n.parent()));
    Set<Integer> empty = new HashSet<>();
    for (int i = 0; i < result.nodes().size(); i++) {
      Node node = result.nodes().get(i);
      if (node.content() instanceof Node.Content.Group
          && had.contains(node.id())
          && !parents.contains(i)) {
        empty.add(node.id());
      }
    }
    if (empty.isEmpty()) {
      return result;
    }
    NodeTree tree = new NodeTree(result);
    tree.remove(empty);
    return tree.into(result.toBuilder()).build();
  }

  private static List<Integer> ordered(Scene scene, Selection selection, Params params) {
    List<Integer> places = new ArrayList<>();
    for (int top : selection.tops(scene)) {
      places.add(top);
    }
    if (!params.order().isEmpty()) {
      List<Integer> named = new ArrayList<>();
      for (String name : params.order().split(",")) {
        int found = -1;
        for (int place : places) {
          if (scene.nodes().get(place).name().equals(name.strip()) && !named.contains(place)) {
            found = place;
            break;
          }
        }
        if (found < 0) {
          throw new IllegalArgumentException(
              "No chosen part is called \"" + name.strip() + "\": correct the order");
        }
        named.add(found);
      }
      if (named.size() < places.size()) {
        throw new IllegalArgumentException(
            "The order names " + named.size() + " of " + places.size() + " chosen parts");
      }
      return named;
    }
    if (!selection.nodeIds().isEmpty()) {
      Map<Integer, Integer> at = scene.nodePlaces();
      return selection.nodeIds().stream().map(at::get).filter(places::contains).toList();
    }
    places.sort(Comparator.comparingLong((Integer p) -> triangles(scene, p)).reversed());
    return places;
  }

  private static long triangles(Scene scene, int top) {
    Map<Integer, PolygonMesh> meshes = scene.meshesById();
    boolean[] within = new boolean[scene.nodes().size()];
    within[top] = true;
    long sum = 0;
    for (int i = top; i < within.length; i++) {
      Node node = scene.nodes().get(i);
      within[i] |= node.parent() >= 0 && within[node.parent()];
      if (within[i] && node.content() instanceof Node.Content.MeshContent content) {
        sum += meshes.get(content.meshId()).faces().triangleCount();
      }
    }
    return sum;
  }

  /** One for each level but the last. */
  private static double[] thresholds(Scene scene, Params params, int levels) {
    double[] given = Params.numbers(params.thresholds(), params.measure());
    if (given.length == 0) {
      if (params.measure().equals("screen")) {
        return DetailGroup.bySize(levels).thresholds();
      }
      given = new double[levels - 1];
      for (int i = 0; i < given.length; i++) {
        // Common practice, no source: each level at about half the size of the one before.
        given[i] = 10 * Math.pow(2, i);
      }
    }
    if (given.length != levels - 1) {
      throw new IllegalArgumentException(
          levels + " levels need " + (levels - 1) + " thresholds, not " + given.length);
    }
    double[] result = java.util.Arrays.copyOf(given, levels);
    result[levels - 1] = params.measure().equals("screen") ? 0 : Double.POSITIVE_INFINITY;
    for (int i = 0; i < given.length && params.measure().equals("distance"); i++) {
      result[i] /= scene.frame().metresPerUnit();
    }
    return result;
  }

  private static String figure(Scene scene, List<Integer> places) {
    List<String> counts = new ArrayList<>();
    places.forEach(p -> counts.add(Figures.count(triangles(scene, p))));
    return String.join(" · ", counts) + " triangles";
  }
}
