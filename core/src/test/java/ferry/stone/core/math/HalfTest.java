package ferry.stone.core.math;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

/** Numbers of 16 bits: binary16 of IEEE 754-2019, 3.6. */
class HalfTest {
  @Test
  void everyHalfComesBackAsItself() {
    for (int bits = 0; bits < 1 << 16; bits++) {
      float value = Half.toFloat((short) bits);
      if (Float.isNaN(value)) {
        assertThat(Half.toFloat(Half.of(value))).isNaN();
      } else {
        assertThat(Half.of(value)).as("%x", bits).isEqualTo((short) bits);
      }
    }
  }

  @Test
  void numbersBetweenGoToTheNearestAndTiesToTheEvenOne() {
    // Beside 1 the steps are 2 to the -10.
    float step = 0x1p-10f;
    assertThat(Half.toFloat(Half.of(1 + 0.4f * step))).isEqualTo(1);
    assertThat(Half.toFloat(Half.of(1 + 0.6f * step))).isEqualTo(1 + step);
    assertThat(Half.toFloat(Half.of(1 + 0.5f * step))).isEqualTo(1);
    assertThat(Half.toFloat(Half.of(1 + 1.5f * step))).isEqualTo(1 + 2 * step);
    assertThat(Half.toFloat(Half.of(-1 - 1.5f * step))).isEqualTo(-1 - 2 * step);
    // Below the smallest normal one the steps stay 2 to the -24.
    assertThat(Half.toFloat(Half.of(0x1.8p-24f))).isEqualTo(0x2p-24f);
    assertThat(Half.toFloat(Half.of(0x1p-26f))).isZero();
  }

  @Test
  void whatIsTooLargeIsInfinite() {
    assertThat(Half.toFloat(Half.of(65_504))).isEqualTo(65_504);
    assertThat(Half.toFloat(Half.of(65_519))).isEqualTo(65_504);
    assertThat(Half.toFloat(Half.of(65_520))).isEqualTo(Float.POSITIVE_INFINITY);
    assertThat(Half.toFloat(Half.of(-1e30f))).isEqualTo(Float.NEGATIVE_INFINITY);
  }
}
