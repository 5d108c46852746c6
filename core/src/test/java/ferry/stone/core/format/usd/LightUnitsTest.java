package ferry.stone.core.format.usd;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.scene.node.Light;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * Candela and lux of a nit after the shapes of the standard (usdLux: UsdLuxLightAPI, "normalize"):
 * what a surface gives straight ahead is its luminance times its area seen from there.
 */
class LightUnitsTest {
  private static double share(String type, Map<String, Object> inputs) {
    return LightUnits.share(type, inputs);
  }

  @Test
  void surfacesGiveTheirLuminanceTimesTheAreaThatIsSeen() {
    assertThat(share("SphereLight", Map.of("radius", 2.0))).isCloseTo(Math.PI * 4, within(1e-12));
    assertThat(share("DiskLight", Map.of("radius", 2.0))).isCloseTo(Math.PI * 4, within(1e-12));
    assertThat(share("RectLight", Map.of("width", 2.0, "height", 3.0))).isEqualTo(6);
    // Seen from the side a cylinder is as wide as it is thick.
    assertThat(share("CylinderLight", Map.of("radius", 0.5, "length", 3.0))).isEqualTo(3);
  }

  @Test
  void normalizedOnesGiveWhatTheirWholeSurfaceGivesOverItsArea() {
    Random random = new Random(4);
    for (int i = 0; i < 50; i++) {
      double r = 0.1 + random.nextDouble();
      double l = 0.1 + random.nextDouble();
      Map<String, Object> sizes =
          Map.of("radius", r, "length", l, "width", r, "height", l, "normalize", true);
      Map<String, Object> plain = Map.of("radius", r, "length", l, "width", r, "height", l);
      double sphere = share("SphereLight", plain) / (4 * Math.PI * r * r);
      assertThat(share("SphereLight", sizes)).isCloseTo(sphere, within(1e-9));
      double disk = share("DiskLight", plain) / (Math.PI * r * r);
      assertThat(share("DiskLight", sizes)).isCloseTo(disk, within(1e-9));
      double sheet = share("RectLight", plain) / (r * l);
      assertThat(share("RectLight", sizes)).isCloseTo(sheet, within(1e-9));
      double tube = share("CylinderLight", plain) / (2 * Math.PI * r * l);
      assertThat(share("CylinderLight", sizes)).isCloseTo(tube, within(1e-9));
    }
  }

  @Test
  void aDistantLightGivesLuxByItsAngle() {
    double half = Math.toRadians(0.53) / 2;
    double sun = Math.PI * Math.sin(half) * Math.sin(half);
    assertThat(share("DistantLight", Map.of())).isCloseTo(sun, within(1e-15));
    assertThat(share("DistantLight", Map.of("angle", 0.0))).isEqualTo(1);
    assertThat(share("DistantLight", Map.of("normalize", true))).isEqualTo(1);
    assertThat(share("DomeLight", Map.of())).isEqualTo(1);
    assertThat(LightUnits.exposure(Map.of("exposure", 3.0))).isEqualTo(8);
    assertThat(LightUnits.exposure(Map.of())).isEqualTo(1);
    assertThat(LightUnits.usualIntensity("DistantLight")).isEqualTo(50_000);
  }

  @ParameterizedTest
  @CsvSource({
    "SphereLight, 180, POINT",
    "SphereLight, 90, POINT",
    "SphereLight, 40, SPOT",
    "DistantLight, 180, DIRECTIONAL",
    "DomeLight, 180, DOME",
    "DomeLight_1, 180, DOME",
    "RectLight, 20, AREA",
    "CylinderLight, 180, AREA"
  })
  void kindsFollowTypesAndCones(String type, double cone, Light.Kind kind) {
    assertThat(LightUnits.kind(type, cone)).isEqualTo(kind);
  }

  @Test
  void lengthsBecomeMetresAndUnsaidOnesAreTheStandardsInTheUnitOfTheFile() {
    assertThat(LightUnits.metres("SphereLight", Map.of("radius", 8), 0.01))
        .containsExactly(Map.entry("radius", 0.08));
    assertThat(LightUnits.metres("SphereLight", Map.of(), 0.01))
        .containsExactly(Map.entry("radius", 0.005));
    assertThat(LightUnits.metres("RectLight", Map.of("width", 3f), 2))
        .containsExactly(Map.entry("height", 2.0), Map.entry("width", 6.0));
    assertThat(LightUnits.metres("CylinderLight", Map.of(), 1))
        .containsExactly(Map.entry("length", 1.0), Map.entry("radius", 0.5));
    assertThat(LightUnits.metres("DistantLight", Map.of("angle", 3), 0.01)).isEmpty();
    assertThat(LightUnits.isLength("radius")).isTrue();
    assertThat(LightUnits.isLength("angle")).isFalse();
  }
}
