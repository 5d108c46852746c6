package ferry.stone.core.handling.step.look;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.look.Wrap;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.atlas.AtlasPainter;
import ferry.stone.core.texture.atlas.AtlasTile;
import ferry.stone.core.texture.atlas.AtlasTile.Layer;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** The scene with atlases in it: their images and materials, and meshes whose UVs moved. */
final class AtlasScene {
  private final Scene scene;
  private final SceneBuilder builder;
  private final Set<Integer> meshIds = new HashSet<>();
  private final Map<Integer, Joined> joined = new HashMap<>();
  private final Map<Integer, Integer> atlasOf = new HashMap<>();
  private final List<Material> made = new ArrayList<>();
  private final List<Texture> textures = new ArrayList<>();

  /**
   * A material that went into an atlas.
   *
   * @param tile left, top, width and height, as parts of the atlas
   */
  record Joined(Material material, AtlasUvs uvs, double[] tile) {}

  AtlasScene(Scene scene, List<PolygonMesh> meshes) {
    this.scene = scene;
    meshes.forEach(m -> meshIds.add(m.id()));
    builder = scene.toBuilder();
  }

  int count() {
    return made.size();
  }

  void add(
      String name,
      Material.Alpha alpha,
      List<Joined> group,
      List<AtlasTile> tiles,
      AtlasSizes fit,
      int padding,
      double glowing) {
    Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    TextureUse base = image(name + "_base", Layer.BASE, tiles, fit, padding);
    channels.put(Channel.BASE_COLOUR, new Material.Value(null, base));
    boolean alphaUsed = alpha != Material.Alpha.OPAQUE;
    if (alphaUsed) {
      channels.put(Channel.OPACITY, new Material.Value(null, base.withComponent('a')));
    }
    TextureUse packed = image(name + "_orm", Layer.PACKED, tiles, fit, padding);
    channels.put(Channel.ROUGHNESS, new Material.Value(null, packed.withComponent('g')));
    channels.put(Channel.METALLIC, new Material.Value(null, packed.withComponent('b')));
    if (tiles.stream().anyMatch(t -> t.occlusion() != null)) {
      channels.put(Channel.OCCLUSION, new Material.Value(null, packed.withComponent('r')));
    }
    if (tiles.stream().anyMatch(t -> t.normal() != null)) {
      TextureUse normal = image(name + "_normal", Layer.NORMAL, tiles, fit, padding);
      channels.put(Channel.NORMAL, new Material.Value(null, normal));
    }
    if (tiles.stream().anyMatch(t -> Arrays.stream(t.emissiveFactor()).anyMatch(f -> f > 0))) {
      TextureUse glow = image(name + "_emissive", Layer.EMISSIVE, tiles, fit, padding);
      channels.put(
          Channel.EMISSIVE, new Material.Value(new double[] {glowing, glowing, glowing}, glow));
    }
    int id = builder.newId();
    boolean both = group.stream().anyMatch(j -> j.material.doubleSided());
    double cutoff = group.get(0).material.alphaCutoff();
    made.add(
        new Material(
            id,
            name,
            Material.Shading.METALLIC_ROUGHNESS,
            channels,
            alpha,
            cutoff,
            both,
            Map.of()));
    for (Joined one : group) {
      joined.put(one.material.id(), one);
      atlasOf.put(one.material.id(), id);
    }
  }

  private TextureUse image(
      String name, Layer layer, List<AtlasTile> tiles, AtlasSizes fit, int padding) {
    int id = builder.newId();
    byte[] png =
        ImageCodec.encodePng(
            AtlasPainter.paint(layer, tiles, fit.packed(), fit.width(), fit.height(), padding));
    textures.add(new Texture(id, name + ".png", name + ".png", null, png));
    return new TextureUse(id, 0, 0, 0, 1, 1, 0, Wrap.CLAMPED, (char) 0, 1, "");
  }

  Scene scene() {
    List<PolygonMesh> moved = new ArrayList<>();
    for (PolygonMesh mesh : scene.meshes()) {
      moved.add(meshIds.contains(mesh.id()) ? moved(mesh) : mesh);
    }
    Set<Integer> used = new HashSet<>();
    moved.forEach(m -> m.usedMaterials().forEach(used::add));
    for (Node node : scene.nodes()) {
      node.ownMaterials().forEach(used::add);
    }
    List<Material> materials = new ArrayList<>(scene.materials());
    materials.removeIf(m -> joined.containsKey(m.id()) && !used.contains(m.id()));
    materials.addAll(made);
    List<Texture> all = new ArrayList<>(scene.textures());
    all.addAll(textures);
    return builder.meshes(moved).materials(materials).textures(all).build();
  }

  private PolygonMesh moved(PolygonMesh mesh) {
    Attribute uv = AtlasUvs.of(mesh);
    int faces = mesh.faces().faceCount();
    float[] values = new float[2 * mesh.faces().cornerCount()];
    int[] ofFace = new int[faces];
    boolean any = false;
    for (int f = 0; f < faces; f++) {
      int id = mesh.materialOf(f);
      Joined one = joined.get(id);
      ofFace[f] = one == null ? id : atlasOf.get(id);
      any |= one != null;
      if (one != null) {
        one.uvs.put(mesh, uv, f, one.tile, values);
      } else {
        keep(mesh, uv, f, values);
      }
    }
    if (!any) {
      return mesh;
    }
    int[] ids = Arrays.stream(ofFace).filter(id -> id >= 0).distinct().toArray();
    Map<Integer, Integer> slots = new HashMap<>();
    for (int slot = 0; slot < ids.length; slot++) {
      slots.put(ids[slot], slot);
    }
    int[] slotOf = Arrays.stream(ofFace).map(id -> id < 0 ? -1 : slots.get(id)).toArray();
    String name = uv == null ? "uv" : uv.name();
    Attribute now = new Attribute(name, Semantic.UV, Domain.CORNER, 2, values, null);
    return mesh.toBuilder().materials(ids, slotOf).build().withFirst(Semantic.UV, now);
  }

  private static void keep(PolygonMesh mesh, Attribute uv, int face, float[] values) {
    for (int c = mesh.faces().start(face); uv != null && c < mesh.faces().end(face); c++) {
      int value = uv.valueOf(c, mesh.faces().vertex(c), face);
      if (value >= 0) {
        values[2 * c] = uv.values()[uv.components() * value];
        values[2 * c + 1] = uv.values()[uv.components() * value + 1];
      }
    }
  }
}
