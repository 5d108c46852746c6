package ferry.stone.core.format.gltf.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.files.TextureBytes;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.BumpMap;
import ferry.stone.core.texture.ChannelPacking;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.ImageInfo;
import ferry.stone.core.texture.ImageSize;
import ferry.stone.core.texture.Pixels;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Images as glTF takes them: PNG and JPEG files go as they are, others become PNG, and channels
 * that glTF keeps in one image are packed. Each result is made once, however often it is used.
 */
final class GltfImages {
  /** An image to write. */
  record Image(String name, String mediaType, byte[] bytes, boolean cutOut) {
    String extension() {
      return isKtx2() ? "ktx2" : mediaType.equals("image/png") ? "png" : "jpg";
    }

    boolean isKtx2() {
      return mediaType.equals(KTX2);
    }
  }

  private static final String KTX2 = "image/ktx2";

  private final Scene scene;
  private final Resources resources;
  private final int largest;
  private final Findings findings;
  private final Map<String, Integer> placeOf = new LinkedHashMap<>();
  private final List<Image> images = new ArrayList<>();
  private final Map<Integer, Optional<byte[]>> files = new HashMap<>();
  private final Map<String, Integer> namesInUse = new HashMap<>();

  /**
   * @param largest longest side in pixels, 0 for no limit
   */
  GltfImages(Scene scene, Resources resources, int largest, Findings findings) {
    this.largest = largest;
    this.scene = scene;
    this.resources = resources;
    this.findings = findings;
  }

  List<Image> all() {
    return images;
  }

  Image get(int index) {
    return images.get(index);
  }

  /** A texture's image as it is; empty when its file is missing or unreadable. */
  Optional<Integer> plain(TextureUse use) {
    if (use == null || file(use).isEmpty()) {
      return Optional.empty();
    }
    return made("plain/" + use.textureId(), () -> plainImage(use.textureId()));
  }

  /** The KTX2 image that the source has beside the one that was written, if there is one. */
  Optional<Integer> packed(TextureUse use, int image) {
    Texture texture = scene.texture(use.textureId()).orElseThrow();
    Integer plain = placeOf.get("plain/" + use.textureId());
    if (texture.packed() == null || !Integer.valueOf(image).equals(plain) || largest > 0) {
      return Optional.empty();
    }
    return made(
        "packed/" + use.textureId(),
        () -> {
          byte[] bytes = TextureBytes.read(texture.packed(), resources);
          ImageCodec.probe(bytes, texture.packed().name());
          return new Image(unique(CargoPath.stem(texture.packed().name())), KTX2, bytes, false);
        });
  }

  /** The base colour's image with opacity as alpha. Either may be {@code null}, not both. */
  Optional<Integer> withAlpha(TextureUse base, TextureUse opacity) {
    if (opacity == null || file(opacity).isEmpty()) {
      return plain(base);
    }
    boolean hasBase = base != null && file(base).isPresent();
    String key =
        "alpha/"
            + (hasBase ? base.textureId() : -1)
            + "/"
            + opacity.textureId()
            + "/"
            + (int) opacity.component();
    return made(
        key,
        () -> {
          Pixels alpha = decode(opacity);
          boolean same = hasBase && base.textureId() == opacity.textureId();
          if (same && alpha.hasAlpha()) {
            Image asIs = plainImage(base.textureId());
            return new Image(
                asIs.name(), asIs.mediaType(), asIs.bytes(), ChannelPacking.isCutOut(alpha));
          }
          Pixels packed =
              ChannelPacking.withAlpha(hasBase ? decode(base) : null, alpha, opacity.component());
          TextureUse named = hasBase ? base : opacity;
          packedNote(named, "base colour and opacity");
          return png(stem(named) + "_alpha", packed, ChannelPacking.isCutOut(packed));
        });
  }

  /** Roughness in green and metallic in blue. Either may be {@code null}, not both. */
  Optional<Integer> metallicRoughness(
      TextureUse roughness, double phongExponent, TextureUse metallic) {
    boolean hasRough = roughness != null && file(roughness).isPresent();
    boolean hasMetal = metallic != null && file(metallic).isPresent();
    if (!hasRough && !hasMetal) {
      return Optional.empty();
    }
    if (hasRough
        && roughness.component() == 'g'
        && phongExponent == 0
        && (!hasMetal
            || (metallic.component() == 'b' && metallic.textureId() == roughness.textureId()))) {
      // Packed as the standard wants it already.
      return plain(roughness);
    }
    String key =
        "orm/"
            + (hasRough ? roughness.textureId() + "c" + (int) roughness.component() : -1)
            + "/"
            + phongExponent
            + "/"
            + (hasMetal ? metallic.textureId() + "c" + (int) metallic.component() : -1);
    return made(
        key,
        () -> {
          Pixels packed =
              ChannelPacking.metallicRoughness(
                  hasRough ? decode(roughness) : null,
                  hasRough ? roughness.component() : 0,
                  phongExponent,
                  hasMetal ? decode(metallic) : null,
                  hasMetal ? metallic.component() : 0);
          packedNote(hasRough ? roughness : metallic, "roughness and metallic");
          return png(stem(hasRough ? roughness : metallic) + "_packed", packed, false);
        });
  }

  /** A normal map of a bump image: as it is when it already holds normals. */
  Optional<Integer> normalOfBump(TextureUse bump) {
    if (bump == null || file(bump).isEmpty()) {
      return Optional.empty();
    }
    return made(
        "bump/" + bump.textureId() + "/" + bump.amount(),
        () -> {
          Pixels pixels = decode(bump);
          if (BumpMap.isNormalMap(pixels)) {
            return plainImage(bump.textureId());
          }
          findings.add(
              Finding.of(
                  "bump-to-normal",
                  Severity.NOTE,
                  stem(bump),
                  "glTF has no bump maps: a normal map was computed from the heights."));
          return png(stem(bump) + "_normal", BumpMap.toNormalMap(pixels, bump.amount()), false);
        });
  }

  private interface Maker {
    Image make() throws IOException;
  }

  private Optional<Integer> made(String key, Maker maker) {
    Integer place = placeOf.get(key);
    if (place != null) {
      return place < 0 ? Optional.empty() : Optional.of(place);
    }
    try {
      images.add(maker.make());
      placeOf.put(key, images.size() - 1);
      return Optional.of(images.size() - 1);
    } catch (IOException e) {
      unreadable(e.getMessage());
      placeOf.put(key, -1);
      return Optional.empty();
    }
  }

  private Image plainImage(int textureId) throws IOException {
    Texture texture = scene.texture(textureId).orElseThrow();
    byte[] bytes = files.get(textureId).orElseThrow();
    ImageInfo info = ImageCodec.probe(bytes, texture.name());
    String stem = CargoPath.stem(texture.name());
    if (info.kind().equals("ktx2")) {
      return new Image(unique(stem), KTX2, bytes, false);
    }
    if (largest > 0 && Math.max(info.width(), info.height()) > largest) {
      Pixels pixels = ImageCodec.decode(bytes, texture.name());
      return info.kind().equals("jpeg")
          ? new Image(
              unique(stem), "image/jpeg", ImageCodec.encodeJpeg(smaller(stem, pixels)), false)
          : png(stem, pixels, false);
    }
    if (info.isPngOrJpeg()) {
      return new Image(unique(stem), "image/" + info.kind(), bytes, false);
    }
    findings.add(
        Finding.of(
            "image-converted",
            Severity.NOTE,
            texture.name(),
            "glTF takes PNG and JPEG only: the "
                + info.kind().toUpperCase()
                + " became a PNG with the same pixels."));
    return png(stem, ImageCodec.decode(bytes, texture.name()), false);
  }

  private Image png(String name, Pixels pixels, boolean cutOut) {
    byte[] bytes = ImageCodec.encodePng(smaller(name, pixels));
    return new Image(unique(name), "image/png", bytes, cutOut);
  }

  /** Within the limit of size, if there is one. */
  private Pixels smaller(String name, Pixels pixels) {
    Pixels small = largest > 0 ? ImageSize.atMost(pixels, largest) : pixels;
    if (small != pixels) {
      findings.add(
          Finding.of(
                  "image-made-smaller",
                  Severity.NOTE,
                  name,
                  "The image was larger than the limit: it was made smaller.")
              .measured(
                  pixels.width()
                      + " × "
                      + pixels.height()
                      + " to "
                      + small.width()
                      + " × "
                      + small.height()
                      + " pixels"));
    }
    return small;
  }

  private String unique(String stem) {
    int count = namesInUse.merge(stem.toLowerCase(), 1, Integer::sum);
    return count == 1 ? stem : unique(stem + "_" + count);
  }

  private void packedNote(TextureUse use, String what) {
    findings.add(
        Finding.of(
            "channels-packed",
            Severity.NOTE,
            stem(use),
            "glTF keeps " + what + " in one image: they were packed."));
  }

  private Pixels decode(TextureUse use) throws IOException {
    return ImageCodec.decode(
        files.get(use.textureId()).orElseThrow(),
        scene.texture(use.textureId()).orElseThrow().name());
  }

  private String stem(TextureUse use) {
    return CargoPath.stem(scene.texture(use.textureId()).orElseThrow().name());
  }

  private Optional<byte[]> file(TextureUse use) {
    return files.computeIfAbsent(
        use.textureId(),
        id -> {
          Texture texture = scene.texture(id).orElseThrow();
          if (!texture.isFound()) {
            return Optional.empty();
          }
          try {
            byte[] bytes = TextureBytes.read(texture, resources);
            ImageCodec.probe(bytes, texture.name());
            return Optional.of(bytes);
          } catch (IOException e) {
            unreadable(e.getMessage());
            return Optional.empty();
          }
        });
  }

  private void unreadable(String message) {
    findings.add(
        Finding.of("texture-unreadable", Severity.FIX, "", message + " It does not land."));
  }
}
