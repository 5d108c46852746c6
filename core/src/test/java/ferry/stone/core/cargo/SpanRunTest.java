package ferry.stone.core.cargo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.geometry.cache.WavingSheet;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.motion.ClipPoses;
import ferry.stone.core.motion.Curves;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;
import org.junit.jupiter.api.Test;

/** Archives of consecutive spans of one motion are that motion. */
class SpanRunTest {
  private static final int SAMPLES = 49;
  private final Findings findings = new Findings();

  private static Scene sheet() {
    SceneBuilder scene = new SceneBuilder("sheet").framesPerSecond(24);
    scene.nextId(20);
    scene.add(
        PolygonMesh.of(2, "sheet", WavingSheet.rest(), Polygons.triangles(new int[] {0, 1, 12})));
    int cart = scene.add(Node.of(3, "cart", -1, Node.Content.GROUP));
    scene.add(Node.of(4, "sheet", cart, Node.Content.MeshContent.of(2)));
    double[] times = new double[SAMPLES];
    double[] values = new double[3 * SAMPLES];
    for (int s = 0; s < SAMPLES; s++) {
      times[s] = s / 24.0;
      values[3 * s] = 0.1 * s * s;
    }
    scene.add(
        new Clip(
            5,
            "roll",
            0,
            2,
            List.of(
                new Clip.Track(
                    3,
                    Clip.TRANSLATION,
                    Clip.Interpolation.LINEAR,
                    3,
                    times,
                    values,
                    null,
                    null))));
    return scene.caches(List.of(new WavingSheet(9, 2, SAMPLES, s -> new Matrix4d()))).build();
  }

  private static TestFiles files(double[]... spans) throws Exception {
    return files(sheet(), spans);
  }

  private static TestFiles files(Scene scene, double[]... spans) throws Exception {
    TestFiles files = new TestFiles();
    for (int i = 0; i < spans.length; i++) {
      LandingOptions options =
          LandingOptions.of("abc")
              .with("unit", "m")
              .with("fromSeconds", spans[i][0])
              .with("toSeconds", spans[i][1]);
      String stem = "sheet_" + (i + 1);
      Landing.write(scene, options, stem, new TestFiles(), files, Progress.NONE);
    }
    return files;
  }

  private Scene read(TestFiles files, String how) throws Exception {
    return CargoReader.read(
        "sheet",
        new ReadContext(files, Map.of(), findings, Progress.NONE)
            .withOptions(Map.of("numberedFiles", how)));
  }

  private static double farthest(Scene a, Scene b) {
    double most = 0;
    ClipPoses was = ClipPoses.of(a, a.clips().get(0));
    ClipPoses is = ClipPoses.of(b, b.clips().get(0));
    for (double t = 0; t <= 2; t += 1 / 48.0) {
      double[] p = Deform.world(a, was.at(t), 1);
      double[] q = Deform.world(b, is.at(t), 1);
      for (int i = 0; i < p.length; i++) {
        most = Math.max(most, Math.abs(p[i] - q[i]));
      }
    }
    return most;
  }

  @Test
  void spansAreJoinedWhereTheUserSaysSo() throws Exception {
    double frame = 1 / 24.0;
    TestFiles files =
        files(
            new double[] {0, 15 * frame},
            new double[] {16 * frame, 32 * frame},
            new double[] {32 * frame, 2});
    Scene joined = read(files, "frames");
    assertThat(joined.caches()).hasSize(1);
    assertThat(joined.caches().get(0).sampleCount()).isEqualTo(SAMPLES);
    assertThat(joined.caches().get(0).endSeconds()).isCloseTo(2, within(1e-9));
    assertThat(joined.clips()).hasSize(1);
    assertThat(joined.paths()).containsExactly("cart", "cart/sheet");
    assertThat(farthest(sheet(), joined)).isLessThan(1e-5);
    assertThat(findings.list()).extracting(Finding::code).contains("numbered-spans");
    assertThat(findings.list()).extracting(Finding::code).doesNotContain("spans-overlap");
  }

  @Test
  void asPartsTheyStayApart() throws Exception {
    TestFiles files = files(new double[] {0, 1}, new double[] {1, 2}, new double[] {1.5, 2});
    Scene parts = read(files, "parts");
    assertThat(parts.caches()).hasSize(3);
    assertThat(findings.list()).extracting(Finding::code).contains("numbered-run");
  }

  @Test
  void spansThatLieOverEachOtherAreTold() throws Exception {
    Scene joined = read(files(new double[] {0, 1}, new double[] {0.5, 2}), "frames");
    assertThat(joined.caches().get(0).sampleCount()).isEqualTo(SAMPLES);
    assertThat(farthest(sheet(), joined)).isLessThan(1e-5);
    assertThat(findings.list()).extracting(Finding::code).contains("spans-overlap");
  }

  /** The sheet, watched through a lens that closes in, while its cart is called by other names. */
  private static Scene watched() {
    Scene sheet = sheet();
    SceneBuilder scene = sheet.toBuilder();
    Camera eye = new Camera(11, "eye", Math.toRadians(40), 0, 1.5, 0.1, 100, null, Map.of());
    scene.add(eye);
    Clip roll = sheet.clips().get(0);
    double[] times = roll.tracks().get(0).timesSeconds();
    double[] angles = new double[times.length];
    for (int s = 0; s < angles.length; s++) {
      angles[s] = Math.toRadians(40 - 0.5 * s);
    }
    List<Clip.Track> tracks = new ArrayList<>(roll.tracks());
    tracks.add(
        new Clip.Track(
            11, Clip.CAMERA_ANGLE, Clip.Interpolation.LINEAR, 1, times, angles, null, null));
    Clip.Words names =
        new Clip.Words(
            3,
            Clip.CUSTOM + "called",
            new double[] {0, 0.5, 1.5},
            List.of("dray", "wain", "barrow"));
    List<Node> nodes = new ArrayList<>();
    for (Node node : sheet.nodes()) {
      nodes.add(node.id() == 3 ? node.withProperties(Map.of("called", "dray")) : node);
    }
    nodes.add(Node.of(12, "eye", -1, new Node.Content.CameraContent(11)));
    return scene
        .nodes(nodes)
        .clips(List.of(roll.withTracks(tracks).withWords(List.of(names))))
        .build();
  }

  @Test
  void lensesAndTextsOfLaterSpansAreJoinedToo() throws Exception {
    Scene joined = read(files(watched(), new double[] {0, 1}, new double[] {1, 2}), "frames");
    Clip clip = joined.clips().get(0);
    assertThat(clip.words()).hasSize(1);
    Clip.Words called = clip.words().get(0);
    assertThat(called.at(0.2)).isEqualTo("dray");
    assertThat(called.at(1.2)).isEqualTo("wain");
    assertThat(called.at(1.7)).isEqualTo("barrow");
    Clip.Track lens =
        clip.tracks().stream()
            .filter(t -> t.property().equals(Clip.CAMERA_ANGLE))
            .findFirst()
            .orElseThrow();
    assertThat(lens.targetId()).isEqualTo(joined.cameras().get(0).id());
    double[] angle = new double[1];
    for (double t = 0; t <= 2; t += 1 / 24.0) {
      Curves.sample(lens, t, angle);
      assertThat(Math.toDegrees(angle[0])).isCloseTo(40 - 12 * t, within(1e-6));
    }
  }
}
