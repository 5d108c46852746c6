package ferry.stone.core.format.gltf.write;

import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.files.TextureBytes;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.BumpMap;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.ImageInfo;
import ferry.stone.core.texture.PbrMaterial;
import ferry.stone.core.texture.PbrTranslation;
import java.io.IOException;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;

/** What becomes of materials and their images on the way to metallic-roughness. */
public final class MaterialForecast {
  private final Scene scene;
  private final Resources cargo;
  private final Map<Capability, Integer> counts = new EnumMap<>(Capability.class);
  private final Map<Capability, String> firsts = new EnumMap<>(Capability.class);

  public MaterialForecast(Scene scene, Resources cargo) {
    this.scene = scene;
    this.cargo = cargo;
  }

  /** How many images that materials use are larger than a limit; 0 for no limit. */
  public static int largerThan(Scene scene, int limit, Resources cargo) {
    MaterialForecast forecast = new MaterialForecast(scene, cargo);
    Set<Integer> ids = new HashSet<>();
    for (Material material : scene.materials()) {
      for (Material.Value value : material.channels().values()) {
        if (limit > 0 && forecast.isFound(value.texture())) {
          try {
            ImageInfo info =
                ImageCodec.probe(forecast.bytes(value.texture()), forecast.name(value.texture()));
            if (Math.max(info.width(), info.height()) > limit) {
              ids.add(value.texture().textureId());
            }
          } catch (IOException e) {
            // An unreadable image is told of elsewhere.
            continue;
          }
        }
      }
    }
    return ids.size();
  }

  public void tell(SceneWriter.Told told) {
    for (Material material : scene.materials()) {
      material(material);
    }
    counts.forEach(
        (capability, count) -> {
          String noun =
              switch (capability) {
                case MATERIAL_MODEL, MATERIAL_CHANNELS -> "channel";
                case OPACITY_PLACEMENT -> "material";
                default -> "texture";
              };
          told.count(capability, count, noun, firsts.get(capability));
        });
  }

  private void count(Capability capability, String where) {
    counts.merge(capability, 1, Integer::sum);
    firsts.putIfAbsent(capability, where);
  }

  private void material(Material material) {
    PbrMaterial pbr = PbrTranslation.translate(material, scene.linearColours());
    for (PbrMaterial.Note note : pbr.notes()) {
      count(
          note.lost() ? Capability.MATERIAL_CHANNELS : Capability.MATERIAL_MODEL,
          material.name() + ", " + note.channel());
    }
    List<TextureUse> uses =
        Arrays.asList(
            pbr.base(),
            pbr.opacity(),
            pbr.roughnessMap(),
            pbr.metallicMap(),
            pbr.packed(),
            pbr.shininess(),
            pbr.normal(),
            pbr.bump(),
            pbr.occlusion(),
            pbr.emissiveMap());
    uses.stream()
        .filter(Objects::nonNull)
        .filter(u -> !isFound(u))
        .forEach(u -> count(Capability.MISSING_TEXTURES, name(u)));
    boolean placed =
        pbr.base() == null || pbr.opacity() == null || samePlace(pbr.base(), pbr.opacity());
    if (!placed && isFound(pbr.opacity())) {
      count(Capability.OPACITY_PLACEMENT, material.name());
    } else if (placed) {
      opacity(pbr);
    }
    roughness(pbr);
    for (TextureUse use : Arrays.asList(pbr.normal(), pbr.occlusion(), pbr.emissiveMap())) {
      converted(use);
    }
    if (pbr.bump() != null && isFound(pbr.bump())) {
      bump(pbr.bump());
    }
    if (pbr.shininess() != null && isFound(pbr.shininess())) {
      count(Capability.MATERIAL_MODEL, material.name() + ", shininess texture");
    }
  }

  private void opacity(PbrMaterial pbr) {
    if (!isFound(pbr.opacity())) {
      converted(pbr.base());
      return;
    }
    boolean same = isFound(pbr.base()) && pbr.base().textureId() == pbr.opacity().textureId();
    if (same && hasAlpha(pbr.opacity())) {
      converted(pbr.base());
    } else {
      count(Capability.SEPARATE_CHANNELS, name(isFound(pbr.base()) ? pbr.base() : pbr.opacity()));
    }
  }

  private void roughness(PbrMaterial pbr) {
    if (pbr.packed() != null) {
      converted(pbr.packed());
      return;
    }
    TextureUse rough = pbr.roughnessMap() != null ? pbr.roughnessMap() : pbr.shininess();
    TextureUse metal = pbr.metallicMap();
    if (!isFound(rough) && !isFound(metal)) {
      return;
    }
    boolean ready =
        isFound(rough)
            && rough == pbr.roughnessMap()
            && rough.component() == 'g'
            && (!isFound(metal)
                || metal.component() == 'b' && metal.textureId() == rough.textureId());
    if (ready) {
      converted(rough);
    } else {
      count(Capability.SEPARATE_CHANNELS, name(isFound(rough) ? rough : metal));
    }
  }

  private boolean isFound(TextureUse use) {
    return use != null && scene.texture(use.textureId()).map(Texture::isFound).orElse(false);
  }

  private String name(TextureUse use) {
    return scene.texture(use.textureId()).map(Texture::name).orElse("");
  }

  private static boolean samePlace(TextureUse a, TextureUse b) {
    return a.offsetU() == b.offsetU()
        && a.offsetV() == b.offsetV()
        && a.scaleU() == b.scaleU()
        && a.scaleV() == b.scaleV()
        && a.rotationRadians() == b.rotationRadians();
  }

  private byte[] bytes(TextureUse use) throws IOException {
    return TextureBytes.read(scene.texture(use.textureId()).orElseThrow(), cargo);
  }

  private void converted(TextureUse use) {
    if (!isFound(use)) {
      return;
    }
    try {
      if (!ImageCodec.probe(bytes(use), name(use)).isPngOrJpeg()) {
        count(Capability.IMAGE_FORMATS, name(use));
      }
    } catch (IOException e) {
      count(Capability.MISSING_TEXTURES, name(use));
    }
  }

  private boolean hasAlpha(TextureUse use) {
    try {
      return ImageCodec.decode(bytes(use), name(use)).hasAlpha();
    } catch (IOException e) {
      return false;
    }
  }

  private void bump(TextureUse use) {
    try {
      if (BumpMap.isNormalMap(ImageCodec.decode(bytes(use), name(use)))) {
        converted(use);
      } else {
        count(Capability.BUMP_MAPS, name(use));
      }
    } catch (IOException e) {
      count(Capability.MISSING_TEXTURES, name(use));
    }
  }
}
