package ferry.stone.core.view;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.ColourSpace;
import ferry.stone.core.texture.PbrMaterial;
import ferry.stone.core.texture.PbrTranslation;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;

/** Materials as the page draws them: metallic-roughness, with images by their keys. */
final class SideMaterials {
  private SideMaterials() {}

  static SideView.MaterialView of(Material material, Scene scene, SideView.MeshKeys keys) {
    PbrMaterial pbr = PbrTranslation.translate(material, scene.linearColours());
    Map<String, SideView.TextureView> textures = new LinkedHashMap<>();
    put(textures, "base", pbr.base(), scene, keys);
    put(textures, "opacity", pbr.opacity(), scene, keys);
    put(
        textures,
        "roughness",
        pbr.packed() != null ? pbr.packed() : pbr.roughnessMap(),
        scene,
        keys);
    put(textures, "metallic", pbr.packed() != null ? pbr.packed() : pbr.metallicMap(), scene, keys);
    put(textures, "normal", pbr.normal(), scene, keys);
    put(textures, "bump", pbr.bump(), scene, keys);
    put(textures, "occlusion", pbr.occlusion(), scene, keys);
    put(textures, "emissive", pbr.emissiveMap(), scene, keys);
    Map<String, double[]> layers = new TreeMap<>();
    pbr.layers()
        .forEach(
            (channel, value) -> {
              String name = channel.name().toLowerCase(Locale.ROOT);
              put(textures, name, value.texture(), scene, keys);
              // What does not end is no number of JSON.
              if (value.factor() != null && Double.isFinite(value.factor()[0])) {
                layers.put(name, value.factor());
              }
            });
    List<String> missing = new ArrayList<>();
    for (Map.Entry<Channel, Material.Value> entry : material.channels().entrySet()) {
      TextureUse use = entry.getValue().texture();
      if (use != null && !scene.texture(use.textureId()).map(Texture::isFound).orElse(false)) {
        missing.add(entry.getKey().label());
      }
    }
    return new SideView.MaterialView(
        material.id(),
        material.name(),
        ColourSpace.hex(pbr.baseColour()),
        pbr.baseColour()[3],
        pbr.metallic(),
        pbr.roughness(),
        ColourSpace.hex(pbr.emissive()),
        pbr.emissiveStrength(),
        pbr.alpha().name(),
        pbr.doubleSided(),
        pbr.unlit(),
        textures,
        layers,
        missing);
  }

  private static void put(
      Map<String, SideView.TextureView> textures,
      String key,
      TextureUse use,
      Scene scene,
      SideView.MeshKeys keys) {
    if (use != null && scene.texture(use.textureId()).map(Texture::isFound).orElse(false)) {
      boolean down = scene.uvOrigin() == UvOrigin.TOP_LEFT;
      TextureUse there = down ? use : use.flipped(UvOrigin.TOP_LEFT);
      textures.put(
          key,
          new SideView.TextureView(
              there.textureId(),
              there.offsetU(),
              there.offsetV(),
              there.scaleU(),
              there.scaleV(),
              there.wrap().u(),
              there.wrap().v(),
              there.wrap().sharp(),
              there.rotationRadians(),
              there.uvSet(),
              keys.image(scene.texture(use.textureId()).orElseThrow()),
              part(key, use.component())));
    }
  }

  /** The graphics library reads some parts by itself: green for roughness, blue for metal. */
  private static String part(String key, char component) {
    boolean own =
        switch (key) {
          case "roughness", "opacity", "clearcoat_roughness", "thickness" -> component == 'g';
          case "iridescence_thickness" -> component == 'g';
          case "metallic" -> component == 'b';
          case "occlusion", "clearcoat", "transmission_weight", "iridescence" -> component == 'r';
          case "sheen_roughness", "specular_weight", "diffuse_transmission" -> component == 'a';
          default -> false;
        };
    return own || "rgba".indexOf(component) < 0 ? "" : String.valueOf(component);
  }
}
