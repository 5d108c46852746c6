package ferry.stone.core.format.fbx;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.PoseDifference;
import ferry.stone.core.RandomRig;
import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.fbx.read.FbxReader;
import ferry.stone.core.format.fbx.write.FbxOptions;
import ferry.stone.core.format.fbx.write.FbxWriter;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.Handedness;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.LocalTransform.InheritedTransform;
import ferry.stone.core.scene.node.LocalTransform.PivotTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.KeyCurve;
import ferry.stone.core.work.Progress;
import java.io.InputStream;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import org.joml.Matrix4d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** What is written is read back and compared; other readers look at the same files elsewhere. */
class FbxWriterTest {
  private static final Frame Z_UP_CENTIMETRE =
      new Frame(0.01, SignedAxis.PLUS_Z, SignedAxis.MINUS_Y, Handedness.RIGHT);
  private static final Frame LEFT_HANDED_INCH =
      new Frame(0.0254, SignedAxis.PLUS_Y, SignedAxis.MINUS_Z, Handedness.LEFT);

  private static byte[] write(Scene scene, FbxOptions options) throws Exception {
    TestFiles files = new TestFiles();
    FbxWriter.write(scene, options, "a", new TestFiles(), files, new Findings(), Progress.NONE);
    try (var in = files.open("a.fbx")) {
      return in.readAllBytes();
    }
  }

  private static Scene read(byte[] file) throws Exception {
    return FbxReader.read("a.fbx", ReadContext.of(new TestFiles().with("a.fbx", file)));
  }

  private static FbxOptions options(FbxOptions.Form form, int version, boolean bake) {
    return new FbxOptions(form, version, true, bake, FbxOptions.TOLERANCE);
  }

  static Stream<Arguments> forms() {
    return Stream.of(
        Arguments.of(options(FbxOptions.Form.BINARY, 7400, false)),
        Arguments.of(options(FbxOptions.Form.BINARY, 7500, true)),
        Arguments.of(options(FbxOptions.Form.TEXT, 7400, false)));
  }

  /** Scenes as other formats make them: quaternions, cubic slopes, cameras that look along −Z. */
  @ParameterizedTest
  @MethodSource("forms")
  void scenesOfOtherFormatsComeBack(FbxOptions options) throws Exception {
    for (int seed = 0; seed < 12; seed++) {
      Scene scene = RandomRig.of(new Random(seed), 6);
      for (Frame frame : List.of(scene.frame(), Z_UP_CENTIMETRE, LEFT_HANDED_INCH)) {
        Scene there = Rebase.intoData(scene, frame);
        Scene back = read(write(there, options));
        String what = "seed " + seed + ", " + frame.label();
        assertEquals(frame, back.frame(), what);
        double off = PoseDifference.of(there, back, new Matrix4d(), what);
        assertTrue(off < 1e-4, what + ": " + off + " of the size");
        samePolygons(there, back, what);
      }
    }
  }

  private static void samePolygons(Scene wanted, Scene found, String what) {
    for (Scene.ShownMesh shown : wanted.shownMeshes()) {
      PolygonMesh a = shown.mesh();
      PolygonMesh b =
          found.shownMeshes().stream()
              .filter(s -> s.node().name().equals(shown.node().name()))
              .findFirst()
              .orElseThrow()
              .mesh();
      assertEquals(a.faces().cornerCount(), b.faces().cornerCount(), what);
      for (int c = 0; c < a.faces().cornerCount(); c++) {
        assertEquals(a.faces().vertex(c), b.faces().vertex(c), what);
      }
      for (int p = 0; p < 3 * a.points().count(); p++) {
        assertEquals(a.points().at(p), b.points().at(p), 0, what);
      }
      for (Semantic semantic : List.of(Semantic.NORMAL, Semantic.UV, Semantic.COLOUR)) {
        sameLayers(a.all(semantic), b.all(semantic), what);
      }
    }
  }

  private static void sameLayers(List<Attribute> a, List<Attribute> b, String what) {
    assertEquals(a.size(), b.size(), what);
    for (int n = 0; n < a.size(); n++) {
      assertEquals(a.get(n).name(), b.get(n).name(), what);
      assertArrayEquals(a.get(n).values(), b.get(n).values(), what);
      assertArrayEquals(a.get(n).indices(), b.get(n).indices(), what);
    }
  }

  /** Pivots, orders, pre-rotations, inherited scales and the keys themselves go through. */
  @ParameterizedTest
  @MethodSource("forms")
  void rigsOfThisFormatKeepTheirKind(FbxOptions options) throws Exception {
    for (long seed = 1; seed <= 8; seed++) {
      Scene scene = read(FbxEncoder.binary(FbxSample.of(seed), 7400, true));
      Scene back = read(write(scene, options));
      String what = "seed " + seed;
      if (!options.bakeTransforms()) {
        double off = PoseDifference.of(scene, back, new Matrix4d(), what);
        assertTrue(off < 1e-6, what + ": " + off + " of the size");
        for (int i = 0; i < scene.nodes().size(); i++) {
          sameTransform(own(scene, i), own(back, i), what + ", node " + i);
        }
        sameKeys(scene.clips().get(0), back.clips().get(0), what);
      } else {
        back.nodes()
            .forEach(
                n -> {
                  PivotTransform p = (PivotTransform) n.transform();
                  assertEquals(0, p.rotationPivot().length() + p.preRotation().length(), what);
                });
      }
    }
  }

  private static PivotTransform own(Scene scene, int place) {
    return scene.nodes().get(place).transform() instanceof InheritedTransform inherited
        ? inherited.own()
        : (PivotTransform) scene.nodes().get(place).transform();
  }

  private static void sameTransform(PivotTransform a, PivotTransform b, String what) {
    assertEquals(a.order(), b.order(), what);
    assertEquals(a.inheritance(), b.inheritance(), what);
    assertEquals(a.preRotation(), b.preRotation(), what);
    assertEquals(a.postRotation(), b.postRotation(), what);
    assertEquals(a.rotationPivot(), b.rotationPivot(), what);
    assertEquals(a.scalingOffset(), b.scalingOffset(), what);
    assertEquals(a.rotation(), b.rotation(), what);
  }

  private static void sameKeys(Clip a, Clip b, String what) {
    assertEquals(a.keys().size(), b.keys().size(), what);
    for (int i = 0; i < a.keys().size(); i++) {
      KeyCurve x = a.keys().get(i).curve();
      KeyCurve y = b.keys().get(i).curve();
      assertArrayEquals(x.seconds(), y.seconds(), 1e-10, what);
      assertArrayEquals(x.values(), y.values(), 1e-6 * 400, what);
      assertArrayEquals(x.modes(), y.modes(), what);
      assertArrayEquals(x.rightSlopes(), y.rightSlopes(), what);
      assertArrayEquals(x.nextLeftWeights(), y.nextLeftWeights(), 1e-4f, what);
    }
  }

  /** A rig turned from Z up to Y up and back, with its pivots and keys, is the rig. */
  @Test
  void pivotsAndKeysGoThroughAChangeOfFrame() throws Exception {
    for (long seed = 1; seed <= 8; seed++) {
      Scene scene = read(FbxEncoder.binary(FbxSample.of(seed), 7400, true));
      for (Frame frame : List.of(Frame.Y_UP_METRE, LEFT_HANDED_INCH)) {
        String what = "seed " + seed + ", " + frame.label();
        Scene there = read(write(Rebase.intoData(scene, frame), FbxOptions.USUAL));
        double off = PoseDifference.of(scene, there, scene.frame().matrixTo(frame), what);
        assertTrue(off < 1e-4, what + ": " + off + " of the size");
        assertEquals(own(scene, 0).inheritance(), own(there, 0).inheritance(), what);
        Scene back = Rebase.intoData(there, scene.frame());
        assertTrue(PoseDifference.of(scene, back, new Matrix4d(), what) < 1e-4, what);
      }
    }
  }

  @Test
  void theSameSceneGivesTheSameBytes() throws Exception {
    Scene scene = RandomRig.of(new Random(3), 4);
    assertArrayEquals(write(scene, FbxOptions.USUAL), write(scene, FbxOptions.USUAL));
  }

  @Test
  void skinsKeepTheirWeightsAndTheirPlaceAtBind() throws Exception {
    Scene scene = read(FbxEncoder.binary(FbxSample.of(2), 7400, true));
    Skin a = scene.skins().get(0);
    Skin b = read(write(scene, FbxOptions.USUAL)).skins().get(0);
    assertArrayEquals(a.offsets(), b.offsets());
    assertArrayEquals(a.weights(), b.weights());
    assertArrayEquals(a.inverseBind(), b.inverseBind(), 1e-9);
    assertArrayEquals(a.bindMatrix(), b.bindMatrix(), 1e-9);
  }

  /** What the ufbx crate 0.11.5 finds in the written files is where the scene's parts stand. */
  @Test
  void anotherReaderFindsEverythingInItsPlace() throws Exception {
    JsonNode fixture;
    try (InputStream in = FbxWriterTest.class.getResourceAsStream("/fbx/written.json")) {
      fixture = new ObjectMapper().readTree(in).path("samples");
    }
    int skinned = 0;
    for (int seed = 0; seed < 5; seed++) {
      Scene scene = Rebase.intoData(RandomRig.of(new Random(seed), 6), Z_UP_CENTIMETRE);
      double size = scene.bounds().diagonal();
      for (JsonNode wanted : fixture.path(String.valueOf(seed))) {
        Clip clip = wanted.path("t").isNull() ? null : scene.clips().get(0);
        Pose pose = Pose.at(scene, clip, wanted.path("t").asDouble());
        for (int i = 0; i < scene.nodes().size(); i++) {
          Node node = scene.nodes().get(i);
          String what = "seed " + seed + " at " + wanted.path("t") + ", " + node.name();
          if (node.content() instanceof Node.Content.Joint
              || node.content() instanceof Node.Content.Group) {
            double[] m = pose.world()[i].get(new double[16]);
            for (int k = 0; k < 12; k++) {
              double there = wanted.path("nodes").path(node.name()).get(k).asDouble();
              assertEquals(there, m[4 * (k / 3) + k % 3], k < 9 ? 1e-4 : 1e-4 * size, what);
            }
          }
          JsonNode points = wanted.path("skinned").path(node.name());
          if (points.isArray()) {
            double[] p = Deform.world(scene, pose, i);
            assertEquals(points.size(), p.length, what);
            for (int k = 0; k < p.length; k++) {
              assertEquals(points.get(k).asDouble(), p[k], 1e-4 * size, what);
            }
            skinned++;
          }
        }
      }
    }
    assertTrue(skinned > 20, "skinned parts compared: " + skinned);
  }
}
