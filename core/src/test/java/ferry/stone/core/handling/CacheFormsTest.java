package ferry.stone.core.handling;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.geometry.cache.WavingSheet;
import ferry.stone.core.landing.CacheCost;
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
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
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

  /** The scene with joints and a target on the stone, which its cache overrules. */
  private static Scene rigged() {
    Scene scene = scene();
    SceneBuilder builder = scene.toBuilder();
    int[] all = {0, 1, 2, 3, 4};
    float[] deltas = new float[15];
    Arrays.fill(deltas, 3);
    PolygonMesh stone =
        scene.mesh(4).orElseThrow().toBuilder()
            .morphs(
                List.of(
                    new MorphTarget(
                        "swell", 1, List.of(new MorphTarget.Shape(1, all, deltas, null)))))
            .build();
    Skin skin =
        new Skin(
            30,
            "stone",
            4,
            new int[] {1},
            new Matrix4d().translation(7, 0, 0).get(new double[16]),
            new int[] {0, 1, 2, 3, 4, 5},
            new int[5],
            new float[] {1, 1, 1, 1, 1},
            "linear");
    List<Node> nodes = new ArrayList<>(scene.nodes());
    Node.Content.MeshContent content = (Node.Content.MeshContent) nodes.get(2).content();
    nodes.set(2, nodes.get(2).withContent(content.withSkin(30)));
    return builder
        .meshes(List.of(scene.mesh(2).orElseThrow(), stone))
        .skins(List.of(skin))
        .nodes(nodes)
        .build();
  }

  @Test
  void jointsAndTargetsThatTheCacheOverruledGoWithItAndAreTold() {
    Scene scene = rigged();
    for (String kind : List.of("cacheToNodes", "cacheToMorphs")) {
      var stages =
          Handling.run(
              scene, List.of(new Step("a", kind, Map.of(), true, List.of())), Progress.NONE);
      Scene moved = Handling.result(scene, stages);
      assertThat(stages.get(0).failure()).isNull();
      for (int s = 0; s < SAMPLES; s++) {
        assertThat(farthest(scene, moved, 2, 1 + s / 24.0)).as(kind).isLessThan(2e-5);
      }
      assertThat(stages.get(0).findings())
          .filteredOn(f -> f.code().equals("cache-rig-let-go"))
          .extracting(Finding::message)
          .hasSize(2)
          .anyMatch(m -> m.contains("joints"))
          .anyMatch(m -> m.contains("morph targets"));
    }
    Scene off = done(scene, "cacheOff", Map.of("stand", "moment", "seconds", 1.5));
    double[] stood =
        Deform.world(scene, ClipPoses.of(scene, Caches.timeline(scene).get(0)).at(1.5), 2);
    double[] stands = Deform.world(off, ClipPoses.of(off, null).at(0), 2);
    assertThat(stands).containsExactly(stood, within(1e-5));
  }

  @Test
  void whatHangsOnAStiffPartStaysWhereItIs() {
    Scene scene = scene();
    SceneBuilder builder = scene.toBuilder();
    List<Node> nodes = new ArrayList<>(scene.nodes());
    nodes.set(
        2,
        nodes
            .get(2)
            .withGeometric(
                Trs.of(
                    new Vector3d(1, 2, 3), new Quaterniond().rotateXYZ(1, 2, 3), new Vector3d(2))));
    nodes.add(Node.of(40, "moss", 2, Node.Content.MeshContent.of(2)));
    Scene hung = builder.nodes(nodes).caches(List.of(scene.caches().get(1))).build();
    Scene moved = done(hung, "cacheToNodes", Map.of("tolerance", 1));
    assertThat(moved.caches()).isEmpty();
    int moving = moved.paths().indexOf("yard/stone/stone_moving");
    Clip was = Caches.timeline(hung).get(0);
    Clip is = moved.clips().get(0);
    for (int s = 0; s < SAMPLES; s++) {
      double t = 1 + s / 24.0;
      assertThat(farthest(hung, moved, 3, t)).isLessThan(1e-9);
      assertThat(Deform.world(moved, ClipPoses.of(moved, is).at(t), moving))
          .containsExactly(Deform.world(hung, ClipPoses.of(hung, was).at(t), 2), within(1e-4));
    }
  }

  @Test
  void theForecastSaysWhatACacheCostsAndOffersBothForms() throws Exception {
    Scene scene = scene();
    Forecast forecast = Forecast.of(scene, LandingOptions.of("glb"), new TestFiles());
    Forecast.Item item =
        forecast.items().stream()
            .filter(i -> i.capability() == Capability.POINT_CACHES)
            .findFirst()
            .orElseThrow();
    assertThat(item.measured()).isEqualTo("2 caches");
    // Counted by hand: three floats a point and sample; a place, a turn and a time a sample.
    CacheCost cost = forecast.cost();
    long points = scene.caches().stream().mapToLong(PointCache::pointCount).sum();
    assertThat(cost.bytes()).isEqualTo(12 * points * SAMPLES);
    assertThat(cost.bytesPerSecond()).isCloseTo(cost.bytes() * 24.0 / (SAMPLES - 1), within(1e-6));
    assertThat(cost.forms())
        .extracting(CacheCost.Form::label)
        .containsExactly(
            "Stiff ones as moving parts", "Half the samples", "A morph target a sample");
    CacheCost.Form stiff = cost.forms().get(0);
    assertThat(stiff.how()).startsWith("1 cache of 2 only move");
    assertThat(stiff.bytes()).isEqualTo(32L * SAMPLES);
    assertThat(Forecast.of(scene, LandingOptions.of("abc"), new TestFiles()).cost())
        .isEqualTo(cost);
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
