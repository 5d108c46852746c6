package ferry.stone.core.handling;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.RandomRig;
import ferry.stone.core.geometry.cache.WavingSheet;
import ferry.stone.core.motion.Caches;
import ferry.stone.core.motion.ClipPoses;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.work.Progress;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.joml.Matrix4d;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/** Steps on time do the same to clips and to caches, and what runs between keys stays itself. */
class TimeStepsTest {
  private static final double RATE = 24;

  private static Scene sheet(int samples) {
    SceneBuilder scene = new SceneBuilder("sheet").framesPerSecond(RATE);
    scene.nextId(20);
    scene.add(
        PolygonMesh.of(2, "sheet", WavingSheet.rest(), Polygons.triangles(new int[] {0, 1, 12})));
    scene.add(Node.of(3, "sheet", -1, Node.Content.MeshContent.of(2)));
    return scene.caches(List.of(new WavingSheet(9, 2, samples, s -> new Matrix4d()))).build();
  }

  private static Handling.Stage stage(Scene scene, String kind, Map<String, Object> params) {
    Handling.Stage stage =
        Handling.run(scene, List.of(new Step("a", kind, params, true, List.of())), Progress.NONE)
            .get(0);
    assertThat(stage.failure()).isNull();
    return stage;
  }

  private static Scene done(Scene scene, String kind, Map<String, Object> params) {
    return stage(scene, kind, params).scene();
  }

  /** The farthest that a vertex is off, as a part of the size. */
  private static double farthest(Scene a, Pose was, Scene b, Pose is) {
    double most = 0;
    double size = 1;
    for (int i = 0; i < a.nodes().size(); i++) {
      double[] p = Deform.world(a, was, i);
      double[] q = Deform.world(b, is, i);
      for (int k = 0; k < p.length; k++) {
        size = Math.max(size, Math.abs(p[k]));
        most = Math.max(most, Math.abs(p[k] - q[k]));
      }
    }
    return most / size;
  }

  private interface Moment {
    /** Where it was before, of a moment as it is now. */
    double before(double now);
  }

  /** Every vertex of every random rig, at moments of the changed clip that are no keys. */
  private static void samePoses(
      String kind, Map<String, Object> params, double tolerance, Moment moment) {
    for (int seed = 0; seed < 12; seed++) {
      Scene scene = RandomRig.of(new Random(seed), 5);
      Scene changed = done(scene, kind, params);
      for (int c = 0; c < scene.clips().size(); c++) {
        Clip now = changed.clips().get(c);
        ClipPoses was = ClipPoses.of(scene, scene.clips().get(c));
        ClipPoses is = ClipPoses.of(changed, now);
        for (int k = 0; k < 7; k++) {
          double t =
              now.startSeconds() + (0.0713 + 0.137 * k) * (now.endSeconds() - now.startSeconds());
          assertThat(farthest(scene, was.at(moment.before(t)), changed, is.at(t)))
              .as(kind + ", seed " + seed + ", at " + t)
              .isLessThan(tolerance);
        }
      }
    }
  }

  private static double at(PointCache cache, double seconds, int vertex) throws Exception {
    float[] points = new float[3 * cache.pointCount()];
    Caches.sample(cache, seconds, points);
    return points[3 * vertex + 2];
  }

  @Test
  void trimKeepsWhatMovesBetweenTwoMoments() throws Exception {
    samePoses("timeTrim", Map.of("unit", "seconds", "first", 0.13, "last", 0.61), 1e-6, t -> t);
    // 72 frames for 30 to 101: both ends belong to it (common practice, no source).
    Handling.Stage stage =
        stage(sheet(200), "timeTrim", Map.of("unit", "frames", "first", 30, "last", 101));
    PointCache cut = stage.scene().caches().get(0);
    assertThat(cut.sampleCount()).isEqualTo(72);
    assertThat(cut.startSeconds()).isCloseTo(30 / RATE, within(1e-12));
    assertThat(stage.figure()).startsWith("frames 30–101, 72 frames, 1.25–4.208 s");
    assertThat(at(cut, 50 / RATE, 40)).isCloseTo(WavingSheet.at(40, 50).z, within(1e-5));
    // An end between two samples gets a sample of its own.
    Scene between = done(sheet(20), "timeTrim", Map.of("unit", "frames", "first", 2.5, "last", 4));
    assertThat(between.caches().get(0).sampleCount()).isEqualTo(3);
    assertThat(at(between.caches().get(0), 2.5 / RATE, 40))
        .isCloseTo((WavingSheet.at(40, 2).z + WavingSheet.at(40, 3).z) / 2, within(1e-5));
  }

  @Test
  void shiftAndSpeedMoveEverythingAlike() throws Exception {
    for (int seed = 0; seed < 5; seed++) {
      Scene scene = RandomRig.of(new Random(seed), 4);
      if (scene.clips().isEmpty()) {
        continue;
      }
      double first = scene.clips().stream().mapToDouble(Clip::startSeconds).min().orElseThrow();
      Scene shifted = done(scene, "timeShift", Map.of("unit", "seconds", "start", 5));
      assertThat(shifted.clips().stream().mapToDouble(Clip::startSeconds).min().orElseThrow())
          .isCloseTo(5, within(1e-9));
      Clip was = scene.clips().get(0);
      Clip is = shifted.clips().get(0);
      double t = was.startSeconds() + 0.37 * (was.endSeconds() - was.startSeconds());
      assertThat(
              farthest(
                  scene,
                  ClipPoses.of(scene, was).at(t),
                  shifted,
                  ClipPoses.of(shifted, is).at(t + 5 - first)))
          .isLessThan(1e-6);
    }
    Scene fast = done(sheet(49), "timeSpeed", Map.of("factor", 2));
    PointCache cache = fast.caches().get(0);
    assertThat(cache.sampleCount()).isEqualTo(49);
    assertThat(cache.endSeconds()).isCloseTo(1, within(1e-12));
    assertThat(at(cache, 0.5, 33)).isCloseTo(WavingSheet.at(33, 24).z, within(1e-5));
    Scene at1 = done(sheet(10), "timeShift", Map.of("unit", "frames", "start", 1));
    assertThat(at1.caches().get(0).startSeconds()).isCloseTo(1 / RATE, within(1e-12));
  }

  @Test
  void reverseTurnsTimeRound() throws Exception {
    for (int seed = 0; seed < 12; seed++) {
      Scene scene = RandomRig.of(new Random(seed), 5);
      for (Clip clip : scene.clips()) {
        Scene back = done(scene, "timeReverse", Map.of("named", clip.name()));
        Clip now = back.clips().stream().filter(c -> c.id() == clip.id()).findFirst().orElseThrow();
        double whole = clip.startSeconds() + clip.endSeconds();
        double others = scene.clips().stream().filter(c -> c.name().equals(clip.name())).count();
        for (int k = 0; k < 5 && others == 1; k++) {
          double t =
              clip.startSeconds()
                  + (0.0713 + 0.197 * k) * (clip.endSeconds() - clip.startSeconds());
          assertThat(
                  farthest(
                      scene,
                      ClipPoses.of(scene, clip).at(t),
                      back,
                      ClipPoses.of(back, now).at(whole - t)))
              .isLessThan(1e-6);
        }
      }
    }
    PointCache back = done(sheet(25), "timeReverse", Map.of()).caches().get(0);
    assertThat(at(back, 0, 20)).isCloseTo(WavingSheet.at(20, 24).z, within(1e-5));
    assertThat(back.endSeconds()).isCloseTo(1, within(1e-12));
  }

  @Test
  void holdStandsAtBothEnds() throws Exception {
    Handling.Stage stage =
        stage(sheet(25), "timeHold", Map.of("unit", "frames", "before", 12, "after", 24));
    PointCache held = stage.scene().caches().get(0);
    assertThat(held.startSeconds()).isCloseTo(-0.5, within(1e-12));
    assertThat(held.endSeconds()).isCloseTo(2, within(1e-12));
    assertThat(at(held, -0.3, 30)).isCloseTo(WavingSheet.at(30, 0).z, within(1e-5));
    assertThat(at(held, 1.7, 30)).isCloseTo(WavingSheet.at(30, 24).z, within(1e-5));
    assertThat(at(held, 10 / RATE, 30)).isCloseTo(WavingSheet.at(30, 10).z, within(1e-5));
  }

  @Test
  void aNewRateKeepsSecondsOrFrames() {
    Scene scene = sheet(49);
    Scene seconds = done(scene, "timeRate", Map.of("rate", 30, "keep", "seconds"));
    assertThat(seconds.framesPerSecond()).isEqualTo(30);
    assertThat(seconds.caches()).isEqualTo(scene.caches());
    Scene frames = done(scene, "timeRate", Map.of("rate", 48, "keep", "frames"));
    assertThat(frames.caches().get(0).endSeconds()).isCloseTo(1, within(1e-12));
  }

  @Test
  void samplesAnewLieOnTheMotion() throws Exception {
    PointCache cache = done(sheet(25), "timeResample", Map.of("rate", 48)).caches().get(0);
    assertThat(cache.sampleCount()).isEqualTo(49);
    assertThat(at(cache, 20 / RATE, 30)).isCloseTo(WavingSheet.at(30, 20).z, within(1e-5));
    for (int seed = 0; seed < 6; seed++) {
      Scene scene = RandomRig.of(new Random(seed), 4);
      Scene changed = done(scene, "timeResample", Map.of("rate", 60));
      for (int c = 0; c < scene.clips().size(); c++) {
        Clip clip = scene.clips().get(c);
        double t = clip.startSeconds() + 3 / 60.0;
        if (t <= clip.endSeconds()) {
          assertThat(
                  farthest(
                      scene,
                      ClipPoses.of(scene, clip).at(t),
                      changed,
                      ClipPoses.of(changed, changed.clips().get(c)).at(t)))
              .isLessThan(1e-5);
        }
      }
    }
  }

  @Test
  void theGapOfALoopIsMeasured() {
    // From sin 0 to sin 6.4 at the far edge: 0.15 * 2.75 * 0.1165 m.
    Handling.Stage stage = stage(sheet(17), "timeLoop", Map.of("most", 1));
    Vector3d first = WavingSheet.at(11, 0);
    double wanted = 1000 * WavingSheet.at(11, 16).distance(first);
    assertThat(stage.figure()).isEqualTo(String.format("gap %.3f mm", wanted));
    assertThat(stage.findings()).singleElement().matches(f -> f.code().equals("loop-gap"));
    assertThat(stage(sheet(17), "timeLoop", Map.of("most", 100)).findings()).isEmpty();
  }

  /** The sheet as a mesh at each sample, whose faces change at the last if wanted. */
  private record Folding(int id, int meshId, int sampleCount, boolean tears)
      implements MeshSequence {
    @Override
    public String name() {
      return "folding";
    }

    @Override
    public double timeSeconds(int sample) {
      return sample / RATE;
    }

    @Override
    public PolygonMesh mesh(int sample) {
      boolean torn = tears && sample == sampleCount - 1;
      int[] faces = torn ? new int[] {0, 1, 13} : new int[] {0, 1, 12};
      return PolygonMesh.of(
          meshId,
          "sheet",
          WavingSheet.rest().transform(new Matrix4d().translation(0, 0, 0.01 * sample)),
          Polygons.triangles(faces));
    }
  }

  @Test
  void theGapOfAChangingMeshIsMeasuredToo() {
    Scene sheet = sheet(2).toBuilder().caches(List.of()).build();
    Scene moved = sheet.toBuilder().sequences(List.of(new Folding(9, 2, 11, false))).build();
    Handling.Stage stage = stage(moved, "timeLoop", Map.of("most", 1));
    assertThat(stage.figure()).isEqualTo("gap 100.000 mm");
    assertThat(stage.findings()).singleElement().matches(f -> f.code().equals("loop-gap"));
    Scene torn = sheet.toBuilder().sequences(List.of(new Folding(9, 2, 11, true))).build();
    assertThat(stage(torn, "timeLoop", Map.of("most", 1)).findings())
        .singleElement()
        .matches(f -> f.measured().equals("other faces at the end"));
  }
}
