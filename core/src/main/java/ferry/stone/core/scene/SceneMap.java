package ferry.stone.core.scene;

import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.CopySet;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.NodeSet;
import ferry.stone.core.scene.node.Purpose;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.ChangedSequence;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.scene.time.RenamedCache;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * The one place that renumbers what a scene holds, and what refers to it. What has no new number is
 * left out, with what cannot be without it: a skin without its mesh or a joint, a track without its
 * target. A node whose parent is left out becomes a root. O(n) for all references.
 */
public final class SceneMap {
  private final Map<Integer, Integer> nodes = new HashMap<>();
  private final Map<Integer, Integer> meshes = new HashMap<>();
  private final Map<Integer, Integer> materials = new HashMap<>();
  private final Map<Integer, Integer> textures = new HashMap<>();
  private final Map<Integer, Integer> skins = new HashMap<>();
  private final Map<Integer, Integer> cameras = new HashMap<>();
  private final Map<Integer, Integer> lights = new HashMap<>();
  private final Map<Integer, Integer> clips = new HashMap<>();
  private final Map<Integer, Integer> caches = new HashMap<>();
  private final Map<Integer, Integer> sequences = new HashMap<>();

  private SceneMap() {}

  /** Gives a number. */
  private interface Numbers {
    int of(int old);
  }

  private static SceneMap of(Scene scene, Numbers numbers) {
    SceneMap map = new SceneMap();
    scene.nodes().forEach(n -> map.nodes.put(n.id(), numbers.of(n.id())));
    scene.meshes().forEach(m -> map.meshes.put(m.id(), numbers.of(m.id())));
    scene.materials().forEach(m -> map.materials.put(m.id(), numbers.of(m.id())));
    scene.textures().forEach(t -> map.textures.put(t.id(), numbers.of(t.id())));
    scene.skins().forEach(s -> map.skins.put(s.id(), numbers.of(s.id())));
    scene.cameras().forEach(c -> map.cameras.put(c.id(), numbers.of(c.id())));
    scene.lights().forEach(l -> map.lights.put(l.id(), numbers.of(l.id())));
    scene.clips().forEach(c -> map.clips.put(c.id(), numbers.of(c.id())));
    scene.caches().forEach(c -> map.caches.put(c.id(), numbers.of(c.id())));
    scene.secondMotions().forEach(c -> map.caches.put(c.id(), numbers.of(c.id())));
    scene.sequences().forEach(s -> map.sequences.put(s.id(), numbers.of(s.id())));
    return map;
  }

  /** Everything keeps its number: what refers to something that is not there goes. */
  public static SceneMap same(Scene scene) {
    return of(scene, id -> id);
  }

  /** Everything gets a new number of a builder. */
  public static SceneMap fresh(Scene scene, SceneBuilder builder) {
    return of(scene, id -> builder.newId());
  }

  /** A texture stands for another one, which need not be in the scene. */
  public SceneMap texture(int id, int other) {
    textures.put(id, other);
    return this;
  }

  /** A material stands for another one, which need not be in the scene. */
  public SceneMap material(int id, int other) {
    materials.put(id, other);
    return this;
  }

  /** Leaves a mesh out. */
  public SceneMap withoutMesh(int id) {
    meshes.remove(id);
    return this;
  }

  /** Leaves a skin out. */
  public SceneMap withoutSkin(int id) {
    skins.remove(id);
    return this;
  }

  /** Leaves a camera out. */
  public SceneMap withoutCamera(int id) {
    cameras.remove(id);
    return this;
  }

  /** Leaves a light out. */
  public SceneMap withoutLight(int id) {
    lights.remove(id);
    return this;
  }

  /** The new number of a material. */
  public int materialId(int id) {
    return materials.getOrDefault(id, -1);
  }

  /** The scene in the new numbers. */
  public Scene apply(Scene scene) {
    for (Skin skin : scene.skins()) {
      boolean whole =
          meshes.containsKey(skin.meshId())
              && Arrays.stream(skin.jointNodeIds()).allMatch(nodes::containsKey);
      if (!whole) {
        skins.remove(skin.id());
      }
    }
    return scene.toBuilder()
        .textures(textures(scene))
        .materials(materials(scene))
        .meshes(meshes(scene))
        .nodes(nodes(scene))
        .composition(scene.composition().mapped(nodes))
        .skins(skins(scene))
        .cameras(
            scene.cameras().stream()
                .filter(c -> cameras.containsKey(c.id()))
                .map(c -> c.withId(cameras.get(c.id())))
                .toList())
        .lights(
            scene.lights().stream()
                .filter(l -> lights.containsKey(l.id()))
                .map(l -> l.withId(lights.get(l.id())))
                .toList())
        .clips(clips(scene))
        .caches(caches(scene.caches()))
        .secondMotions(caches(scene.secondMotions()))
        .sequences(sequences(scene))
        .sets(sets(scene))
        .copies(copies(scene))
        .build();
  }

  private List<Texture> textures(Scene scene) {
    List<Texture> mapped = new ArrayList<>();
    for (Texture t : scene.textures()) {
      if (textures.containsKey(t.id())) {
        mapped.add(
            new Texture(
                textures.get(t.id()),
                t.name(),
                t.written(),
                t.resource(),
                t.embedded(),
                t.packed()));
      }
    }
    return mapped;
  }

  private List<Material> materials(Scene scene) {
    List<Material> mapped = new ArrayList<>();
    for (Material material : scene.materials()) {
      if (!materials.containsKey(material.id())) {
        continue;
      }
      Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
      material
          .channels()
          .forEach(
              (channel, value) -> {
                TextureUse use = value.texture();
                Integer texture = use == null ? null : textures.get(use.textureId());
                channels.put(
                    channel,
                    new Material.Value(
                        value.factor(), texture == null ? null : use.withTexture(texture)));
              });
      mapped.add(material.withChannels(channels).withId(materials.get(material.id())));
    }
    return mapped;
  }

  private List<PolygonMesh> meshes(Scene scene) {
    List<PolygonMesh> mapped = new ArrayList<>();
    for (PolygonMesh mesh : scene.meshes()) {
      if (meshes.containsKey(mesh.id())) {
        mapped.add(mesh(mesh, meshes.get(mesh.id())));
      }
    }
    return mapped;
  }

  private PolygonMesh mesh(PolygonMesh mesh, int id) {
    int[][] variants = mesh.variantMaterials().clone();
    for (int v = 0; v < variants.length; v++) {
      variants[v] = ids(variants[v], materials);
    }
    return mesh.toBuilder()
        .id(id)
        .materials(ids(mesh.materialIds(), materials), mesh.faceSlot())
        .variantMaterials(variants)
        .build();
  }

  private List<MeshSequence> sequences(Scene scene) {
    List<MeshSequence> mapped = new ArrayList<>();
    for (MeshSequence sequence : scene.sequences()) {
      if (sequences.containsKey(sequence.id()) && meshes.containsKey(sequence.meshId())) {
        int id = sequences.get(sequence.id());
        int meshId = meshes.get(sequence.meshId());
        boolean same =
            id == sequence.id()
                && meshId == sequence.meshId()
                && materials.entrySet().stream().allMatch(e -> e.getKey().equals(e.getValue()));
        mapped.add(
            same ? sequence : new ChangedSequence(sequence, id, meshId, m -> mesh(m, meshId)));
      }
    }
    return mapped;
  }

  private static int[] ids(int[] old, Map<Integer, Integer> to) {
    return Arrays.stream(old).map(id -> to.getOrDefault(id, -1)).toArray();
  }

  private List<Node> nodes(Scene scene) {
    int[] places = new int[scene.nodes().size()];
    boolean[] seen = scene.seen();
    Purpose[] purposes = scene.purposes();
    List<Node> mapped = new ArrayList<>();
    for (int i = 0; i < places.length; i++) {
      Node node = scene.nodes().get(i);
      Integer id = nodes.get(node.id());
      places[i] = id == null ? -1 : mapped.size();
      if (id != null) {
        int parent = node.parent() < 0 ? -1 : places[node.parent()];
        Node own = node.withId(id).withParent(parent).withContent(content(node.content()));
        if (node.parent() >= 0 && parent < 0) {
          // What a parent that is left out said of it is said by itself.
          own = own.withVisible(seen[i]).withPurpose(purposes[i]);
        }
        mapped.add(own);
      }
    }
    return mapped;
  }

  private Node.Content content(Node.Content content) {
    if (content instanceof Node.Content.MeshContent m) {
      return meshes.containsKey(m.meshId())
          ? new Node.Content.MeshContent(
              meshes.get(m.meshId()),
              skins.getOrDefault(m.skinId(), -1),
              m.slotMaterials() == null ? null : ids(m.slotMaterials(), materials),
              m.morphWeights())
          : Node.Content.GROUP;
    }
    if (content instanceof Node.Content.KeptShape k) {
      return new Node.Content.KeptShape(k.schema(), ids(k.materialIds(), materials));
    }
    if (content instanceof Node.Content.CameraContent c) {
      return cameras.containsKey(c.cameraId())
          ? new Node.Content.CameraContent(cameras.get(c.cameraId()))
          : Node.Content.GROUP;
    }
    if (content instanceof Node.Content.LightContent l) {
      return lights.containsKey(l.lightId())
          ? new Node.Content.LightContent(lights.get(l.lightId()))
          : Node.Content.GROUP;
    }
    return content;
  }

  private List<Skin> skins(Scene scene) {
    List<Skin> mapped = new ArrayList<>();
    for (Skin skin : scene.skins()) {
      if (skins.containsKey(skin.id())) {
        mapped.add(
            new Skin(
                skins.get(skin.id()),
                skin.name(),
                meshes.get(skin.meshId()),
                ids(skin.jointNodeIds(), nodes),
                skin.inverseBind(),
                skin.offsets(),
                skin.joints(),
                skin.weights(),
                skin.method(),
                skin.bindMatrix()));
      }
    }
    return mapped;
  }

  /** What a track of a property moves. */
  private Map<Integer, Integer> targets(String property) {
    if (property.startsWith(Clip.MATERIAL)) {
      return materials;
    }
    return property.startsWith("camera/")
        ? cameras
        : property.startsWith("light/") ? lights : nodes;
  }

  private List<Clip.Words> words(Clip clip) {
    return clip.words().stream()
        .filter(w -> nodes.containsKey(w.targetId()))
        .map(w -> w.withTarget(nodes.get(w.targetId())))
        .toList();
  }

  private List<Clip> clips(Scene scene) {
    List<Clip> mapped = new ArrayList<>();
    for (Clip clip : scene.clips()) {
      if (!clips.containsKey(clip.id())) {
        continue;
      }
      List<Clip.Track> tracks = new ArrayList<>();
      for (Clip.Track track : clip.tracks()) {
        Integer target = targets(track.property()).get(track.targetId());
        if (target != null) {
          tracks.add(track.withTarget(target));
        }
      }
      List<Clip.Keys> keys = new ArrayList<>();
      for (Clip.Keys own : clip.keys()) {
        Integer target = targets(own.property()).get(own.targetId());
        if (target != null) {
          keys.add(own.withTarget(target));
        }
      }
      mapped.add(
          new Clip(
              clips.get(clip.id()),
              clip.name(),
              clip.startSeconds(),
              clip.endSeconds(),
              tracks,
              keys,
              words(clip)));
    }
    return mapped;
  }

  private List<PointCache> caches(List<PointCache> all) {
    List<PointCache> mapped = new ArrayList<>();
    for (PointCache cache : all) {
      if (caches.containsKey(cache.id()) && meshes.containsKey(cache.meshId())) {
        int id = caches.get(cache.id());
        int mesh = meshes.get(cache.meshId());
        boolean same = id == cache.id() && mesh == cache.meshId();
        mapped.add(same ? cache : new RenamedCache(cache, id, mesh));
      }
    }
    return mapped;
  }

  private List<NodeSet> sets(Scene scene) {
    List<NodeSet> mapped = new ArrayList<>();
    for (NodeSet set : scene.sets()) {
      int[] members =
          Arrays.stream(set.nodeIds()).filter(nodes::containsKey).map(nodes::get).toArray();
      mapped.add(new NodeSet(set.name(), set.kind(), members, set.visible()));
    }
    return mapped;
  }

  /** A list of places whose node is left out, or one of whose places is, is a list no more. */
  private List<CopySet> copies(Scene scene) {
    List<CopySet> mapped = new ArrayList<>();
    for (CopySet set : scene.copies()) {
      int[] members =
          Arrays.stream(set.nodeIds()).filter(nodes::containsKey).map(nodes::get).toArray();
      boolean listed = set.kind() == CopySet.Kind.PLACES;
      boolean whole = members.length == set.nodeIds().length && nodes.containsKey(set.holderId());
      if (listed ? whole : members.length > 1) {
        mapped.add(new CopySet(set.kind(), nodes.getOrDefault(set.holderId(), -1), members));
      }
    }
    return mapped;
  }
}
