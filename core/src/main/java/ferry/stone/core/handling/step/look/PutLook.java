package ferry.stone.core.handling.step.look;

import ferry.stone.core.field.Field;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.geometry.look.LookBinding;
import ferry.stone.core.geometry.look.LookMatch;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/**
 * Puts the materials of some parts onto others that came without, such as those of a model onto its
 * cache. What was found is told with its reasons; what the user binds by name goes first, and is
 * kept with the step, so that it holds for the next take.
 */
public final class PutLook extends BasicStep<PutLook.Params> {
  /**
   * @param look id of the part that has the look, with all below it
   * @param bindings lines like {@code lips = wax}: the material of a set, by their names
   * @param least confidence that is taken, in percent
   */
  public record Params(int look, String bindings, double least) {
    public Params {
      bindings = bindings == null ? "" : bindings.strip();
      Field.within("least", least, 0, 100);
      byHand(bindings);
    }
  }

  public PutLook() {
    super(
        Group.SURFACE,
        "putLook",
        "Put a look on",
        "Gives the chosen parts the materials of another part and what is below it: face by face"
            + " where they are the same, else set by set by names, numbers of faces, place and"
            + " size.",
        Params.class,
        true,
        new Field(
            "look", "Look of", "part", "", null, null, List.of(), 0, "The part that has the look."),
        Field.text(
            "bindings",
            "Bound by hand",
            "",
            "Set = material, several with semicolons: lips = wax; eyes = glass."),
        Field.number(
            "least", "Least confidence", "%", 0, 100, 40, "What fits less keeps what it has."));
  }

  private static Map<String, String> byHand(String bindings) {
    Map<String, String> byHand = new HashMap<>();
    for (String line : bindings.split("[;\\n]")) {
      if (line.isBlank()) {
        continue;
      }
      int equals = line.indexOf('=');
      if (equals <= 0 || line.substring(equals + 1).isBlank()) {
        throw new IllegalArgumentException(
            "a binding is a set, = and a material, like lips = wax; not \"" + line.strip() + "\"");
      }
      byHand.put(line.substring(0, equals).strip(), line.substring(equals + 1).strip());
    }
    return byHand;
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Integer root = scene.nodePlaces().get(params.look());
    if (root == null) {
      throw new IllegalArgumentException("choose the part that has the look");
    }
    return new Work(scene, selection, params, root).run();
  }

  private static final class Work {
    private final Scene scene;
    private final Params params;
    private final Map<Integer, PolygonMesh> meshes;
    private final Map<Integer, Material> materials = new HashMap<>();
    private final Map<String, Integer> byName = new HashMap<>();
    private final Map<String, String> byHand;
    private final boolean[] below;
    private final boolean[] chosen;
    private final List<Finding> findings = new ArrayList<>();
    private int bound;
    private int left;

    Work(Scene scene, Selection selection, Params params, int root) {
      this.scene = scene;
      this.params = params;
      meshes = scene.meshesById();
      byHand = byHand(params.bindings());
      below = new boolean[scene.nodes().size()];
      for (int i = root; i < below.length; i++) {
        int parent = scene.nodes().get(i).parent();
        below[i] = i == root || parent >= 0 && below[parent];
      }
      chosen = selection.withBelow(scene);
    }

    StepResult run() {
      List<String> paths = scene.paths();
      List<LookMatch.Source> sources = new ArrayList<>();
      Set<Integer> used = new HashSet<>();
      for (int i = 0; i < below.length; i++) {
        PolygonMesh mesh = below[i] ? mesh(i) : null;
        if (mesh != null) {
          sources.add(new LookMatch.Source(paths.get(i), mesh));
          mesh.usedMaterials().forEach(used::add);
        }
      }
      for (Material material : scene.materials()) {
        materials.put(material.id(), material);
        if (used.contains(material.id())) {
          byName.putIfAbsent(material.name(), material.id());
        }
      }
      LookMatch match = new LookMatch(sources, materials);
      Map<Integer, PolygonMesh> dressed = new HashMap<>();
      for (int i = 0; i < below.length; i++) {
        PolygonMesh mesh = below[i] || !chosen[i] ? null : mesh(i);
        if (mesh != null && mesh.faces().faceCount() > 0 && !dressed.containsKey(mesh.id())) {
          LookMatch.Look look = match.of(paths.get(i), mesh);
          dressed.put(mesh.id(), dressed(mesh, look, paths.get(i), scene.nodes().get(i).id()));
        }
      }
      Scene result =
          scene.toBuilder()
              .meshes(scene.meshes().stream().map(m -> dressed.getOrDefault(m.id(), m)).toList())
              .build();
      String figure = Figures.count(bound, "set") + " bound";
      return new StepResult(result, findings, left == 0 ? figure : figure + ", " + left + " not");
    }

    private PolygonMesh mesh(int place) {
      return scene.nodes().get(place).content() instanceof Node.Content.MeshContent content
          ? meshes.get(content.meshId())
          : null;
    }

    private PolygonMesh dressed(PolygonMesh mesh, LookMatch.Look look, String path, int nodeId) {
      int[] materialOf = new int[mesh.faces().faceCount()];
      for (int f = 0; f < materialOf.length; f++) {
        // What is bound to nothing keeps what it has.
        materialOf[f] = mesh.materialOf(f);
      }
      for (LookBinding binding : look.bindings()) {
        String hand = byHand.get(binding.set());
        Integer material = hand == null ? null : byName.get(hand);
        boolean fits = binding.materialId() >= 0 && 100 * binding.confidence() >= params.least();
        int id = material != null ? material : fits ? binding.materialId() : -1;
        tell(binding, hand, id, path, nodeId);
        for (int face : id < 0 ? new int[0] : binding.faces()) {
          materialOf[face] = id;
        }
      }
      int[] ids = Arrays.stream(materialOf).filter(id -> id >= 0).distinct().toArray();
      Map<Integer, Integer> slots = new HashMap<>();
      for (int slot = 0; slot < ids.length; slot++) {
        slots.put(ids[slot], slot);
      }
      int[] ofFace = Arrays.stream(materialOf).map(id -> id < 0 ? -1 : slots.get(id)).toArray();
      PolygonMesh result = mesh.toBuilder().materials(ids, ofFace).build();
      return look.sameFaces() ? withUvs(result, look.source().mesh()) : result;
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

    private void tell(LookBinding binding, String hand, int material, String path, int nodeId) {
      String set = binding.set().isEmpty() ? "the other faces" : "\"" + binding.set() + "\"";
      boolean unknown = hand != null && !byName.containsKey(hand);
      bound += material >= 0 ? 1 : 0;
      left += material >= 0 ? 0 : 1;
      String message =
          material >= 0
              ? "Bound: " + set + " is " + materials.get(material).name() + "."
              : "Not bound: " + set + " keeps what it has.";
      String reason =
          unknown
              ? "the look has no material \"" + hand + "\""
              : hand != null ? "by hand" : String.join(", ", binding.reasons());
      findings.add(
          Finding.of(
                  material >= 0 && !unknown ? "look-bound" : "look-not-bound",
                  material >= 0 && !unknown ? Severity.NOTE : Severity.LOOK,
                  path,
                  message)
              .measured(
                  String.format(
                      Locale.ROOT,
                      "%.0f %%",
                      100 * (hand != null && !unknown ? 1 : binding.confidence())))
              .evidence(reason + ", " + Figures.count(binding.faces().length, "face"))
              .nodes(List.of(nodeId)));
    }
  }
}
