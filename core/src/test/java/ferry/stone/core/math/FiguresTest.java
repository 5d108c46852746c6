package ferry.stone.core.math;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Locale;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Numbers for people. */
class FiguresTest {
  @Test
  void countsHaveThinSpacesBetweenThousands() {
    Random random = new Random(7);
    for (int i = 0; i < 2000; i++) {
      long value = random.nextLong() >> random.nextInt(64);
      String wanted = String.format(Locale.ROOT, "%,d", value).replace(',', '\u2009');
      if (value != Long.MIN_VALUE) {
        assertThat(Figures.count(value)).isEqualTo(wanted);
      }
    }
    assertThat(Figures.count(18432)).isEqualTo("18\u2009432");
    assertThat(Figures.count(-999)).isEqualTo("-999");
    assertThat(Figures.count(2, "vertex")).isEqualTo("2 vertices");
  }
}
