package ferry.stone.core.geometry.look;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Names of sets, parts and materials are held against each other by their words. */
class NameLikenessTest {
  @ParameterizedTest
  @CsvSource({
    "lip_wax, lip_wax, 1",
    "lip_wax, LipWax_SG, 1",
    "lipWax, wax lip mat, 1",
    "head:eyeGlass, eye.glass, 1",
    "model/head/eye glass, eyeGlass_mtl, 1",
    "headShape_beak_SG, brass_beak, 0.333333",
    "sail_03, sail_04, 0.333333",
    "oak, tar, 0",
    "mat, material, 0",
    "'', oak, 0",
    "Öl_Faß, öl fass, 0.333333",
    "Öl_Haut, öl-haut, 1"
  })
  void wordsCountAndNotHowTheyAreJoined(String a, String b, double wanted) {
    assertThat(NameLikeness.of(a, b)).isCloseTo(wanted, within(1e-5));
    assertThat(NameLikeness.of(b, a)).isCloseTo(wanted, within(1e-5));
  }
}
