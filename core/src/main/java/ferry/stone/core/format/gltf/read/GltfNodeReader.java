package ferry.stone.core.format.gltf.read;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.gltf.raw.GltfContainer;
import ferry.stone.core.format.gltf.raw.GltfExtensions;
import ferry.stone.core.format.gltf.raw.GltfExtras;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import java.io.IOException;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/** Reads the hierarchy of one scene of the file with all that its nodes show, and the motion. */
final class GltfNodeReader {
  /** The binding under which the number of the scene to read is kept. */
  static final String SCENE = "scene";

  private static final Set<String> TAKEN = Set.of("MSFT_screencoverage");

  private final GltfContainer container;
  private final GltfAccessors accessors;
  private final SceneBuilder scene;
  private final List<GltfMeshReader.ReadMesh> meshes;
  private final List<Integer> materialIds;
  private final String resource;
  private final ReadContext context;
  private final JsonNode nodes;
  private final int[] idOf;
  private final boolean[] isJoint;
  private final GltfSkinReader skins;
  private final GltfCameraReader cameras;
  private final List<Node> added = new ArrayList<>();

  GltfNodeReader(
      GltfContainer container,
      SceneBuilder scene,
      List<GltfMeshReader.ReadMesh> meshes,
      List<Integer> materialIds,
      String resource,
      ReadContext context) {
    this.container = container;
    this.scene = scene;
    this.meshes = meshes;
    this.materialIds = materialIds;
    this.resource = resource;
    this.context = context;
    accessors = new GltfAccessors(container);
    nodes = container.root().path("nodes");
    idOf = new int[nodes.size()];
    isJoint = new boolean[nodes.size()];
    skins = new GltfSkinReader(container, accessors, scene);
    cameras = new GltfCameraReader(container, scene);
  }

  void read() throws IOException, FormatException {
    for (int s = 0; s < container.root().path("skins").size(); s++) {
      for (int joint : skins.joints(s)) {
        isJoint[joint] = true;
      }
    }
    for (int i = 0; i < idOf.length; i++) {
      idOf[i] = -1;
    }
    Set<Integer> levels = levelNodes();
    int[] parents = parents();
    for (int root : roots(parents, levels)) {
      walk(root, -1);
    }
    // A joint outside the scene still moves its skin: its tree is read as well.
    for (int i = 0; i < isJoint.length; i++) {
      if (isJoint[i] && idOf[i] < 0) {
        int top = i;
        while (parents[top] >= 0) {
          top = parents[top];
        }
        walk(top, -1);
        context
            .findings()
            .add(
                Finding.of(
                    "joint-outside-scene",
                    Severity.LOOK,
                    "/nodes/" + top,
                    "Joints of a skin stand in no part of the scene; they are read as a root."));
      }
    }
    added.forEach(scene::add);
    skins.build(idOf, meshes);
    var elements =
        new GltfAnimationReader.Elements(materialIds, cameras.cameraIds(), cameras.lightIds());
    new GltfAnimationReader(container, accessors, scene, idOf, meshes, elements, context.findings())
        .read();
  }

  /** Parent of each node, −1 for none; refuses two parents and loops. */
  private int[] parents() throws FormatException {
    int[] parents = new int[nodes.size()];
    Arrays.fill(parents, -1);
    for (int i = 0; i < parents.length; i++) {
      JsonNode children = nodes.get(i).path("children");
      for (int c = 0; c < children.size(); c++) {
        String at = "/nodes/" + i + "/children/" + c;
        int child = children.get(c).asInt(-1);
        container.item("nodes", child, at);
        if (parents[child] >= 0) {
          throw container.error(
              Kind.CORRUPT, "/nodes/" + child, "is reached twice: it has two parents.");
        }
        parents[child] = i;
      }
    }
    int[] seen = new int[parents.length];
    for (int i = 0; i < parents.length; i++) {
      for (int at = i; at >= 0 && seen[at] != i + 1; at = parents[at]) {
        if (seen[at] > 0) {
          break;
        }
        seen[at] = i + 1;
        if (parents[at] >= 0 && seen[parents[at]] == i + 1) {
          throw container.error(
              Kind.CORRUPT, "/nodes/" + at, "is reached twice: the hierarchy has a loop.");
        }
      }
    }
    return parents;
  }

  /** Nodes that stand only as coarser levels of another. */
  private Set<Integer> levelNodes() throws FormatException {
    Set<Integer> levels = new HashSet<>();
    for (int i = 0; i < nodes.size(); i++) {
      JsonNode ids = nodes.get(i).at("/extensions/" + GltfExtensions.LEVELS + "/ids");
      for (int k = 0; k < ids.size(); k++) {
        int level = ids.get(k).asInt(-1);
        container.item("nodes", level, "/nodes/" + i + "/extensions/MSFT_lod/ids/" + k);
        levels.add(level);
      }
    }
    return levels;
  }

  private List<Integer> roots(int[] parents, Set<Integer> levels) throws FormatException {
    JsonNode scenes = container.root().path("scenes");
    List<Integer> roots = new ArrayList<>();
    if (scenes.size() == 0) {
      for (int i = 0; i < parents.length; i++) {
        if (parents[i] < 0 && !levels.contains(i)) {
          roots.add(i);
        }
      }
      return roots;
    }
    int active = container.integer(container.root(), "scene", 0, "");
    int chosen = context.values(GltfReader.FIELDS).whole(SCENE);
    if (chosen > 0 && chosen <= scenes.size()) {
      active = chosen - 1;
    }
    JsonNode shown = container.item("scenes", active, "/scene");
    if (scenes.size() > 1) {
      reportScenes(scenes, active);
    }
    String name = shown.path("name").asText("");
    if (!name.isEmpty()) {
      scene.name(name);
    }
    GltfExtras.properties(shown, GltfExtensions.READ, Set.of()).forEach(scene::property);
    for (JsonNode index : shown.path("nodes")) {
      int root = index.asInt(-1);
      container.item("nodes", root, "/scenes/" + active + "/nodes");
      if (parents[root] >= 0) {
        throw container.error(
            Kind.CORRUPT, "/scenes/" + active + "/nodes", "node " + root + " is no root.");
      }
      if (!roots.contains(root)) {
        roots.add(root);
      }
    }
    return roots;
  }

  private void reportScenes(JsonNode scenes, int active) {
    for (int s = 0; s < scenes.size(); s++) {
      if (s != active) {
        scene.unread("The other scene " + sceneName(scenes, s) + " of the file");
      }
    }
    Finding finding =
        Finding.of(
                "several-scenes",
                Severity.LOOK,
                resource,
                "The file holds "
                    + scenes.size()
                    + " scenes; "
                    + sceneName(scenes, active)
                    + " is read. Choose another to carry that one.")
            .measured(scenes.size() + " scenes");
    List<Offer> offers = new ArrayList<>();
    for (int s = 0; s < Math.min(8, scenes.size()); s++) {
      if (s != active) {
        offers.add(Offer.read("Read " + sceneName(scenes, s), SCENE, s + 1));
      }
    }
    context.findings().add(finding.offer(offers.toArray(new Offer[0])));
  }

  private static String sceneName(JsonNode scenes, int index) {
    String name = scenes.get(index).path("name").asText("");
    return name.isEmpty() ? "scene " + (index + 1) : "\"" + name + "\"";
  }

  /** Adds a node with everything below it, parents first; no recursion, however deep it nests. */
  private void walk(int root, int parentPlace) throws IOException, FormatException {
    ArrayDeque<int[]> stack = new ArrayDeque<>();
    stack.push(new int[] {root, parentPlace});
    while (!stack.isEmpty()) {
      int[] next = stack.pop();
      if (idOf[next[0]] >= 0) {
        continue;
      }
      JsonNode json = nodes.get(next[0]);
      String path = "/nodes/" + next[0];
      int parent = next[1];
      JsonNode ids = json.at("/extensions/" + GltfExtensions.LEVELS + "/ids");
      if (ids.size() > 0) {
        parent = levelGroup(json, ids.size() + 1, parent);
        for (int k = ids.size() - 1; k >= 0; k--) {
          stack.push(new int[] {ids.get(k).asInt(), parent});
        }
      }
      int place = add(next[0], json, path, parent);
      JsonNode children = json.path("children");
      for (int c = children.size() - 1; c >= 0; c--) {
        stack.push(new int[] {children.get(c).asInt(-1), place});
      }
    }
  }

  /**
   * The group whose children are the levels: the parent when it holds nothing else, else a new one.
   */
  private int levelGroup(JsonNode finest, int levels, int parent) {
    JsonNode coverage = finest.at("/extras/MSFT_screencoverage");
    double[] thresholds = new double[levels];
    for (int i = 0; i < levels; i++) {
      thresholds[i] = coverage.path(i).asDouble(0);
    }
    Node.Content.DetailGroup content =
        new Node.Content.DetailGroup(thresholds, Node.Content.DetailGroup.Measure.SCREEN);
    if (parent >= 0) {
      Node above = added.get(parent);
      boolean alone = added.get(added.size() - 1) == above && onlyChild(above);
      if (alone && above.content() == Node.Content.GROUP) {
        added.set(parent, above.withContent(content));
        return parent;
      }
    }
    added.add(Node.of(scene.newId(), finest.path("name").asText(""), parent, content));
    return added.size() - 1;
  }

  private boolean onlyChild(Node above) {
    for (int i = 0; i < idOf.length; i++) {
      if (idOf[i] == above.id()) {
        return nodes.get(i).path("children").size() == 1;
      }
    }
    return false;
  }

  private int add(int index, JsonNode json, String path, int parent)
      throws IOException, FormatException {
    int id = scene.newId();
    idOf[index] = id;
    Node.Content content = isJoint[index] ? new Node.Content.Joint(0) : Node.Content.GROUP;
    List<Node.Content> more = new ArrayList<>();
    if (json.has("mesh")) {
      more.add(mesh(json, path));
    }
    if (json.has("camera")) {
      more.add(
          new Node.Content.CameraContent(
              cameras.camera(container.integer(json, "camera", -1, path), path + "/camera")));
    }
    JsonNode light = json.at("/extensions/" + GltfExtensions.LIGHTS + "/light");
    if (!light.isMissingNode()) {
      more.add(
          new Node.Content.LightContent(
              cameras.light(light.asInt(-1), path + "/extensions/KHR_lights_punctual/light")));
    }
    if (content == Node.Content.GROUP && !more.isEmpty()) {
      content = more.remove(0);
    }
    boolean visible =
        json.at("/extensions/" + GltfExtensions.VISIBILITY + "/visible").asBoolean(true);
    String name = json.path("name").asText("");
    added.add(
        Node.of(id, name, parent, content)
            .withTransform(transform(json, path))
            .withVisible(visible)
            .withProperties(GltfExtras.properties(json, GltfExtensions.READ, TAKEN)));
    int place = added.size() - 1;
    for (Node.Content further : more) {
      added.add(Node.of(scene.newId(), name, place, further));
    }
    if (!json.at("/extensions/" + GltfExtensions.INSTANCING).isMissingNode()) {
      new GltfInstances(container, accessors, scene).expand(json, path, added, place);
    }
    return place;
  }

  private Node.Content mesh(JsonNode json, String path) throws FormatException {
    int mesh = container.integer(json, "mesh", -1, path);
    container.item("meshes", mesh, path + "/mesh");
    GltfMeshReader.ReadMesh read = meshes.get(mesh);
    Node.Content.MeshContent content = Node.Content.MeshContent.of(read.mesh().id());
    if (json.has("skin")) {
      int skin = container.integer(json, "skin", -1, path);
      container.item("skins", skin, path + "/skin");
      if (read.influences() != null) {
        content = content.withSkin(skins.idFor(skin, mesh));
      } else {
        context
            .findings()
            .add(
                Finding.of(
                    "skin-without-weights",
                    Severity.LOOK,
                    path,
                    "The node has a skin, but its mesh has no joints and weights: nothing moves"
                        + " it."));
      }
    }
    if (json.has("weights")) {
      content =
          content.withMorphWeights(numbers(json, "weights", read.mesh().morphs().size(), path));
    }
    return content;
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
