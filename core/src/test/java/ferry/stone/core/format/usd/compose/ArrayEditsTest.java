package ferry.stone.core.format.usd.compose;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.layer.UsdValue;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.assertj.core.api.SoftAssertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * Edits of arrays that weaker layers say, held against what the standard's own library makes of
 * them (usd-core 26.11, see {@code make-edits.py}).
 */
class ArrayEditsTest {
  private static byte[] resource(String name) throws Exception {
    try (InputStream in = ArrayEditsTest.class.getResourceAsStream("/usd/" + name)) {
      return in.readAllBytes();
    }
  }

  private static UsdPrim row(String name) throws Exception {
    Map<String, byte[]> files =
        Map.of(name, resource(name), "edits-weak.usda", resource("edits-weak.usda"));
    return UsdStageTest.stage(files, name, true).prim("/Row");
  }

  private static String text(Object value) {
    if (!(value instanceof UsdValue array)) {
      return "";
    }
    return array.type().kind().isText()
        ? Stream.of(array.texts()).map(t -> "'" + t + "'").collect(Collectors.joining(" "))
        : IntStream.range(0, array.length())
            .mapToObj(i -> String.valueOf(array.number(i)))
            .collect(Collectors.joining(" "));
  }

  private static Object at(UsdProperty property, double code) throws Exception {
    UsdSamples samples = property.samples();
    for (int s = 0; samples != null && s < samples.codes().length; s++) {
      if (samples.codes()[s] == code) {
        assertThat(samples.length(s)).isEqualTo(((UsdValue) samples.value(s)).length());
        return samples.value(s);
      }
    }
    return property.value();
  }

  @ParameterizedTest
  @ValueSource(strings = {"edits.usda", "edits.usdc"})
  void editsMakeOfWeakerArraysWhatTheLibraryMakesOfThem(String name) throws Exception {
    UsdPrim row = row(name);
    SoftAssertions all = new SoftAssertions();
    int lines = 0;
    for (String line : new String(resource("edits.txt"), StandardCharsets.UTF_8).split("\n")) {
      String[] parts = line.split(" ", 3);
      Object own = at(row.property(parts[0]), Double.parseDouble(parts[1]));
      all.assertThat(text(own)).as(line).isEqualTo(parts.length < 3 ? "" : parts[2]);
      lines++;
    }
    all.assertAll();
    assertThat(lines).isEqualTo(62);
  }

  @Test
  void anEditWithASizeThatIsNoneEndsInASentence() {
    byte[] text =
        "#usda 1.0\ndef \"a\" {\n  int[] x = edit [minsize 99999999999]\n}\n"
            .getBytes(StandardCharsets.UTF_8);
    assertThatThrownBy(() -> UsdStageTest.stage(Map.of("a.usda", text), "a.usda", true).prim("/a"))
        .isInstanceOf(FormatException.class)
        .hasMessageContaining("line 3")
        .hasMessageContaining("no size of an array");
  }
}
