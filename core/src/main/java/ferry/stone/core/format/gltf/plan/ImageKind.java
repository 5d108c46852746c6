package ferry.stone.core.format.gltf.plan;

import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.ImageException;
import ferry.stone.core.texture.ImageSize;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.ktx.KtxWriter;

/** As what a glTF's images are written. */
public enum ImageKind {
  /** PNG, JPEG, KTX2 and WebP as they are, others as PNG. */
  SAME,
  /** WebP, every pixel as it is: EXT_texture_webp. */
  WEBP_EXACT,
  /** WebP, colours with a little loss, data without: EXT_texture_webp. */
  WEBP,
  /** KTX2 with UASTC and all smaller levels: KHR_texture_basisu. */
  KTX2;

  /** A difference of a channel that is no more than rounding. */
  private static final int ROUNDING = 1;

  /** Whether an image may change when it is written so. */
  public boolean loses(boolean colour) {
    return this == KTX2 || this == WEBP && colour;
  }

  /**
   * The file of an image; of KTX2 with sides that are multiples of four.
   *
   * @param plain its bytes as PNG or JPEG
   * @return {@code plain} where WebP would only be larger, or lose what is beyond 8 bits
   */
  public byte[] encode(Pixels pixels, KtxWriter.Content content, byte[] plain)
      throws ImageException {
    if (this == KTX2) {
      int width = fitting(pixels.width());
      int height = fitting(pixels.height());
      return KtxWriter.write(ImageSize.to(pixels, width, height), content);
    }
    if (pixels.isDeep() && !loses(content == KtxWriter.Content.COLOUR)) {
      return plain;
    }
    byte[] webp = ImageCodec.encodeWebp(pixels, !loses(content == KtxWriter.Content.COLOUR));
    return webp.length < plain.length ? webp : plain;
  }

  /** Whether an image really changes, found by trying. */
  boolean changes(Pixels pixels, KtxWriter.Content content, byte[] file) {
    try {
      boolean taken = ImageCodec.probe(file, "").isPngOrJpeg();
      byte[] plain = taken ? file : ImageCodec.encodePng(pixels);
      Pixels after = ImageCodec.decode(encode(pixels, content, plain), "");
      boolean fits = after.width() == pixels.width() && after.height() == pixels.height();
      int most = 0;
      for (int i = 0; fits && i < after.argb().length; i++) {
        for (int shift = 0; shift <= 24; shift += 8) {
          int off = (after.argb()[i] >> shift & 0xff) - (pixels.argb()[i] >> shift & 0xff);
          most = Math.max(most, Math.abs(off));
        }
      }
      return !fits || most > ROUNDING;
    } catch (ImageException e) {
      // What cannot be written is told by the writer.
      return false;
    }
  }

  /** KHR_texture_basisu wants sides that are multiples of four. */
  private static int fitting(int side) {
    return (side + KtxWriter.SIDE - 1) / KtxWriter.SIDE * KtxWriter.SIDE;
  }
}
