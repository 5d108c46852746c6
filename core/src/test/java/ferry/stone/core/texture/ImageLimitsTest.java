package ferry.stone.core.texture;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Random;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

class ImageLimitsTest {
  private static byte[] webp() {
    // One pixel, lossy, 34 bytes; from memory, checked by reading it.
    return Base64.getDecoder().decode("UklGRiIAAABXRUJQVlA4IBYAAAAwAQCdASoBAAEADsD+JaQAA3AAAAAA");
  }

  @Test
  void anImageThatClaimsMorePixelsThanItsBytesCanHoldIsNotDecoded() throws Exception {
    byte[] webp = webp();
    // RFC 6386, section 9.1: width and height, 14 bits each, after the frame's start code.
    ByteBuffer.wrap(webp)
        .order(ByteOrder.LITTLE_ENDIAN)
        .putShort(26, (short) 16_000)
        .putShort(28, (short) 6_000);
    assertEquals(16_000, ImageCodec.probe(webp, "a.webp").width());
    ImageException e = assertThrows(ImageException.class, () -> ImageCodec.decode(webp, "a.webp"));
    assertTrue(e.getMessage().startsWith("a.webp: the image claims 16000 × 6000"), e.getMessage());
    byte[] png = ImageCodec.encodePng(new Pixels(1, 1, new int[] {-1}, false));
    ByteBuffer.wrap(png).putInt(16, 16_000).putInt(20, 6_000);
    assertThrows(ImageException.class, () -> ImageCodec.decode(png, "a.png"));
  }

  @Test
  void damagedImagesEndInASentence() throws Exception {
    byte[] png = ImageCodec.encodePng(new Pixels(2, 2, new int[] {1, 2, 3, -1}, true));
    byte[] jpeg = ImageCodec.encodeJpeg(new Pixels(2, 2, new int[] {1, 2, 3, -1}, false));
    Random random = new Random(5);
    for (byte[] whole : List.of(png, jpeg, webp())) {
      for (int i = 0; i < 400; i++) {
        byte[] bad = whole.clone();
        for (int k = random.nextInt(4); k >= 0; k--) {
          bad[random.nextInt(bad.length)] = (byte) random.nextInt(256);
        }
        try {
          ImageCodec.decode(bad, "a.png");
        } catch (ImageException e) {
          assertTrue(e.getMessage().startsWith("a.png: "), e.getMessage());
        }
      }
    }
  }

  @Test
  void largeImagesAreDecodedOneAfterAnother() throws Exception {
    AtomicInteger now = new AtomicInteger();
    AtomicInteger most = new AtomicInteger();
    ExecutorService pool = Executors.newFixedThreadPool(4);
    try {
      List<Future<?>> all = new ArrayList<>();
      for (int i = 0; i < 8; i++) {
        all.add(
            pool.submit(
                () ->
                    DecodeBudget.within(
                        Long.MAX_VALUE / 2,
                        () -> {
                          most.accumulateAndGet(now.incrementAndGet(), Math::max);
                          Thread.yield();
                          return now.decrementAndGet();
                        })));
      }
      for (Future<?> one : all) {
        one.get();
      }
    } finally {
      pool.shutdownNow();
    }
    assertEquals(1, most.get());
  }

  @Test
  void ktx2HeadsAreReadAndCutOnesRefused() throws Exception {
    byte[] head = new byte[80];
    byte[] mark = {(byte) 0xAB, 'K', 'T', 'X', ' ', '2', '0', (byte) 0xBB, '\r', '\n', 0x1A, '\n'};
    System.arraycopy(mark, 0, head, 0, mark.length);
    ByteBuffer.wrap(head).order(ByteOrder.LITTLE_ENDIAN).putInt(20, 256).putInt(24, 64);
    assertEquals(new ImageInfo("ktx2", 256, 64), ImageCodec.probe(head, "a.ktx2"));
    assertThrows(
        ImageException.class, () -> ImageCodec.probe(java.util.Arrays.copyOf(head, 40), "a.ktx2"));
  }

  @Test
  void aFactorIsMultipliedInAsLightForColourAndAsItIsForData() {
    Pixels image = new Pixels(2, 1, new int[] {0x80ffffff, 0xff404040}, true);
    double[] half = {0.5};
    // IEC 61966-2-1: half of full light is 188 of 255; of 64 of 255 it is 45.
    assertEquals(0x80bcbcbc, Tint.of(image, half, true, true).argb()[0]);
    int dark = (int) Math.round(255 * ColourSpace.toSrgb(ColourSpace.toLinear(64 / 255.0) / 2));
    assertEquals(0xff000000 | dark * 0x10101, Tint.of(image, half, true, true).argb()[1]);
    assertEquals(0x80808080, Tint.of(image, half, false, true).argb()[0]);
    assertEquals(0xff202020, Tint.of(image, half, false, true).argb()[1]);
    // An sRGB factor of 188 of 255 is half the light.
    assertEquals(
        0x80bc0000, Tint.of(image, new double[] {188 / 255.0, 0, 0}, true, false).argb()[0]);
  }
}
