package ferry.stone.core.motion;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.view.PreviewTracks;
import ferry.stone.core.work.Progress;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Motions are held against each other at every moment, in metres, whatever their units. */
class MotionApartTest {
  private static final int SAMPLES = 25;

  /** A triangle that walks along x and of which one corner is raised more and more. */
  private record Walk(int id, int meshId, double speed, double raised, double begin)
      implements PointCache {
    @Override
    public String name() {
      return "walk";
    }

    @Override
    public int sampleCount() {
      return SAMPLES;
    }

    @Override
    public double timeSeconds(int sample) {
      return begin + sample / 24.0;
    }

    @Override
    public int pointCount() {
      return 3;
    }

    @Override
    public void read(int sample, int from, int count, float[] target) {
      float[] rest = {0, 0, 0, 1, 0, 0, 0, 1, 0};
      for (int i = 0; i < 3 * count; i++) {
        float at = rest[3 * from + i];
        at += i % 3 == 0 ? (float) (speed * sample / 24) : 0;
        at += 3 * from + i == 7 ? (float) (raised * sample / (SAMPLES - 1)) : 0;
        target[i] = at;
      }
    }
  }

  private static Scene scene(double unit, Walk walk) {
    SceneBuilder scene = new SceneBuilder("yard");
    Frame metre = Frame.Y_UP_METRE;
    Frame frame = new Frame(unit, metre.up(), metre.front(), metre.handedness());
    scene.frame(frame, FrameSource.STATED, FrameSource.STATED);
    scene.nextId(50);
    Coordinates points = Coordinates.of(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0});
    scene.add(PolygonMesh.of(1, "sail", points, Polygons.triangles(new int[] {0, 1, 2})));
    scene.add(Node.of(10, "sail", -1, Node.Content.MeshContent.of(1)));
    return scene.caches(List.of(walk)).build();
  }

  private static MotionApart.Side side(Scene scene) {
    return new MotionApart.Side(scene, Caches.timeline(scene).get(0));
  }

  private static MotionApart apart(Scene a, Scene b, boolean sameSpot, boolean starts) {
    return MotionApart.of(side(a), side(b), 24, sameSpot, starts, -1, Progress.NONE);
  }

  @Test
  void aMotionLiesNowhereApartFromItselfInAnotherUnit() {
    MotionApart same =
        apart(
            scene(1, new Walk(20, 1, 2, 0.5, 0)),
            scene(1, new Walk(20, 1, 2, 0.5, 0)),
            false,
            false);
    assertThat(same.most()).hasSize(SAMPLES).containsOnly(0);
    assertThat(same.left()).isZero();
  }

  @Test
  void theFarthestVertexIsFoundWithItsMoment() {
    Scene raised = scene(0.01, new Walk(20, 1, 2, 30, 0));
    MotionApart apart = apart(scene(0.01, new Walk(20, 1, 2, 0, 0)), raised, false, false);
    assertThat(apart.most()[SAMPLES - 1]).isCloseTo(0.30, within(1e-6));
    assertThat(apart.most()[12]).isCloseTo(0.15, within(1e-6));
    assertThat(apart.mean()[12]).isCloseTo(0.05, within(1e-6));
    assertThat(apart.parts()).hasSize(1);
    assertThat(apart.parts().get(0).metres()).isCloseTo(0.30, within(1e-6));
    assertThat(apart.parts().get(0).seconds()).isCloseTo(1, within(1e-9));
  }

  @Test
  void onOneSpotOnlyTheShapeCounts() {
    Scene still = scene(1, new Walk(20, 1, 0, 0, 0));
    Scene walks = scene(1, new Walk(20, 1, 2, 0, 0));
    assertThat(apart(still, walks, false, false).most()[SAMPLES - 1]).isCloseTo(2, within(1e-6));
    MotionApart spot = apart(still, walks, true, false);
    assertThat(Arrays.stream(spot.most()).max().orElseThrow()).isLessThan(1e-6);
    assertThat(spot.otherSpots()[3 * (SAMPLES - 1)] - spot.otherSpots()[0])
        .isCloseTo(2, within(1e-6));
    assertThat(spot.spots()[3 * (SAMPLES - 1)]).isEqualTo(spot.spots()[0]);
  }

  @Test
  void motionsThatBeginAtOtherSecondsCanStartTogether() {
    Scene now = scene(1, new Walk(20, 1, 2, 0.5, 0));
    Scene later = scene(1, new Walk(20, 1, 2, 0.5, 100));
    assertThat(apart(now, later, false, false).most()[SAMPLES - 1]).isGreaterThan(1);
    assertThat(Arrays.stream(apart(now, later, false, true).most()).max().orElseThrow())
        .isLessThan(1e-6);
  }

  @Test
  void partsOfAnotherNumberOfVerticesAreCountedAndLeftOut() {
    Scene now = scene(1, new Walk(20, 1, 2, 0, 0));
    Coordinates points = Coordinates.of(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0, 5, 5, 5});
    Scene more =
        now.toBuilder()
            .meshes(
                List.of(PolygonMesh.of(1, "sail", points, Polygons.triangles(new int[] {0, 1, 2}))))
            .build();
    MotionApart apart = apart(now, more, false, false);
    assertThat(apart.left()).isEqualTo(1);
    assertThat(apart.parts()).isEmpty();
  }

  @Test
  void tracksTellKeysAndSamplesOfEachPart() {
    Scene walks = scene(1, new Walk(20, 1, 2, 0, 0));
    Clip.Track place =
        new Clip.Track(
            10,
            Clip.TRANSLATION,
            Clip.Interpolation.LINEAR,
            3,
            new double[] {0, 0.5, 1},
            new double[9],
            null,
            null);
    Clip clip = new Clip(30, "wade", 0, 1, List.of(place));
    PreviewTracks tracks = PreviewTracks.of(walks.toBuilder().clips(List.of(clip)).build(), clip);
    assertThat(tracks.left()).isZero();
    assertThat(tracks.rows()).hasSize(2);
    PreviewTracks.Row keys = tracks.rows().get(0);
    assertThat(keys.what()).isEqualTo("keys");
    assertThat(keys.detail()).isEqualTo("place");
    assertThat(keys.marks()).containsExactly(0, 0.5, 1);
    PreviewTracks.Row points = tracks.rows().get(1);
    assertThat(points.what()).isEqualTo("points");
    assertThat(points.count()).isEqualTo(SAMPLES);
    assertThat(points.rate()).isCloseTo(24, within(1e-9));
  }
}
