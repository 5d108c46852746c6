package ferry.stone.core.handling.step.place;

import ferry.stone.core.geometry.cache.MovedCache;
import ferry.stone.core.geometry.mesh.MeshMove;
import ferry.stone.core.handling.step.parts.Orphans;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.ChangedSequence;
import ferry.stone.core.scene.time.MeshSequence;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;

/**
 * Matrices baked into what nodes show. A mesh that one node shows changes itself; of one that
 * several show a copy is made for each matrix, so that the others keep theirs.
 */
final class BakedMeshes {
  private final Scene scene;
  private final SceneBuilder builder;
  private final Map<Integer, PolygonMesh> meshes;
  private final Map<Integer, Integer> users = new HashMap<>();
  private final Map<Integer, Matrix4d> moves = new HashMap<>();
  private final Map<String, Integer> copies = new LinkedHashMap<>();
  private final List<PolygonMesh> added = new ArrayList<>();

  BakedMeshes(Scene scene, SceneBuilder builder) {
    this.scene = scene;
    this.builder = builder;
    meshes = new HashMap<>(scene.meshesById());
    for (Node node : scene.nodes()) {
      if (node.content() instanceof Node.Content.MeshContent content) {
        users.merge(content.meshId(), 1, Integer::sum);
      }
    }
  }

  /** The node showing its mesh through a matrix that is in the mesh's numbers. */
  Node bake(Node node, Matrix4d matrix) {
    if (!(node.content() instanceof Node.Content.MeshContent content)
        || matrix.equals(new Matrix4d(), 0)) {
      return node;
    }
    int id = content.meshId();
    if (users.get(id) == 1) {
      meshes.put(id, MeshMove.by(meshes.get(id), matrix));
      moves.merge(id, matrix, (old, next) -> new Matrix4d(next).mul(old));
      return node;
    }
    int copy =
        copies.computeIfAbsent(
            id + Arrays.toString(matrix.get(new double[16])), k -> copy(id, matrix));
    return node.withContent(
        new Node.Content.MeshContent(
            copy, content.skinId(), content.slotMaterials(), content.morphWeights()));
  }

  private int copy(int id, Matrix4d matrix) {
    int copy = builder.newId();
    added.add(MeshMove.by(meshes.get(id), matrix).toBuilder().id(copy).build());
    return copy;
  }

  /** Puts the meshes and their caches in; those that nothing shows any more go. */
  Scene build() {
    List<PolygonMesh> all = new ArrayList<>();
    scene.meshes().forEach(m -> all.add(meshes.get(m.id())));
    all.addAll(added);
    builder.mapCaches(
        cache -> {
          Matrix4d move = moves.get(cache.meshId());
          return move == null ? cache : new MovedCache(cache, move);
        });
    List<MeshSequence> sequences = new ArrayList<>();
    for (MeshSequence sequence : scene.sequences()) {
      Matrix4d move = moves.get(sequence.meshId());
      sequences.add(
          move == null ? sequence : ChangedSequence.of(sequence, mesh -> MeshMove.by(mesh, move)));
    }
    return Orphans.without(builder.meshes(all).sequences(sequences).build());
  }
}
