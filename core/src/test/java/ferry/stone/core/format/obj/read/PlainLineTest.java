package ferry.stone.core.format.obj.read;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Eight bytes at once say what the JDK says of the same numbers, or leave the line alone. */
class PlainLineTest {
  /** Behind the line, as the rest of a block is. */
  private static final String MORE = "\nv 1 2 3\n";

  private static PlainLine line(String text) {
    byte[] bytes = text.getBytes(StandardCharsets.US_ASCII);
    return new PlainLine(bytes, bytes.length);
  }

  @Test
  void numbersAreThoseOfTheJdk() {
    Random random = new Random(1);
    for (int round = 0; round < 20_000; round++) {
      String[] words = new String[3];
      for (int i = 0; i < 3; i++) {
        double value = (random.nextDouble() - 0.5) * Math.pow(10, random.nextInt(8));
        words[i] = String.format(Locale.ROOT, "%." + random.nextInt(9) + "f", value);
      }
      String text = String.join(" ", words);
      PlainLine line = line(text + MORE);
      assertEquals(text.length(), line.numbers(0, 3), text);
      for (int i = 0; i < 3; i++) {
        assertEquals(Double.parseDouble(words[i]), line.numbers[i], text);
      }
    }
  }

  @Test
  void numbersOfSeventeenDigitsAreAsTheOtherWayReadsThem() {
    PlainLine line = line("0.1234567890123456 -1234567.1234567891 .5" + MORE);
    assertEquals(41, line.numbers(0, 3));
    assertEquals(1234567890123456L / 1e16, line.numbers[0]);
    assertEquals(-(12345671234567891L / 1e10), line.numbers[1]);
    assertEquals(0.5, line.numbers[2]);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "1 2",
        "1 2 3 4",
        "1 2 x",
        "1 2 3e4",
        "1\t2 3",
        "1 2 +3",
        "1 2 nan",
        "1 2 3 # three",
        "1 2 3\\",
        "123456789 2 3",
        "0.123456789012345678 2 3",
        "1 2 -",
        "1 2 .",
        "1 2 1.2.3",
        "1 2 3,5",
        ""
      })
  void whateverElseALineHoldsIsLeftAlone(String text) {
    assertEquals(PlainLine.OTHER, line(text + MORE).numbers(0, 3));
  }

  @Test
  void cornersOfAllFormsAreRead() {
    for (String end : List.of("\n", "\r\n", "  \n")) {
      String text = "1/2/3 40//60 7/8  1234567" + end.replaceAll("[^ ]", "");
      PlainLine line = line(text + end.strip() + end.replace(" ", "") + "f 1 2 3\n");
      assertEquals(text.length(), line.corners(0));
      assertEquals(4, line.count);
      assertArrayEquals(
          new int[] {1, 2, 3, 40, 0, 60, 7, 8, 0, 1234567, 0, 0}, Arrays.copyOf(line.corners, 12));
    }
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "1 2",
        "1 2 -3",
        "0 1 2",
        "1 2 3x",
        "1/2/3/4 2 3",
        "1/2/ 2 3",
        "1/ 2 3",
        "/1/2 2 3",
        "1 2 3 # face",
        "1 2\t3",
        "1 2 123456789",
        "1.5 2 3"
      })
  void otherCornersAreLeftAlone(String text) {
    assertEquals(PlainLine.OTHER, line(text + MORE).corners(0));
  }

  @Test
  void theEndOfTheBlockIsNotPassed() {
    for (String text : List.of("1 2 3", "1 2 3\n", "1.5 2.5 3.5")) {
      byte[] bytes = (text + "45678").getBytes(StandardCharsets.US_ASCII);
      assertEquals(PlainLine.OTHER, new PlainLine(bytes, text.length()).numbers(0, 3), text);
      assertEquals(PlainLine.OTHER, new PlainLine(bytes, text.length()).corners(0), text);
    }
  }
}
