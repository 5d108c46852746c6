package ferry.stone.core.handling.step.look;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.LayerParts;
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
import ferry.stone.core.texture.PbrMaterial;
import ferry.stone.core.texture.Pixels;
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
  private final Set<Integer> shadedApart = new HashSet<>();
  private final List<Texture> textures = new ArrayList<>();

  /**
   * A material that went into an atlas.
   *
   * @param shade where its image of shade lies; {@code uvs} where that does not lie apart
   * @param tile left, top, width and height, as parts of the atlas
   */
  record Joined(Material material, PbrMaterial pbr, AtlasUvs uvs, AtlasUvs shade, double[] tile) {}

  AtlasScene(Scene scene, List<PolygonMesh> meshes) {
    this.scene = scene;
    meshes.forEach(m -> meshIds.add(m.id()));
    builder = scene.toBuilder();
  }

  int count() {
    return made.size();
  }

  /** A name that no atlas has yet. */
  String free(String name) {
    String free = name;
    for (int n = 2; isTaken(free); n++) {
      free = name + "_" + n;
    }
    return free;
  }

  private boolean isTaken(String name) {
    return made.stream().anyMatch(m -> m.name().equals(name));
  }

  void add(
      String name,
      Material.Alpha alpha,
      List<Joined> group,
      List<AtlasTile> all,
      AtlasSizes fit,
      int padding,
      double glowing) {
    Map<Channel, Material.Value> channels = new EnumMap<>(Channel.class);
    boolean apart = group.stream().anyMatch(j -> j.shade != j.uvs);
    List<AtlasTile> tiles = apart ? all.stream().map(AtlasTile::unshaded).toList() : all;
    TextureUse base = image(name + "_base", Layer.BASE, tiles, fit, padding);
    channels.put(Channel.BASE_COLOUR, new Material.Value(null, base));
    boolean alphaUsed = alpha != Material.Alpha.OPAQUE;
    if (alphaUsed) {
      channels.put(Channel.OPACITY, new Material.Value(null, base.withComponent('a')));
    }
    TextureUse packed = image(name + "_orm", Layer.PACKED, tiles, fit, padding);
    channels.put(Channel.ROUGHNESS, new Material.Value(null, packed.withComponent('g')));
    channels.put(Channel.METALLIC, new Material.Value(null, packed.withComponent('b')));
    if (apart) {
      channels.put(
          Channel.OCCLUSION, new Material.Value(null, shade(name, group, all, fit, padding)));
    } else if (tiles.stream().anyMatch(t -> t.occlusion() != null)) {
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
    AtlasLayers.put(
        group.get(0).pbr,
        tiles,
        channels,
        layer ->
            image(
                    name + "_" + layer.channel().label().replace(' ', '_'),
                    AtlasPainter.paint(
                        layer, tiles, fit.packed(), fit.width(), fit.height(), padding))
                .withComponent(LayerParts.standard(layer.channel())));
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
    if (apart) {
      shadedApart.add(id);
    }
    for (Joined one : group) {
      joined.put(one.material.id(), one);
      atlasOf.put(one.material.id(), id);
    }
  }

  /** Shade lies by a set of UVs of its own, the second. */
  private TextureUse shade(
      String name, List<Joined> group, List<AtlasTile> all, AtlasSizes fit, int padding) {
    List<AtlasTile> shades = new ArrayList<>();
    for (int i = 0; i < all.size(); i++) {
      AtlasUvs uvs = group.get(i).shade;
      shades.add(all.get(i).shade(uvs.acrossU(), uvs.acrossV()));
    }
    TextureUse use = image(name + "_occlusion", Layer.PACKED, shades, fit, padding);
    return new TextureUse(use.textureId(), 1, 0, 0, 1, 1, 0, Wrap.CLAMPED, 'r', 1, "");
  }

  private TextureUse image(
      String name, Layer layer, List<AtlasTile> tiles, AtlasSizes fit, int padding) {
    return image(
        name, AtlasPainter.paint(layer, tiles, fit.packed(), fit.width(), fit.height(), padding));
  }

  private TextureUse image(String name, Pixels pixels) {
    int id = builder.newId();
    byte[] png = ImageCodec.encodePng(pixels);
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
    Attribute uv = AtlasUvs.set(mesh, 0);
    Attribute second = AtlasUvs.set(mesh, 1);
    int faces = mesh.faces().faceCount();
    float[] values = new float[2 * mesh.faces().cornerCount()];
    float[] shades = new float[values.length];
    int[] ofFace = new int[faces];
    boolean any = false;
    boolean apart = false;
    for (int f = 0; f < faces; f++) {
      int id = mesh.materialOf(f);
      Joined one = joined.get(id);
      ofFace[f] = one == null ? id : atlasOf.get(id);
      any |= one != null;
      if (one == null) {
        AtlasUvs.keep(mesh, uv, f, values);
        AtlasUvs.keep(mesh, second, f, shades);
        continue;
      }
      one.uvs.put(mesh, f, one.tile, values);
      if (shadedApart.contains(ofFace[f])) {
        apart = true;
        one.shade.put(mesh, f, one.tile, shades);
      } else {
        AtlasUvs.keep(mesh, second, f, shades);
      }
    }
    if (!any) {
      return mesh;
    }
    PolygonMesh given = given(mesh, ofFace);
    List<Attribute> layers = new ArrayList<>(given.attributes());
    put(layers, uv, layer(uv, "uv", values));
    if (apart) {
      put(layers, second, layer(second, "uv2", shades));
    }
    return given.withAttributes(layers);
  }

  private static PolygonMesh given(PolygonMesh mesh, int[] ofFace) {
    int[] ids = Arrays.stream(ofFace).filter(id -> id >= 0).distinct().toArray();
    Map<Integer, Integer> slots = new HashMap<>();
    for (int slot = 0; slot < ids.length; slot++) {
      slots.put(ids[slot], slot);
    }
    int[] slotOf = Arrays.stream(ofFace).map(id -> id < 0 ? -1 : slots.get(id)).toArray();
    return mesh.toBuilder().materials(ids, slotOf).build();
  }

  private static Attribute layer(Attribute old, String otherwise, float[] values) {
    String name = old == null ? otherwise : old.name();
    return new Attribute(name, Semantic.UV, Domain.CORNER, 2, values, null);
  }

  /** In the place of the old one, or behind the others. */
  private static void put(List<Attribute> layers, Attribute old, Attribute now) {
    int at = old == null ? -1 : layers.indexOf(old);
    if (at < 0) {
      layers.add(now);
    } else {
      layers.set(at, now);
    }
  }
}
