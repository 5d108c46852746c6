package ferry.stone.core.handling.step.look;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.BumpMap;
import ferry.stone.core.texture.ChannelPacking;
import ferry.stone.core.texture.PbrMaterial;
import ferry.stone.core.texture.PbrTranslation;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.atlas.AtlasTile;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Materials as tiles of an atlas, or why one cannot be. */
final class AtlasSource {
  private final Scene scene;
  private final ImagePixels images;

  AtlasSource(Scene scene) {
    this.scene = scene;
    images = new ImagePixels(scene);
  }

  PbrMaterial pbr(Material material) {
    return PbrTranslation.translate(material, scene.linearColours());
  }

  private static Stream<TextureUse> uses(PbrMaterial pbr) {
    return Stream.of(
            pbr.base(),
            pbr.opacity(),
            pbr.metallicMap(),
            pbr.roughnessMap(),
            pbr.packed(),
            pbr.normal(),
            pbr.bump(),
            pbr.emissiveMap())
        .filter(u -> u != null);
  }

  /** How all images of a material lie but that of shade; {@code null} for one without images. */
  static TextureUse lie(PbrMaterial pbr) {
    return Stream.concat(uses(pbr), AtlasLayers.uses(pbr).stream())
        .findFirst()
        .orElse(pbr.occlusion());
  }

  /** How the image of shade lies, which may have a set of UVs of its own. */
  static TextureUse shadeLie(PbrMaterial pbr) {
    return pbr.occlusion() == null ? lie(pbr) : pbr.occlusion();
  }

  /** Whether the image of shade lies otherwise than the others. */
  static boolean isShadedApart(PbrMaterial pbr) {
    TextureUse lie = lie(pbr);
    return lie != null && !shadeLie(pbr).liesAs(lie);
  }

  /** Why a material cannot go into an atlas; empty when it can. */
  Optional<String> refused(PbrMaterial pbr) {
    if (pbr.unlit()) {
      return Optional.of("it is not lit, and others are");
    }
    Optional<String> layer = AtlasLayers.refused(pbr);
    if (layer.isPresent()) {
      return layer;
    }
    if (pbr.shininess() != null) {
      return Optional.of("its shininess is an image");
    }
    TextureUse first = lie(pbr);
    if (first == null) {
      return Optional.empty();
    }
    List<TextureUse> all =
        Stream.concat(uses(pbr), AtlasLayers.uses(pbr).stream())
            .collect(Collectors.toCollection(ArrayList::new));
    if (all.stream().anyMatch(u -> !u.liesAs(first))) {
      return Optional.of("its images lie otherwise than each other");
    }
    if (first.wrap().isMirrored() || shadeLie(pbr).wrap().isMirrored()) {
      return Optional.of("its images are mirrored at their border");
    }
    if (pbr.occlusion() != null) {
      all.add(pbr.occlusion());
    }
    return all.stream().allMatch(u -> pixels(u) != null)
        ? Optional.empty()
        : Optional.of("an image of it is missing or cannot be read");
  }

  /**
   * @param acrossU how many times its images lie side by side
   * @param glowing strength of what glows most; 1 where nothing is stronger
   */
  AtlasTile tile(PbrMaterial pbr, int acrossU, int acrossV, double glowing) {
    Pixels base = pixels(pbr.base());
    if (pbr.opacity() != null) {
      base = ChannelPacking.withAlpha(base, pixels(pbr.opacity()), pbr.opacity().component());
    }
    Pixels normal = pixels(pbr.normal());
    double lean = pbr.normal() == null ? 1 : pbr.normal().amount();
    if (pbr.bump() != null) {
      Pixels heights = pixels(pbr.bump());
      normal =
          BumpMap.isNormalMap(heights)
              ? heights
              : BumpMap.toNormalMap(heights, pbr.bump().amount());
    }
    boolean packed = pbr.packed() != null;
    TextureUse roughness = packed ? pbr.packed() : pbr.roughnessMap();
    TextureUse metallic = packed ? pbr.packed() : pbr.metallicMap();
    double strength = pbr.emissiveStrength() / glowing;
    double[] emissive = pbr.emissive();
    return new AtlasTile(
        base,
        pbr.baseColour(),
        normal,
        lean,
        pixels(pbr.occlusion()),
        part(pbr.occlusion(), 'r'),
        pbr.occlusion() == null ? 1 : pbr.occlusion().amount(),
        pixels(roughness),
        packed ? 'g' : part(roughness, 'g'),
        pbr.roughness(),
        pixels(metallic),
        packed ? 'b' : part(metallic, 'b'),
        pbr.metallic(),
        pixels(pbr.emissiveMap()),
        new double[] {
          Math.min(1, emissive[0] * strength),
          Math.min(1, emissive[1] * strength),
          Math.min(1, emissive[2] * strength)
        },
        AtlasLayers.sources(pbr, this::pixels),
        acrossU,
        acrossV);
  }

  private static char part(TextureUse use, char usual) {
    return use == null || use.component() == 0 ? usual : use.component();
  }

  private Pixels pixels(TextureUse use) {
    return images.of(use);
  }
}
