package ferry.stone.core.format.gltf.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Copies;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.CopySet;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * Copies of a mesh that stand under one parent, gathered into one node each:
 * EXT_mesh_gpu_instancing.
 *
 * @param scene with one node in place of the copies
 * @param places where the copies stand in that node, by its id
 */
record GltfGathered(Scene scene, Map<Integer, List<Trs>> places) {
  private static final double SHEAR_TOLERANCE = 1e-9;

  static GltfGathered none(Scene scene) {
    return new GltfGathered(scene, Map.of());
  }

  /**
   * Only the copies that their source listed as places of one mesh: nothing of them is lost.
   *
   * @param sets as {@link Copies#listed} gives them
   */
  static GltfGathered listed(Scene scene, List<CopySet> sets) {
    Map<Integer, Integer> placeOf = scene.nodePlaces();
    Map<Integer, List<Trs>> places = new HashMap<>();
    Map<Integer, Node> changed = new HashMap<>();
    Set<Integer> gone = new HashSet<>();
    for (CopySet set : sets) {
      List<Integer> copies = Arrays.stream(set.nodeIds()).mapToObj(placeOf::get).toList();
      int holder = placeOf.get(set.holderId());
      Node first = scene.nodes().get(copies.get(0));
      changed.put(holder, scene.nodes().get(holder).withContent(first.content()));
      places.put(
          set.holderId(), copies.stream().map(i -> trs(scene.nodes().get(i).transform())).toList());
      gone.addAll(copies);
    }
    return places.isEmpty() ? none(scene) : new GltfGathered(without(scene, gone, changed), places);
  }

  /** The copies of two scenes, of which the other was made of this one's. */
  GltfGathered with(GltfGathered other) {
    Map<Integer, List<Trs>> both = new HashMap<>(places);
    both.putAll(other.places);
    return new GltfGathered(other.scene, both);
  }

  /** All copies under one parent, by choice. */
  GltfGathered gather(Findings findings) {
    return with(of(scene, places.keySet(), findings));
  }

  private static GltfGathered of(Scene scene, Set<Integer> done, Findings findings) {
    Map<List<Object>, List<Integer>> groups = groups(scene, done);
    int[] children = new int[scene.nodes().size()];
    scene.nodes().stream().filter(n -> n.parent() >= 0).forEach(n -> children[n.parent()]++);
    Map<Integer, List<Trs>> places = new HashMap<>();
    Map<Integer, Node> changed = new HashMap<>();
    Set<Integer> gone = new HashSet<>();
    for (List<Integer> copies : groups.values()) {
      if (copies.size() < 2) {
        continue;
      }
      Node first = scene.nodes().get(copies.get(0));
      List<Trs> list = copies.stream().map(i -> trs(scene.nodes().get(i).transform())).toList();
      gone.addAll(copies);
      boolean whole =
          first.parent() >= 0
              && children[first.parent()] == copies.size()
              && scene.nodes().get(first.parent()).content() instanceof Node.Content.Group;
      if (whole) {
        Node parent = scene.nodes().get(first.parent());
        changed.put(first.parent(), parent.withContent(first.content()));
        places.put(parent.id(), list);
      } else {
        gone.remove(copies.get(0));
        changed.put(copies.get(0), first.withTransform(LocalTransform.IDENTITY));
        places.put(first.id(), list);
      }
    }
    if (places.isEmpty()) {
      return none(scene);
    }
    findings.add(
        Finding.of(
                "copies-gathered",
                Severity.LOOK,
                "",
                "Copies of one mesh under one parent were gathered into one node each. They stand"
                    + " where they stood, but have no names of their own any more.")
            .measured(
                Figures.count(places.values().stream().mapToInt(List::size).sum(), "part")
                    + " in "
                    + Figures.count(places.size(), "node")));
    return new GltfGathered(without(scene, gone, changed), places);
  }

  /** Parts that are nothing but a mesh at a place, by parent, mesh and materials. */
  private static Map<List<Object>, List<Integer>> groups(Scene scene, Set<Integer> done) {
    Set<Integer> kept = new HashSet<>();
    scene.nodes().forEach(n -> kept.add(n.parent()));
    Set<Integer> moving = new HashSet<>();
    scene.clips().stream().flatMap(c -> c.tracks().stream()).forEach(t -> moving.add(t.targetId()));
    Map<Integer, PolygonMesh> meshes = scene.meshesById();
    Map<List<Object>, List<Integer>> groups = new LinkedHashMap<>();
    for (int i = 0; i < scene.nodes().size(); i++) {
      Node node = scene.nodes().get(i);
      boolean level =
          node.parent() >= 0
              && scene.nodes().get(node.parent()).content() instanceof Node.Content.DetailGroup;
      if (node.content() instanceof Node.Content.MeshContent content
          && meshes.containsKey(content.meshId())
          && meshes.get(content.meshId()).morphs().isEmpty()
          && scene.skin(content.skinId()).isEmpty()
          && node.visible()
          && node.properties().isEmpty()
          && !level
          && !done.contains(node.id())
          && !kept.contains(i)
          && !moving.contains(node.id())
          && trs(node.transform()) != null) {
        groups
            .computeIfAbsent(
                List.of(node.parent(), content.meshId(), Arrays.toString(content.slotMaterials())),
                k -> new ArrayList<>())
            .add(i);
      }
    }
    return groups;
  }

  /** Translation, rotation and scale, or {@code null} when the transform shears. */
  private static Trs trs(LocalTransform transform) {
    if (transform instanceof Trs trs) {
      return trs;
    }
    Matrix4d m = transform.toMatrix();
    Vector3d scale = m.getScale(new Vector3d());
    if (m.determinant3x3() < 0) {
      scale.negate();
    }
    Matrix4d turn = new Matrix4d(m).scale(1 / scale.x, 1 / scale.y, 1 / scale.z);
    Trs result =
        Trs.of(
            m.getTranslation(new Vector3d()), turn.getNormalizedRotation(new Quaterniond()), scale);
    double size = Math.max(1, Math.max(Math.abs(scale.x), Math.abs(scale.y)));
    return result.toMatrix().equals(m, SHEAR_TOLERANCE * size) ? result : null;
  }

  private static Scene without(Scene scene, Set<Integer> gone, Map<Integer, Node> changed) {
    SceneBuilder builder = scene.toBuilder();
    List<Node> nodes = new ArrayList<>();
    int[] newPlace = new int[scene.nodes().size()];
    for (int i = 0; i < newPlace.length; i++) {
      Node node = changed.getOrDefault(i, scene.nodes().get(i));
      if (!gone.contains(i)) {
        newPlace[i] = nodes.size();
        nodes.add(node.parent() < 0 ? node : node.withParent(newPlace[node.parent()]));
      }
    }
    return builder.nodes(nodes).build();
  }
}
