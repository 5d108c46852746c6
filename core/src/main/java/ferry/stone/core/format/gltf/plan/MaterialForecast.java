package ferry.stone.core.format.gltf.plan;

import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.ImageInfo;
import ferry.stone.core.texture.PbrMaterial;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.ktx.KtxWriter;
import java.io.IOException;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** Tells what the plans of a scene's materials cost. */
public final class MaterialForecast {
  private final SourceImages source;
  private final List<Named> plans;
  private final Map<Capability, Integer> counts = new EnumMap<>(Capability.class);
  private final Map<Capability, String> firsts = new EnumMap<>(Capability.class);

  /** Longest side of images that are tried, in pixels. */
  private static final int TRIED = 64;

  private record Named(Material material, MaterialPlan plan) {}

  public MaterialForecast(Scene scene, Resources cargo) {
    source = new SourceImages(scene, cargo, message -> {});
    plans =
        scene.materials().stream()
            .map(material -> new Named(material, MaterialPlan.of(material, scene, source)))
            .toList();
  }

  /** How many images are larger than a limit, in pixels of the longer side; 0 for no limit. */
  public int largerThan(int limit) {
    Set<Integer> ids = new HashSet<>();
    for (Named named : plans) {
      for (TextureUse use : named.plan().asked()) {
        if (limit > 0 && source.has(use)) {
          ImageInfo info = source.info(use.textureId()).orElseThrow();
          if (Math.max(info.width(), info.height()) > limit) {
            ids.add(use.textureId());
          }
        }
      }
    }
    return ids.size();
  }

  /** How many images lose a little when they are written as a kind. */
  public int repacked(ImageKind kind, boolean plainImages) {
    Set<String> keys = new HashSet<>();
    for (Named named : plans) {
      MaterialPlan plan = named.plan();
      Set<ImagePlan> colours = plan.colours();
      for (ImagePlan image : plan.images()) {
        if (kind.loses(colours.contains(image)) && changes(kind, plan, image, plainImages)) {
          keys.add(image.key());
        }
      }
    }
    return keys.size();
  }

  /** Small images are tried; larger ones are never free of change but for those of one colour. */
  private boolean changes(ImageKind kind, MaterialPlan plan, ImagePlan image, boolean plainImages) {
    ImageInfo info = source.info(image.use().textureId()).orElseThrow();
    if (ImagePlan.isKtx2(info) && !plainImages && image instanceof ImagePlan.Plain) {
      return false;
    }
    boolean webp = ImagePlan.isWebp(info) && image instanceof ImagePlan.Plain;
    if (webp && !plainImages && kind == ImageKind.WEBP) {
      return false;
    }
    if (!(image instanceof ImagePlan.Plain) || Math.max(info.width(), info.height()) > TRIED) {
      return true;
    }
    KtxWriter.Content content =
        plan.colours().contains(image)
            ? KtxWriter.Content.COLOUR
            : plan.normal().filter(image::equals).isPresent()
                ? KtxWriter.Content.NORMALS
                : KtxWriter.Content.DATA;
    Optional<Pixels> pixels = source.ask(image.use());
    try {
      return pixels.isPresent()
          && kind.changes(pixels.get(), content, source.bytes(image.use().textureId()));
    } catch (IOException e) {
      // Told where the image is read.
      return false;
    }
  }

  /**
   * @param plainImages whether only PNG and JPEG are wanted
   */
  public void tell(SceneWriter.Told told, boolean plainImages) {
    for (Named named : plans) {
      material(named.material(), named.plan());
      named.plan().images().forEach(image -> image(image, plainImages));
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

  private void material(Material material, MaterialPlan plan) {
    for (PbrMaterial.Note note : plan.pbr().notes()) {
      count(
          note.lost() ? Capability.MATERIAL_CHANNELS : Capability.MATERIAL_MODEL,
          material.name() + ", " + note.channel());
    }
    for (TextureUse use : plan.asked()) {
      if (!source.has(use) || source.isUndecodable(use)) {
        count(Capability.MISSING_TEXTURES, source.name(use));
      }
    }
    if (plan.opacityLeftOut()) {
      count(Capability.OPACITY_PLACEMENT, material.name());
    }
    if (source.has(plan.pbr().shininess())) {
      count(Capability.MATERIAL_MODEL, material.name() + ", shininess texture");
    }
  }

  private void image(ImagePlan plan, boolean plainImages) {
    if (plan instanceof ImagePlan.Heights) {
      count(Capability.BUMP_MAPS, source.name(plan.use()));
    } else if (plan instanceof ImagePlan.MetallicRoughness
        || plan instanceof ImagePlan.Part
        || plan instanceof ImagePlan.Alpha alpha && !alpha.asIs()) {
      count(Capability.SEPARATE_CHANNELS, source.name(plan.use()));
    } else if (!ImagePlan.isTakenAsIs(
        source.info(plan.use().textureId()).orElseThrow(), plainImages)) {
      count(Capability.IMAGE_FORMATS, source.name(plan.use()));
    }
  }
}
