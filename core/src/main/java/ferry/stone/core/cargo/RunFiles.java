package ferry.stone.core.cargo;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** The files of one motion, read one by one as they are asked for; the last few are kept. */
final class RunFiles {
  /** Enough to go between two moments on two sides without reading anything twice. */
  private static final int KEPT = 4;

  /** Stands for the name of the file in paths. */
  private static final String FILE = "<file>";

  private final List<String> paths;
  private final Source source;
  private final Map<String, Integer> materials;
  private final Map<Integer, Map<String, PolygonMesh>> kept =
      new LinkedHashMap<>(KEPT + 1, 0.75f, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<Integer, Map<String, PolygonMesh>> eldest) {
          return size() > KEPT;
        }
      };

  /** Reads a file of the run. */
  interface Source {
    Scene read(String path) throws IOException, FormatException;
  }

  /**
   * @param materials ids by name: what the meshes of every frame are dressed in
   */
  RunFiles(List<String> paths, Source source, Map<String, Integer> materials) {
    this.paths = List.copyOf(paths);
    this.source = source;
    this.materials = Map.copyOf(materials);
  }

  int count() {
    return paths.size();
  }

  String path(int frame) {
    return paths.get(frame);
  }

  /** The meshes of a frame by the paths of their parts. */
  synchronized Map<String, PolygonMesh> meshes(int frame) throws IOException {
    Map<String, PolygonMesh> known = kept.get(frame);
    if (known == null) {
      try {
        Scene scene = source.read(paths.get(frame));
        known = meshes(scene, paths.get(frame));
        known.replaceAll((path, mesh) -> dressed(mesh, scene));
      } catch (FormatException e) {
        throw new IOException(e.getMessage(), e);
      }
      kept.put(frame, known);
    }
    return known;
  }

  /** The mesh with the materials of the same names. */
  private PolygonMesh dressed(PolygonMesh mesh, Scene scene) {
    int[] ids = new int[mesh.materialIds().length];
    for (int slot = 0; slot < ids.length; slot++) {
      ids[slot] =
          scene
              .material(mesh.materialIds()[slot])
              .map(m -> materials.getOrDefault(m.name(), -1))
              .orElse(-1);
    }
    return mesh.toBuilder().materials(ids, mesh.faceSlot()).build();
  }

  /**
   * Meshes by the paths of the first parts that show them. What is named after its file has another
   * name in each: it is known by {@link #FILE}.
   */
  static Map<String, PolygonMesh> meshes(Scene scene, String file) {
    String stem = CargoPath.stem(file);
    Map<Integer, PolygonMesh> byId = scene.meshesById();
    Map<String, PolygonMesh> byPath = new LinkedHashMap<>();
    List<String> paths = scene.paths();
    for (int i = 0; i < paths.size(); i++) {
      if (scene.nodes().get(i).content() instanceof Node.Content.MeshContent content) {
        String path = paths.get(i);
        boolean named = path.equals(stem) || path.startsWith(stem + "/");
        byPath.putIfAbsent(
            named ? FILE + path.substring(stem.length()) : path, byId.get(content.meshId()));
      }
    }
    return byPath;
  }
}
