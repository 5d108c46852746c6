package ferry.stone.core.cargo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.landing.Forecast;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.motion.Caches;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.work.CancelledException;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.assertj.core.data.Offset;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Numbered files as parts of one scene or as frames of one motion, as chosen. */
class FrameRunTest {
  private final Findings findings = new Findings();

  /** A sail of one triangle that rises, over water of as many faces as the frame's number. */
  private static String frame(int number) {
    StringBuilder text = new StringBuilder("mtllib yard.mtl\no sail\nusemtl cloth\n");
    text.append("v 0 ").append(number).append(" 0\nv 1 0 0\nv 0 1 1\nf 1 2 3\n");
    text.append("o water\nusemtl ").append(number % 2 == 0 ? "deep" : "shallow").append("\n");
    int vertex = 3;
    for (int f = 0; f < number; f++) {
      text.append("v ").append(f).append(" 0 0\nv ").append(f + 1).append(" 0 0\nv ");
      text.append(f).append(" 0 1\n");
      text.append("f ").append(vertex + 1).append(' ').append(vertex + 2).append(' ');
      text.append(vertex + 3).append('\n');
      vertex += 3;
    }
    return text.toString();
  }

  private static TestFiles yard(int frames) {
    TestFiles files = new TestFiles();
    files.with(
        "yard.mtl", "newmtl cloth\nKd 1 1 1\nnewmtl shallow\nKd 0 1 1\nnewmtl deep\nKd 0 0 1\n");
    // Numbers of different lengths: they are counted, not sorted as texts.
    for (int f = 1; f <= frames; f++) {
      files.with("swell_" + f + ".obj", frame(f));
    }
    return files;
  }

  private Scene read(TestFiles files, Object... options) throws Exception {
    Map<String, Object> chosen = new HashMap<>();
    chosen.put("numberedFiles", "frames");
    for (int i = 0; i < options.length; i += 2) {
      chosen.put((String) options[i], options[i + 1]);
    }
    return CargoReader.read(
        "yard", new ReadContext(files, Map.of(), findings, Progress.NONE).withOptions(chosen));
  }

  private Finding finding(String code) {
    return findings.list().stream().filter(f -> f.code().equals(code)).findFirst().orElseThrow();
  }

  @Test
  void asPartsEachFileIsAGroupAndTheOtherReadingIsOffered() throws Exception {
    Scene scene = read(yard(12), "numberedFiles", "parts");
    assertThat(scene.paths()).contains("swell_1/sail", "swell_12/water");
    assertThat(scene.sequences()).isEmpty();
    assertThat(finding("numbered-run").offers().get(0).params()).containsEntry("value", "frames");
  }

  @Test
  void asFramesTheFirstIsTheSceneAndTheOthersMoveIt() throws Exception {
    Scene scene = read(yard(12));
    assertThat(scene.paths()).containsExactly("sail", "water");
    assertThat(scene.framesPerSecond()).isEqualTo(24);
    assertThat(scene.caches()).hasSize(1);
    assertThat(scene.sequences()).hasSize(1);
    PointCache sail = scene.caches().get(0);
    assertThat(sail.sampleCount()).isEqualTo(12);
    assertThat(sail.endSeconds()).isEqualTo(11 / 24.0);
    float[] points = new float[9];
    sail.read(10, 0, 3, points);
    assertThat(points[1]).as("the 11th file by its number").isEqualTo(11);
    float[] middle = new float[3];
    sail.read(4, 1, 1, middle);
    assertThat(middle).containsExactly(1, 0, 0);
    assertThat(finding("numbered-frames").measured()).isEqualTo("12 files");
    assertThat(finding("numbered-frames").message()).contains("Faces of some parts change");
  }

  @Test
  void aMeshThatChangesIsReadWhenItIsAskedFor() throws Exception {
    Scene scene = read(yard(9));
    MeshSequence water = scene.sequences().get(0);
    PolygonMesh rest = scene.mesh(water.meshId()).orElseThrow();
    for (int sample : new int[] {0, 8, 3, 3, 7}) {
      PolygonMesh mesh = water.mesh(sample);
      assertThat(mesh.faces().faceCount()).isEqualTo(sample + 1);
      assertThat(mesh.id()).isEqualTo(rest.id());
      String material = scene.material(mesh.materialOf(0)).orElseThrow().name();
      assertThat(material).isEqualTo(sample % 2 == 1 ? "deep" : "shallow");
    }
  }

  @ParameterizedTest
  @CsvSource({"25, 0.32", "100, 0.08", "0.5, 16"})
  void framesFollowEachOtherAsFastAsChosen(double rate, double end) throws Exception {
    Scene scene = read(yard(9), "filesPerSecond", rate);
    assertThat(scene.sequences().get(0).endSeconds()).isEqualTo(end);
    List<Clip> timeline = Caches.timeline(scene);
    assertThat(timeline).as("both are played together").hasSize(1);
    assertThat(timeline.get(0).endSeconds()).isEqualTo(end);
  }

  @Test
  void theSampleOfAMomentIsTheLastThatHasBegun() throws Exception {
    MeshSequence water = read(yard(5), "filesPerSecond", 10).sequences().get(0);
    assertThat(water.sampleAt(-1)).isZero();
    assertThat(water.sampleAt(0.05)).isZero();
    assertThat(water.sampleAt(0.1)).isEqualTo(1);
    assertThat(water.sampleAt(0.39)).isEqualTo(3);
    assertThat(water.sampleAt(99)).isEqualTo(4);
  }

  @Test
  void whatIsLostInALaterFrameIsTold() throws Exception {
    TestFiles files = new TestFiles();
    for (int f = 1; f <= 3; f++) {
      String face = f == 2 ? "f 1/9 2/9 3/9\n" : "f 1/1 2/1 3/1\n";
      files.with("a." + f + ".obj", "v 0 0 " + f + "\nv 1 0 0\nv 0 1 0\nvt 0 0\n" + face);
    }
    Scene scene = read(files);
    assertThat(finding("uv-index-out-of-range").where()).startsWith("a.2.obj");
    assertThat(scene.unread()).anyMatch(u -> u.startsWith("a.2.obj"));
  }

  @Test
  void onlyTheFacesThatDifferMakeASequence() throws Exception {
    TestFiles files = new TestFiles();
    for (int f = 1; f <= 3; f++) {
      String turned = f == 2 ? "f 1 3 2\n" : "f 1 2 3\n";
      files.with("a." + f + ".obj", "v 0 0 " + f + "\nv 1 0 0\nv 0 1 0\n" + turned);
    }
    Scene scene = read(files);
    assertThat(scene.caches()).as("the same counts, but other corners").isEmpty();
    assertThat(scene.sequences()).hasSize(1);
    assertThat(scene.sequences().get(0).mesh(1).faces().vertex(1)).isEqualTo(2);
  }

  @Test
  void partsOfLaterFramesAreToldAndMissingOnesAreEmpty() throws Exception {
    TestFiles files = new TestFiles();
    String sail = "o sail\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n";
    files
        .with("b_1.obj", sail)
        .with("b_2.obj", sail.replace("sail", "spray"))
        .with("b_3.obj", sail);
    Scene scene = read(files);
    Finding told = finding("parts-of-later-frames");
    assertThat(told.measured()).isEqualTo("1 part");
    assertThat(told.evidence()).contains("spray");
    assertThat(scene.unread()).anyMatch(text -> text.contains("spray"));
    assertThat(scene.sequences().get(0).mesh(1).faces().faceCount()).isZero();
    assertThat(scene.sequences().get(0).mesh(1).points().count()).isZero();
    assertThat(scene.sequences().get(0).mesh(2).faces().faceCount()).isEqualTo(1);
  }

  @Test
  void runsAndOtherFilesMakeOneCargo() throws Exception {
    TestFiles files = yard(4).with("quay.obj", "o bollard\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
    files.with("gull_01.ply", ply(0)).with("gull_02.ply", ply(5));
    Scene scene = read(files);
    assertThat(scene.paths()).contains("swell_1/sail", "quay/bollard");
    assertThat(scene.paths()).noneMatch(path -> path.contains("swell_2"));
    assertThat(scene.caches()).hasSize(2);
    for (PointCache cache : scene.caches()) {
      assertThat(scene.mesh(cache.meshId())).isPresent();
      float[] points = new float[3 * cache.pointCount()];
      cache.read(1, 0, cache.pointCount(), points);
    }
    for (int id : scene.sequences().get(0).mesh(3).materialIds()) {
      assertThat(scene.material(id)).as("numbers of the whole cargo").isPresent();
    }
  }

  private static String ply(int height) {
    return "ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\n"
        + "property float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n"
        + "0 0 "
        + height
        + "\n1 0 0\n0 1 0\n3 0 1 2\n";
  }

  @Test
  void aBrokenFrameIsNamedWhenTheCargoIsRead() {
    TestFiles files = yard(4).with("swell_3.obj", "o sail\nv 0 0\nf 1 2 3\n");
    assertThatThrownBy(() -> read(files)).hasMessageContaining("swell_3.obj");
  }

  @Test
  void aFrameThatChangedSinceSaysSo() throws Exception {
    TestFiles files = yard(9);
    Scene scene = read(files);
    files.with("swell_2.obj", "o sail\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nf 1 2 3 4\n");
    assertThatThrownBy(() -> scene.caches().get(0).read(1, 0, 3, new float[9]))
        .isInstanceOf(IOException.class)
        .hasMessageContaining("swell_2.obj")
        .hasMessageContaining("Read the cargo again");
    files.with("swell_2.obj", "");
    // The last few frames are kept; this one has been let go by now.
    for (int f = 3; f < 9; f++) {
      scene.sequences().get(0).mesh(f);
    }
    assertThatThrownBy(() -> scene.sequences().get(0).mesh(1)).hasMessageContaining("swell_2.obj");
  }

  @Test
  void readingManyFramesCanBeStopped() {
    Progress stopped =
        new Progress() {
          @Override
          public void report(String what, double fraction) {
            if (what.contains("swell_3")) {
              throw new CancelledException();
            }
          }

          @Override
          public boolean isCancelled() {
            return false;
          }
        };
    assertThatThrownBy(
            () ->
                CargoReader.read(
                    "yard",
                    new ReadContext(yard(9), Map.of(), findings, stopped)
                        .withOptions(Map.of("numberedFiles", "frames"))))
        .isInstanceOf(CancelledException.class);
  }

  @Test
  void itIsCarriedToOtherAxesAndUnits() throws Exception {
    Scene scene = read(yard(6));
    Frame inches = Frame.Y_UP_METRE.withMetresPerUnit(0.0254).withUp(SignedAxis.PLUS_Z);
    Scene moved = Rebase.intoData(scene, inches);
    PolygonMesh before = scene.sequences().get(0).mesh(4);
    PolygonMesh after = moved.sequences().get(0).mesh(4);
    assertThat(after.faces().faceCount()).isEqualTo(5);
    double size = before.points().bounds().diagonal() / 0.0254;
    assertThat(after.points().bounds().diagonal()).isEqualTo(size, Offset.offset(1e-4 * size));
  }

  @Test
  void everyLandingTellsThatOneMomentLands() throws Exception {
    Scene scene = read(yard(4));
    for (String key : List.of("glb", "gltf", "fbx", "obj", "ply", "stl")) {
      assertThat(Forecast.of(scene, LandingOptions.of(key), new TestFiles()).items())
          .as(key)
          .anyMatch(item -> item.capability() == Capability.CHANGING_MESHES);
    }
  }
}
