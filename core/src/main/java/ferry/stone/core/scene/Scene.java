package ferry.stone.core.scene;

import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.look.ImageFiles;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.CopySet;
import ferry.stone.core.scene.node.Light;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.NodePaths;
import ferry.stone.core.scene.node.NodeSet;
import ferry.stone.core.scene.node.Purpose;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.scene.time.PointCache;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.joml.Matrix4d;
import org.joml.Matrix4dc;

/**
 * Everything that was read from one asset. Immutable: steps make new scenes that share what they
 * leave alone.
 *
 * @param frame what the numbers mean
 * @param unitSource why the unit is what {@code frame} says
 * @param axesSource why the axes are what {@code frame} says
 * @param uvOrigin where UV (0, 0) lies
 * @param linearColours whether colour numbers are linear light; sRGB otherwise
 * @param placement moves the whole scene in its own frame, outside all nodes; what handling steps
 *     such as turning and grounding change. Landing carries it into the data or onto a root.
 * @param framesPerSecond rate of the source's time line, 0 when it has none
 * @param nodes parents before children
 * @param caches where vertices of meshes stand over time
 * @param secondMotions caches that fit a mesh which moves otherwise: kept for comparison, and for
 *     the step that puts them on; no landing holds them
 * @param sequences meshes that are others over time
 * @param sets layers and selections beside the hierarchy
 * @param copies parts that the source said once and showed several times
 * @param variants names of the looks to choose from: other materials for the same meshes
 * @param unread what the source holds and the reader has no place for, in words: no landing can
 *     hold it
 * @param composition what it was put together from, where that is more than one file of parts
 * @param images the image files of its cargo
 * @param nextId first id that is free
 */
public record Scene(
    String name,
    Frame frame,
    FrameSource unitSource,
    FrameSource axesSource,
    UvOrigin uvOrigin,
    boolean linearColours,
    Matrix4dc placement,
    double framesPerSecond,
    List<Node> nodes,
    List<PolygonMesh> meshes,
    List<Material> materials,
    List<Texture> textures,
    List<Skin> skins,
    List<Clip> clips,
    List<Camera> cameras,
    List<Light> lights,
    List<PointCache> caches,
    List<PointCache> secondMotions,
    List<MeshSequence> sequences,
    List<NodeSet> sets,
    List<CopySet> copies,
    List<String> variants,
    Map<String, Object> properties,
    List<String> unread,
    Composition composition,
    ImageFiles images,
    int nextId) {

  public Scene {
    nodes = List.copyOf(nodes);
    meshes = List.copyOf(meshes);
    materials = List.copyOf(materials);
    textures = List.copyOf(textures);
    skins = List.copyOf(skins);
    clips = List.copyOf(clips);
    cameras = List.copyOf(cameras);
    lights = List.copyOf(lights);
    caches = List.copyOf(caches);
    secondMotions = List.copyOf(secondMotions);
    sequences = List.copyOf(sequences);
    sets = List.copyOf(sets);
    copies = List.copyOf(copies);
    variants = List.copyOf(variants);
    properties = Map.copyOf(properties);
    unread = List.copyOf(unread);
  }

  /** A builder that starts from this scene. */
  public SceneBuilder toBuilder() {
    return new SceneBuilder(this);
  }

  /** The mesh with an id. */
  public Optional<PolygonMesh> mesh(int id) {
    return meshes.stream().filter(m -> m.id() == id).findFirst();
  }

  public Optional<Material> material(int id) {
    return materials.stream().filter(m -> m.id() == id).findFirst();
  }

  public Optional<Texture> texture(int id) {
    return textures.stream().filter(t -> t.id() == id).findFirst();
  }

  public Optional<Skin> skin(int id) {
    return skins.stream().filter(s -> s.id() == id).findFirst();
  }

  public Optional<Camera> camera(int id) {
    return cameras.stream().filter(c -> c.id() == id).findFirst();
  }

  public Optional<Light> light(int id) {
    return lights.stream().filter(l -> l.id() == id).findFirst();
  }

  /** Place of every node in the list by its id. */
  public Map<Integer, Integer> nodePlaces() {
    Map<Integer, Integer> places = new HashMap<>(nodes.size() * 2);
    for (int i = 0; i < nodes.size(); i++) {
      places.put(nodes.get(i).id(), i);
    }
    return places;
  }

  /** All meshes by their ids: for loops over many nodes. */
  public Map<Integer, PolygonMesh> meshesById() {
    Map<Integer, PolygonMesh> byId = new HashMap<>(meshes.size() * 2);
    meshes.forEach(mesh -> byId.put(mesh.id(), mesh));
    return byId;
  }

  /** All nodes that show a mesh, with that mesh and its world matrix, in order. */
  public List<ShownMesh> shownMeshes() {
    Map<Integer, PolygonMesh> byId = meshesById();
    Matrix4d[] world = contentMatrices();
    List<String> paths = paths();
    List<ShownMesh> shown = new ArrayList<>();
    for (int i = 0; i < world.length; i++) {
      if (nodes.get(i).content() instanceof Node.Content.MeshContent content) {
        shown.add(new ShownMesh(nodes.get(i), paths.get(i), byId.get(content.meshId()), world[i]));
      }
    }
    return shown;
  }

  /**
   * A mesh where a node shows it.
   *
   * @param world mesh points to world points
   */
  public record ShownMesh(Node node, String path, PolygonMesh mesh, Matrix4d world) {}

  /** Whether each node is seen, with what the nodes above it say, by its place in the list. */
  public boolean[] seen() {
    boolean[] seen = new boolean[nodes.size()];
    for (int i = 0; i < seen.length; i++) {
      Node node = nodes.get(i);
      seen[i] =
          switch (node.visibility()) {
            case HIDDEN -> false;
            case SHOWN -> true;
            case INHERITED -> node.parent() < 0 || seen[node.parent()];
          };
    }
    return seen;
  }

  /** What each node is for, with what the nodes above it say, by its place in the list. */
  public Purpose[] purposes() {
    Purpose[] purposes = new Purpose[nodes.size()];
    for (int i = 0; i < purposes.length; i++) {
      Node node = nodes.get(i);
      boolean own = node.purpose() != Purpose.DEFAULT || node.parent() < 0;
      purposes[i] = own ? node.purpose() : purposes[node.parent()];
    }
    return purposes;
  }

  /** World matrix of every node with the placement, by its place in the list. */
  public Matrix4d[] worldMatrices() {
    Matrix4d[] world = new Matrix4d[nodes.size()];
    for (int i = 0; i < world.length; i++) {
      Node node = nodes.get(i);
      Matrix4d local = node.transform().toMatrix();
      Matrix4dc above = node.parent() < 0 ? placement : world[node.parent()];
      world[i] = new Matrix4d(above).mul(local);
    }
    return world;
  }

  /**
   * World matrix of what every node shows: its own, with the geometric transform inside. A skinned
   * mesh stands where its first joint puts it, since its own node does not count.
   */
  public Matrix4d[] contentMatrices() {
    Matrix4d[] world = worldMatrices();
    Matrix4d[] skinned = skinnedMatrices(world);
    for (int i = 0; i < world.length; i++) {
      if (nodes.get(i).geometric() != LocalTransform.IDENTITY) {
        world[i].mul(nodes.get(i).geometric().toMatrix());
      }
    }
    for (int i = 0; i < world.length; i++) {
      world[i] = skinned[i] != null ? skinned[i] : world[i];
    }
    return world;
  }

  private Matrix4d[] skinnedMatrices(Matrix4d[] world) {
    Matrix4d[] result = new Matrix4d[world.length];
    if (skins.isEmpty()) {
      return result;
    }
    Map<Integer, Integer> places = nodePlaces();
    for (int i = 0; i < result.length; i++) {
      Skin skin =
          nodes.get(i).content() instanceof Node.Content.MeshContent content
              ? skin(content.skinId()).orElse(null)
              : null;
      Integer joint = skin == null ? null : places.get(skin.jointNodeIds()[0]);
      if (joint != null) {
        result[i] = new Matrix4d(world[joint]).mul(new Matrix4d().set(skin.inverseBind(), 0));
      }
    }
    return result;
  }

  /** The box around all shown meshes, in scene units. */
  public Bounds bounds() {
    Bounds bounds = Bounds.EMPTY;
    for (ShownMesh shown : shownMeshes()) {
      bounds = bounds.union(shown.mesh().points().bounds(shown.world()));
    }
    return bounds;
  }

  /** Path of every node from its root; see {@link NodePaths}. */
  public List<String> paths() {
    NodePaths.Path[] paths = new NodePaths.Path[nodes.size()];
    String[] texts = new String[paths.length];
    for (int i = 0; i < paths.length; i++) {
      Node node = nodes.get(i);
      paths[i] =
          node.parent() < 0
              ? NodePaths.Path.root(node.name())
              : paths[node.parent()].child(node.name());
      texts[i] = paths[i].text();
    }
    return List.of(texts);
  }
}
