package ferry.stone.core.cargo;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneMap;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;

/** A scene with one kind of its contents, in their places. */
final class TakenPart {
  private TakenPart() {}

  static Scene of(Scene scene, FileUse use) {
    return switch (use) {
      case ALL, HIGH, LOW -> scene;
      case SHAPES -> shapes(scene);
      case CAMERAS -> only(scene, Content.CameraContent.class);
      case LIGHTS -> only(scene, Content.LightContent.class);
      default -> throw new IllegalArgumentException(use + " does not stand by itself");
    };
  }

  private static Scene shapes(Scene scene) {
    boolean[] stays = new boolean[scene.nodes().size()];
    for (int i = stays.length - 1; i >= 0; i--) {
      Node node = scene.nodes().get(i);
      stays[i] |= !isOther(node.content());
      if (stays[i] && node.parent() >= 0) {
        stays[node.parent()] = true;
      }
    }
    Scene left =
        scene.toBuilder()
            .nodes(nodes(scene, stays, content -> !isOther(content)))
            .cameras(List.of())
            .lights(List.of())
            .clips(List.of())
            .build();
    return SceneMap.same(left).apply(left);
  }

  private static boolean isOther(Content content) {
    return content instanceof Content.CameraContent || content instanceof Content.LightContent;
  }

  /** Nodes that stay, as groups where their content is not wanted. */
  private static List<Node> nodes(Scene scene, boolean[] stays, Predicate<Content> wanted) {
    List<Node> nodes = new ArrayList<>();
    Map<Integer, Integer> places = new HashMap<>();
    places.put(-1, -1);
    for (int i = 0; i < stays.length; i++) {
      if (stays[i]) {
        Node node = scene.nodes().get(i);
        places.put(i, nodes.size());
        Content content = wanted.test(node.content()) ? node.content() : Content.GROUP;
        nodes.add(node.withParent(places.get(node.parent())).withContent(content));
      }
    }
    return nodes;
  }

  /** Nodes of a kind, what they hang on, and the clips that move those. */
  private static Scene only(Scene scene, Class<? extends Content> kind) {
    boolean[] stays = new boolean[scene.nodes().size()];
    for (int i = stays.length - 1; i >= 0; i--) {
      Node node = scene.nodes().get(i);
      stays[i] |= kind.isInstance(node.content());
      if (stays[i] && node.parent() >= 0) {
        stays[node.parent()] = true;
      }
    }
    List<Node> nodes = nodes(scene, stays, kind::isInstance);
    Set<Integer> cameras = new HashSet<>();
    Set<Integer> lights = new HashSet<>();
    for (Node node : nodes) {
      if (node.content() instanceof Content.CameraContent camera) {
        cameras.add(camera.cameraId());
      } else if (node.content() instanceof Content.LightContent light) {
        lights.add(light.lightId());
      }
    }
    Scene left =
        scene.toBuilder()
            .nodes(nodes)
            .meshes(List.of())
            .materials(List.of())
            .textures(List.of())
            .skins(List.of())
            .caches(List.of())
            .sequences(List.of())
            .variants(List.of())
            .cameras(scene.cameras().stream().filter(c -> cameras.contains(c.id())).toList())
            .lights(scene.lights().stream().filter(l -> lights.contains(l.id())).toList())
            .build();
    Scene whole = SceneMap.same(left).apply(left);
    return whole.toBuilder()
        .clips(whole.clips().stream().filter(c -> !c.tracks().isEmpty()).toList())
        .build();
  }
}
