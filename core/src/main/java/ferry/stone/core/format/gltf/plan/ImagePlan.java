package ferry.stone.core.format.gltf.plan;

import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.LayerParts;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.BumpMap;
import ferry.stone.core.texture.ImageInfo;
import ferry.stone.core.texture.Pixels;
import java.util.Optional;

/**
 * How one image of a landing comes to be. The forecast tells it, the writer makes it: what glTF
 * keeps in one image (section 3.9.2) is packed, all else goes as it is where the standard takes it.
 */
public sealed interface ImagePlan {
  /** The same key, the same image. */
  String key();

  /** The use that places the image on the surface. */
  TextureUse use();

  /** A file of the source: PNG, JPEG and KTX2 as they are, others as PNG. */
  record Plain(TextureUse use) implements ImagePlan {
    @Override
    public String key() {
      return "plain/" + use.textureId();
    }
  }

  /**
   * Base colour with opacity as alpha.
   *
   * @param base {@code null} for a factor alone
   * @param asIs whether the source keeps it so already
   */
  record Alpha(TextureUse base, TextureUse opacity, boolean asIs) implements ImagePlan {
    @Override
    public String key() {
      return "alpha/" + (base == null ? "-" : base.textureId()) + "/" + id(opacity);
    }

    @Override
    public TextureUse use() {
      return base != null ? base : opacity;
    }
  }

  /**
   * Roughness in green, metallic in blue. One may be {@code null}.
   *
   * @param exponent Phong exponent that the roughness image multiplies; 0 when it holds roughness
   */
  record MetallicRoughness(TextureUse roughness, double exponent, TextureUse metallic)
      implements ImagePlan {
    @Override
    public String key() {
      return "orm/" + id(roughness) + "/" + exponent + "/" + id(metallic);
    }

    @Override
    public TextureUse use() {
      return roughness != null ? roughness : metallic;
    }
  }

  /**
   * A layer's part of an image, where that layer is read from.
   *
   * @param to r, g or a
   */
  record Part(TextureUse use, char to) implements ImagePlan {
    @Override
    public String key() {
      return "part/" + id(use) + "/" + to;
    }
  }

  /** A normal map computed from heights. */
  record Heights(TextureUse use) implements ImagePlan {
    @Override
    public String key() {
      return "bump/" + use.textureId() + "/" + use.amount();
    }
  }

  static Optional<ImagePlan> plain(TextureUse use, SourceImages source) {
    return source.has(use) ? Optional.of(new Plain(use)) : Optional.empty();
  }

  /** The image of a layer: as it is where the part that counts is the one that is read. */
  static Optional<ImagePlan> layer(Channel channel, TextureUse use, SourceImages source) {
    if (!source.has(use)) {
      return Optional.empty();
    }
    char read = LayerParts.standard(channel);
    // Greys have their value in red and green as well, but in no alpha.
    boolean grey = use.component() == 0 && read != 'a';
    return Optional.of(
        read == 0 || grey || use.component() == read ? new Plain(use) : new Part(use, read));
  }

  static Optional<ImagePlan> withAlpha(TextureUse base, TextureUse opacity, SourceImages source) {
    if (!source.has(opacity)) {
      return plain(base, source);
    }
    TextureUse there = source.has(base) ? base : null;
    boolean same = there != null && there.textureId() == opacity.textureId();
    if (!same) {
      return Optional.of(new Alpha(there, opacity, false));
    }
    if (source.info(opacity.textureId()).filter(ImagePlan::isKtx2).isPresent()) {
      return Optional.of(new Plain(there));
    }
    return source.ask(opacity).map(pixels -> new Alpha(there, opacity, pixels.hasAlpha()));
  }

  static Optional<ImagePlan> metallicRoughness(
      TextureUse roughness, double exponent, TextureUse metallic, SourceImages source) {
    TextureUse rough = source.has(roughness) ? roughness : null;
    TextureUse metal = source.has(metallic) ? metallic : null;
    if (rough == null && metal == null) {
      return Optional.empty();
    }
    boolean packedAlready =
        rough != null
            && rough.component() == 'g'
            && exponent == 0
            && (metal == null
                || metal.component() == 'b' && metal.textureId() == rough.textureId());
    return Optional.of(
        packedAlready ? new Plain(rough) : new MetallicRoughness(rough, exponent, metal));
  }

  /** A bump image that already holds normals goes as it is. */
  static Optional<ImagePlan> normal(TextureUse bump, SourceImages source) {
    if (!source.has(bump)) {
      return Optional.empty();
    }
    Optional<Pixels> pixels = source.ask(bump);
    return pixels.map(p -> BumpMap.isNormalMap(p) ? new Plain(bump) : new Heights(bump));
  }

  /**
   * Whether the file goes as it is, by section 3.8.4, KHR_texture_basisu or EXT_texture_webp.
   *
   * @param plainImages whether these two are not wanted
   */
  static boolean isTakenAsIs(ImageInfo info, boolean plainImages) {
    return info.isPngOrJpeg() || isKtx2(info) || isWebp(info) && !plainImages;
  }

  static boolean isWebp(ImageInfo info) {
    return info.kind().equals("webp");
  }

  static boolean isKtx2(ImageInfo info) {
    return info.kind().equals("ktx2");
  }

  private static String id(TextureUse use) {
    return use == null ? "-" : use.textureId() + "c" + (int) use.component();
  }
}
