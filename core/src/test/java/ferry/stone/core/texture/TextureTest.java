package ferry.stone.core.texture;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import java.nio.ByteBuffer;
import java.util.EnumMap;
import java.util.Map;
import org.junit.jupiter.api.Test;

class TextureTest {
  private static Material phong(double kd, double ks, double ns) {
    Map<Channel, Material.Value> c = new EnumMap<>(Channel.class);
    c.put(Channel.BASE_COLOUR, new Material.Value(new double[] {kd, kd, kd}, null));
    c.put(Channel.SPECULAR, new Material.Value(new double[] {ks, ks, ks}, null));
    c.put(Channel.SHININESS, new Material.Value(new double[] {ns}, null));
    return new Material(
        1, "m", Material.Shading.PHONG, c, Material.Alpha.OPAQUE, 0.5, false, Map.of());
  }

  @Test
  void srgbAtTheStandardsOwnPoints() {
    // IEC 61966-2-1: the linear part ends at 0.04045 / 12.92; mid grey 0.5 is 0.2140 linear.
    assertEquals(0.0031308, ColourSpace.toLinear(0.04045), 1e-6);
    assertEquals(0.21404, ColourSpace.toLinear(0.5), 1e-5);
    for (double v = 0; v <= 1; v += 0.01) {
      assertEquals(v, ColourSpace.toSrgb(ColourSpace.toLinear(v)), 1e-9);
    }
  }

  @Test
  void roughnessOfPhongExponents() {
    // Walter et al. 2007: α² = 2 / (n + 2); glTF 2.0 appendix B: α = roughness².
    assertEquals(1, PbrTranslation.roughnessOfExponent(0));
    double r = PbrTranslation.roughnessOfExponent(30);
    assertEquals(2.0 / 32, Math.pow(r, 4), 1e-12);
    PbrMaterial pbr = PbrTranslation.translate(phong(0.5, 0.3, 30), false);
    assertEquals(r, pbr.roughness());
    assertEquals(0, pbr.metallic());
    assertEquals(0.21404, pbr.baseColour()[0], 1e-5);
  }

  @Test
  void aDarkBodyWithABrightHighlightIsMetal() {
    PbrMaterial pbr = PbrTranslation.translate(phong(0.01, 0.8, 100), true);
    assertEquals(1, pbr.metallic());
    assertEquals(0.8, pbr.baseColour()[0]);
  }

  @Test
  void emissionAboveOneBecomesStrength() {
    Map<Channel, Material.Value> c = new EnumMap<>(Channel.class);
    c.put(Channel.EMISSIVE, new Material.Value(new double[] {4, 2, 0}, null));
    Material m =
        new Material(
            1, "m", Material.Shading.PHONG, c, Material.Alpha.OPAQUE, 0.5, false, Map.of());
    PbrMaterial pbr = PbrTranslation.translate(m, true);
    assertEquals(4, pbr.emissiveStrength());
    assertArrayEquals(new double[] {1, 0.5, 0}, pbr.emissive());
  }

  @Test
  void packsChannelsOfDifferentSizes() {
    Pixels rough = new Pixels(2, 2, new int[] {0xff000000, 0xff404040, 0xff808080, -1}, false);
    Pixels metal = new Pixels(1, 1, new int[] {0xffff0000}, false);
    Pixels packed = ChannelPacking.metallicRoughness(rough, 'l', 0, metal, 'r');
    assertEquals(0xffff40ff, packed.argb()[1]);
    assertEquals(0xffff80ff, packed.argb()[2]);
    Pixels alpha = ChannelPacking.withAlpha(metal, rough, (char) 0);
    assertEquals(0x40ff0000, alpha.argb()[1]);
    assertFalse(ChannelPacking.isCutOut(alpha));
  }

  @Test
  void heightsBecomeNormalsThatLeanAwayFromTheSlope() {
    int[] ramp = new int[64];
    for (int i = 0; i < 64; i++) {
      int v = (i % 8) * 30;
      ramp[i] = 0xff000000 | v << 16 | v << 8 | v;
    }
    Pixels normal = BumpMap.toNormalMap(new Pixels(8, 8, ramp, false), 1);
    int middle = normal.argb()[3 * 8 + 3];
    assertTrue(((middle >> 16) & 255) < 128, "rising to the right leans left");
    assertEquals(128, (middle >> 8) & 255, 1);
    assertFalse(BumpMap.isNormalMap(new Pixels(8, 8, ramp, false)));
    int[] flat = new int[64];
    java.util.Arrays.fill(flat, 0xff8080ff);
    assertTrue(BumpMap.isNormalMap(new Pixels(8, 8, flat, false)));
  }

  @Test
  void readsWebp() throws Exception {
    // One pixel, lossy, 34 bytes; from memory, checked by reading it.
    byte[] webp =
        java.util.Base64.getDecoder()
            .decode("UklGRiIAAABXRUJQVlA4IBYAAAAwAQCdASoBAAEADsD+JaQAA3AAAAAA");
    ImageInfo info = ImageCodec.probe(webp, "a.webp");
    assertEquals("webp", info.kind());
    assertFalse(info.isPngOrJpeg());
    assertEquals(1, ImageCodec.decode(webp, "a.webp").argb().length);
  }

  @Test
  void refusesImagesThatClaimTooMuch() {
    byte[] png = ImageCodec.encodePng(new Pixels(1, 1, new int[] {-1}, false));
    ByteBuffer.wrap(png).putInt(16, 60_000).putInt(20, 60_000);
    ImageException e = assertThrows(ImageException.class, () -> ImageCodec.probe(png, "big.png"));
    assertTrue(e.getMessage().contains("60000"), e.getMessage());
    assertThrows(ImageException.class, () -> ImageCodec.probe(new byte[0], "none.png"));
    assertThrows(ImageException.class, () -> ImageCodec.decode(new byte[] {1, 2}, "a.tga"));
  }
}
