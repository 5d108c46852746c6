package ferry.stone.core.motion;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Interpolation;
import ferry.stone.core.scene.time.Clip.Track;
import ferry.stone.core.scene.time.Samples;
import java.util.List;
import java.util.Random;
import java.util.function.DoubleUnaryOperator;
import org.junit.jupiter.api.Test;

/**
 * What a change of time promises, over random keys of each kind: at a moment of the new line the
 * value is that of its moment on the old one, between keys too.
 */
class TimeChangeTest {
  private static final int SEEDS = 60;
  private static final double START = 0.5;
  private static final double END = 4;

  /** Keys that reach beyond the clip on some seeds, and stop short of it on others. */
  private static Track track(Random random, Interpolation interpolation, int n) {
    int keys = 2 + random.nextInt(9);
    double[] times = new double[keys];
    double at = random.nextDouble();
    for (int k = 0; k < keys; k++) {
      times[k] = at;
      at += 0.05 + random.nextDouble();
    }
    boolean cubic = interpolation == Interpolation.CUBIC;
    double[] values = numbers(random, n * keys);
    for (int k = 0; n == 4 && k < keys; k++) {
      double length = Math.sqrt(dot(values, 4 * k, 4 * k));
      for (int c = 0; c < 4; c++) {
        values[4 * k + c] /= length;
      }
    }
    return new Track(
        7,
        n == 4 ? Clip.ROTATION : Clip.TRANSLATION,
        interpolation,
        n,
        times,
        values,
        cubic ? numbers(random, n * keys) : null,
        cubic ? numbers(random, n * keys) : null);
  }

  private static double dot(double[] values, int a, int b) {
    double sum = 0;
    for (int c = 0; c < 4; c++) {
      sum += values[a + c] * values[b + c];
    }
    return sum;
  }

  private static double[] numbers(Random random, int count) {
    return random.doubles(count, -1, 1).toArray();
  }

  /** Of a rotation that of its two signs whose first number is positive. */
  private static double[] at(Track track, double seconds) {
    double[] value = new double[track.components()];
    Curves.sample(track, seconds, value);
    for (int c = 0; value.length == 4 && value[0] < 0 && c < 4; c++) {
      value[3 - c] = -value[3 - c];
    }
    return value;
  }

  private static boolean isNearKey(Track track, double seconds) {
    for (double key : track.timesSeconds()) {
      if (Math.abs(key - seconds) < 1e-6) {
        return true;
      }
    }
    return false;
  }

  /**
   * @param old the moment of the old line that a moment of the new one shows
   */
  private static void holds(TimeChange change, DoubleUnaryOperator old) {
    for (Interpolation interpolation : Interpolation.values()) {
      for (int seed = 0; seed < SEEDS; seed++) {
        Random random = new Random(seed);
        Track before = track(random, interpolation, seed % 2 == 0 ? 3 : 4);
        Clip clip = new Clip(1, "wave", START, END, List.of(before), List.of(), List.of());
        Clip changed = change.of(clip);
        Track after = changed.tracks().get(0);
        assertThat(after.interpolation()).isEqualTo(interpolation);
        assertThat(after.timesSeconds()).isSorted().doesNotHaveDuplicates();
        double length = changed.endSeconds() - changed.startSeconds();
        for (int i = 0; i < 50; i++) {
          double t = changed.startSeconds() + random.nextDouble() * length;
          double then = old.applyAsDouble(t);
          if (interpolation == Interpolation.STEP && isNearKey(before, then)) {
            continue;
          }
          assertThat(at(after, t))
              .as(interpolation + ", seed " + seed + " at " + t + " s")
              .containsExactly(at(before, then), within(1e-9));
        }
      }
    }
  }

  @Test
  void aCutShowsTheSameBetweenItsEnds() {
    holds(TimeChange.cut(1, 2.75), t -> t);
    holds(TimeChange.cut(0, 9), t -> t);
  }

  @Test
  void aMoveAndASpeedShowEachMomentWhereItWent() {
    holds(TimeChange.mapped(1, -0.5), t -> t + 0.5);
    holds(TimeChange.mapped(2, -1), t -> (t + 1) / 2);
    holds(TimeChange.mapped(0.3, 4), t -> (t - 4) / 0.3);
  }

  @Test
  void backwardsShowsTheEndFirst() {
    holds(TimeChange.reversed(START + END), t -> START + END - t);
  }

  @Test
  void backwardsTwiceIsTheSame() {
    TimeChange back = TimeChange.reversed(START + END);
    TimeChange twice =
        new TimeChange() {
          @Override
          public Clip of(Clip clip) {
            return back.of(back.of(clip));
          }

          @Override
          public Moments moments(Samples samples) {
            throw new AssertionError("a clip was asked for");
          }
        };
    holds(twice, t -> t);
  }

  @Test
  void whatIsHeldStandsBeforeAndAfter() {
    holds(TimeChange.held(0.75, 2), t -> Math.max(START, Math.min(END, t)));
    holds(TimeChange.held(0, 0), t -> t);
  }

  @Test
  void aSampledClipHasTheValuesOfItsFrames() {
    for (int seed = 0; seed < SEEDS; seed++) {
      Track before = track(new Random(seed), Interpolation.CUBIC, 3);
      Clip clip = new Clip(1, "wave", START, END, List.of(before), List.of(), List.of());
      Track after = TimeChange.sampled(24).of(clip).tracks().get(0);
      // 3.5 s at 24 frames a second: 84 spans.
      assertThat(after.timesSeconds()).hasSize(85);
      for (int f = 0; f <= 84; f++) {
        double t = START + f / 24.0;
        assertThat(at(after, t)).containsExactly(at(before, t), within(1e-9));
      }
    }
  }

  @Test
  void aSampledTurnTakesTheShortWayBetweenFrames() {
    for (int seed = 0; seed < SEEDS; seed++) {
      Track before = track(new Random(seed), Interpolation.LINEAR, 4);
      Clip clip = new Clip(1, "turn", START, END, List.of(before), List.of(), List.of());
      double[] values = TimeChange.sampled(30).of(clip).tracks().get(0).values();
      for (int k = 4; k < values.length; k += 4) {
        assertThat(dot(values, k, k)).isCloseTo(1, within(1e-9));
        assertThat(dot(values, k, k - 4)).isNotNegative();
      }
    }
  }
}
