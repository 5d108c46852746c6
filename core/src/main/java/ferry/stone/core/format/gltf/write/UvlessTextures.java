package ferry.stone.core.format.gltf.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Leaves textures out where a mesh has not the UVs that they lie on: section 3.9 wants them. Where
 * all who show a material lack them, the material itself goes without; else a copy of it.
 */
public final class UvlessTextures {
  static final String CODE = "texture-without-uvs";

  /** Ends the name of such a copy. */
  public static final String COPY = "_no_uvs";

  private final Scene scene;
  private final Map<Integer, Set<Integer>> setsOf = new HashMap<>();
  private final Map<Integer, Material> materials = new HashMap<>();
  private final Map<List<Integer>, Integer> copies = new HashMap<>();
  private final List<Material> added = new ArrayList<>();
  private final List<String> names = new ArrayList<>();

  private UvlessTextures(Scene scene) {
    this.scene = scene;
    scene.materials().forEach(m -> materials.put(m.id(), m));
    Map<Integer, PolygonMesh> meshes = scene.meshesById();
    Set<Integer> shown = new HashSet<>();
    for (Node node : scene.nodes()) {
      if (node.content() instanceof Node.Content.MeshContent content
          && meshes.containsKey(content.meshId())) {
        PolygonMesh mesh = meshes.get(content.meshId());
        shown.add(mesh.id());
        use(mesh, content.slotMaterials() != null ? content.slotMaterials() : mesh.materialIds());
      }
    }
    scene.meshes().stream()
        .filter(m -> !shown.contains(m.id()))
        .forEach(m -> use(m, m.materialIds()));
  }

  private void use(PolygonMesh mesh, int[] slots) {
    if (mesh.faces().faceCount() == 0) {
      return;
    }
    int sets = mesh.all(Semantic.UV).size();
    for (int id : slots) {
      setsOf.computeIfAbsent(id, k -> new HashSet<>()).add(sets);
    }
    for (int[] variant : mesh.variantMaterials()) {
      for (int id : variant) {
        setsOf.computeIfAbsent(id, k -> new HashSet<>()).add(sets);
      }
    }
  }

  /** The scene as it can be written; says what was left out. */
  static Scene leaveOut(Scene scene, Findings findings) {
    return new UvlessTextures(scene).run(findings);
  }

  private Scene run(Findings findings) {
    Map<Integer, Material> changed = new HashMap<>();
    Set<Integer> split = new HashSet<>();
    for (Material material : scene.materials()) {
      Set<Integer> sets = setsOf.getOrDefault(material.id(), Set.of());
      Set<Material> forms = new HashSet<>();
      sets.forEach(n -> forms.add(without(material, n)));
      if (forms.size() == 1) {
        Material only = forms.iterator().next();
        if (only != material) {
          changed.put(material.id(), only);
          names.add(material.name());
        }
      } else if (forms.size() > 1) {
        split.add(material.id());
      }
    }
    if (changed.isEmpty() && split.isEmpty()) {
      return scene;
    }
    SceneBuilder builder = scene.toBuilder();
    List<PolygonMesh> meshes = new ArrayList<>();
    for (PolygonMesh mesh : scene.meshes()) {
      int sets = mesh.all(Semantic.UV).size();
      int[] ids = remap(builder, mesh.materialIds(), sets, split);
      meshes.add(mesh.toBuilder().materials(ids, mesh.faceSlot()).build());
    }
    Map<Integer, PolygonMesh> byId = scene.meshesById();
    List<Node> nodes = new ArrayList<>();
    for (Node node : scene.nodes()) {
      if (node.content() instanceof Node.Content.MeshContent content
          && content.slotMaterials() != null
          && byId.containsKey(content.meshId())) {
        int sets = byId.get(content.meshId()).all(Semantic.UV).size();
        int[] ids = remap(builder, content.slotMaterials(), sets, split);
        nodes.add(
            node.withContent(
                new Node.Content.MeshContent(
                    content.meshId(), content.skinId(), ids, content.morphWeights())));
      } else {
        nodes.add(node);
      }
    }
    List<Material> all = new ArrayList<>();
    scene.materials().forEach(m -> all.add(changed.getOrDefault(m.id(), m)));
    all.addAll(added);
    findings.add(
        Finding.of(
                CODE,
                Severity.FIX,
                names.get(0),
                "Textures of these materials lie on UVs that the meshes do not have, so no program"
                    + " can place them: they are left out there. Lay out UVs to carry them.")
            .measured(Figures.count(names.size(), "material")));
    return builder.nodes(nodes).meshes(meshes).materials(all).build();
  }

  private int[] remap(SceneBuilder builder, int[] ids, int sets, Set<Integer> split) {
    int[] result = ids.clone();
    for (int s = 0; s < ids.length; s++) {
      Material material = materials.get(ids[s]);
      if (split.contains(ids[s]) && without(material, sets) != material) {
        result[s] =
            copies.computeIfAbsent(List.of(ids[s], sets), k -> copy(builder, material, sets));
      }
    }
    return result;
  }

  private int copy(SceneBuilder builder, Material material, int sets) {
    int id = builder.newId();
    names.add(material.name());
    added.add(without(material, sets).withId(id).withName(material.name() + COPY));
    return id;
  }

  /** The material without textures on sets from a number on; itself when it has none there. */
  private static Material without(Material material, int sets) {
    Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    boolean any = false;
    for (Map.Entry<Channel, Material.Value> e : material.channels().entrySet()) {
      Material.Value value = e.getValue();
      boolean out = value.texture() != null && value.texture().uvSet() >= sets;
      any |= out;
      if (!out) {
        channels.put(e.getKey(), value);
      } else if (value.factor() != null) {
        channels.put(e.getKey(), new Material.Value(value.factor(), null));
      }
    }
    return any ? material.withChannels(channels) : material;
  }
}
