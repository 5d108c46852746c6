package ferry.stone.core.handling.step.surface;

import ferry.stone.core.handling.KnownMeshes;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;

/** The meshes with faces that the chosen parts show; a mesh that several show changes for all. */
public final class ChosenMeshes {
  private final Scene scene;
  private final Set<Integer> ids;

  private ChosenMeshes(Scene scene, Set<Integer> ids) {
    this.scene = scene;
    this.ids = ids;
  }

  public static ChosenMeshes of(Scene scene, Selection selection) {
    Set<Integer> ids = new HashSet<>();
    boolean[] chosen = selection.withBelow(scene);
    for (int i = 0; i < chosen.length; i++) {
      Node node = scene.nodes().get(i);
      if (chosen[i] && node.content() instanceof Node.Content.MeshContent content) {
        ids.add(content.meshId());
      }
    }
    return new ChosenMeshes(scene, ids);
  }

  /** Ids of the skins that move what the chosen parts show. */
  public static Set<Integer> skins(Scene scene, Selection selection) {
    Set<Integer> skins = new HashSet<>();
    boolean[] chosen = selection.withBelow(scene);
    for (int i = 0; i < chosen.length; i++) {
      if (chosen[i] && scene.nodes().get(i).content() instanceof Node.Content.MeshContent content) {
        skins.add(content.skinId());
      }
    }
    return skins;
  }

  public boolean has(PolygonMesh mesh) {
    return ids.contains(mesh.id()) && mesh.faces().faceCount() > 0;
  }

  long faces() {
    return facesIn(scene);
  }

  /** How many faces the same meshes have in another scene. */
  long facesIn(Scene other) {
    return meshesIn(other).stream().mapToLong(m -> m.faces().faceCount()).sum();
  }

  /** Ids of the materials that their faces have. */
  public Set<Integer> materials() {
    return meshesIn(scene).stream()
        .flatMap(m -> m.usedMaterials().boxed())
        .collect(Collectors.toSet());
  }

  /** The same meshes in another scene. */
  public List<PolygonMesh> meshesIn(Scene other) {
    return other.meshes().stream().filter(this::has).toList();
  }

  /** What becomes of a mesh whose own numbers are so many metres. */
  interface Sized {
    public PolygonMesh of(PolygonMesh mesh, double metresPerUnit);
  }

  /** The scene with each of these meshes changed by a measure in metres. */
  Scene eachSized(Progress progress, Sized change) {
    Map<Integer, Double> sizes = WorldSizes.of(scene);
    double usual = scene.frame().metresPerUnit();
    return each(
        KnownMeshes.NONE, progress, mesh -> change.of(mesh, sizes.getOrDefault(mesh.id(), usual)));
  }

  /** The scene with each of these meshes changed, or with what is known to come out. */
  public Scene each(KnownMeshes known, Progress progress, UnaryOperator<PolygonMesh> change) {
    List<PolygonMesh> meshes = new ArrayList<>();
    for (PolygonMesh mesh : scene.meshes()) {
      progress.checkCancelled();
      PolygonMesh result = has(mesh) ? known.of(mesh) : mesh;
      meshes.add(result != null ? result : change.apply(mesh));
    }
    return scene.toBuilder().meshes(meshes).build();
  }
}
