package ferry.stone.core.format.usd.layer;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Types and values, whatever kind of array holds them. */
class UsdValueTest {
  /** {@code Sdf.ValueTypeNames} of usd-core 26.11, arrays and {@code duration} left out. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "asset",
        "bool",
        "color3d",
        "color3f",
        "color3h",
        "color4d",
        "color4f",
        "color4h",
        "double",
        "double2",
        "double3",
        "double4",
        "float",
        "float2",
        "float3",
        "float4",
        "frame4d",
        "group",
        "half",
        "half2",
        "half3",
        "half4",
        "int",
        "int2",
        "int3",
        "int4",
        "int64",
        "matrix2d",
        "matrix3d",
        "matrix4d",
        "normal3d",
        "normal3f",
        "normal3h",
        "opaque",
        "pathExpression",
        "point3d",
        "point3f",
        "point3h",
        "quatd",
        "quatf",
        "quath",
        "string",
        "texCoord2d",
        "texCoord2f",
        "texCoord2h",
        "texCoord3d",
        "texCoord3f",
        "texCoord3h",
        "timecode",
        "token",
        "uchar",
        "uint",
        "uint64",
        "vector3d",
        "vector3f",
        "vector3h"
      })
  void everyTypeOfTheStandardIsKnown(String name) throws Exception {
    UsdType type = UsdType.of(name).orElseThrow();
    assertThat(type.name()).isEqualTo(name);
    boolean values = type.kind() != UsdType.Kind.OPAQUE;
    assertThat(type.components() > 0).isEqualTo(values);
    assertThat(type.kind().bytes() > 0).isEqualTo(values);
    Map<Character, UsdType.Kind> byLetter =
        Map.of('h', UsdType.Kind.HALF, 'f', UsdType.Kind.FLOAT, 'd', UsdType.Kind.DOUBLE);
    if (name.matches("(color|normal|point|quat|texCoord|vector)\\d?[hfd]")) {
      assertThat(type.kind()).isEqualTo(byLetter.get(name.charAt(name.length() - 1)));
    }
  }

  @ParameterizedTest
  @CsvSource({
    "matrix2d, 4",
    "matrix3d, 9",
    "matrix4d, 16",
    "frame4d, 16",
    "quatf, 4",
    "texCoord2f, 2",
    "texCoord3h, 3",
    "color4f, 4",
    "half3, 3",
    "int2, 2",
    "token, 1"
  })
  void aValueHasAsManyNumbersAsItsTypeSays(String name, int components) {
    assertThat(UsdType.known(name).components()).isEqualTo(components);
  }

  @Test
  void namesThatTheStandardDoesNotHaveAreNone() {
    for (String name : List.of("", "Point", "float5", "matrix4f", "float[]", "stopwatch")) {
      assertThat(UsdType.of(name)).isEmpty();
    }
  }

  @Test
  void numbersAreReadFromAnyArray() {
    for (Object data :
        List.of(
            new double[] {1, 0, 3},
            new float[] {1, 0, 3},
            new int[] {1, 0, 3},
            new long[] {1, 0, 3})) {
      UsdValue value = new UsdValue(UsdType.known("double3"), false, data);
      assertThat(value.count()).isEqualTo(1);
      assertThat(value.length()).isEqualTo(3);
      assertThat(value.number(2)).isEqualTo(3);
      assertThat(value.doubles()).containsExactly(1, 0, 3);
      assertThat(value.floats()).containsExactly(1, 0, 3);
      assertThat(value.ints()).containsExactly(1, 0, 3);
      assertThat(value.text()).isNull();
    }
    UsdValue flags = new UsdValue(UsdType.known("bool"), true, new boolean[] {true, false});
    assertThat(flags.ints()).containsExactly(1, 0);
    assertThat(UsdValue.text(UsdType.Kind.TOKEN, "a").number(0)).isNaN();
  }

  @Test
  void valuesAreEqualByWhatTheyHold() {
    UsdValue one = new UsdValue(UsdType.known("float2"), true, new float[] {1, 2});
    UsdValue same = new UsdValue(UsdType.known("float2"), true, new float[] {1, 2});
    assertThat(one).isEqualTo(same).hasSameHashCodeAs(same);
    assertThat(one)
        .isNotEqualTo(new UsdValue(UsdType.known("float2"), false, new float[] {1, 2}))
        .isNotEqualTo(new UsdValue(UsdType.known("texCoord2f"), true, new float[] {1, 2}))
        .isNotEqualTo(new UsdValue(UsdType.known("float2"), true, new float[] {1, 3}));
    assertThat(UsdValue.text(UsdType.Kind.STRING, "x", "y").texts()).containsExactly("x", "y");
    assertThat(UsdValue.real(2).text()).isNull();
  }
}
