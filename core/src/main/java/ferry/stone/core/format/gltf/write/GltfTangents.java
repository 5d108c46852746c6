package ferry.stone.core.format.gltf.write;

import ferry.stone.core.geometry.mesh.Normals;
import ferry.stone.core.geometry.triangle.RenderPrimitive;
import ferry.stone.core.geometry.uv.TangentSpace;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.texture.PbrMaterial;
import ferry.stone.core.texture.PbrTranslation;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Which materials have a normal map, for which section 3.7.2.1 wants tangents.
 *
 * @param uvSets UV set of the normal map by the material's id
 * @param fromTop whether V is counted from the top of the image
 */
public record GltfTangents(Map<Integer, Integer> uvSets, boolean fromTop) {
  /** No tangents but a mesh's own. */
  public static final GltfTangents NONE = new GltfTangents(Map.of(), false);

  public GltfTangents {
    uvSets = Map.copyOf(uvSets);
  }

  public static GltfTangents of(Scene scene, boolean asked) {
    if (!asked) {
      return NONE;
    }
    Map<Integer, Integer> sets = new HashMap<>();
    for (Material material : scene.materials()) {
      PbrMaterial pbr = PbrTranslation.translate(material, scene.linearColours());
      TextureUse use = pbr.normal() != null ? pbr.normal() : pbr.bump();
      if (use != null && scene.texture(use.textureId()).map(t -> t.isFound()).orElse(false)) {
        sets.put(material.id(), use.uvSet());
      }
    }
    return new GltfTangents(sets, scene.uvOrigin() == UvOrigin.TOP_LEFT);
  }

  /**
   * The mesh with flat normals where it has none of its own and a normal map lies on it: viewers
   * draw it flat either way (section 3.7.2.1), but would leave its tangents aside.
   */
  public PolygonMesh lit(PolygonMesh mesh, Progress progress) {
    if (!isUnlit(mesh) || mesh.faces().faceCount() == 0) {
      return mesh;
    }
    int sets = mesh.all(Semantic.UV).size();
    boolean wanted =
        mesh.usedMaterials().anyMatch(id -> uvSets.containsKey(id) && uvSets.get(id) < sets);
    return wanted ? mesh.withFirst(Semantic.NORMAL, Normals.byAngle(mesh, 0, progress)) : mesh;
  }

  private static boolean isUnlit(PolygonMesh mesh) {
    return mesh.first(Semantic.NORMAL).isEmpty()
        && mesh.smoothing() == null
        && mesh.hardEdges() == null;
  }

  /** The triangles with the tangents that they have or need. */
  RenderPrimitive on(RenderPrimitive p) {
    if (p.hasTangents()) {
      return p;
    }
    Integer set = uvSets.get(p.materialId());
    if (set == null || set >= p.uvs().size() || p.normals() == null) {
      return p.withoutTangents();
    }
    return p.withTangents(
        TangentSpace.of(p.positions(), p.normals(), p.uvs().get(set), fromTop, p.indices()));
  }

  /** Names of parts that get tangents which they did not have. */
  List<String> needed(Scene scene) {
    Map<Integer, PolygonMesh> meshes = scene.meshesById();
    List<String> found = new ArrayList<>();
    for (Node node : scene.nodes()) {
      if (!(node.content() instanceof Node.Content.MeshContent content)
          || !meshes.containsKey(content.meshId())) {
        continue;
      }
      PolygonMesh mesh = meshes.get(content.meshId());
      int[] slots = content.slotMaterials() != null ? content.slotMaterials() : mesh.materialIds();
      boolean own = mesh.first(Semantic.TANGENT).map(t -> t.components() == 4).orElse(false);
      int sets = mesh.all(Semantic.UV).size();
      for (int slot : slots) {
        if (!own && uvSets.containsKey(slot) && uvSets.get(slot) < sets) {
          found.add(node.name());
          break;
        }
      }
    }
    return found;
  }
}
