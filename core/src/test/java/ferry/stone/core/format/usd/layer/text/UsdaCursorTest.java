package ferry.stone.core.format.usd.layer.text;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ferry.stone.core.format.FormatException;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Words, numbers and signs of text layers. */
class UsdaCursorTest {
  private static UsdaCursor at(String text) {
    return new UsdaCursor("a.usda", text.getBytes(StandardCharsets.UTF_8));
  }

  @Test
  void numbersAreTheNearestToWhatIsWritten() throws Exception {
    Random random = new Random(9);
    for (int i = 0; i < 50_000; i++) {
      double value =
          switch (i % 4) {
            case 0 -> Double.longBitsToDouble(random.nextLong());
            case 1 -> random.nextInt(2_000_000) / 1000.0 - 1000;
            case 2 -> random.nextGaussian() * Math.pow(10, random.nextInt(40) - 20);
            default -> random.nextLong();
          };
      if (Double.isNaN(value) || Double.isInfinite(value)) {
        continue;
      }
      String written =
          switch (i % 3) {
            case 0 -> Double.toString(value);
            case 1 -> String.format(Locale.ROOT, "%.9g", value);
            default -> String.format(Locale.ROOT, "%.17e", value);
          };
      assertThat(at(written + ",").number()).as(written).isEqualTo(Double.parseDouble(written));
    }
  }

  @ParameterizedTest
  @CsvSource({
    "1, 1",
    "-0.5, -0.5",
    ".25, 0.25",
    "+3, 3",
    "1., 1",
    "1e3, 1000",
    "2E-2, 0.02",
    "inf, Infinity",
    "-inf, -Infinity",
    "nan, NaN",
    "0.1000000000000000055511151231257827, 0.1"
  })
  void numbersOfAllKindsAreRead(String written, double wanted) throws Exception {
    assertThat(at(written).isNumber()).isTrue();
    assertThat(Double.valueOf(at(written).number())).isEqualTo(Double.valueOf(wanted));
  }

  @ParameterizedTest
  @ValueSource(strings = {"", "-", "e5", "1e", "1e+", ".", "x"})
  void whatIsNoNumberIsTold(String written) {
    assertThatThrownBy(() -> at(written).number()).isInstanceOf(FormatException.class);
  }

  @Test
  void wholeNumbersKeepAllTheirDigits() throws Exception {
    assertThat(at("18446744073709551615").whole()).isEqualTo(-1L);
    assertThat(at("-9223372036854775808").whole()).isEqualTo(Long.MIN_VALUE);
    assertThat(at("9007199254740993").whole()).isEqualTo(9007199254740993L);
    for (String wrong : new String[] {"1.5", "18446744073709551616", "-9223372036854775809", "a"}) {
      assertThatThrownBy(() -> at(wrong).whole()).isInstanceOf(FormatException.class);
    }
  }

  @Test
  void textsEndWithTheQuotesThatTheyBeganWith() throws Exception {
    assertThat(at("\"it's\"").string("")).isEqualTo("it's");
    assertThat(at("'a \"b\"'").string("")).isEqualTo("a \"b\"");
    assertThat(at("\"\"\"two\nlines \"\" more\"\"\"").string("")).isEqualTo("two\nlines \"\" more");
    assertThat(at("\"\"").string("")).isEmpty();
    assertThat(at("\"\\t\\n\\\\\\\"\\x41\\101é\"").string("")).isEqualTo("\t\n\\\"AAé");
    assertThatThrownBy(() -> at("\"a\nb\"").string("")).hasMessageContaining("never ends");
    assertThatThrownBy(() -> at("'''a''").string("")).hasMessageContaining("never ends");
  }

  @Test
  void pathsOfFilesMayHoldTheSignThatEndsThem() throws Exception {
    assertThat(at("@./a b.usda@").asset()).isEqualTo("./a b.usda");
    assertThat(at("@@@a@b\\@@@c@@@").asset()).isEqualTo("a@b@@@c");
    assertThat(at("@@").asset()).isEmpty();
    assertThatThrownBy(() -> at("@a\n@").asset()).hasMessageContaining("never ends");
    assertThat(at("</Yard/mast{lamps=lit}x.points>").path())
        .isEqualTo("/Yard/mast{lamps=lit}x.points");
  }

  @Test
  void remarksAndBlanksArePassedOver() throws Exception {
    UsdaCursor in = at(" # one\n// two\n/* three\n * */ ; primvars:st\t.timeSamples");
    assertThat(in.peekWord()).isEqualTo("primvars:st");
    assertThat(in.take("primvars")).isFalse();
    assertThat(in.word("")).isEqualTo("primvars:st");
    assertThat(in.take('.')).isTrue();
    assertThat(in.word("")).isEqualTo("timeSamples");
    assertThat((int) in.peek()).isZero();
    assertThatThrownBy(() -> at("/* never").peek()).hasMessageContaining("Close it with */");
    assertThatThrownBy(() -> at("\n\n  é x").expect('{')).hasMessageContaining("line 3, column 3");
  }
}
