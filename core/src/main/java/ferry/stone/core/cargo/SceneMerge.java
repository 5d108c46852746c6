package ferry.stone.core.cargo;

import ferry.stone.core.format.CargoPath;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.scene.Channel;
import ferry.stone.core.scene.Clip;
import ferry.stone.core.scene.Material;
import ferry.stone.core.scene.Node;
import ferry.stone.core.scene.NodeSet;
import ferry.stone.core.scene.PolygonMesh;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.Skin;
import ferry.stone.core.scene.Texture;
import ferry.stone.core.scene.TextureUse;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Puts scenes read from several files under one name, each below a group named after its file.
 * Textures of one path and materials that say the same under one name become one.
 */
final class SceneMerge {
  private final SceneBuilder builder;
  private final Map<String, Integer> textureByPath = new HashMap<>();
  private final Map<String, Integer> materialBySignature = new HashMap<>();

  private SceneMerge(String name) {
    builder = new SceneBuilder(name);
  }

  static Scene merge(String name, List<String> files, List<Scene> scenes) throws FormatException {
    SceneMerge merge = new SceneMerge(name);
    Scene first = scenes.get(0);
    merge
        .builder
        .frame(first.frame(), first.unitSource(), first.axesSource())
        .uvOrigin(first.uvOrigin())
        .linearColours(first.linearColours());
    StringBuilder comments = new StringBuilder();
    for (int i = 0; i < scenes.size(); i++) {
      Scene scene = scenes.get(i);
      if (scene.uvOrigin() != first.uvOrigin() || !scene.frame().equals(first.frame())) {
        throw new FormatException(
            FormatException.Kind.UNSUPPORTED,
            files.get(i),
            "",
            "its units or axes differ from those of "
                + files.get(0)
                + ", so the two cannot be read into one scene yet. Bring them one by one.");
      }
      merge.add(scene, CargoPath.stem(files.get(i)));
      scene.unread().forEach(merge.builder::unread);
      Object said = scene.properties().get("comments");
      comments.append(said == null ? "" : said + "\n");
    }
    if (!comments.isEmpty()) {
      merge.builder.property("comments", comments.toString());
    }
    return merge.builder.build();
  }

  private void add(Scene scene, String group) {
    Map<Integer, Integer> textures = new HashMap<>();
    for (Texture t : scene.textures()) {
      String key = t.resource() != null ? t.resource() : "?" + t.written();
      Integer known = t.embedded() == null ? textureByPath.get(key) : null;
      if (known == null) {
        known = builder.newId();
        textureByPath.put(key, known);
        builder.add(
            new Texture(known, t.name(), t.written(), t.resource(), t.embedded(), t.packed()));
      }
      textures.put(t.id(), known);
    }
    Map<Integer, Integer> materials = new HashMap<>();
    for (Material m : scene.materials()) {
      Material moved = remap(m, textures);
      Integer known = materialBySignature.get(signature(moved));
      if (known == null) {
        known = builder.newId();
        materialBySignature.put(signature(moved), known);
        builder.add(moved.withId(known));
      }
      materials.put(m.id(), known);
    }
    Map<Integer, Integer> meshes = new HashMap<>();
    for (PolygonMesh mesh : scene.meshes()) {
      int id = builder.newId();
      meshes.put(mesh.id(), id);
      int[] slots = remap(mesh.materialIds(), materials);
      builder.add(
          mesh.toBuilder()
              .id(id)
              .materials(slots, mesh.faceSlot())
              .variantMaterials(variants(scene, mesh, materials))
              .build());
    }
    int top = builder.add(Node.of(builder.newId(), group, -1, Node.Content.GROUP));
    Map<Integer, Integer> shown = new HashMap<>();
    scene.cameras().forEach(c -> shown.put(c.id(), builder.newId()));
    scene.lights().forEach(l -> shown.put(l.id(), builder.newId()));
    scene.cameras().forEach(c -> builder.add(c.withId(shown.get(c.id()))));
    scene.lights().forEach(l -> builder.add(l.withId(shown.get(l.id()))));
    Map<Integer, Integer> skins = new HashMap<>();
    scene.skins().forEach(s -> skins.put(s.id(), builder.newId()));
    Map<Integer, Integer> nodes = new HashMap<>();
    for (Node node : scene.nodes()) {
      Node.Content content = node.content();
      if (content instanceof Node.Content.MeshContent m) {
        content =
            new Node.Content.MeshContent(
                meshes.get(m.meshId()),
                skins.getOrDefault(m.skinId(), -1),
                m.slotMaterials() == null ? null : remap(m.slotMaterials(), materials),
                m.morphWeights());
      } else if (content instanceof Node.Content.CameraContent c) {
        content = new Node.Content.CameraContent(shown.get(c.cameraId()));
      } else if (content instanceof Node.Content.LightContent l) {
        content = new Node.Content.LightContent(shown.get(l.lightId()));
      }
      int id = builder.newId();
      nodes.put(node.id(), id);
      builder.add(
          new Node(
              id,
              node.name(),
              node.parent() + top + 1,
              node.transform(),
              node.geometric(),
              content,
              node.visible(),
              node.properties()));
    }
    Map<Integer, Integer> targets = new HashMap<>(nodes);
    targets.putAll(shown);
    targets.putAll(materials);
    addMotion(scene, meshes, skins, targets);
  }

  /** Looks of one name become one. */
  private int[][] variants(Scene scene, PolygonMesh mesh, Map<Integer, Integer> materials) {
    int[][] old = mesh.variantMaterials();
    int[] places = new int[old.length];
    int count = 0;
    for (int v = 0; v < old.length; v++) {
      places[v] = builder.variant(scene.variants().get(v));
      count = Math.max(count, places[v] + 1);
    }
    int[][] result = new int[count][mesh.materialIds().length];
    for (int[] variant : result) {
      Arrays.fill(variant, -1);
    }
    for (int v = 0; v < old.length; v++) {
      result[places[v]] = remap(old[v], materials);
    }
    return result;
  }

  private void addMotion(
      Scene scene,
      Map<Integer, Integer> meshes,
      Map<Integer, Integer> skins,
      Map<Integer, Integer> targets) {
    for (Skin skin : scene.skins()) {
      builder.add(
          new Skin(
              skins.get(skin.id()),
              skin.name(),
              meshes.get(skin.meshId()),
              remap(skin.jointNodeIds(), targets),
              skin.inverseBind(),
              skin.offsets(),
              skin.joints(),
              skin.weights(),
              skin.method(),
              skin.bindMatrix()));
    }
    for (Clip clip : scene.clips()) {
      List<Clip.Track> tracks = new ArrayList<>();
      clip.tracks().forEach(t -> tracks.add(t.withTarget(targets.getOrDefault(t.targetId(), -1))));
      builder.add(
          new Clip(
              builder.newId(),
              clip.name(),
              clip.startSeconds(),
              clip.endSeconds(),
              tracks,
              clip.keys().stream()
                  .map(k -> k.withTarget(targets.getOrDefault(k.targetId(), -1)))
                  .toList()));
    }
    for (NodeSet set : scene.sets()) {
      builder.add(
          new NodeSet(set.name(), set.kind(), remap(set.nodeIds(), targets), set.visible()));
    }
  }

  private static int[] remap(int[] ids, Map<Integer, Integer> to) {
    return Arrays.stream(ids).map(id -> to.getOrDefault(id, -1)).toArray();
  }

  private static Material remap(Material m, Map<Integer, Integer> textures) {
    Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    m.channels()
        .forEach(
            (channel, value) -> {
              TextureUse u = value.texture();
              channels.put(
                  channel,
                  u == null
                      ? value
                      : new Material.Value(
                          value.factor(),
                          new TextureUse(
                              textures.get(u.textureId()),
                              u.uvSet(),
                              u.offsetU(),
                              u.offsetV(),
                              u.scaleU(),
                              u.scaleV(),
                              u.rotationRadians(),
                              u.clamp(),
                              u.component(),
                              u.amount(),
                              u.options())));
            });
    return m.withChannels(channels);
  }

  /** All that a material says, as text: equal texts are equal materials. */
  private static String signature(Material m) {
    List<String> parts = new ArrayList<>();
    parts.add(m.name() + m.shading() + m.alpha() + m.alphaCutoff() + m.doubleSided());
    m.channels()
        .forEach(
            (channel, value) ->
                parts.add(channel + Arrays.toString(value.factor()) + value.texture()));
    parts.add(new java.util.TreeMap<>(m.properties()).toString());
    return String.join("|", parts);
  }
}
