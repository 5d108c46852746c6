package ferry.stone.core.texture;

import com.luciad.imageio.webp.CompressionType;
import com.luciad.imageio.webp.WebPImageReaderSpi;
import com.luciad.imageio.webp.WebPWriteParam;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.Locale;
import javax.imageio.IIOImage;
import javax.imageio.ImageIO;
import javax.imageio.ImageWriter;
import javax.imageio.spi.IIORegistry;
import javax.imageio.stream.ImageOutputStream;

/**
 * Writes WebP through libwebp, which the package brings. Files from elsewhere are not read by it:
 * its reader is taken out, the one in Java reads them.
 */
final class Webp {
  private static final float QUALITY = 0.9f;

  private Webp() {}

  /** Leaves WebP to the reader in Java. */
  static void writeOnly() {
    IIORegistry registry = IIORegistry.getDefaultInstance();
    WebPImageReaderSpi reader = registry.getServiceProviderByClass(WebPImageReaderSpi.class);
    if (reader != null) {
      registry.deregisterServiceProvider(reader);
    }
  }

  /**
   * @param exact every pixel as it is, also where it is clear; else colours at a quality of 90 %
   * @throws ImageException if the package does not run on this machine
   */
  static byte[] write(Pixels pixels, boolean exact) throws ImageException {
    BufferedImage image =
        new BufferedImage(
            pixels.width(),
            pixels.height(),
            pixels.hasAlpha() ? BufferedImage.TYPE_INT_ARGB : BufferedImage.TYPE_INT_RGB);
    image.setRGB(0, 0, pixels.width(), pixels.height(), pixels.argb(), 0, pixels.width());
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ImageWriter writer = ImageIO.getImageWritersByMIMEType("image/webp").next();
    try (ImageOutputStream to = ImageIO.createImageOutputStream(out)) {
      WebPWriteParam how = new WebPWriteParam(Locale.ROOT);
      how.setCompressionType(exact ? CompressionType.Lossless : CompressionType.Lossy);
      how.setCompressionQuality(exact ? 0.75f : QUALITY);
      how.setExact(true);
      how.setUseSharpYUV(true);
      writer.setOutput(to);
      writer.write(null, new IIOImage(image, null, null), how);
    } catch (IOException | LinkageError e) {
      throw new ImageException(
          "WebP cannot be written on this machine ("
              + e.getMessage()
              + "). Choose another kind of image.",
          e);
    } finally {
      writer.dispose();
    }
    return out.toByteArray();
  }
}
