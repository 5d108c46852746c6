package ferry.stone.core.motion;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ferry.stone.core.RandomRig;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.SceneMap;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Visibility;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.PointCache;
import java.io.IOException;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Who is seen at a moment, what a text is at a moment, what can be played. */
class SeenOverTest {
  private static Clip.Track visible(int target, double... timesAndValues) {
    double[] times = new double[timesAndValues.length / 2];
    double[] values = new double[times.length];
    for (int k = 0; k < times.length; k++) {
      times[k] = timesAndValues[2 * k];
      values[k] = timesAndValues[2 * k + 1];
    }
    return new Clip.Track(
        target, Clip.VISIBLE, Clip.Interpolation.STEP, 1, times, values, null, null);
  }

  @ParameterizedTest
  @ValueSource(ints = {0, 1, 2, 3, 4, 5, 6, 7, 8, 9})
  void withoutTracksItIsWhatTheSceneSays(int seed) {
    Scene scene = RandomRig.of(new Random(seed), 4);
    SeenOver seen = SeenOver.of(scene, scene.clips().get(0));
    boolean blinks =
        scene.clips().get(0).tracks().stream().anyMatch(t -> t.property().equals(Clip.VISIBLE));
    if (!blinks) {
      assertThat(seen.places()).isEmpty();
      assertThat(seen.at(0.3)).isEqualTo(scene.seen());
    }
  }

  private static Scene house() {
    SceneBuilder scene = new SceneBuilder("house");
    int house = scene.add(Node.of(1, "house", -1, Node.Content.GROUP));
    int room = scene.add(Node.of(2, "room", house, Node.Content.GROUP));
    scene.add(Node.of(3, "lamp", room, Node.Content.GROUP).withVisibility(Visibility.HIDDEN));
    scene.add(Node.of(4, "moon", room, Node.Content.GROUP).withVisibility(Visibility.SHOWN));
    return scene.nextId(5).build();
  }

  @Test
  void aHiddenNodeComesWhenItsTrackSaysSo() {
    Clip clip = new Clip(9, "a", 0, 2, List.of(visible(3, 0, 0, 1, 1)));
    SeenOver seen = SeenOver.of(house(), clip);
    assertThat(seen.places()).containsExactly(2);
    assertThat(seen.at(0.5)).containsExactly(true, true, false, true);
    assertThat(seen.at(1)).containsExactly(true, true, true, true);
    assertThat(seen.at(99)).containsExactly(true, true, true, true);
  }

  @Test
  void twoTracksOneAboveTheOtherCountTogether() {
    Clip clip = new Clip(9, "a", 0, 3, List.of(visible(1, 0, 1, 2, 0), visible(3, 0, 0, 1, 1)));
    SeenOver seen = SeenOver.of(house(), clip);
    assertThat(seen.places()).containsExactly(0, 1, 2, 3);
    assertThat(seen.at(0)[2]).isFalse();
    assertThat(seen.at(1.5)[2]).isTrue();
    assertThat(seen.at(2.5)).containsExactly(false, false, false, true);
  }

  @Test
  void aPartShownInSpiteOfThoseAboveStaysSo() {
    Clip clip = new Clip(9, "a", 0, 2, List.of(visible(4, 0, 1, 1, 0), visible(1, 0, 0)));
    SeenOver seen = SeenOver.of(house(), clip);
    assertThat(seen.at(0)[3]).isTrue();
    assertThat(seen.at(1)[3]).isFalse();
  }

  @ParameterizedTest
  @CsvSource({"-1, up", "0, up", "0.99, up", "1, down", "1.5, down", "2, gone", "50, gone"})
  void aTextHoldsUntilTheNextMoment(double seconds, String text) {
    Clip.Words words =
        new Clip.Words(
            3, Clip.CUSTOM + "flag", new double[] {0, 1, 2}, List.of("up", "down", "gone"));
    assertThat(words.at(seconds)).isEqualTo(text);
  }

  @Test
  void textsAndMomentsAreOneToOne() {
    assertThatThrownBy(
            () -> new Clip.Words(3, Clip.CUSTOM + "flag", new double[] {0, 1}, List.of("up")))
        .hasMessageContaining("custom/flag")
        .hasMessageContaining("2 moments for 1 texts");
  }

  @Test
  void textsFollowTheirNodeAndGoWithIt() {
    Clip.Words words = new Clip.Words(3, Clip.CUSTOM + "flag", new double[] {0}, List.of("up"));
    Scene scene =
        house().toBuilder()
            .add(new Clip(9, "a", 0, 1, List.of()).withWords(List.of(words)))
            .nextId(10)
            .build();
    SceneBuilder fresh = scene.toBuilder();
    Scene mapped = SceneMap.fresh(scene, fresh).apply(scene);
    Clip.Words moved = mapped.clips().get(0).words().get(0);
    int lamp =
        mapped.nodes().stream().filter(n -> n.name().equals("lamp")).findFirst().orElseThrow().id();
    assertThat(moved.targetId()).isEqualTo(lamp).isNotEqualTo(3);
    Scene without = scene.toBuilder().nodes(scene.nodes().subList(0, 2)).build();
    assertThat(SceneMap.same(without).apply(without).clips().get(0).words()).isEmpty();
    Clip clip = scene.clips().get(0);
    assertThat(clip.withTracks(List.of()).words()).hasSize(1);
    assertThat(clip.withKeys(List.of()).words()).hasSize(1);
    assertThat(clip.withName("b").words()).hasSize(1);
  }

  private record Cache(int id, int meshId, double... seconds) implements PointCache {
    @Override
    public String name() {
      return "cache " + id;
    }

    @Override
    public int sampleCount() {
      return seconds.length;
    }

    @Override
    public int pointCount() {
      return 1;
    }

    @Override
    public double timeSeconds(int sample) {
      return seconds[sample];
    }

    @Override
    public void read(int sample, int from, int count, float[] target) {
      target[0] = sample;
      target[1] = 10 * sample;
      target[2] = 0;
    }
  }

  @Test
  void cachesOfOneSpanArePlayedTogether() {
    Scene scene =
        new SceneBuilder("a")
            .add(new Clip(1, "sway", 0, 1, List.of()))
            .caches(
                List.of(new Cache(2, 7, 0, 1), new Cache(3, 8, 0, 0.5, 1), new Cache(4, 9, 0, 2)))
            .build();
    List<Clip> all = Caches.timeline(scene);
    // The empty clip spans the same second as the first two caches.
    assertThat(all).extracting(Clip::id).containsExactly(1, 4);
    assertThat(all.get(1).endSeconds()).isEqualTo(2);
    assertThat(Caches.samples(scene)).hasSize(3);
    assertThat(Caches.of(scene, 8).id()).isEqualTo(3);
    assertThat(Caches.of(scene, 77)).isNull();
  }

  @ParameterizedTest
  @CsvSource({"-1, 0", "0, 0", "0.25, 0.5", "0.5, 1", "1.25, 1.5", "2, 2", "9, 2"})
  void pointsBetweenSamplesAreOnTheLine(double seconds, float x) throws IOException {
    float[] at = new float[3];
    Caches.sample(new Cache(2, 7, 0, 0.5, 2), seconds, at);
    assertThat(at[0]).isEqualTo(x);
    assertThat(at[1]).isEqualTo(10 * x);
  }

  @Test
  void manySamplesAreFoundByHalving() {
    double[] seconds = new double[10_000];
    for (int s = 0; s < seconds.length; s++) {
      seconds[s] = s * s * 0.001;
    }
    Cache cache = new Cache(1, 1, seconds);
    Random random = new Random(3);
    for (int i = 0; i < 500; i++) {
      double t = random.nextDouble() * seconds[seconds.length - 1];
      int sample = cache.sampleAt(t);
      assertThat(cache.timeSeconds(sample)).isLessThanOrEqualTo(t);
      assertThat(cache.timeSeconds(Math.min(sample + 1, seconds.length - 1)))
          .isGreaterThanOrEqualTo(t);
    }
  }
}
