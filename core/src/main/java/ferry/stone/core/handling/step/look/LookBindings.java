package ferry.stone.core.handling.step.look;

import ferry.stone.core.field.HandBindings;
import ferry.stone.core.geometry.look.LookBinding;
import ferry.stone.core.geometry.look.LookMatch;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.sheet.Sheet;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Which faces of the chosen parts get which material of the part that has the look. */
public final class LookBindings {
  private final Map<String, Integer> byName = new LinkedHashMap<>();
  private final Map<Integer, Material> materials = new HashMap<>();
  private final List<Dressed> parts = new ArrayList<>();
  private final PutLook.Params params;
  private final HandBindings byHand;

  /** A part with what is known of its look. */
  record Dressed(int place, PolygonMesh mesh, LookMatch.Look look, List<LookRow> rows) {}

  private LookBindings(PutLook.Params params) {
    this.params = params;
    byHand = HandBindings.of(params.bindings());
  }

  /**
   * @throws IllegalArgumentException when the part that has the look is not there
   */
  public static LookBindings of(Scene scene, Selection selection, PutLook.Params params) {
    Integer root = scene.nodePlaces().get(params.look());
    if (root == null) {
      throw new IllegalArgumentException("choose the part that has the look");
    }
    LookBindings bindings = new LookBindings(params);
    bindings.find(scene, selection.withBelow(scene), below(scene, root));
    return bindings;
  }

  private static boolean[] below(Scene scene, int root) {
    boolean[] below = new boolean[scene.nodes().size()];
    for (int i = root; i < below.length; i++) {
      int parent = scene.nodes().get(i).parent();
      below[i] = i == root || parent >= 0 && below[parent];
    }
    return below;
  }

  private void find(Scene scene, boolean[] chosen, boolean[] below) {
    Map<Integer, PolygonMesh> meshes = scene.meshesById();
    List<String> paths = scene.paths();
    List<LookMatch.Source> sources = new ArrayList<>();
    Set<Integer> used = new LinkedHashSet<>();
    for (int i = 0; i < below.length; i++) {
      PolygonMesh mesh = below[i] ? mesh(scene, meshes, i) : null;
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
    Set<Integer> known = new LinkedHashSet<>();
    for (int i = 0; i < below.length; i++) {
      PolygonMesh mesh = below[i] || !chosen[i] ? null : mesh(scene, meshes, i);
      if (mesh != null && mesh.faces().faceCount() > 0 && known.add(mesh.id())) {
        LookMatch.Look look = match.of(paths.get(i), mesh);
        int nodeId = scene.nodes().get(i).id();
        String path = paths.get(i);
        List<LookRow> rows = look.bindings().stream().map(b -> row(b, path, nodeId)).toList();
        parts.add(new Dressed(i, mesh, look, rows));
      }
    }
  }

  private static PolygonMesh mesh(Scene scene, Map<Integer, PolygonMesh> meshes, int place) {
    return scene.nodes().get(place).content() instanceof Node.Content.MeshContent content
        ? meshes.get(content.meshId())
        : null;
  }

  private LookRow row(LookBinding binding, String path, int nodeId) {
    String hand = byHand.material(binding.key(), path);
    boolean nothing = HandBindings.NOTHING.equals(hand);
    boolean known = hand != null && byName.containsKey(hand);
    boolean fits = binding.materialId() >= 0 && 100 * binding.confidence() >= params.least();
    int id = known ? byName.get(hand) : fits && !nothing ? binding.materialId() : -1;
    LookRow.How how =
        hand != null && !known && !nothing
            ? LookRow.How.UNKNOWN
            : hand != null ? LookRow.How.BY_HAND : fits ? LookRow.How.FOUND : LookRow.How.UNBOUND;
    List<String> reasons =
        switch (how) {
          case UNKNOWN -> List.of("the look has no material \"" + hand + "\"");
          case BY_HAND -> List.of("by hand");
          default -> binding.reasons();
        };
    return new LookRow(
        nodeId,
        path,
        binding.key(),
        binding.faces(),
        id,
        id < 0 ? "" : materials.get(id).name(),
        how == LookRow.How.BY_HAND ? 1 : binding.confidence(),
        reasons,
        how);
  }

  List<Dressed> parts() {
    return parts;
  }

  /** All faces that are bound, or could be, part by part. */
  public List<LookRow> rows() {
    return parts.stream().flatMap(p -> p.rows().stream()).toList();
  }

  /**
   * Place in {@link #rows} of the faces that one face is among, −1 for none. A face of the look's
   * own mesh stands for the one that has its look: both often stand in one place.
   */
  public int rowOf(Scene scene, int nodeId, int face) {
    Integer place = scene.nodePlaces().get(nodeId);
    PolygonMesh mesh = place == null ? null : mesh(scene, scene.meshesById(), place);
    int row = 0;
    for (Dressed part : parts) {
      boolean meant = part.mesh() == mesh || part.look().same() == mesh;
      for (LookRow own : part.rows()) {
        if (mesh != null && meant && Arrays.binarySearch(own.faces(), face) >= 0) {
          return row;
        }
        row++;
      }
    }
    return -1;
  }

  /** The same as a table for a person. */
  public Sheet sheet(String title) {
    List<List<String>> rows = new ArrayList<>();
    for (LookRow row : rows()) {
      rows.add(
          List.of(
              row.path(),
              row.set(),
              String.valueOf(row.faces().length),
              row.material(),
              Math.round(100 * row.confidence()) + " %",
              row.how().words(),
              String.join(", ", row.reasons())));
    }
    List<String> head =
        List.of("Part", "Set of faces", "Faces", "Material", "Confidence", "Bound", "Reasons");
    return new Sheet(
        title + " · bindings",
        "Which faces get which material. Those without a set are the other faces of their part.",
        head,
        rows);
  }

  /** Names of the materials that the look has, with their ids. */
  public Map<String, Integer> materials() {
    return byName;
  }
}
