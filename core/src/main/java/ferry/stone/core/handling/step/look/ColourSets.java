package ferry.stone.core.handling.step.look;

import ferry.stone.core.field.Field;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.handling.step.surface.ChosenMeshes;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;

/**
 * Chooses which set of vertex colours is the first: the one that is drawn, and the one that lands
 * where a format holds a single set.
 */
public final class ColourSets extends BasicStep<ColourSets.Params> {
  private static final int LONGEST = 120;
  private static final Field OTHERS =
      Field.choice(
          "others", "The other sets", "What becomes of them.", "keep", "stay", "drop", "go");

  /**
   * @param set name of a set, or its number from 1; empty for the first
   * @param name what it is called from now on; as it is when empty
   * @param others {@code keep} or {@code drop}
   */
  public record Params(String set, String name, String others) {
    public Params {
      set = set == null ? "" : set.strip();
      name = name == null ? "" : name.strip();
      if (name.length() > LONGEST) {
        throw new IllegalArgumentException("the new name must have at most 120 characters");
      }
      others = OTHERS.chosen(others);
    }
  }

  public ColourSets() {
    super(
        Group.LOOK,
        "colourSets",
        "Choose the colours",
        "Puts one set of vertex colours first: it is the one that is drawn, and that lands where a"
            + " format holds one.",
        Params.class,
        true,
        Field.text("set", "Set", "1", "Its name, or its number from 1."),
        Field.text("name", "New name", "", "Empty: as it is."),
        OTHERS);
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    ChosenMeshes chosen = ChosenMeshes.of(scene, selection);
    List<PolygonMesh> meshes = new ArrayList<>();
    List<Finding> findings = new ArrayList<>();
    int changed = 0;
    for (PolygonMesh mesh : scene.meshes()) {
      List<Attribute> sets = chosen.has(mesh) ? mesh.all(Semantic.COLOUR) : List.of();
      Attribute wanted = find(sets, params.set());
      if (wanted == null) {
        if (!sets.isEmpty()) {
          findings.add(
              Finding.of(
                      "no-such-colours",
                      Severity.LOOK,
                      mesh.name(),
                      "It has no set of colours \"" + params.set() + "\" and stays as it is.")
                  .measured(sets.stream().map(Attribute::name).collect(Collectors.joining(", "))));
        }
        meshes.add(mesh);
        continue;
      }
      PolygonMesh now = arranged(mesh, wanted, params);
      changed += now == mesh ? 0 : 1;
      meshes.add(now);
    }
    String figure = changed == 0 ? "all are so" : Figures.count(changed, "mesh");
    return new StepResult(
        changed == 0 ? scene : scene.toBuilder().meshes(meshes).build(), findings, figure);
  }

  private static Attribute find(List<Attribute> sets, String said) {
    for (Attribute set : sets) {
      if (set.name().equals(said)) {
        return set;
      }
    }
    String number = said.isEmpty() ? "1" : said;
    if (!number.matches("[1-9]\\d{0,3}") || Integer.parseInt(number) > sets.size()) {
      return null;
    }
    return sets.get(Integer.parseInt(number) - 1);
  }

  private static PolygonMesh arranged(PolygonMesh mesh, Attribute wanted, Params params) {
    List<Attribute> sets = mesh.all(Semantic.COLOUR);
    String name = params.name().isEmpty() ? wanted.name() : params.name();
    boolean drop = params.others().equals("drop");
    if (sets.get(0) == wanted && name.equals(wanted.name()) && (!drop || sets.size() == 1)) {
      return mesh;
    }
    List<Attribute> layers = new ArrayList<>();
    boolean put = false;
    for (Attribute layer : mesh.attributes()) {
      if (layer.semantic() != Semantic.COLOUR) {
        layers.add(layer);
        continue;
      }
      if (!put) {
        layers.add(wanted.withName(name));
        put = true;
      }
      // A set of the new name gives way.
      if (layer != wanted && !drop && !layer.name().equals(name)) {
        layers.add(layer);
      }
    }
    return mesh.withAttributes(layers);
  }
}
