package ferry.stone.core.format.gltf.read;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.FileTree;
import ferry.stone.core.format.files.ReferenceFinder;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.gltf.raw.GltfContainer;
import ferry.stone.core.format.gltf.raw.GltfExtensions;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.NodePaths;
import java.io.IOException;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * What viewers make of a written file beside what {@link GltfReader} makes of it: they list the
 * nodes of the scene one by one, know no levels of MSFT_lod, and take a matrix apart into
 * translation, rotation and scale, as section 3.5.3 demands that it can be.
 */
public final class GltfTree {
  private GltfTree() {}

  /** The nodes of the file's own scene. */
  public static FileTree read(String resource, Resources resources)
      throws IOException, FormatException {
    ReferenceFinder finder = new ReferenceFinder(resources, Map.of());
    JsonNode root = GltfContainer.open(resource, resources, finder, new Findings()).root();
    JsonNode nodes = root.path("nodes");
    List<String> paths = new ArrayList<>();
    List<Vector3d> origins = new ArrayList<>();
    List<Boolean> seen = new ArrayList<>();
    Deque<Step> stack = new ArrayDeque<>();
    JsonNode tops = root.path("scenes").path(root.path("scene").asInt(0)).path("nodes");
    for (int i = tops.size() - 1; i >= 0; i--) {
      stack.push(new Step(tops.get(i).asInt(-1), null, new Matrix4d(), true));
    }
    while (!stack.isEmpty()) {
      Step step = stack.pop();
      JsonNode node = nodes.path(step.node());
      String name = node.path("name").asText("");
      NodePaths.Path path =
          step.above() == null ? NodePaths.Path.root(name) : step.above().child(name);
      Matrix4d world = new Matrix4d(step.world()).mul(local(node).toMatrix());
      paths.add(path.text());
      origins.add(world.getTranslation(new Vector3d()));
      boolean shown =
          step.seen()
              && node.at("/extensions/" + GltfExtensions.VISIBILITY + "/visible").asBoolean(true);
      seen.add(shown);
      JsonNode children = node.path("children");
      for (int i = children.size() - 1; i >= 0; i--) {
        stack.push(new Step(children.get(i).asInt(-1), path, world, shown));
      }
    }
    double[] numbers = new double[3 * origins.size()];
    boolean[] all = new boolean[origins.size()];
    for (int i = 0; i < origins.size(); i++) {
      all[i] = seen.get(i);
      numbers[3 * i] = origins.get(i).x;
      numbers[3 * i + 1] = origins.get(i).y;
      numbers[3 * i + 2] = origins.get(i).z;
    }
    return new FileTree(paths, all, numbers);
  }

  private record Step(int node, NodePaths.Path above, Matrix4d world, boolean seen) {}

  private static Trs local(JsonNode node) {
    JsonNode matrix = node.path("matrix");
    if (matrix.size() == 16) {
      double[] m = new double[16];
      for (int i = 0; i < 16; i++) {
        m[i] = matrix.get(i).asDouble();
      }
      return Trs.nearest(new Matrix4d().set(m));
    }
    JsonNode t = node.path("translation");
    JsonNode r = node.path("rotation");
    JsonNode s = node.path("scale");
    return Trs.of(
        new Vector3d(t.path(0).asDouble(), t.path(1).asDouble(), t.path(2).asDouble()),
        new Quaterniond(
            r.path(0).asDouble(),
            r.path(1).asDouble(),
            r.path(2).asDouble(),
            r.path(3).asDouble(1)),
        new Vector3d(s.path(0).asDouble(1), s.path(1).asDouble(1), s.path(2).asDouble(1)));
  }

  /** A scene that was read here, with its matrices taken apart as viewers do. */
  public static Scene viewed(Scene read) {
    List<Node> nodes = new ArrayList<>();
    for (Node node : read.nodes()) {
      nodes.add(
          node.transform() instanceof LocalTransform.MatrixTransform m
              ? node.withTransform(Trs.nearest(m.matrix()))
              : node);
    }
    return read.toBuilder().nodes(nodes).build();
  }
}
