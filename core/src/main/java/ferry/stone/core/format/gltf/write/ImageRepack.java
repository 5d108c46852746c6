package ferry.stone.core.format.gltf.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.gltf.plan.ImageKind;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.ImageException;
import ferry.stone.core.texture.ImageLoss;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.ktx.KtxWriter;
import java.util.Locale;

/** Writes an image once more as another kind of file, and says what that takes and loses. */
final class ImageRepack {
  private final ImageKind kind;
  private final Findings findings;

  ImageRepack(ImageKind kind, Findings findings) {
    this.kind = kind;
    this.findings = findings;
  }

  /** What parts images of one plan that become different files; empty where they are the same. */
  String apart(KtxWriter.Content content) {
    return switch (kind) {
      case KTX2 -> "/" + content;
      case WEBP -> content == KtxWriter.Content.COLOUR ? "/colour" : "";
      default -> "";
    };
  }

  /** The image as the kind wants it; as it is where that would only make it larger. */
  GltfImages.Image of(GltfImages.Image image, KtxWriter.Content content) throws ImageException {
    boolean colour = content == KtxWriter.Content.COLOUR;
    boolean webpStays = image.isWebp() && kind != ImageKind.KTX2;
    if (kind == ImageKind.SAME || image.isKtx2() || webpStays) {
      return image;
    }
    Pixels pixels = ImageCodec.decode(image.bytes(), image.name());
    byte[] bytes = kind.encode(pixels, content, image.bytes());
    if (kind == ImageKind.KTX2) {
      told(image, pixels, bytes, "KTX2");
      return new GltfImages.Image(image.name(), GltfImages.KTX2, bytes, image.cutOut());
    }
    if (bytes == image.bytes()) {
      return image;
    }
    if (kind.loses(colour)) {
      told(image, pixels, bytes, "WebP");
    }
    return new GltfImages.Image(image.name(), GltfImages.WEBP, bytes, image.cutOut());
  }

  private void told(GltfImages.Image image, Pixels before, byte[] bytes, String what)
      throws ImageException {
    Pixels after = ImageCodec.decode(bytes, image.name());
    double loss = ImageLoss.decibels(before, after);
    boolean fits = before.width() == after.width() && before.height() == after.height();
    findings.add(
        Finding.of(
                "image-repacked",
                Severity.NOTE,
                image.name(),
                String.format(
                    Locale.ROOT,
                    "It became %s: %.2f MB became %.2f MB.%s",
                    what,
                    image.bytes().length / 1e6,
                    bytes.length / 1e6,
                    fits
                        ? ""
                        : " Its sides had to be multiples of four: "
                            + after.width()
                            + " × "
                            + after.height()
                            + "."))
            .measured(
                Double.isInfinite(loss)
                    ? "nothing lost"
                    : String.format(Locale.ROOT, "%.1f dB", loss))
            .evidence("peak signal-to-noise ratio; above 40 dB hardly anything is seen"));
  }
}
