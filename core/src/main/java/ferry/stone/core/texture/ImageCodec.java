package ferry.stone.core.texture;

import ferry.stone.core.texture.ktx.KtxReader;
import java.awt.Rectangle;
import java.awt.Transparency;
import java.awt.color.ColorSpace;
import java.awt.image.BufferedImage;
import java.awt.image.ColorModel;
import java.awt.image.ComponentColorModel;
import java.awt.image.DataBuffer;
import java.awt.image.DataBufferUShort;
import java.awt.image.Raster;
import java.awt.image.WritableRaster;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Iterator;
import java.util.Locale;
import javax.imageio.IIOImage;
import javax.imageio.ImageIO;
import javax.imageio.ImageReadParam;
import javax.imageio.ImageReader;
import javax.imageio.ImageWriteParam;
import javax.imageio.ImageWriter;
import javax.imageio.stream.ImageInputStream;
import javax.imageio.stream.ImageOutputStream;

/**
 * Reads PNG, JPEG, TGA, BMP, TIFF, WebP and GIF through the JDK's image readers and their plug-ins,
 * and writes PNG, JPEG, WebP and KTX2. Sizes are checked before pixels are made.
 */
public final class ImageCodec {
  /** Longest side taken, in pixels. */
  public static final int LONGEST_SIDE = 16_384;

  /** Most pixels taken: 400 MB once decoded. */
  public static final long MOST_PIXELS = 100_000_000;

  /** What an image of any size in bytes may hold. */
  private static final long PIXELS_OF_ANY = 4_000_000;

  /** Deflate packs at most 1,032 to 1; a byte of that holds at most 8 pixels. */
  private static final long PIXELS_A_BYTE = 8 * 1032;

  private static final float JPEG_QUALITY = 0.92f;

  static {
    ImageIO.setUseCache(false);
    ImageIO.scanForPlugins();
    Webp.writeOnly();
  }

  private ImageCodec() {}

  /**
   * @param name file name, for the message and for TGA, which has no mark of its own
   * @throws ImageException if this is no image that can be read
   */
  public static ImageInfo probe(byte[] file, String name) throws ImageException {
    if (Ktx2.is(file)) {
      return Ktx2.probe(file, name);
    }
    return withReader(
        file, name, reader -> new ImageInfo(kind(reader), reader.getWidth(0), reader.getHeight(0)));
  }

  /** Decodes the first picture of a file. */
  public static Pixels decode(byte[] file, String name) throws ImageException {
    if (Ktx2.is(file)) {
      return ktx2(file, name);
    }
    return withReader(
        file,
        name,
        reader -> {
          long pixels = (long) reader.getWidth(0) * reader.getHeight(0);
          if (pixels > Math.max(PIXELS_OF_ANY, PIXELS_A_BYTE * file.length)) {
            throw new ImageException(
                name
                    + ": the image claims "
                    + reader.getWidth(0)
                    + " × "
                    + reader.getHeight(0)
                    + " pixels in "
                    + file.length
                    + " bytes, more than any image of its kind holds. Save it again.");
          }
          return DecodeBudget.within(pixels, () -> decoded(reader));
        });
  }

  private static Pixels ktx2(byte[] file, String name) throws ImageException {
    ImageInfo info = Ktx2.probe(file, name);
    within(info.width(), info.height(), name);
    try {
      return DecodeBudget.within((long) info.width() * info.height(), () -> KtxReader.read(file));
    } catch (ImageException e) {
      throw new ImageException(
          name + ": the KTX2 image cannot be read: " + e.getMessage() + ". Save it again.", e);
    } catch (IOException e) {
      throw new ImageException(name + ": " + e.getMessage(), e);
    }
  }

  /**
   * Some pixels of the first picture, for what needs to look and not to keep.
   *
   * @param region of the image, or {@code null} for all of it
   * @param step every how manieth pixel of each row and column
   */
  public static Pixels sampled(byte[] file, String name, Rectangle region, int step)
      throws ImageException {
    if (Ktx2.is(file)) {
      return sampled(decode(file, name), region, step);
    }
    return withReader(
        file,
        name,
        reader -> {
          ImageReadParam param = reader.getDefaultReadParam();
          param.setSourceSubsampling(step, step, 0, 0);
          if (region != null) {
            param.setSourceRegion(region);
          }
          return DecodeBudget.within(
              (long) reader.getWidth(0) * reader.getHeight(0),
              () -> RasterPixels.of(reader.read(0, param)));
        });
  }

  private static Pixels sampled(Pixels whole, Rectangle region, int step) {
    Rectangle in = region == null ? new Rectangle(whole.width(), whole.height()) : region;
    int w = (in.width + step - 1) / step;
    int h = (in.height + step - 1) / step;
    int[] argb = new int[w * h];
    for (int i = 0; i < argb.length; i++) {
      argb[i] = whole.argb()[(in.y + i / w * step) * whole.width() + in.x + i % w * step];
    }
    return new Pixels(w, h, argb, whole.hasAlpha());
  }

  private static Pixels decoded(ImageReader reader) throws IOException {
    return RasterPixels.of(reader.read(0));
  }

  /** Whether a file is a KTX2 container, which glTF carries as it is. */
  public static boolean isKtx2(byte[] file) {
    return Ktx2.is(file);
  }

  /**
   * The brands of AVIF in the first box of a file (ISO/IEC 14496-12 section 4.3, AV1 Image File).
   */
  private static boolean isAvif(byte[] file) {
    if (file.length < 12) {
      return false;
    }
    String head = new String(file, 4, 8, StandardCharsets.ISO_8859_1);
    return head.equals("ftypavif") || head.equals("ftypavis");
  }

  private interface Use<T> {
    T apply(ImageReader reader) throws IOException;
  }

  private static <T> T withReader(byte[] file, String name, Use<T> use) throws ImageException {
    if (file.length == 0) {
      throw new ImageException(name + ": the image file is empty. Copy or export it again.");
    }
    try (ImageInputStream in = ImageIO.createImageInputStream(new ByteArrayInputStream(file))) {
      Iterator<ImageReader> readers =
          name.toLowerCase(Locale.ROOT).endsWith(".tga")
              ? ImageIO.getImageReadersByFormatName("tga")
              : ImageIO.getImageReaders(in);
      if (!readers.hasNext() && isAvif(file)) {
        throw new ImageException(
            name
                + ": this is an AVIF image, which is not read here: save the texture again as PNG,"
                + " JPEG, WebP or KTX2, and name it so in the scene.");
      }
      if (!readers.hasNext()) {
        throw new ImageException(
            name
                + ": this is no image that can be read. Expected PNG, JPEG, TGA, BMP, TIFF or WebP;"
                + " save the texture again in one of these.");
      }
      ImageReader reader = readers.next();
      try {
        reader.setInput(in, true, true);
        int w = reader.getWidth(0);
        int h = reader.getHeight(0);
        within(w, h, name);
        return use.apply(reader);
      } finally {
        reader.dispose();
      }
    } catch (ImageException e) {
      throw e;
    } catch (IOException | RuntimeException e) {
      // Plug-ins throw all kinds of exceptions on damaged files.
      throw new ImageException(
          name + ": the image is damaged (" + e.getMessage() + "). Save it again.", e);
    }
  }

  private static void within(int w, int h, String name) throws ImageException {
    if (w < 1 || h < 1 || w > LONGEST_SIDE || h > LONGEST_SIDE || (long) w * h > MOST_PIXELS) {
      throw new ImageException(
          name
              + ": the image claims "
              + w
              + " × "
              + h
              + " pixels; at most "
              + LONGEST_SIDE
              + " a side and 100 million in all are taken. Make it smaller.");
    }
  }

  private static String kind(ImageReader reader) throws IOException {
    String kind = reader.getFormatName().toLowerCase(Locale.ROOT);
    return kind.equals("jpg") ? "jpeg" : kind.equals("targa") ? "tga" : kind;
  }

  /** A JPEG of the pixels without alpha. Same pixels, same bytes. */
  public static byte[] encodeJpeg(Pixels pixels) {
    BufferedImage image =
        new BufferedImage(pixels.width(), pixels.height(), BufferedImage.TYPE_INT_RGB);
    image.setRGB(0, 0, pixels.width(), pixels.height(), pixels.argb(), 0, pixels.width());
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ImageWriter writer = ImageIO.getImageWritersByFormatName("jpeg").next();
    try (ImageOutputStream to = ImageIO.createImageOutputStream(out)) {
      ImageWriteParam how = writer.getDefaultWriteParam();
      how.setCompressionMode(ImageWriteParam.MODE_EXPLICIT);
      how.setCompressionQuality(JPEG_QUALITY);
      writer.setOutput(to);
      writer.write(null, new IIOImage(image, null, null), how);
    } catch (IOException e) {
      throw new IllegalStateException("writing to memory cannot fail", e);
    } finally {
      writer.dispose();
    }
    return out.toByteArray();
  }

  /**
   * A WebP of the pixels.
   *
   * @param exact without loss; else colours at a quality of 90 %
   */
  public static byte[] encodeWebp(Pixels pixels, boolean exact) throws ImageException {
    return Webp.write(pixels, exact);
  }

  /**
   * A PNG of the pixels, with alpha only where they have it, and 16 bits where they have. Same
   * pixels, same bytes.
   */
  public static byte[] encodePng(Pixels pixels) {
    BufferedImage image = pixels.isDeep() ? deep(pixels) : plain(pixels);
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try {
      ImageIO.write(image, "png", out);
    } catch (IOException e) {
      throw new IllegalStateException("writing to memory cannot fail", e);
    }
    return out.toByteArray();
  }

  private static BufferedImage plain(Pixels pixels) {
    BufferedImage image =
        new BufferedImage(
            pixels.width(),
            pixels.height(),
            pixels.hasAlpha() ? BufferedImage.TYPE_INT_ARGB : BufferedImage.TYPE_INT_RGB);
    image.setRGB(0, 0, pixels.width(), pixels.height(), pixels.argb(), 0, pixels.width());
    return image;
  }

  private static BufferedImage deep(Pixels pixels) {
    int bands = pixels.hasAlpha() ? 4 : 3;
    ColorModel model =
        new ComponentColorModel(
            ColorSpace.getInstance(ColorSpace.CS_sRGB),
            pixels.hasAlpha(),
            false,
            pixels.hasAlpha() ? Transparency.TRANSLUCENT : Transparency.OPAQUE,
            DataBuffer.TYPE_USHORT);
    WritableRaster raster =
        Raster.createInterleavedRaster(
            DataBuffer.TYPE_USHORT, pixels.width(), pixels.height(), bands, null);
    short[] into = ((DataBufferUShort) raster.getDataBuffer()).getData();
    for (int i = 0; i < pixels.argb().length; i++) {
      System.arraycopy(pixels.deep(), 4 * i, into, bands * i, bands);
    }
    return new BufferedImage(model, raster, false, null);
  }
}
