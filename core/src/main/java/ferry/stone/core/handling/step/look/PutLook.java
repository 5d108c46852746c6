package ferry.stone.core.handling.step.look;

import ferry.stone.core.field.Field;
import ferry.stone.core.field.HandBindings;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.handling.step.parts.MergeParts;
import ferry.stone.core.handling.step.parts.SplitParts;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * Puts the materials of some parts onto others that came without, such as those of a model onto its
 * cache. What was found is told with its reasons; what the user binds by name goes first, and is
 * kept with the step, so that it holds for the next take. A mesh that was merged of the look's own
 * parts is recognised, and split back into them where that is wanted.
 */
public final class PutLook extends BasicStep<PutLook.Params> {
  /**
   * @param look id of the part that has the look, with all below it
   * @param bindings as {@link HandBindings} reads them: the material of a set, by their names
   * @param least confidence that is taken, in percent
   * @param split whether a mesh that was merged of the look's parts becomes parts again
   */
  public record Params(int look, String bindings, double least, boolean split) {
    public Params {
      bindings = bindings == null ? "" : bindings.strip();
      Field.within("least", least, 0, 100);
      HandBindings.of(bindings);
    }

    /**
     * The bindings with another one, for faces of one part.
     *
     * @param key of the faces, see {@link LookRow}
     * @param material its name; {@code -} to leave what there is, {@code null} for what is found
     */
    public String bound(String key, String path, String material) {
      return HandBindings.of(bindings).with(key, path, material);
    }
  }

  public PutLook() {
    super(
        Group.LOOK,
        "putLook",
        "Put a look on",
        "Gives the chosen parts the materials of another part and what is below it: face by face"
            + " where they are the same, else set by set by names, numbers of faces, place and"
            + " size. The table of the handling shows each binding.",
        Params.class,
        true,
        new Field(
            "look", "Look of", "part", "", null, null, List.of(), 0, "The part that has the look."),
        Field.text(
            "bindings",
            "Bound by hand",
            "",
            "Set = material, several with semicolons: lips = wax; eyes @ head/face = glass."
                + " The table of the handling writes them for you."),
        Field.number(
            "least", "Least confidence", "%", 0, 100, 40, "What fits less keeps what it has."),
        Field.flag(
            "split",
            "Split what was merged",
            false,
            "A mesh that was merged of the look's parts becomes parts of their names again."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    LookBindings bindings = LookBindings.of(scene, selection, params);
    Map<Integer, PolygonMesh> dressed = new HashMap<>();
    List<Integer> merged = new ArrayList<>();
    for (LookBindings.Dressed part : bindings.parts()) {
      dressed.put(part.mesh().id(), dressed(part));
      if (!part.look().objects().isEmpty()) {
        merged.add(scene.nodes().get(part.place()).id());
      }
    }
    Scene result =
        scene.toBuilder()
            .meshes(scene.meshes().stream().map(m -> dressed.getOrDefault(m.id(), m)).toList())
            .build();
    List<Finding> findings = new ArrayList<>(bindings.rows().stream().map(PutLook::told).toList());
    long left = bindings.rows().stream().filter(r -> r.materialId() < 0).count();
    String figure = Figures.count(bindings.rows().size() - left, "set") + " bound";
    figure += left == 0 ? "" : ", " + left + " not";
    if (params.split() && !merged.isEmpty()) {
      StepResult split =
          new SplitParts()
              .apply(result, new Selection(merged), new SplitParts.Params("object", ""), progress);
      findings.addAll(split.findings());
      return new StepResult(split.scene(), findings, figure + ", " + split.figure());
    }
    return new StepResult(result, findings, figure);
  }

  private static PolygonMesh dressed(LookBindings.Dressed part) {
    PolygonMesh mesh = part.mesh();
    int[] materialOf = new int[mesh.faces().faceCount()];
    for (int f = 0; f < materialOf.length; f++) {
      // What is bound to nothing keeps what it has.
      materialOf[f] = mesh.materialOf(f);
    }
    for (LookRow row : part.rows()) {
      for (int face : row.materialId() < 0 ? new int[0] : row.faces()) {
        materialOf[face] = row.materialId();
      }
    }
    int[] ids = Arrays.stream(materialOf).filter(id -> id >= 0).distinct().toArray();
    Map<Integer, Integer> slots = new HashMap<>();
    for (int slot = 0; slot < ids.length; slot++) {
      slots.put(ids[slot], slot);
    }
    int[] ofFace = Arrays.stream(materialOf).map(id -> id < 0 ? -1 : slots.get(id)).toArray();
    PolygonMesh result = mesh.toBuilder().materials(ids, ofFace).build();
    PolygonMesh same = part.look().same();
    if (same == null) {
      return result;
    }
    return withObjects(withUvs(result, same), same, part.look().objects());
  }

  /** A cache that came without UVs gets those of the same faces. */
  private static PolygonMesh withUvs(PolygonMesh mesh, PolygonMesh source) {
    if (mesh.first(Attribute.Semantic.UV).isPresent()) {
      return mesh;
    }
    List<Attribute> all = new ArrayList<>(mesh.attributes());
    all.addAll(source.all(Attribute.Semantic.UV));
    return mesh.withAttributes(all);
  }

  /** What it was merged of becomes sets, by which it can be split. */
  private static PolygonMesh withObjects(
      PolygonMesh mesh, PolygonMesh source, List<String> objects) {
    if (objects.isEmpty()) {
      return mesh;
    }
    List<FaceSet> sets = new ArrayList<>(mesh.faceSets());
    sets.removeIf(s -> objects.contains(s.name()));
    source.faceSets().stream().filter(s -> objects.contains(s.name())).forEach(sets::add);
    Map<String, Object> properties = new HashMap<>(mesh.properties());
    properties.put(MergeParts.OBJECTS, objects);
    return mesh.toBuilder().faceSets(sets).properties(properties).build();
  }

  private static Finding told(LookRow row) {
    String faces = row.set().isEmpty() ? "the other faces" : "\"" + row.set() + "\"";
    boolean bound = row.materialId() >= 0;
    String message =
        row.how() == LookRow.How.UNKNOWN
            ? "Not bound as said: "
                + faces
                + (bound ? " is " + row.material() + ", as found." : " keeps what it has.")
            : bound
                ? "Bound: " + faces + " is " + row.material() + "."
                : "Not bound: " + faces + " keeps what it has.";
    boolean said = row.how() == LookRow.How.BY_HAND || row.how() == LookRow.How.FOUND;
    return Finding.of(
            said ? "look-bound" : "look-not-bound",
            said ? Severity.NOTE : Severity.LOOK,
            row.path(),
            message)
        .measured(String.format(Locale.ROOT, "%.0f %%", 100 * row.confidence()))
        .evidence(
            String.join(", ", row.reasons()) + ", " + Figures.count(row.faces().length, "face"))
        .nodes(List.of(row.nodeId()));
  }
}
