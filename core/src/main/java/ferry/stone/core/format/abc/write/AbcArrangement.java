package ferry.stone.core.format.abc.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.files.FreeNames;
import ferry.stone.core.format.flat.ArrangedParts;
import ferry.stone.core.geometry.triangle.GeometricFold;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.scene.node.Visibility;
import ferry.stone.core.scene.time.Clip;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.joml.Matrix4d;

/**
 * Which objects the nodes of a scene become. An object is a place or what stands there: a mesh or
 * camera with a place of its own stands in a child, one without is an object by itself.
 */
final class AbcArrangement {
  private static final double SAME = 1e-12;

  private final Scene scene;
  private final Set<Integer> moving = new HashSet<>();
  private final Set<Integer> changing = new HashSet<>();
  private final Map<Integer, Integer> shows = new HashMap<>();
  private final Map<Integer, FreeNames> taken = new HashMap<>();
  private final String[] names;
  private final String[] shapes;
  private final boolean[] bare;
  private int helpers;

  AbcArrangement(Scene scene) {
    this.scene = scene;
    for (Clip clip : scene.clips()) {
      for (Clip.Track track : clip.tracks()) {
        (track.isTransform() ? moving : changing).add(track.targetId());
      }
      clip.words().forEach(w -> changing.add(w.targetId()));
    }
    int count = scene.nodes().size();
    names = new String[count];
    shapes = new String[count];
    bare = new boolean[count];
    boolean[] parents = new boolean[count];
    for (Node node : scene.nodes()) {
      if (node.content() instanceof Content.MeshContent content) {
        shows.merge(content.meshId(), 1, Integer::sum);
      }
      if (node.parent() >= 0) {
        parents[node.parent()] = true;
      }
    }
    for (int i = 0; i < count; i++) {
      names[i] = unique(scene.nodes().get(i).parent(), scene.nodes().get(i).name());
    }
    for (int i = 0; i < count; i++) {
      bare[i] = isBare(scene.nodes().get(i), parents[i]);
      if (isShape(scene.nodes().get(i)) && !bare[i]) {
        helpers++;
        shapes[i] = unique(i, shapeName(scene.nodes().get(i), names[i]));
      }
    }
  }

  static boolean isShape(Node node) {
    return node.content() instanceof Content.MeshContent
        || node.content() instanceof Content.CameraContent;
  }

  /** Cameras have names of their own. */
  private String shapeName(Node node, String name) {
    String own =
        node.content() instanceof Content.CameraContent camera
            ? AbcNames.plain(scene.camera(camera.cameraId()).orElseThrow().name())
            : "";
    return own.isEmpty() ? name + GeometricFold.SHAPE : own;
  }

  private boolean isNamed(Node node) {
    return !(node.content() instanceof Content.CameraContent camera)
        || scene.camera(camera.cameraId()).orElseThrow().name().equals(node.name());
  }

  private boolean isBare(Node node, boolean parent) {
    boolean still =
        node.transform().toMatrix().equals(new Matrix4d(), SAME) && !moving.contains(node.id());
    boolean shared =
        node.content() instanceof Content.MeshContent content && shows.get(content.meshId()) > 1;
    // What is shown again is shown with all that its object says and holds.
    boolean plain =
        !parent
            && node.properties().isEmpty()
            && node.visibility() == Visibility.INHERITED
            && !changing.contains(node.id());
    return isShape(node) && still && (!shared || plain) && isNamed(node);
  }

  /**
   * @param parent place of the node above
   */
  String unique(int parent, String name) {
    return taken.computeIfAbsent(parent, k -> new FreeNames()).take(name);
  }

  String name(int place) {
    return names[place];
  }

  /** Name of the child that a node shows, {@code null} where it has none. */
  String shape(int place) {
    return shapes[place];
  }

  /** Whether a node is what it shows, without a place. */
  boolean isBare(int place) {
    return bare[place];
  }

  List<Finding> said() {
    Findings said = new Findings();
    if (helpers > 0) {
      said.add(
          ArrangedParts.helpers(
              helpers, "an object of the format is a place or a shape, and not both"));
    }
    return said.list();
  }
}
