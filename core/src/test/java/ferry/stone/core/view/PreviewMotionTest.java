package ferry.stone.core.view;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.RandomRig;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.landing.CapabilityScenes;
import ferry.stone.core.motion.Caches;
import ferry.stone.core.motion.ClipPoses;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Purpose;
import ferry.stone.core.scene.node.Visibility;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.PointCache;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.joml.Matrix4d;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What the views play is what the core says of each frame, number by number. */
class PreviewMotionTest {
  private static final double CLOSE = 1e-5;

  private static Clip.Track track(
      int target, String property, int components, double[] times, double... values) {
    return new Clip.Track(
        target, property, Clip.Interpolation.LINEAR, components, times, values, null, null);
  }

  private static Clip.Track steps(int target, double[] times, double... values) {
    return new Clip.Track(
        target, Clip.VISIBLE, Clip.Interpolation.STEP, 1, times, values, null, null);
  }

  private static MotionBlock block(Scene scene, Clip clip) throws Exception {
    return new MotionBlock(PreviewMotion.of(scene, clip, new Matrix4d(), 0, new PointShapes()));
  }

  @ParameterizedTest
  @ValueSource(ints = {0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11})
  void matricesAndWeightsAreThoseOfEachFrame(int seed) throws Exception {
    Scene scene = RandomRig.of(new Random(seed), 4);
    Clip clip = scene.clips().get(0);
    Matrix4d toView = new Matrix4d().rotateX(0.4).translate(1, 2, 3);
    MotionBlock block =
        new MotionBlock(PreviewMotion.of(scene, clip, toView, 0, new PointShapes()));
    assertThat(block.bytes()).isEqualTo(block.expectedBytes());
    assertThat(block.count()).isEqualTo(PreviewMotion.frames(scene, clip));
    ClipPoses poses = ClipPoses.of(scene, clip);
    double rate = block.head.path("framesPerSecond").asDouble();
    for (int f = 0; f < block.count(); f += Math.max(1, block.count() / 7)) {
      Pose pose = poses.at(Math.min(clip.endSeconds(), clip.startSeconds() + f / rate));
      int n = 0;
      for (JsonNode id : block.head.path("nodes")) {
        int place = scene.nodePlaces().get(id.asInt());
        Matrix4d wanted =
            new Matrix4d(toView)
                .mul(pose.world()[place])
                .mul(scene.nodes().get(place).geometric().toMatrix());
        Matrix4d found = block.matrix(f, n++);
        assertThat(found.equals(wanted, CLOSE * (1 + scene.bounds().diagonal())))
            .as("frame %d, node %s: %s and %s", f, id, found, wanted)
            .isTrue();
      }
      int w = 0;
      for (JsonNode morph : block.head.path("morphs")) {
        int place = scene.nodePlaces().get(morph.path("node").asInt());
        for (double weight : pose.morphWeights()[place]) {
          assertThat((double) block.weight(f, w++)).isCloseTo(weight, within(CLOSE));
        }
      }
    }
  }

  @Test
  void whatHangsOnAMovingPartMovesToo() throws Exception {
    SceneBuilder scene = new SceneBuilder("crane");
    int mast = scene.newId();
    int boom = scene.newId();
    int hut = scene.newId();
    int top = scene.add(Node.of(mast, "mast", -1, Node.Content.GROUP));
    scene.add(Node.of(boom, "boom", top, Node.Content.GROUP));
    scene.add(Node.of(hut, "hut", -1, Node.Content.GROUP));
    double[] times = {0, 1};
    Clip clip =
        new Clip(
            9, "lift", 0, 1, List.of(track(mast, Clip.TRANSLATION, 3, times, 0, 0, 0, 0, 6, 0)));
    scene.framesPerSecond(24).add(clip);
    MotionBlock block = block(scene.build(), clip);
    assertThat(block.head.path("nodes").toString()).isEqualTo("[" + mast + "," + boom + "]");
    assertThat(block.count()).isEqualTo(25);
    Vector3d at = block.matrix(12, 1).getTranslation(new Vector3d());
    assertThat(at.y).isCloseTo(3, within(CLOSE));
    assertThat(block.matrix(24, 0).m31()).isCloseTo(6, within(CLOSE));
  }

  @ParameterizedTest
  @CsvSource({
    // rate of the scene, seconds, frames (both ends counted)
    "24, 1, 25",
    "25, 0.4, 11",
    "30, 0, 1",
    "0, 1, 31",
    "60, 0.9999999, 61",
    "24, 100000, 20000"
  })
  void framesAreCountedWithBothEnds(double rate, double seconds, int frames) {
    Scene scene = new SceneBuilder("still").framesPerSecond(rate).build();
    assertThat(PreviewMotion.frames(scene, new Clip(1, "a", 0, seconds, List.of())))
        .isEqualTo(frames);
  }

  /** Points that rise by one a sample. */
  private record Rising(int id, int meshId, int pointCount, int sampleCount, double step)
      implements PointCache {
    @Override
    public String name() {
      return "rising";
    }

    @Override
    public double timeSeconds(int sample) {
      return sample * step;
    }

    @Override
    public void read(int sample, int from, int count, float[] target) {
      for (int i = 0; i < count; i++) {
        target[3 * i] = from + i;
        target[3 * i + 1] = sample;
        target[3 * i + 2] = 0;
      }
    }
  }

  private static Scene cached(double step, int samples) {
    Scene plate = CapabilityScenes.of(Capability.UVS);
    PolygonMesh mesh = plate.meshes().get(0);
    return plate.toBuilder()
        .framesPerSecond(0)
        .caches(List.of(new Rising(70, mesh.id(), mesh.points().count(), samples, step)))
        .build();
  }

  @Test
  void aCacheIsPlayedAtTheVerticesOfTheView() throws Exception {
    Scene scene = cached(0.1, 5);
    Clip clip = Caches.timeline(scene).get(0);
    assertThat(clip.id()).isEqualTo(70);
    assertThat(Caches.rate(scene)).isEqualTo(10);
    MotionBlock block = block(scene, clip);
    assertThat(block.bytes()).isEqualTo(block.expectedBytes());
    assertThat(block.count()).isEqualTo(5);
    int vertices = block.head.at("/points/0/count").asInt();
    assertThat(vertices).isGreaterThanOrEqualTo(scene.meshes().get(0).points().count());
    for (int k = 0; k < 5; k++) {
      for (int v = 0; v < vertices; v++) {
        assertThat(block.point(k, v, 1)).isCloseTo(k, within(1e-5f));
      }
    }
    assertThat(block.head.at("/points/0/nodes/0").asInt()).isEqualTo(scene.nodes().get(0).id());
  }

  @Test
  void aRateThatACacheCannotHaveIsTheUsualOne() {
    assertThat(Caches.rate(cached(0.1, 1))).isEqualTo(30);
    assertThat(Caches.rate(cached(20, 5))).isEqualTo(30);
    assertThat(Caches.rate(cached(1e-6, 5))).isEqualTo(30);
    assertThat(Caches.rate(cached(1 / 23.976, 49))).isEqualTo(23.976);
  }

  @Test
  void aCacheOfOtherCountsThanItsMeshIsNotPlayed() throws Exception {
    Scene scene = cached(0.1, 5);
    PolygonMesh mesh = scene.meshes().get(0);
    Scene other =
        scene.toBuilder()
            .caches(List.of(new Rising(70, mesh.id(), mesh.points().count() + 1, 5, 0.1)))
            .build();
    MotionBlock block = block(other, Caches.timeline(other).get(0));
    assertThat(block.head.path("points")).isEmpty();
    assertThat(block.bytes()).isZero();
  }

  private static Scene blinking(Visibility tops, Purpose purpose) {
    SceneBuilder scene = new SceneBuilder("lamps").framesPerSecond(10);
    int top = scene.add(Node.of(1, "house", -1, Node.Content.GROUP).withVisibility(tops));
    int lamp = scene.add(Node.of(2, "lamp", top, Node.Content.GROUP));
    scene.add(Node.of(3, "glass", lamp, Node.Content.GROUP).withPurpose(purpose));
    scene.add(Node.of(4, "wick", lamp, Node.Content.GROUP).withVisibility(Visibility.SHOWN));
    scene.add(Node.of(5, "post", -1, Node.Content.GROUP));
    double[] times = {0, 0.2, 0.4};
    scene.add(new Clip(8, "blink", 0, 0.5, List.of(steps(2, times, 1, 0, 1))));
    return scene.nextId(9).build();
  }

  private static String seen(MotionBlock block, int place) {
    StringBuilder text = new StringBuilder();
    for (int f = 0; f < block.count(); f++) {
      text.append(block.seen(f, place) ? 'x' : '.');
    }
    return text.toString();
  }

  @Test
  void partsComeAndGoWithThoseAboveThem() throws Exception {
    Scene scene = blinking(Visibility.INHERITED, Purpose.DEFAULT);
    MotionBlock block = block(scene, scene.clips().get(0));
    assertThat(block.head.path("shown").toString()).isEqualTo("[2,3,4]");
    assertThat(block.bytes()).isEqualTo(block.expectedBytes());
    assertThat(seen(block, 0)).isEqualTo("xx..xx");
    assertThat(seen(block, 1)).as("below it").isEqualTo("xx..xx");
    assertThat(seen(block, 2)).as("shown whatever is above").isEqualTo("xxxxxx");
  }

  @Test
  void belowAHiddenPartNothingComes() throws Exception {
    Scene scene = blinking(Visibility.HIDDEN, Purpose.DEFAULT);
    MotionBlock block = block(scene, scene.clips().get(0));
    assertThat(seen(block, 0)).isEqualTo("......");
    assertThat(seen(block, 2)).isEqualTo("xxxxxx");
  }

  @Test
  void guidesDoNotComeIntoThePicture() throws Exception {
    Scene scene = blinking(Visibility.INHERITED, Purpose.GUIDE);
    MotionBlock block = block(scene, scene.clips().get(0));
    assertThat(block.head.path("shown").toString()).isEqualTo("[2,4]");
  }

  @Test
  void longMotionsComeInBlocksThatJoin() throws Exception {
    Scene rig = RandomRig.of(new Random(3), 4);
    SceneBuilder wide = rig.toBuilder().framesPerSecond(30);
    List<Clip.Track> tracks = new ArrayList<>();
    for (int i = 0; i < 3000; i++) {
      int id = wide.newId();
      wide.add(Node.of(id, "n" + i, -1, Node.Content.GROUP));
      tracks.add(track(id, Clip.TRANSLATION, 3, new double[] {0, 20}, 0, 0, 0, i, 0, 0));
    }
    Clip clip = new Clip(wide.newId(), "long", 0, 20, tracks);
    Scene scene = wide.add(clip).build();
    int from = 0;
    int blocks = 0;
    int frames = PreviewMotion.frames(scene, clip);
    while (from < frames) {
      MotionBlock block =
          new MotionBlock(PreviewMotion.of(scene, clip, new Matrix4d(), from, new PointShapes()));
      assertThat(block.head.path("from").asInt()).isEqualTo(from);
      assertThat(block.count()).isPositive();
      assertThat(block.matrix(0, 2999).m30()).isCloseTo(2999.0 * from / 600, within(1e-2));
      from += block.count();
      blocks++;
    }
    assertThat(from).isEqualTo(frames);
    assertThat(blocks).isGreaterThan(1);
    MotionBlock past =
        new MotionBlock(PreviewMotion.of(scene, clip, new Matrix4d(), 99_999, new PointShapes()));
    assertThat(past.head.path("from").asInt()).isEqualTo(frames - 1);
  }
}
