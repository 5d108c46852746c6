package ferry.stone.core.format.abc.write;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.math.Bounds;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Boxes of a shape are those of the sample that counts at a moment. */
class BoxesTest {
  private static Boxes rising(double... seconds) {
    Boxes boxes = new Boxes();
    boxes.begin(seconds);
    for (int s = 0; s < seconds.length; s++) {
      boxes.add(new double[] {0, s, 0, 1, s + 1, 1});
    }
    return boxes;
  }

  @ParameterizedTest
  @CsvSource({"-5, 0", "1, 0", "1.5, 0", "2, 1", "2.9, 1", "4, 2", "99, 2"})
  void aSampleHoldsUntilTheNext(double moment, double wanted) {
    Bounds box = rising(1, 2, 4).at(moment);
    assertThat(box.minY()).isEqualTo(wanted);
    assertThat(box.maxY()).isEqualTo(wanted + 1);
  }

  @Test
  void whatRestsHasOneBoxAtAllTimes() {
    Boxes boxes = new Boxes();
    boxes.begin(null);
    boxes.add(new double[] {-1, -2, -3, 1, 2, 3});
    assertThat(boxes.count()).isEqualTo(1);
    assertThat(boxes.at(-100)).isEqualTo(new Bounds(-1, -2, -3, 1, 2, 3));
    assertThat(boxes.at(100)).isEqualTo(boxes.at(0));
  }

  @Test
  void theBoxOfNothingIsEmpty() {
    Boxes boxes = new Boxes();
    boxes.begin(null);
    boxes.add(Boxes.NOTHING);
    assertThat(boxes.at(0).isEmpty()).isTrue();
  }
}
