package ferry.stone.core.format.abc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.RandomRig;
import ferry.stone.core.RandomScene;
import ferry.stone.core.TestFiles;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.abc.raw.AbcArchive;
import ferry.stone.core.format.abc.raw.AbcProperty;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.MemoryFiles;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.motion.Caches;
import ferry.stone.core.motion.ClipPoses;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.scene.time.RetimedCache;
import ferry.stone.core.work.Progress;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * Archives that are written here. {@code yard-landed.json} and {@code odds-landed.json} are what
 * the standard's own library (alembic3d 1.8.12.1) reads in the archives beside them, which are
 * written here byte for byte; FERRY_WRITE_ABC=1 writes these anew.
 */
class AbcWritingTest {
  private static final TestFiles NOTHING = new TestFiles();

  private static byte[] resource(String name) throws Exception {
    try (InputStream in = AbcWritingTest.class.getResourceAsStream("/abc/" + name)) {
      return in == null ? new byte[0] : in.readAllBytes();
    }
  }

  private static Scene read(String name, byte[] bytes) throws Exception {
    TestFiles files = new TestFiles().with(name, bytes);
    return AbcFormat.ABC.reader().orElseThrow().read(name, ReadContext.of(files));
  }

  private static TestFiles landed(Scene scene, LandingOptions options) throws Exception {
    TestFiles out = new TestFiles();
    Landing.write(scene, options, "out", NOTHING, out, Progress.NONE);
    return out;
  }

  private static Scene again(Scene scene, LandingOptions options) throws Exception {
    return read("out.abc", landed(scene, options).bytes("out.abc"));
  }

  private static PolygonMesh mesh(Scene scene, String path) {
    Node node = scene.nodes().get(scene.paths().indexOf(path));
    return scene.mesh(((Content.MeshContent) node.content()).meshId()).orElseThrow();
  }

  @ParameterizedTest
  @ValueSource(strings = {"yard", "odds"})
  void theStandardsOwnLibraryReadsWhatIsWritten(String name) throws Exception {
    Scene source = read(name + ".abc", resource(name + ".abc"));
    byte[] bytes = landed(source, LandingOptions.of("abc")).bytes("out.abc");
    if (System.getenv("FERRY_WRITE_ABC") != null) {
      Files.write(Path.of("src/test/resources/abc/" + name + "-landed.abc"), bytes);
    }
    assertThat(Arrays.equals(bytes, resource(name + "-landed.abc"))).isTrue();
    JsonNode told = new ObjectMapper().readTree(resource(name + "-landed.json"));
    Scene back = read("out.abc", bytes);
    int meshes = 0;
    for (JsonNode object : told.get("objects")) {
      if (object.has("faces") && !object.has("instanceOf")) {
        PolygonMesh mesh = mesh(back, object.get("path").asText());
        meshes++;
        assertThat(object.get("vertices").asInt()).isEqualTo(mesh.points().count());
        assertThat(object.get("faces").asInt()).isEqualTo(mesh.faces().faceCount());
        assertThat(object.get("badIndices").asInt()).isZero();
        assertThat(object.get("faceSets") == null ? 0 : object.get("faceSets").size())
            .isEqualTo(mesh.faceSets().size());
      }
    }
    assertThat(meshes).isGreaterThan(2);
    // The library's own figure of all that is there, and what the archive says of it.
    JsonNode box = told.get("sceneBoundingBox");
    JsonNode said = told.get("archiveBounds");
    for (int c = 0; c < 3; c++) {
      for (String end : List.of("min", "max")) {
        double own = box.get(end).get(c).asDouble();
        assertThat(said.get(end).get(c).asDouble()).isCloseTo(own, within(1e-6));
      }
    }
    for (int c = 0; c < 3; c++) {
      assertThat(box.get("min").get(c).asDouble()).isCloseTo(back.bounds().min(c), within(1e-5));
      assertThat(box.get("max").get(c).asDouble()).isCloseTo(back.bounds().max(c), within(1e-5));
    }
  }

  @Test
  void randomScenesComeBackAndTheSameBytesAreWrittenTwice() throws Exception {
    for (int seed = 0; seed < 30; seed++) {
      Random random = new Random(seed);
      Scene far = seed % 2 == 0 ? RandomScene.of(random) : RandomRig.of(random, 5);
      LandingOptions options = LandingOptions.of("abc");
      TestFiles out = new TestFiles();
      Landing landing = Landing.write(far, options, "out", NOTHING, out, Progress.NONE);
      assertThat(Arrays.equals(landed(far, options).bytes("out.abc"), out.bytes("out.abc")))
          .isTrue();
      Proof proof = Proof.of(far, far, landing.landed(options, out), NOTHING, Progress.NONE);
      assertThat(proof.rows())
          .as("seed " + seed)
          .filteredOn(r -> r.verdict() == LedgerRow.Verdict.LOST && r.about() == null)
          .isEmpty();
      assertThat(proof.rows())
          .filteredOn(r -> r.fact().startsWith("Vertices during"))
          .allMatch(r -> r.verdict() == LedgerRow.Verdict.KEPT);
    }
  }

  @Test
  void whatJointsAndTargetsDoIsInThePointsOfEachFrame() throws Exception {
    for (String space : List.of("own", "world")) {
      Scene far = RandomRig.of(new Random(4), 6);
      Scene back = again(far, LandingOptions.of("abc").with("space", space).with("unit", "m"));
      assertThat(back.skins()).isEmpty();
      assertThat(back.caches()).isNotEmpty();
      Clip clip = far.clips().get(0);
      Clip played = back.clips().isEmpty() ? null : back.clips().get(0);
      int compared = 0;
      for (Scene.ShownMesh shown : far.shownMeshes()) {
        int place = far.nodes().indexOf(shown.node());
        for (int there = 0; there < back.nodes().size(); there++) {
          String name = back.nodes().get(there).name();
          boolean same =
              back.nodes().get(there).content() instanceof Content.MeshContent
                  && name.replace("_shape", "").equals(shown.node().name());
          double rate = Caches.rate(far);
          for (int frame = 0; same && frame < 4; frame++) {
            double t = clip.startSeconds() + frame / rate;
            double[] wanted = Deform.world(far, ClipPoses.of(far, clip).at(t), place);
            double[] found = Deform.world(back, ClipPoses.of(back, played).at(t), there);
            if (wanted.length == found.length && t <= clip.endSeconds()) {
              for (int i = 0; i < wanted.length; i++) {
                assertThat(found[i]).isCloseTo(wanted[i], within(1e-4));
              }
              compared++;
            }
          }
        }
      }
      assertThat(compared).isPositive();
    }
  }

  /** A plate that turns about X, 90 degrees in a second, as a cache of 9 samples. */
  private record Turning(int id, int meshId, Coordinates points) implements PointCache {
    @Override
    public String name() {
      return "plate";
    }

    @Override
    public int sampleCount() {
      return 9;
    }

    @Override
    public double timeSeconds(int sample) {
      return 2 + sample / 8.0;
    }

    @Override
    public int pointCount() {
      return points.count();
    }

    @Override
    public void read(int sample, int from, int count, float[] target) {
      Coordinates turned = points.transform(new Matrix4d().rotationX(Math.PI / 16 * sample));
      for (int i = 0; i < 3 * count; i++) {
        target[i] = (float) turned.at(3 * from + i);
      }
    }
  }

  private static Scene plate() {
    float[] xyz = {0, 0, 0, 2, 0, 0, 2, 1, 0, 0, 1, 0};
    Coordinates points = Coordinates.of(xyz);
    Attribute normals =
        new Attribute(
            "n",
            Attribute.Semantic.NORMAL,
            Attribute.Domain.VERTEX,
            3,
            new float[] {0, 0, 1, 0, 0, 1, 0, 0, 1, 0.6f, 0, 0.8f},
            null);
    PolygonMesh mesh =
        PolygonMesh.of(1, "plate", points, Polygons.of(new int[] {0, 1, 2, 3}, new int[] {0, 4}))
            .toBuilder()
            .attributes(List.of(normals))
            .build();
    SceneBuilder scene = new SceneBuilder("plate");
    scene.nextId(10);
    scene.add(mesh);
    scene.add(Node.of(2, "plate", -1, Content.MeshContent.of(1)));
    return scene.caches(List.of(new Turning(3, 1, points))).build();
  }

  @Test
  void normalsTurnWithPointsThatMove() throws Exception {
    byte[] bytes = landed(plate(), LandingOptions.of("abc")).bytes("out.abc");
    // The last sample of N lies 90 degrees on: (x, y, z) stands at (x, -z, y).
    var archive =
        AbcArchive.open(
            "out.abc",
            new TestFiles().with("out.abc", bytes).random("out.abc"),
            Budget.of("out.abc", new TestFiles().with("out.abc", bytes)));
    var n =
        archive
            .top()
            .children()
            .get(0)
            .properties()
            .compound(".geom")
            .orElseThrow()
            .value("N")
            .orElseThrow();
    assertThat(n.sampleCount()).isEqualTo(9);
    float[] last = n.floats(8);
    float[] wanted = {0, -1, 0, 0, -1, 0, 0, -1, 0, 0.6f, -0.8f, 0};
    for (int i = 0; i < wanted.length; i++) {
      assertThat(last[i]).isCloseTo(wanted[i], within(1e-5f));
    }
    assertThat(n.seconds(8)).isCloseTo(3, within(1e-12));
  }

  @Test
  void listsThatGetLongerAndShorterOverTimeComeBack() throws Exception {
    List<String> marks = List.of("[1,2]", "[3]", "[4,5,6]");
    List<String> loads = List.of("[0.5]", "[]", "[NaN,2.0]");
    List<String> crews = List.of("[\"Ada, the \\\"tall\\\"\",\"Bo\"]", "[]", "[\"Bo\"]");
    double[] seconds = {0, 0.5, 0.75};
    SceneBuilder scene = new SceneBuilder("buoy");
    scene.nextId(10);
    scene.add(
        Node.of(2, "buoy", -1, Content.GROUP)
            .withProperties(
                Map.of(
                    "marks", List.of(1, 2),
                    "loads", List.of(0.5),
                    "crew", List.of("Ada, the \"tall\"", "Bo"))));
    List<Clip.Words> words =
        List.of(
            new Clip.Words(2, Clip.CUSTOM + "crew", seconds, crews),
            new Clip.Words(2, Clip.CUSTOM + "loads", seconds, loads),
            new Clip.Words(2, Clip.CUSTOM + "marks", seconds, marks));
    scene.add(new Clip(3, "tide", 0, 0.75, List.of(), List.of(), words));
    Scene back = again(scene.build(), LandingOptions.of("abc"));
    assertThat(back.clips().get(0).words())
        .extracting(Clip.Words::values)
        .containsExactlyInAnyOrder(marks, loads, crews);
    assertThat(back.clips().get(0).words().get(0).timesSeconds()).containsExactly(seconds);
  }

  @Test
  void samplesAreThoseThatWereAskedFor() throws Exception {
    Scene all = again(plate(), LandingOptions.of("abc").with("unit", "m"));
    assertThat(all.caches().get(0).sampleCount()).isEqualTo(9);
    Scene part =
        again(plate(), LandingOptions.of("abc").with("fromSeconds", 2.25).with("toSeconds", 2.5));
    assertThat(part.caches().get(0).sampleCount()).isEqualTo(3);
    assertThat(part.caches().get(0).startSeconds()).isCloseTo(2.25, within(1e-12));
    Scene anew = again(plate(), LandingOptions.of("abc").with("rate", 16).with("unit", "m"));
    PointCache cache = anew.caches().get(0);
    assertThat(cache.sampleCount()).isEqualTo(17);
    float[] between = new float[12];
    float[] a = new float[12];
    float[] b = new float[12];
    cache.read(1, 0, 4, between);
    cache.read(0, 0, 4, a);
    cache.read(2, 0, 4, b);
    for (int i = 0; i < 12; i++) {
      assertThat(between[i]).isCloseTo((a[i] + b[i]) / 2, within(1e-6f));
    }
    assertThatThrownBy(() -> LandingOptions.of("abc").with("fromSeconds", 3).with("toSeconds", 2))
        .hasMessageContaining("cannot begin at 3.0 s and end at 2.0 s");
  }

  @Test
  void velocitiesAreTheWayFromTheSampleBeforeToTheOneAfter() throws Exception {
    Scene back =
        again(plate(), LandingOptions.of("abc").with("velocities", true).with("unit", "m"));
    Attribute speeds =
        mesh(back, "plate").attributes().stream()
            .filter(l -> l.name().equals(".velocities"))
            .findFirst()
            .orElseThrow();
    // Of the first sample: vertex 3 goes from (0, 1, 0) to (0, cos, sin) of 11.25 degrees.
    double angle = Math.PI / 16;
    assertThat(speeds.table().number(3, 1)).isCloseTo(8 * (Math.cos(angle) - 1), within(1e-5));
    assertThat(speeds.table().number(3, 2)).isCloseTo(8 * Math.sin(angle), within(1e-5));
  }

  @Test
  void aMeshThatIsShownTwiceIsWrittenOnce() throws Exception {
    Scene one = plate();
    Node second =
        Node.of(5, "second", -1, Content.MeshContent.of(1))
            .withTransform(
                LocalTransform.Trs.of(new Vector3d(5, 0, 0), new Quaterniond(), new Vector3d(1)));
    Scene two = one.toBuilder().nodes(List.of(one.nodes().get(0), second)).build();
    int single = landed(one, LandingOptions.of("abc")).bytes("out.abc").length;
    byte[] both = landed(two, LandingOptions.of("abc")).bytes("out.abc");
    assertThat(both.length - single).isLessThan(1600);
    Scene back = read("out.abc", both);
    assertThat(back.meshes()).hasSize(1);
    assertThat(Caches.of(back, back.meshes().get(0).id())).isNotNull();
    assertThat(back.shownMeshes()).hasSize(2);
  }

  @Test
  void equalSamplesStandInTheFileOnce() throws Exception {
    Scene still = plate();
    PointCache turning = still.caches().get(0);
    int[] same = new int[400];
    double[] seconds = new double[400];
    for (int s = 0; s < 400; s++) {
      same[s] = s % 2;
      seconds[s] = s / 25.0;
    }
    PointCache swings = new RetimedCache(turning, same, seconds);
    Scene scene = still.toBuilder().caches(List.of(swings)).build();
    byte[] bytes = landed(scene, LandingOptions.of("abc").with("normals", false)).bytes("out.abc");
    // 400 samples of 48 bytes with three boxes each would be 75 kB: two are kept, and where they
    // are.
    assertThat(bytes.length).isLessThan(14_500);
    PointCache back = read("out.abc", bytes).caches().get(0);
    assertThat(back.sampleCount()).isEqualTo(400);
    assertThat(back.timeSeconds(399)).isCloseTo(15.96, within(1e-12));
    float[] points = new float[12];
    float[] wanted = new float[12];
    turning.read(1, 0, 4, wanted);
    back.read(399, 0, 4, points);
    assertThat(points[10]).isCloseTo(100 * wanted[10], within(1e-4f));
  }

  @Test
  void theTableOfLooksSaysWhatTheArchiveHolds() throws Exception {
    Scene yard = read("yard.abc", resource("yard.abc"));
    LandingOptions options = LandingOptions.of("abc");
    TestFiles out = landed(yard, options.with("lookTable", "csv"));
    Scene back = read("out.abc", out.bytes("out.abc"));
    String csv = new String(out.bytes("out.looks.csv"), StandardCharsets.UTF_8);
    List<String> lines = csv.lines().toList();
    assertThat(lines.get(0)).startsWith("\"Part\",\"Set of faces\",\"Faces\"");
    int sets = 0;
    for (Scene.ShownMesh shown : back.shownMeshes()) {
      String path = back.paths().get(back.nodePlaces().get(shown.node().id()));
      for (FaceSet set : shown.mesh().faceSets()) {
        int material = shown.mesh().materialOf(set.faces()[0]);
        String name = back.material(material).map(Material::name).orElse("");
        String part = path.replace("_shape", "");
        assertThat(lines)
            .anyMatch(
                l ->
                    l.contains("\"" + set.name() + "\",\"" + set.faces().length + "\"")
                        && l.contains("\"" + name + "\"")
                        && l.contains(part.substring(part.lastIndexOf('/') + 1)));
        sets++;
      }
    }
    assertThat(sets).isPositive();
    String html =
        new String(
            landed(yard, options.with("lookTable", "html")).bytes("out.looks.html"),
            StandardCharsets.UTF_8);
    assertThat(html).startsWith("<!doctype html>").contains("<th>Material</th>");
    assertThat(html.split("<tr>").length).isEqualTo(lines.size() + 1);
  }

  @Test
  void theArchiveSaysWhereAllOfItIsAtEachMoment() throws Exception {
    for (int seed = 1; seed <= 12; seed++) {
      Scene far = RandomRig.of(new Random(seed), 4);
      byte[] bytes = landed(far, LandingOptions.of("abc")).bytes("out.abc");
      Scene back = read("out.abc", bytes);
      MemoryFiles files = new MemoryFiles(Map.of("out.abc", bytes));
      AbcArchive archive =
          AbcArchive.open("out.abc", files.random("out.abc"), Budget.of("out.abc", files));
      AbcProperty said = archive.top().properties().value(".childBnds").orElseThrow();
      Clip clip = back.clips().isEmpty() ? null : back.clips().get(0);
      ClipPoses poses = ClipPoses.of(back, clip);
      for (int s = 0; s < said.sampleCount(); s++) {
        Pose pose = poses.at(said.seconds(s));
        Bounds all = Bounds.EMPTY;
        for (int i = 0; i < back.nodes().size(); i++) {
          all = all.union(Bounds.of(Deform.world(back, pose, i)));
        }
        double[] box = said.doubles(s);
        double slack = 1e-5 * (1 + all.diagonal());
        for (int c = 0; c < 3; c++) {
          // Boxes of turned boxes are wider than what is in them, and never narrower.
          assertThat(box[c]).isLessThan(all.min(c) + slack);
          assertThat(box[3 + c]).isGreaterThan(all.max(c) - slack);
          assertThat(box[3 + c] - box[c]).isLessThan(4 * all.diagonal() + slack);
        }
      }
    }
  }
}
