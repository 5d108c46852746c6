package ferry.stone.core.scene;

import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.look.ImageFiles;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.CopySet;
import ferry.stone.core.scene.node.Light;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.NodeSet;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.scene.time.PointCache;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.joml.Matrix4d;
import org.joml.Matrix4dc;

/** Assembles a scene; not for use by several threads. */
public final class SceneBuilder {
  private String name;
  private Frame frame = Frame.Y_UP_METRE;
  private FrameSource unitSource = FrameSource.ASSUMED;
  private FrameSource axesSource = FrameSource.ASSUMED;
  private UvOrigin uvOrigin = UvOrigin.BOTTOM_LEFT;
  private boolean linearColours;
  private Matrix4dc placement = new Matrix4d();
  private double framesPerSecond;
  private final List<Node> nodes = new ArrayList<>();
  private final List<PolygonMesh> meshes = new ArrayList<>();
  private final List<Material> materials = new ArrayList<>();
  private final List<Texture> textures = new ArrayList<>();
  private final List<Skin> skins = new ArrayList<>();
  private final List<Clip> clips = new ArrayList<>();
  private final List<Camera> cameras = new ArrayList<>();
  private final List<Light> lights = new ArrayList<>();
  private final List<PointCache> caches = new ArrayList<>();
  private final List<PointCache> secondMotions = new ArrayList<>();
  private final List<MeshSequence> sequences = new ArrayList<>();
  private final List<NodeSet> sets = new ArrayList<>();
  private final List<CopySet> copies = new ArrayList<>();
  private final List<String> variants = new ArrayList<>();
  private final Map<String, Object> properties = new HashMap<>();
  private final List<String> unread = new ArrayList<>();
  private Composition composition = Composition.NONE;
  private ImageFiles images = ImageFiles.NONE;
  private int nextId = 1;

  public SceneBuilder(String name) {
    this.name = name;
  }

  SceneBuilder(Scene scene) {
    this(scene.name());
    frame = scene.frame();
    unitSource = scene.unitSource();
    axesSource = scene.axesSource();
    uvOrigin = scene.uvOrigin();
    linearColours = scene.linearColours();
    placement = scene.placement();
    framesPerSecond = scene.framesPerSecond();
    nodes.addAll(scene.nodes());
    meshes.addAll(scene.meshes());
    materials.addAll(scene.materials());
    textures.addAll(scene.textures());
    skins.addAll(scene.skins());
    clips.addAll(scene.clips());
    cameras.addAll(scene.cameras());
    lights.addAll(scene.lights());
    caches.addAll(scene.caches());
    secondMotions.addAll(scene.secondMotions());
    sequences.addAll(scene.sequences());
    sets.addAll(scene.sets());
    copies.addAll(scene.copies());
    variants.addAll(scene.variants());
    properties.putAll(scene.properties());
    unread.addAll(scene.unread());
    composition = scene.composition();
    images = scene.images();
    nextId = scene.nextId();
  }

  /** A fresh id, unique in the scene. */
  public int newId() {
    return nextId++;
  }

  public SceneBuilder name(String newName) {
    name = newName;
    return this;
  }

  public SceneBuilder frame(Frame newFrame, FrameSource unit, FrameSource axes) {
    frame = newFrame;
    unitSource = unit;
    axesSource = axes;
    return this;
  }

  public SceneBuilder uvOrigin(UvOrigin origin) {
    uvOrigin = origin;
    return this;
  }

  public SceneBuilder linearColours(boolean linear) {
    linearColours = linear;
    return this;
  }

  public SceneBuilder placement(Matrix4dc matrix) {
    placement = new Matrix4d(matrix);
    return this;
  }

  public SceneBuilder nextId(int id) {
    nextId = Math.max(nextId, id);
    return this;
  }

  public SceneBuilder framesPerSecond(double rate) {
    framesPerSecond = rate;
    return this;
  }

  /** Adds a node and returns its place in the list. Its parent must be there already. */
  public int add(Node node) {
    if (node.parent() >= nodes.size()) {
      throw new IllegalArgumentException(node.name() + ": its parent is not there yet");
    }
    nodes.add(node);
    return nodes.size() - 1;
  }

  public SceneBuilder add(PolygonMesh mesh) {
    meshes.add(mesh);
    return this;
  }

  public SceneBuilder add(Material material) {
    materials.add(material);
    return this;
  }

  public SceneBuilder add(Texture texture) {
    textures.add(texture);
    return this;
  }

  public SceneBuilder add(Camera camera) {
    cameras.add(camera);
    return this;
  }

  public SceneBuilder add(Light light) {
    lights.add(light);
    return this;
  }

  public SceneBuilder add(Skin skin) {
    skins.add(skin);
    return this;
  }

  public SceneBuilder add(Clip clip) {
    clips.add(clip);
    return this;
  }

  public SceneBuilder add(NodeSet set) {
    sets.add(set);
    return this;
  }

  public SceneBuilder add(CopySet set) {
    copies.add(set);
    return this;
  }

  public SceneBuilder copies(List<CopySet> newCopies) {
    copies.clear();
    copies.addAll(newCopies);
    return this;
  }

  public SceneBuilder caches(List<PointCache> newCaches) {
    caches.clear();
    caches.addAll(newCaches);
    return this;
  }

  public SceneBuilder secondMotions(List<PointCache> newMotions) {
    secondMotions.clear();
    secondMotions.addAll(newMotions);
    return this;
  }

  /** Changes every cache, also those of second motions: as their meshes are changed. */
  public SceneBuilder mapCaches(UnaryOperator<PointCache> change) {
    caches.replaceAll(change);
    secondMotions.replaceAll(change);
    return this;
  }

  public SceneBuilder add(MeshSequence sequence) {
    sequences.add(sequence);
    return this;
  }

  public SceneBuilder sequences(List<MeshSequence> newSequences) {
    sequences.clear();
    sequences.addAll(newSequences);
    return this;
  }

  public SceneBuilder sets(List<NodeSet> newSets) {
    sets.clear();
    sets.addAll(newSets);
    return this;
  }

  /** Tells of something that the source holds and the scene does not. */
  public SceneBuilder unread(String what) {
    if (!unread.contains(what)) {
      unread.add(what);
    }
    return this;
  }

  /** Adds to what the scene was put together from. */
  public SceneBuilder compose(Composition more) {
    composition = composition.with(more);
    return this;
  }

  public SceneBuilder images(ImageFiles newImages) {
    images = newImages;
    return this;
  }

  SceneBuilder composition(Composition newComposition) {
    composition = newComposition;
    return this;
  }

  public SceneBuilder property(String key, Object value) {
    properties.put(key, value);
    return this;
  }

  /** The same where nothing was said under the key before. */
  public SceneBuilder propertyIfAbsent(String key, Object value) {
    properties.putIfAbsent(key, value);
    return this;
  }

  /** Adds second motions to those that are there. */
  public SceneBuilder addSecondMotions(List<PointCache> more) {
    secondMotions.addAll(more);
    return this;
  }

  /** Adds caches to those that are there. */
  public SceneBuilder addCaches(List<PointCache> more) {
    caches.addAll(more);
    return this;
  }

  public SceneBuilder nodes(List<Node> newNodes) {
    nodes.clear();
    nodes.addAll(newNodes);
    return this;
  }

  public SceneBuilder meshes(List<PolygonMesh> newMeshes) {
    meshes.clear();
    meshes.addAll(newMeshes);
    return this;
  }

  public SceneBuilder materials(List<Material> newMaterials) {
    materials.clear();
    materials.addAll(newMaterials);
    return this;
  }

  /** Place of a look among the scene's, added when it is new. */
  public int variant(String variantName) {
    if (!variants.contains(variantName)) {
      variants.add(variantName);
    }
    return variants.indexOf(variantName);
  }

  /** A texture that was added. */
  public Optional<Texture> texture(int id) {
    return textures.stream().filter(t -> t.id() == id).findFirst();
  }

  public SceneBuilder textures(List<Texture> newTextures) {
    textures.clear();
    textures.addAll(newTextures);
    return this;
  }

  /** Replaces the looks to choose from. */
  public SceneBuilder variants(List<String> names) {
    variants.clear();
    variants.addAll(names);
    return this;
  }

  public SceneBuilder skins(List<Skin> newSkins) {
    skins.clear();
    skins.addAll(newSkins);
    return this;
  }

  public SceneBuilder clips(List<Clip> newClips) {
    clips.clear();
    clips.addAll(newClips);
    return this;
  }

  public SceneBuilder cameras(List<Camera> newCameras) {
    cameras.clear();
    cameras.addAll(newCameras);
    return this;
  }

  public SceneBuilder lights(List<Light> newLights) {
    lights.clear();
    lights.addAll(newLights);
    return this;
  }

  public Scene build() {
    return new Scene(
        name,
        frame,
        unitSource,
        axesSource,
        uvOrigin,
        linearColours,
        placement,
        framesPerSecond,
        nodes,
        meshes,
        materials,
        textures,
        skins,
        clips,
        cameras,
        lights,
        caches,
        secondMotions,
        sequences,
        sets,
        copies,
        variants,
        properties,
        unread,
        composition,
        images,
        nextId);
  }
}
