package ferry.stone.core.texture;

/**
 * What an image file says about itself.
 *
 * @param kind {@code png}, {@code jpeg}, {@code tga}, {@code bmp}, {@code tiff}, {@code webp},
 *     {@code gif}
 */
public record ImageInfo(String kind, int width, int height) {
  /** Whether glTF takes the file as it is: section 3.8.4 allows PNG and JPEG. */
  public boolean isPngOrJpeg() {
    return kind.equals("png") || kind.equals("jpeg");
  }
}
