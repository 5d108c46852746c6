package ferry.stone.core.handling;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.geometry.cache.WavingSheet;
import ferry.stone.core.landing.Forecast;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.motion.Caches;
import ferry.stone.core.motion.ClipPoses;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.work.Progress;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/** Caches in forms that formats without caches hold: the same points at every sample. */
class CacheFormsTest {
  private static final int SAMPLES = 20;

  /** A stone that flies, turns and tumbles. */
  private record Tumbling(int id, int meshId, Coordinates points) implements PointCache {
    @Override
    public String name() {
      return "stone";
    }

    @Override
    public int sampleCount() {
      return SAMPLES;
    }

    @Override
    public int pointCount() {
      return points.count();
    }

    @Override
    public double timeSeconds(int sample) {
      return 1 + sample / 24.0;
    }

    @Override
    public void read(int sample, int from, int count, float[] target) {
      double t = sample / 24.0;
      Coordinates moved =
          points.transform(
              new Matrix4d().translation(t, 3 * t - 5 * t * t, 0.2).rotateXYZ(4 * t, t, -7 * t));
      for (int i = 0; i < 3 * count; i++) {
        target[i] = (float) moved.at(3 * from + i);
      }
    }
  }

  /** A sheet that bends and a stone that does not, both below a part that stands askew. */
  private static Scene scene() {
    SceneBuilder scene = new SceneBuilder("yard").framesPerSecond(24);
    scene.nextId(20);
    int yard =
        scene.add(
            Node.of(1, "yard", -1, Node.Content.GROUP)
                .withTransform(
                    Trs.of(
                        new Vector3d(4, 1, -2),
                        new Quaterniond().rotateXYZ(0.3, 1, 0),
                        new Vector3d(1))));
    scene.add(
        PolygonMesh.of(
            2, "sheet", WavingSheet.rest(), Polygons.triangles(new int[] {0, 1, 12, 1, 13, 12})));
    scene.add(Node.of(3, "sheet", yard, Node.Content.MeshContent.of(2)));
    Coordinates stone =
        Coordinates.of(new float[] {5, 0, 0, 6, 0, 0, 5, 1, 0, 5, 0, 1, 6.5f, 1, 1});
    scene.add(
        PolygonMesh.of(
            4, "stone", stone, Polygons.triangles(new int[] {0, 2, 1, 0, 1, 3, 1, 2, 4})));
    scene.add(Node.of(5, "stone", yard, Node.Content.MeshContent.of(4)));
    return scene
        .caches(
            List.of(
                new WavingSheet(9, 2, SAMPLES, s -> new Matrix4d()), new Tumbling(10, 4, stone)))
        .build();
  }

  private static Scene done(Scene scene, String kind, Map<String, Object> params) {
    var stages =
        Handling.run(scene, List.of(new Step("a", kind, params, true, List.of())), Progress.NONE);
    assertThat(stages.get(0).failure()).isNull();
    return Handling.result(scene, stages);
  }

  private static double farthest(Scene a, Scene b, int place, double t) {
    Clip was = Caches.timeline(a).get(0);
    Clip is = b.clips().get(0);
    double[] p = Deform.world(a, ClipPoses.of(a, was).at(t), place);
    double[] q = Deform.world(b, ClipPoses.of(b, is).at(t), place);
    double most = 0;
    for (int i = 0; i < p.length; i++) {
      most = Math.max(most, Math.abs(p[i] - q[i]));
    }
    return most;
  }

  @Test
  void whatIsStiffMovesAsAPartAndWhatBendsStays() {
    Scene scene = scene();
    var stages =
        Handling.run(
            scene,
            List.of(new Step("a", "cacheToNodes", Map.of("tolerance", 0.5), true, List.of())),
            Progress.NONE);
    Scene moved = Handling.result(scene, stages);
    assertThat(stages.get(0).figure()).startsWith("1 cache · up to 0.00");
    assertThat(stages.get(0).findings()).singleElement().matches(f -> f.where().equals("sheet"));
    assertThat(moved.caches()).singleElement().matches(c -> c.name().equals("sheet"));
    for (int s = 0; s < SAMPLES; s++) {
      assertThat(farthest(scene, moved, 2, 1 + s / 24.0)).isLessThan(2e-5);
    }
    // The part turns about its middle.
    assertThat(moved.mesh(4).orElseThrow().points().bounds().centre().length()).isLessThan(1e-6);
  }

  @Test
  void aTargetASampleGivesTheSamePointsAlsoBetweenThem() {
    Scene scene = scene();
    Scene morphed = done(scene, "cacheToMorphs", Map.of("most", 64));
    assertThat(morphed.caches()).isEmpty();
    assertThat(morphed.mesh(2).orElseThrow().morphs()).hasSize(SAMPLES - 1);
    Scene sheets = scene.toBuilder().caches(List.of(scene.caches().get(0))).build();
    for (double t = 0; t < (SAMPLES - 1) / 24.0; t += 0.013) {
      assertThat(farthest(sheets, morphed, 1, t)).isLessThan(1e-5);
    }
    Scene small = done(scene, "cacheToMorphs", Map.of("most", 0.01));
    assertThat(small.caches()).hasSize(1);
  }

  @Test
  void theForecastSaysWhatACacheCostsAndOffersBothForms() throws Exception {
    Scene scene = scene();
    Forecast.Item item =
        Forecast.of(scene, LandingOptions.of("glb"), new TestFiles()).items().stream()
            .filter(i -> i.capability() == Capability.POINT_CACHES)
            .findFirst()
            .orElseThrow();
    assertThat(item.measured()).isEqualTo("2 caches, 0.0 MB, 0.0 MB a second");
    assertThat(item.offers())
        .extracting(Offer::kind)
        .containsExactly("cacheToNodes", "cacheToMorphs");
    Scene far = done(done(scene, "cacheToNodes", Map.of()), "cacheToMorphs", Map.of());
    TestFiles out = new TestFiles();
    LandingOptions options = LandingOptions.of("glb");
    Landing landing = Landing.write(far, options, "out", new TestFiles(), out, Progress.NONE);
    Proof proof =
        Proof.of(scene, far, landing.landed(options, out), new TestFiles(), Progress.NONE);
    assertThat(proof.rows())
        .filteredOn(r -> r.fact().startsWith("Vertices during"))
        .isNotEmpty()
        .allMatch(r -> r.verdict() == LedgerRow.Verdict.KEPT);
  }
}
