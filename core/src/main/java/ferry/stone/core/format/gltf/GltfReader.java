package ferry.stone.core.format.gltf;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.format.CargoPath;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.ReferenceFinder;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.LocalTransform;
import ferry.stone.core.scene.Node;
import ferry.stone.core.scene.PolygonMesh;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.UvOrigin;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/** Reads a GLB or glTF file; see {@link GltfFormat} for what is read so far. */
public final class GltfReader {
  private static final Set<String> KNOWN =
      Set.of("KHR_texture_transform", "KHR_materials_emissive_strength");

  private final GltfContainer container;
  private final ReadContext context;
  private final SceneBuilder scene;

  private GltfReader(GltfContainer container, ReadContext context, SceneBuilder scene) {
    this.container = container;
    this.context = context;
    this.scene = scene;
  }

  public static Scene read(String resource, ReadContext context)
      throws IOException, FormatException {
    ReferenceFinder finder = new ReferenceFinder(context.resources(), context.bindings());
    GltfContainer container = GltfContainer.open(resource, context.resources(), finder);
    SceneBuilder scene =
        new SceneBuilder(CargoPath.stem(resource))
            .frame(Frame.Y_UP_METRE, FrameSource.FORMAT, FrameSource.FORMAT)
            .uvOrigin(UvOrigin.TOP_LEFT)
            .linearColours(true);
    return new GltfReader(container, context, scene).build(finder, resource);
  }

  private Scene build(ReferenceFinder finder, String resource) throws IOException, FormatException {
    JsonNode root = container.root();
    refuseUnknown(root);
    String name = root.path("scenes").path(root.path("scene").asInt(0)).path("name").asText("");
    if (!name.isEmpty()) {
      scene.name(name);
    }
    GltfMaterialReader materials = new GltfMaterialReader(container, scene, finder, resource);
    List<Integer> materialIds = materials.read(context.findings());
    GltfMeshReader meshReader = new GltfMeshReader(container, materialIds);
    List<Integer> meshIds = new ArrayList<>();
    int count = root.path("meshes").size();
    for (int m = 0; m < count; m++) {
      context.progress().checkCancelled();
      context.progress().report("reading meshes", (double) m / count);
      PolygonMesh mesh = meshReader.read(m, scene.newId());
      meshIds.add(mesh.id());
      scene.add(mesh);
    }
    readNodes(root, meshIds);
    return scene.build();
  }

  private void refuseUnknown(JsonNode root) throws FormatException {
    int i = 0;
    for (JsonNode extension : root.path("extensionsRequired")) {
      if (!KNOWN.contains(extension.asText())) {
        throw container.error(
            Kind.UNSUPPORTED,
            "/extensionsRequired/" + i,
            "the file needs " + extension.asText() + ", which cannot be read yet.");
      }
      i++;
    }
    for (String list : new String[] {"skins", "animations"}) {
      if (root.path(list).size() > 0) {
        throw container.error(
            Kind.UNSUPPORTED, "/" + list, "skins and clips of glTF cannot be read yet.");
      }
    }
  }

  private void readNodes(JsonNode root, List<Integer> meshIds) throws FormatException {
    JsonNode nodes = root.path("nodes");
    boolean[] seen = new boolean[nodes.size()];
    JsonNode scenes = root.path("scenes");
    List<Integer> roots = new ArrayList<>();
    if (scenes.size() > 0) {
      int active = container.integer(root, "scene", 0, "");
      for (JsonNode index : container.item("scenes", active, "/scene").path("nodes")) {
        roots.add(index.asInt(-1));
      }
    } else {
      boolean[] child = new boolean[nodes.size()];
      nodes.forEach(
          n ->
              n.path("children")
                  .forEach(
                      c -> {
                        if (c.asInt(-1) >= 0 && c.asInt() < child.length) {
                          child[c.asInt()] = true;
                        }
                      }));
      for (int i = 0; i < child.length; i++) {
        if (!child[i]) {
          roots.add(i);
        }
      }
    }
    // A stack of (node, parent place) instead of recursion: a file may nest as deep as it likes.
    java.util.ArrayDeque<int[]> stack = new java.util.ArrayDeque<>();
    for (int i = roots.size() - 1; i >= 0; i--) {
      stack.push(new int[] {roots.get(i), -1});
    }
    while (!stack.isEmpty()) {
      int[] next = stack.pop();
      String path = "/nodes/" + next[0];
      JsonNode json = container.item("nodes", next[0], "/scenes");
      if (seen[next[0]]) {
        throw container.error(Kind.CORRUPT, path, "is reached twice: the hierarchy has a loop.");
      }
      seen[next[0]] = true;
      int place = scene.add(node(json, path, next[1], meshIds));
      JsonNode children = json.path("children");
      for (int c = children.size() - 1; c >= 0; c--) {
        stack.push(new int[] {children.get(c).asInt(-1), place});
      }
    }
  }

  private Node node(JsonNode json, String path, int parent, List<Integer> meshIds)
      throws FormatException {
    Node.Content content = Node.Content.GROUP;
    if (json.has("mesh")) {
      int mesh = container.integer(json, "mesh", -1, path);
      container.item("meshes", mesh, path + "/mesh");
      content = Node.Content.MeshContent.of(meshIds.get(mesh));
    }
    return Node.of(scene.newId(), json.path("name").asText(""), parent, content)
        .withTransform(transform(json, path));
  }

  private LocalTransform transform(JsonNode json, String path) throws FormatException {
    if (json.has("matrix")) {
      return new LocalTransform.MatrixTransform(
          new Matrix4d().set(numbers(json, "matrix", 16, path)));
    }
    if (!json.has("translation") && !json.has("rotation") && !json.has("scale")) {
      return LocalTransform.IDENTITY;
    }
    double[] t = json.has("translation") ? numbers(json, "translation", 3, path) : new double[3];
    double[] r =
        json.has("rotation") ? numbers(json, "rotation", 4, path) : new double[] {0, 0, 0, 1};
    double[] s = json.has("scale") ? numbers(json, "scale", 3, path) : new double[] {1, 1, 1};
    return LocalTransform.Trs.of(
        new Vector3d(t), new Quaterniond(r[0], r[1], r[2], r[3]), new Vector3d(s));
  }

  private double[] numbers(JsonNode json, String key, int count, String path)
      throws FormatException {
    JsonNode array = json.path(key);
    if (array.size() != count) {
      throw container.error(
          Kind.CORRUPT, path + "/" + key, "expected " + count + " numbers, found " + array.size());
    }
    double[] values = new double[count];
    for (int i = 0; i < count; i++) {
      values[i] = array.get(i).asDouble(Double.NaN);
      if (!Double.isFinite(values[i])) {
        throw container.error(Kind.CORRUPT, path + "/" + key + "/" + i, "is no number.");
      }
    }
    return values;
  }
}
