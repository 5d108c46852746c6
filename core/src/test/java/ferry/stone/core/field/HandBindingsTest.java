package ferry.stone.core.field;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What is bound by hand is found again by set and part, whatever signs the names have. */
class HandBindingsTest {
  @Test
  void aBindingOfOnePartGoesBeforeThatOfAll() {
    HandBindings bindings =
        HandBindings.of("lips = wax; ; lips @ head/mouth= old wax\n* @ hull = tar;*oak=-;");
    assertThat(bindings.material("lips", "tail")).isEqualTo("wax");
    assertThat(bindings.material("lips", "head/mouth")).isEqualTo("old wax");
    assertThat(bindings.material("*", "hull")).isEqualTo("tar");
    assertThat(bindings.material("*", "keel")).isNull();
    assertThat(bindings.material("*oak", "keel")).isEqualTo(HandBindings.NOTHING);
    assertThat(bindings.material("eyes", "head")).isNull();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {"lips", "lips =", "= wax", "lips = wax = tar", "@ head = wax", "lips @ = \"\""})
  void whatIsNoBindingIsShown(String text) {
    assertThatThrownBy(() -> HandBindings.of("eyes = glass; " + text + "; beak = horn"))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageStartingWith("a binding is a set, = and a material")
        .hasMessageEndingWith("not \"" + text + "\"");
  }

  @Test
  void anyNamesInQuotesComeBack() {
    Random random = new Random(7);
    String signs = "ab@=;\"\n *-/é";
    for (int i = 0; i < 2000; i++) {
      String key = name(random, signs);
      String path = name(random, signs);
      String material = name(random, signs);
      String text = "x = y; " + quoted(key) + " @ " + quoted(path) + " = " + quoted(material);
      HandBindings read = HandBindings.of(text + "; z = w");
      assertThat(read.material(key, path)).isEqualTo(material);
      String other = read.with("z", path, material);
      assertThat(HandBindings.of(other).material("z", path)).isEqualTo(material);
      assertThat(HandBindings.of(other).material(key, path)).isEqualTo(material);
      String less = HandBindings.of(other).with(key, path, null);
      assertThat(HandBindings.of(less).material(key, path)).isNull();
      assertThat(HandBindings.of(less).material("x", "")).isEqualTo("y");
    }
  }

  private static String name(Random random, String signs) {
    StringBuilder name = new StringBuilder();
    for (int i = 0; i <= random.nextInt(6); i++) {
      name.append(signs.charAt(random.nextInt(signs.length())));
    }
    return name.toString();
  }

  private static String quoted(String name) {
    return '"' + name.replace("\"", "\"\"") + '"';
  }
}
