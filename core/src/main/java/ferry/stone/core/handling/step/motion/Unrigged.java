package ferry.stone.core.handling.step.motion;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * Meshes without the joints and morph targets that did not count while a cache moved them, and
 * would move them a second time when it is gone.
 */
final class Unrigged {
  private final Set<Integer> meshes;
  private final Set<Integer> nodes = new HashSet<>();
  private final List<Finding> findings = new ArrayList<>();
  private final Scene scene;

  /**
   * @param meshes ids of those whose caches go
   */
  Unrigged(Scene scene, Set<Integer> meshes) {
    this.meshes = meshes;
    for (Node node : scene.nodes()) {
      if (shown(node) != null) {
        nodes.add(node.id());
      }
    }
    this.scene =
        scene.toBuilder()
            .meshes(scene.meshes().stream().map(this::mesh).toList())
            .skins(scene.skins().stream().filter(s -> !meshes.contains(s.meshId())).toList())
            .nodes(scene.nodes().stream().map(this::node).toList())
            .clips(scene.clips().stream().map(this::clip).toList())
            .build();
  }

  Scene scene() {
    return scene;
  }

  /** What went. */
  List<Finding> findings() {
    return findings;
  }

  private Node.Content.MeshContent shown(Node node) {
    return node.content() instanceof Node.Content.MeshContent content
            && meshes.contains(content.meshId())
        ? content
        : null;
  }

  private PolygonMesh mesh(PolygonMesh mesh) {
    if (!meshes.contains(mesh.id()) || mesh.morphs().isEmpty()) {
      return mesh;
    }
    tell(mesh.name(), "Its morph targets did nothing while the cache moved it: they go with it.");
    return mesh.toBuilder().morphs(List.of()).build();
  }

  private Node node(Node node) {
    Node.Content.MeshContent content = shown(node);
    if (content == null) {
      return node;
    }
    if (content.skinId() >= 0) {
      tell(node.name(), "Its joints did nothing while the cache moved it: they let go of it.");
    }
    return node.withContent(content.withSkin(-1).withMorphWeights(null));
  }

  private Clip clip(Clip clip) {
    return clip.withTracks(
            clip.tracks().stream().filter(t -> !isGone(t.targetId(), t.property())).toList())
        .withKeys(clip.keys().stream().filter(k -> !isGone(k.targetId(), k.property())).toList());
  }

  private boolean isGone(int targetId, String property) {
    return property.startsWith(Clip.MORPH) && nodes.contains(targetId);
  }

  private void tell(String where, String message) {
    findings.add(Finding.of("cache-rig-let-go", Severity.LOOK, where, message));
  }
}
