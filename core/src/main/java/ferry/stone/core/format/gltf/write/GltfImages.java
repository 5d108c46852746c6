package ferry.stone.core.format.gltf.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.files.TextureBytes;
import ferry.stone.core.format.gltf.plan.ImagePlan;
import ferry.stone.core.format.gltf.plan.SourceImages;
import ferry.stone.core.format.gltf.raw.GltfExtensions;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.BumpMap;
import ferry.stone.core.texture.ChannelPacking;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.ImageInfo;
import ferry.stone.core.texture.ImageSize;
import ferry.stone.core.texture.PartSource;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.ktx.KtxWriter;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Images as glTF takes them: PNG, JPEG, KTX2 and WebP go as they are, others become PNG, and
 * channels that glTF keeps in one image are packed. Each result is made once, however often it is
 * used.
 */
final class GltfImages {
  /** An image to write. */
  record Image(String name, String mediaType, byte[] bytes, boolean cutOut) {
    String extension() {
      return isKtx2() || isWebp()
          ? mediaType.substring(6)
          : mediaType.endsWith("png") ? "png" : "jpg";
    }

    boolean isKtx2() {
      return mediaType.equals(KTX2);
    }

    boolean isWebp() {
      return mediaType.equals(WEBP);
    }

    /** The extension without which it cannot be shown, or {@code null}. */
    String needs() {
      return isKtx2() ? GltfExtensions.KTX2 : isWebp() ? GltfExtensions.WEBP : null;
    }
  }

  static final String KTX2 = "image/ktx2";
  static final String WEBP = "image/webp";

  private final SourceImages source;
  private final Resources resources;
  private final int largest;
  private final Findings findings;
  private final boolean plain;
  private final boolean noneBeside;
  private final ImageRepack repack;
  private final Map<String, Integer> placeOf = new LinkedHashMap<>();
  private final List<Image> images = new ArrayList<>();
  private final Map<String, Integer> namesInUse = new HashMap<>();

  GltfImages(Scene scene, Resources resources, GltfPacking packing, Findings findings) {
    largest = packing.largestTexture();
    plain = packing.plainImages();
    noneBeside = packing.leavesPackedImages();
    repack = new ImageRepack(packing.imageKind(), findings);
    this.resources = resources;
    this.findings = findings;
    source = new SourceImages(scene, resources, this::unreadable);
  }

  SourceImages source() {
    return source;
  }

  List<Image> all() {
    return images;
  }

  Image get(int index) {
    return images.get(index);
  }

  /**
   * The image of a plan, made once; empty when its pixels cannot be read, which is told.
   *
   * @param content what its values are
   */
  Optional<Integer> made(ImagePlan plan, KtxWriter.Content content) {
    return made(plan.key() + repack.apart(content), () -> repack.of(make(plan), content));
  }

  private Image make(ImagePlan plan) throws IOException {
    if (plan instanceof ImagePlan.Alpha alpha) {
      return withAlpha(alpha);
    }
    if (plan instanceof ImagePlan.MetallicRoughness both) {
      return metallicRoughness(both);
    }
    if (plan instanceof ImagePlan.Part part) {
      return layer(part);
    }
    return plan instanceof ImagePlan.Heights heights
        ? normalOfHeights(heights)
        : plainImage(plan.use().textureId());
  }

  /** The KTX2 image that the source has beside the one that was written, if there is one. */
  Optional<Integer> packed(TextureUse use, int image) {
    Texture texture = source.texture(use.textureId());
    Integer own = placeOf.get("plain/" + use.textureId());
    boolean same = Integer.valueOf(image).equals(own);
    if (texture.packed() == null || !same || largest > 0 || noneBeside) {
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

  private Image withAlpha(ImagePlan.Alpha plan) throws IOException {
    Pixels alpha = source.pixels(plan.opacity());
    if (plan.asIs()) {
      Image asIs = plainImage(plan.opacity().textureId());
      return new Image(asIs.name(), asIs.mediaType(), asIs.bytes(), ChannelPacking.isCutOut(alpha));
    }
    Pixels packed =
        ChannelPacking.withAlpha(pixels(plan.base()), alpha, plan.opacity().component());
    packedNote(plan.use(), "base colour and opacity");
    return png(source.stem(plan.use()) + "_alpha", packed, ChannelPacking.isCutOut(packed));
  }

  private Image metallicRoughness(ImagePlan.MetallicRoughness plan) throws IOException {
    Pixels packed =
        ChannelPacking.metallicRoughness(
            pixels(plan.roughness()),
            plan.roughness() != null ? plan.roughness().component() : 0,
            plan.exponent(),
            pixels(plan.metallic()),
            plan.metallic() != null ? plan.metallic().component() : 0);
    packedNote(plan.use(), "roughness and metallic");
    return png(source.stem(plan.use()) + "_packed", packed, false);
  }

  private Image layer(ImagePlan.Part plan) throws IOException {
    char from = plan.use().component();
    PartSource value = new PartSource(source.pixels(plan.use()), from, false, 1);
    Pixels packed = PartSource.pack(value, value, value, plan.to() == 'a' ? value : null);
    findings.add(
        Finding.of(
            "channels-packed",
            Severity.NOTE,
            source.stem(plan.use()),
            "glTF reads a layer from one part of its image: the value was put there."));
    return png(source.stem(plan.use()) + "_" + plan.to(), packed, false);
  }

  private Image normalOfHeights(ImagePlan.Heights plan) throws IOException {
    Pixels pixels = source.pixels(plan.use());
    String stem = source.stem(plan.use());
    findings.add(
        Finding.of(
            "bump-to-normal",
            Severity.NOTE,
            stem,
            "glTF has no bump maps: a normal map was computed from the heights."));
    return png(stem + "_normal", BumpMap.toNormalMap(pixels, plan.use().amount()), false);
  }

  private Pixels pixels(TextureUse use) throws IOException {
    return use == null ? null : source.pixels(use);
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
    Texture texture = source.texture(textureId);
    byte[] bytes = source.bytes(textureId);
    ImageInfo info = ImageCodec.probe(bytes, texture.name());
    String stem = CargoPath.stem(texture.name());
    if (ImagePlan.isKtx2(info) && !plain) {
      return new Image(unique(stem), KTX2, bytes, false);
    }
    boolean tooLarge = largest > 0 && Math.max(info.width(), info.height()) > largest;
    if (ImagePlan.isWebp(info) && !plain && !tooLarge) {
      return new Image(unique(stem), WEBP, bytes, false);
    }
    if (tooLarge) {
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
            source.stem(use),
            "glTF keeps " + what + " in one image: they were packed."));
  }

  private void unreadable(String message) {
    findings.add(
        Finding.of("texture-unreadable", Severity.FIX, "", message + " It does not land."));
  }
}
