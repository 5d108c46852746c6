package ferry.stone.core.cargo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.RandomRig;
import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.landing.LandedContents;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.math.Frame;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.Light;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is taken of each of several files, and how it goes together. */
class GatheringTest {
  private final TestFiles files = new TestFiles();
  private final Findings told = new Findings();

  private void put(Scene scene, String stem, LandingOptions options) throws Exception {
    Landing.write(scene, options, stem, new TestFiles(), files, Progress.NONE);
  }

  private Scene read(Object... options) throws Exception {
    Map<String, Object> chosen =
        options.length == 2
            ? Map.of((String) options[0], options[1])
            : options.length == 4
                ? Map.of((String) options[0], options[1], (String) options[2], options[3])
                : Map.of();
    ReadFields.check(chosen);
    ReadContext context = new ReadContext(files, Map.of(), told, Progress.NONE);
    return CargoReader.read("yard", context.withOptions(chosen));
  }

  private Finding finding(String code) {
    return told.list().stream().filter(f -> f.code().equals(code)).findFirst().orElseThrow();
  }

  private static Scene rig(int seed) {
    for (int at = seed; ; at++) {
      Scene rig = RandomRig.of(new Random(at), 6);
      boolean named = rig.nodes().stream().map(Node::name).distinct().count() == rig.nodes().size();
      if (named && !rig.clips().isEmpty() && !rig.skins().isEmpty()) {
        // Weights of shapes do not land without shapes.
        return rig.toBuilder()
            .clips(
                rig.clips().stream()
                    .map(
                        c ->
                            c.withTracks(
                                c.tracks().stream().filter(Clip.Track::isTransform).toList()))
                    .toList())
            .frame(Frame.Y_UP_METRE, FrameSource.STATED, FrameSource.STATED)
            .build();
      }
    }
  }

  /** A character without motion and its motion in a file of another unit, axes and format. */
  @ParameterizedTest
  @CsvSource({"1,glb", "20,glb", "40,fbx", "60,fbx"})
  void motionFilesMoveAnotherFilesCharacter(int seed, String format) throws Exception {
    Scene whole = rig(seed);
    put(whole.toBuilder().clips(List.of()).build(), "character", LandingOptions.of("glb"));
    LandingOptions motion =
        LandingOptions.of(format)
            .withContents(new LandedContents("", Set.of(LandedContents.What.SHAPES)));
    put(whole, "walk", format.equals("fbx") ? motion.with("unit", "cm").with("up", "z") : motion);
    Scene read = read("taken", "walk.*=motion");
    assertThat(read.clips()).hasSize(whole.clips().size());
    assertThat(read.nodes()).noneMatch(n -> n.name().equals("walk"));
    TestFiles one = new TestFiles();
    Landing.write(whole, LandingOptions.of("glb"), "one", new TestFiles(), one, Progress.NONE);
    Scene wanted = CargoReader.read("one", ReadContext.of(one));
    double size = wanted.bounds().diagonal();
    for (int c = 0; c < wanted.clips().size(); c++) {
      Clip clip = wanted.clips().get(c);
      Clip found = read.clips().get(c);
      for (int i = 0; i <= 4; i++) {
        double part = i * (clip.endSeconds() - clip.startSeconds()) / 4;
        Pose a = Pose.at(wanted, clip, clip.startSeconds() + part);
        Pose b = Pose.at(read, found, found.startSeconds() + part);
        for (int n = 0; n < wanted.nodes().size(); n++) {
          if (wanted.nodes().get(n).content() instanceof Node.Content.MeshContent) {
            double[] p = Deform.world(wanted, a, n);
            double[] q = Deform.world(read, b, n);
            for (int k = 0; k < p.length; k++) {
              assertThat(q[k]).isCloseTo(p[k], within(2e-4 * size));
            }
          }
        }
      }
    }
    assertThat(finding("motion-put-on").where()).startsWith("walk.");
  }

  private static Scene arm(double restDegrees, double length, double... turns) {
    SceneBuilder scene = new SceneBuilder("arm");
    scene.frame(Frame.Y_UP_METRE, FrameSource.STATED, FrameSource.STATED);
    scene.add(Node.of(1, "rig:shoulder", -1, Node.Content.GROUP));
    Quaterniond rest = new Quaterniond().rotateZ(Math.toRadians(restDegrees));
    scene.add(
        Node.of(2, "rig:elbow", 0, Node.Content.GROUP)
            .withTransform(Trs.of(new Vector3d(length, 0, 0), rest, new Vector3d(1))));
    if (turns.length > 0) {
      double[] times = new double[turns.length];
      double[] values = new double[4 * turns.length];
      double[] places = new double[3 * turns.length];
      for (int k = 0; k < turns.length; k++) {
        times[k] = k;
        double half = Math.toRadians(restDegrees + turns[k]) / 2;
        values[4 * k + 2] = Math.sin(half);
        values[4 * k + 3] = Math.cos(half);
        places[3 * k] = length * (1 + k);
      }
      Clip.Track turn =
          new Clip.Track(2, Clip.ROTATION, Clip.Interpolation.LINEAR, 4, times, values, null, null);
      Clip.Track move =
          new Clip.Track(
              2, Clip.TRANSLATION, Clip.Interpolation.LINEAR, 3, times, places, null, null);
      scene.add(new Clip(9, "bend", 0, turns.length - 1, List.of(turn, move)));
    }
    return scene.build();
  }

  /** Known answers: a rest of 30° and 2 m there, none and 1 m here. */
  @Test
  void motionIsTakenFromRestToRest() throws Exception {
    put(arm(0, 1), "arm", LandingOptions.of("glb"));
    put(arm(30, 2, 0, 20, 45), "bend", LandingOptions.of("glb"));
    Scene as = read("taken", "bend.glb=motion");
    assertThat(finding("rest-poses-differ").offers()).isNotEmpty();
    assertThat(turn(as, 1)).isCloseTo(50, within(1e-3));
    Scene rest = read("taken", "bend.glb=motion", "motionFits", "restToRest");
    for (int k = 0; k < 3; k++) {
      assertThat(turn(rest, k)).isCloseTo(new double[] {0, 20, 45}[k], within(1e-3));
      Vector3d place = pose(rest, k).world()[1].getTranslation(new Vector3d());
      assertThat(place.distance(1 + k, 0, 0)).isLessThan(1e-5);
    }
  }

  private static Pose pose(Scene scene, double seconds) {
    return Pose.at(scene, scene.clips().get(0), seconds);
  }

  private static double turn(Scene scene, double seconds) {
    Vector3d x = pose(scene, seconds).world()[1].transformDirection(new Vector3d(1, 0, 0));
    return Math.toDegrees(Math.atan2(x.y, x.x));
  }

  @Test
  void motionOfPartsThatAreNotThereIsTold() throws Exception {
    put(arm(0, 1), "arm", LandingOptions.of("glb"));
    Scene other = arm(0, 1, 0, 10);
    Node hand = other.nodes().get(1).withName("hand");
    put(
        other.toBuilder().nodes(List.of(other.nodes().get(0), hand)).build(),
        "bend",
        LandingOptions.of("glb"));
    Scene read = read("taken", "bend.glb=motion");
    assertThat(read.clips()).isEmpty();
    assertThat(finding("motion-without-part").message()).contains("hand");
    assertThat(read.unread()).anyMatch(u -> u.contains("hand"));
  }

  private static final String PLANK =
      "mtllib LIB.mtl\no plank\nv 0 0 0\nv 2 0 0\nv 2 1 0\nv 0 1 0\nusemtl NAME\nf 1 2 3 4\n";

  private void plank(String stem, String material, String colour) {
    files.with(stem + ".obj", PLANK.replace("LIB", stem).replace("NAME", material));
    files.with(stem + ".mtl", "newmtl " + material + "\nKd " + colour + "\n");
  }

  private static double[] colour(Material material) {
    return material.channels().get(Channel.BASE_COLOUR).factor();
  }

  @Test
  void materialsLookAsInAnotherFileWhateverTheNumberBehindThem() throws Exception {
    plank("deck", "oak.001", "1 0 0");
    plank("library", "Oak", "0 0 1");
    Scene read = read("taken", "library.obj=materials");
    assertThat(read.materials()).hasSize(1);
    assertThat(read.materials().get(0).name()).isEqualTo("oak.001");
    assertThat(colour(read.materials().get(0))[2]).isEqualTo(1);
    assertThat(read.shownMeshes()).hasSize(1);
    assertThat(finding("materials-taken").measured()).isEqualTo("1 of 1 materials");
  }

  @Test
  void looksBringTheOthersBeside() throws Exception {
    plank("deck", "oak.001", "1 0 0");
    files.with("library.obj", PLANK.replace("LIB", "library").replace("NAME", "Oak"));
    files.with("library.mtl", "newmtl Oak\nKd 0 0 1\nnewmtl tar\nKd 0 0 0\n");
    Scene read = read("taken", "library.obj=looks");
    assertThat(read.materials()).extracting(Material::name).containsExactly("oak.001", "tar");
    assertThat(colour(read.materials().get(0))[2]).isEqualTo(1);
    assertThat(read.shownMeshes()).hasSize(1);
    assertThat(finding("materials-beside").measured()).isEqualTo("1 by name, 1 beside");
  }

  @Test
  void materialsOfOneNameAreOneWhereThatIsAsked() throws Exception {
    plank("deck", "oak", "1 0 0");
    plank("mast", "oak", "0 0 1");
    assertThat(read().materials()).hasSize(2);
    Scene one = read("oneMaterialAName", true);
    assertThat(one.materials()).hasSize(1);
    assertThat(colour(one.materials().get(0))[0]).isEqualTo(1);
    assertThat(one.shownMeshes()).hasSize(2);
  }

  @Test
  void whatIsNotTakenIsNotEvenRead() throws Exception {
    plank("deck", "oak", "1 0 0");
    files.with("broken.glb", "glTF");
    assertThatThrownBy(this::read).isInstanceOf(FormatException.class);
    assertThat(read("taken", "broken*=nothing").shownMeshes()).hasSize(1);
    assertThatThrownBy(() -> read("taken", "*=nothing"))
        .isInstanceOf(FormatException.class)
        .hasMessageContaining("nothing is left to stand");
    assertThatThrownBy(() -> read("taken", "deck.obj=colours"))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("all|shapes|high|low|materials|looks|motion|cameras|lights|nothing");
  }

  /** A plank, a lamp, and an eye that moves. */
  private static Scene set() {
    SceneBuilder scene = new SceneBuilder("set");
    scene.frame(Frame.Y_UP_METRE, FrameSource.STATED, FrameSource.STATED);
    scene.nextId(50);
    scene.add(
        PolygonMesh.of(
            1,
            "plank",
            Coordinates.of(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0}),
            Polygons.triangles(new int[] {0, 1, 2})));
    scene.add(new Camera(2, "eye", 0.8, 0, 0, 0.1, 10, null, Map.of()));
    float[] warm = {1, 0.8f, 0.6f};
    scene.add(new Light(3, "lamp", Light.Kind.POINT, warm, 40, 12, 0, 0, Map.of()));
    scene.add(Node.of(10, "stand", -1, Node.Content.GROUP));
    scene.add(Node.of(11, "plank", 0, Node.Content.MeshContent.of(1)));
    scene.add(Node.of(12, "eye", 0, new Node.Content.CameraContent(2)));
    scene.add(Node.of(13, "lamp", 0, new Node.Content.LightContent(3)));
    double[] places = {0, 0, 0, 0, 2, 0};
    scene.add(
        new Clip(
            20,
            "rise",
            0,
            1,
            List.of(
                new Clip.Track(
                    12,
                    Clip.TRANSLATION,
                    Clip.Interpolation.LINEAR,
                    3,
                    new double[] {0, 1},
                    places,
                    null,
                    null))));
    return scene.build();
  }

  @ParameterizedTest
  @CsvSource({"cameras", "lights", "shapes"})
  void oneKindOfAFileIsTaken(String kind) throws Exception {
    plank("deck", "oak", "1 0 0");
    put(set(), "set", LandingOptions.of("glb"));
    Scene read = read("taken", "set.glb=" + kind);
    assertThat(read.cameras()).hasSize(kind.equals("cameras") ? 1 : 0);
    assertThat(read.lights()).hasSize(kind.equals("lights") ? 1 : 0);
    assertThat(read.shownMeshes()).hasSize(kind.equals("shapes") ? 2 : 1);
    assertThat(read.clips()).hasSize(kind.equals("cameras") ? 1 : 0);
    assertThat(Rebase.intoData(read, Frame.Y_UP_METRE).nodes()).isNotEmpty();
  }

  /** Parts of a lantern, so many triangles each, one above the other. */
  private static Scene lantern(int triangles, String... parts) {
    SceneBuilder scene = new SceneBuilder("lantern");
    scene.frame(Frame.Y_UP_METRE, FrameSource.STATED, FrameSource.STATED);
    scene.add(
        Node.of(1, "stand", -1, Node.Content.GROUP)
            .withTransform(Trs.of(new Vector3d(3, 0, 1), new Quaterniond(), new Vector3d(1))));
    for (int i = 0; i < parts.length; i++) {
      float[] points = new float[3 * (triangles + 2)];
      int[] corners = new int[3 * triangles];
      for (int v = 0; v < triangles + 2; v++) {
        points[3 * v] = v;
        points[3 * v + 1] = i + v % 2;
      }
      for (int t = 0; t < triangles; t++) {
        corners[3 * t] = t;
        corners[3 * t + 1] = t + 1;
        corners[3 * t + 2] = t + 2;
      }
      int id = 10 + i;
      scene.add(PolygonMesh.of(id, parts[i], Coordinates.of(points), Polygons.triangles(corners)));
      scene.add(Node.of(20 + i, parts[i], 0, Node.Content.MeshContent.of(id)));
    }
    return scene.build();
  }

  private static double[] corner(Scene scene, String name) {
    var shown =
        scene.shownMeshes().stream()
            .filter(m -> m.node().name().equals(name))
            .findFirst()
            .orElseThrow();
    Vector3d p = new Vector3d(shown.mesh().points().x(2), shown.mesh().points().y(2), 0);
    shown.world().transformPosition(p);
    double metres = scene.frame().metresPerUnit();
    return new double[] {p.x * metres, p.y * metres, p.z * metres};
  }

  @Test
  void fineAndCoarseFilesMakeLevels() throws Exception {
    put(lantern(40, "glass_high", "foot_high"), "lantern_high", LandingOptions.of("glb"));
    LandingOptions centimetres = LandingOptions.of("fbx").with("unit", "cm");
    put(lantern(4, "foot.low", "glass_LP.001", "hook_low"), "lantern_low", centimetres);
    String roles = "lantern_high.glb=high;lantern_low.fbx=low";
    assertThat(read().nodes())
        .as("nothing is put together that nobody asked for")
        .noneMatch(n -> n.content() instanceof Node.Content.DetailGroup);
    Scene read = read("taken", roles);
    assertThat(read.paths())
        .contains(
            "lantern_high/stand/glass/glass_high",
            "lantern_high/stand/glass/glass_LP.001",
            "lantern_high/stand/foot/foot.low",
            "lantern_low/stand/hook_low")
        .hasSize(11);
    assertThat(read.nodes())
        .filteredOn(n -> n.content() instanceof Node.Content.DetailGroup)
        .allSatisfy(
            n ->
                assertThat(((Node.Content.DetailGroup) n.content()).thresholds())
                    .containsExactly(0.5, 0));
    assertThat(corner(read, "glass_LP.001")).containsExactly(new double[] {5, 1, 1}, within(1e-6));
    assertThat(corner(read, "foot.low")).containsExactly(new double[] {5, 0, 1}, within(1e-6));
    assertThat(finding("levels-gathered").measured()).isEqualTo("2 with levels, 1 by themselves");
    assertThat(
            ReadFields.taken(
                List.of("lantern_low.fbx", "lantern_high.glb"), Map.of("taken", roles)))
        .containsEntry("lantern_low.fbx", "low")
        .containsEntry("lantern_high.glb", "high");
  }

  @Test
  void coarserFilesFollowByTheirTriangles() throws Exception {
    put(lantern(40, "shell"), "lantern_high", LandingOptions.of("glb"));
    put(lantern(4, "body"), "lantern_low", LandingOptions.of("glb"));
    put(lantern(2, "hull"), "lantern_lp", LandingOptions.of("glb"));
    // Files of one part each go together whatever it is called, the coarsest last.
    Scene levels = read("taken", "lantern_high.*=high;lantern_l*=low");
    assertThat(levels.paths())
        .containsSequence(
            "lantern_high/stand/shell/shell",
            "lantern_high/stand/shell/body",
            "lantern_high/stand/shell/hull");
    Scene turned =
        read("taken", "lantern_low.glb=high;lantern_high.glb=low;lantern_lp.glb=nothing");
    assertThat(turned.paths())
        .containsSequence("lantern_low/stand/body/body", "lantern_low/stand/body/shell");
  }
}
