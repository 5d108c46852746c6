package ferry.stone.core.landing;

import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.Step;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.Collections;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What of the far side lands: all of it, some parts, or without what a destination does not want.
 * The far side itself stays as it is; the proof compares with what was to land.
 *
 * @param only pattern of names of parts, with what hangs on them and the joints that move them;
 *     empty for all
 * @param without what stays behind; without {@link What#SHAPES} motion alone lands
 */
public record LandedContents(String only, Set<What> without) {
  public static final LandedContents ALL = new LandedContents("", Set.of());

  /** What may stay behind. */
  public enum What {
    /** Meshes, with their skins, morph targets and caches. */
    SHAPES,
    MATERIALS,
    CLIPS,
    CAMERAS,
    LIGHTS,
    /** Custom values of parts. */
    VALUES
  }

  public LandedContents {
    only = only == null ? "" : only.strip();
    without =
        without == null || without.isEmpty()
            ? Set.of()
            : Collections.unmodifiableSet(EnumSet.copyOf(without));
  }

  /** The far side as it is to land; the very scene where everything is. */
  Scene of(Scene far) {
    Scene scene = only.isEmpty() ? far : chosen(far);
    for (What what : without) {
      scene =
          switch (what) {
            case SHAPES -> withoutShapes(scene);
            case MATERIALS -> withoutMaterials(scene);
            case CLIPS -> removed(scene, "clips", List.of());
            case CAMERAS -> removed(scene, "cameras", List.of());
            case LIGHTS -> removed(scene, "lights", List.of());
            case VALUES -> removed(scene, "properties", List.of());
          };
    }
    return scene;
  }

  private static Scene removed(Scene scene, String what, List<Integer> ids) {
    Step step = new Step(what, "remove", Map.of("what", what), true, ids);
    return Handling.result(scene, Handling.run(scene, List.of(step), Progress.NONE));
  }

  private Scene chosen(Scene scene) {
    boolean[] below = new Selection(List.of(), only, "").withBelow(scene);
    boolean[] stays = below.clone();
    Map<Integer, Integer> places = scene.nodePlaces();
    Set<Integer> skins = new HashSet<>();
    for (int i = 0; i < below.length; i++) {
      if (below[i] && scene.nodes().get(i).content() instanceof Node.Content.MeshContent mesh) {
        skins.add(mesh.skinId());
      }
    }
    for (Skin skin : scene.skins()) {
      for (int joint : skins.contains(skin.id()) ? skin.jointNodeIds() : new int[0]) {
        stays[places.get(joint)] = true;
      }
    }
    for (int i = stays.length - 1; i >= 0; i--) {
      int parent = scene.nodes().get(i).parent();
      if (stays[i] && parent >= 0) {
        stays[parent] = true;
      }
    }
    List<Node> nodes = new ArrayList<>();
    List<Integer> gone = new ArrayList<>();
    for (int i = 0; i < stays.length; i++) {
      Node node = scene.nodes().get(i);
      // What a chosen part hangs on stays as a place, without a shape of its own.
      boolean bare = !below[i] && !(node.content() instanceof Node.Content.Joint);
      nodes.add(bare ? node.withContent(Node.Content.GROUP) : node);
      if (!stays[i] && (node.parent() < 0 || stays[node.parent()])) {
        gone.add(node.id());
      }
    }
    Scene result = scene.toBuilder().nodes(nodes).build();
    if (!gone.isEmpty()) {
      result = removed(result, "parts", gone);
    }
    return removed(unused(result), "unusedMaterials", List.of());
  }

  /** Without meshes that no part shows, and what is theirs. */
  private static Scene unused(Scene scene) {
    Set<Integer> shown = new HashSet<>();
    for (Node node : scene.nodes()) {
      if (node.content() instanceof Node.Content.MeshContent mesh) {
        shown.add(mesh.meshId());
      }
    }
    return withMeshes(scene, shown);
  }

  private static Scene withMeshes(Scene scene, Set<Integer> kept) {
    return scene.toBuilder()
        .meshes(scene.meshes().stream().filter(m -> kept.contains(m.id())).toList())
        .caches(scene.caches().stream().filter(c -> kept.contains(c.meshId())).toList())
        .sequences(scene.sequences().stream().filter(s -> kept.contains(s.meshId())).toList())
        .build();
  }

  private static Scene withoutShapes(Scene scene) {
    List<Node> nodes = new ArrayList<>();
    for (Node node : scene.nodes()) {
      boolean shape =
          node.content() instanceof Node.Content.MeshContent
              || node.content() instanceof Node.Content.KeptShape;
      nodes.add(shape ? node.withContent(Node.Content.GROUP) : node);
    }
    Scene bare = scene.toBuilder().nodes(nodes).skins(List.of()).build();
    return withoutMaterials(withMeshes(bare, Set.of()));
  }

  private static Scene withoutMaterials(Scene scene) {
    List<Node> nodes = new ArrayList<>();
    for (Node node : scene.nodes()) {
      Node.Content content = node.content();
      if (content instanceof Node.Content.MeshContent mesh && mesh.slotMaterials() != null) {
        content =
            new Node.Content.MeshContent(mesh.meshId(), mesh.skinId(), null, mesh.morphWeights());
      } else if (content instanceof Node.Content.KeptShape kept) {
        content = new Node.Content.KeptShape(kept.schema(), new int[0]);
      }
      nodes.add(content == node.content() ? node : node.withContent(content));
    }
    Set<Integer> materials = new HashSet<>();
    scene.materials().forEach(m -> materials.add(m.id()));
    return scene.toBuilder()
        .nodes(nodes)
        .meshes(
            scene.meshes().stream()
                .map(
                    m ->
                        m.toBuilder()
                            .materials(new int[0], null)
                            .variantMaterials(new int[0][])
                            .build())
                .toList())
        .materials(List.of())
        .textures(List.of())
        .variants(List.of())
        .clips(scene.clips().stream().map(c -> withoutTracks(c, materials)).toList())
        .build();
  }

  private static Clip withoutTracks(Clip clip, Set<Integer> targets) {
    return new Clip(
        clip.id(),
        clip.name(),
        clip.startSeconds(),
        clip.endSeconds(),
        clip.tracks().stream().filter(t -> !targets.contains(t.targetId())).toList(),
        clip.keys().stream().filter(k -> !targets.contains(k.targetId())).toList(),
        clip.words());
  }
}
