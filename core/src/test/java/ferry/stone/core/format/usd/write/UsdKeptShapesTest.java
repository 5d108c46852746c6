package ferry.stone.core.format.usd.write;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.format.flat.Contents;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.usd.read.UsdReader;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.joml.Matrix4d;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/** Shapes of schemas that are not read: kept in their own numbers, placed where they were. */
class UsdKeptShapesTest {
  private static final String HEAD =
      """
      #usda 1.0
      (
        metersPerUnit = 0.01
        upAxis = "Z"
        timeCodesPerSecond = 24
        startTimeCode = 0
        endTimeCode = 24
      )
      """;
  private static final String PATCH =
      """
      def Xform "Yard" {
        double3 xformOp:translate = (100, 0, 50)
        double3 xformOp:rotateXYZ = (0, 0, 30)
        uniform token[] xformOpOrder = ["xformOp:translate", "xformOp:rotateXYZ"]
        def NurbsPatch "Sail" {
          double3 xformOp:scale = (2, 1, 1)
          uniform token[] xformOpOrder = ["xformOp:scale"]
          int uVertexCount = 2
          int vVertexCount = 2
          int uOrder = 2
          int vOrder = 2
          double[] uKnots = [0, 0, 1, 1]
          double[] vKnots = [0, 0, 1, 1]
          point3f[] points = [(0, 0, 0), (300, 0, 0), (0, 0, 200), (300, 0, 250)]
          point3f[] points.timeSamples = {
            0: [(0, 0, 0), (300, 0, 0), (0, 0, 200), (300, 0, 250)],
            24: [(0, 10, 0), (300, 0, 0), (0, 40, 200), (300, 0, 250)],
          }
          float[] primvars:dye = [0.25, 0.5, 0.75, 1] (
            elementSize = 1
            interpolation = "vertex"
          )
          uniform token uForm = "open"
        }
      }
      """;

  private final Findings said = new Findings();
  private final TestFiles cargo = new TestFiles();
  private TestFiles out;
  private String text;

  private Scene read(String stage) throws Exception {
    cargo.with("a.usda", HEAD + stage);
    return UsdReader.read("a.usda", ReadContext.of(cargo).of(cargo, said));
  }

  private Scene landed(Scene scene) throws Exception {
    out = new TestFiles();
    UsdWriter.write(
        scene,
        UsdOptions.of(UsdOptions.Container.TEXT),
        new SceneWriter.Target("b", cargo, out, said, Progress.NONE));
    text = new String(out.bytes("b.usda"), StandardCharsets.UTF_8);
    return UsdReader.read("b.usda", ReadContext.of(out));
  }

  private List<String> codes() {
    return said.list().stream().map(Finding::code).toList();
  }

  private static Node node(Scene scene, String name) {
    return scene.nodes().stream().filter(n -> n.name().equals(name)).findFirst().orElseThrow();
  }

  /** Points of a kept shape in the world, in metres and Y up whatever the scene is in. */
  private static double[] world(Scene scene, String name) {
    Node node = node(scene, name);
    int place = scene.nodes().indexOf(node);
    Matrix4d all =
        new Matrix4d(scene.frame().matrixTo(Frame.Y_UP_METRE))
            .mul(scene.worldMatrices()[place])
            .mul(node.geometric().toMatrix());
    List<Double> points =
        ((List<?>) node.properties().get("points"))
            .stream().map(v -> ((Number) v).doubleValue()).toList();
    double[] moved = new double[points.size()];
    for (int i = 0; i < moved.length; i += 3) {
      Vector3d p =
          all.transformPosition(new Vector3d(points.get(i), points.get(i + 1), points.get(i + 2)));
      moved[i] = p.x;
      moved[i + 1] = p.y;
      moved[i + 2] = p.z;
    }
    return moved;
  }

  @Test
  void aPatchLandsInAnotherUnitWhereItWas() throws Exception {
    Scene near = read(PATCH);
    assertThat(codes()).contains("shape-kept");
    assertThat(node(near, "Sail").content()).isInstanceOf(Node.Content.KeptShape.class);
    Scene far = landed(Rebase.intoData(near, Frame.Y_UP_METRE));
    assertThat(((Node.Content.KeptShape) node(far, "Sail").content()).schema())
        .isEqualTo("NurbsPatch");
    assertThat(node(far, "Sail").properties()).isEqualTo(node(near, "Sail").properties());
    assertThat(world(far, "Sail")).containsExactly(world(near, "Sail"), within(1e-9));
    // sin 30° · 2 · 3 m along, 0.5 m up, from the standard's order of operations by hand.
    double[] corner = Arrays.copyOfRange(world(far, "Sail"), 3, 6);
    double[] byHand = {1 + 6 * Math.cos(Math.PI / 6), 0.5, -6 * Math.sin(Math.PI / 6)};
    assertThat(corner).containsExactly(byHand, within(1e-9));
    assertThat(text)
        .contains("def NurbsPatch \"Sail\"", "uniform token uForm = \"open\"")
        .contains("interpolation = \"vertex\"", "int uOrder = 2")
        .doesNotContain("custom");
  }

  @Test
  void itsNumbersOverTimeLandAtTheirMoments() throws Exception {
    Scene near = read(PATCH);
    Scene far = landed(Rebase.intoData(near, Frame.Y_UP_METRE));
    Clip.Track track = points(far);
    assertThat(track.components()).isEqualTo(12);
    assertThat(track.timesSeconds()).containsExactly(0, 1);
    assertThat(track.values()).isEqualTo(points(near).values());
    assertThat(track.values()[13]).isEqualTo(10);
  }

  private static Clip.Track points(Scene scene) {
    return scene.clips().get(0).tracks().stream()
        .filter(t -> t.property().equals(Clip.CUSTOM + "points"))
        .findFirst()
        .orElseThrow();
  }

  @Test
  void stepsThatBakeOrMirrorTakeItAlong() throws Exception {
    Scene near = read(PATCH);
    List<Integer> all = near.nodes().stream().map(Node::id).toList();
    List<Step> steps =
        List.of(
            new Step("s", "reset", Map.of("what", "all"), true, all),
            new Step("t", "scale", Map.of("factor", 0.5), true, List.of()));
    var stages = Handling.run(near, steps, Progress.NONE);
    assertThat(stages).extracting(s -> s.failure()).containsOnlyNulls();
    Scene handled = Handling.result(near, stages);
    assertThat(node(handled, "Sail").transform().toMatrix()).isEqualTo(new Matrix4d());
    Scene far = landed(Rebase.intoData(handled, Frame.Y_UP_METRE));
    double[] half = Arrays.stream(world(near, "Sail")).map(v -> v / 2).toArray();
    assertThat(world(far, "Sail")).containsExactly(half, within(1e-9));
  }

  @Test
  void aMirroredShapeIsTheMirrorOfItself() throws Exception {
    Scene near = read(PATCH);
    List<Integer> top = List.of(near.nodes().get(0).id());
    Map<String, Object> across = Map.of("across", "side", "about", "origin", "result", "move");
    var stages =
        Handling.run(near, List.of(new Step("s", "mirror", across, true, top)), Progress.NONE);
    assertThat(stages).extracting(s -> s.failure()).containsOnlyNulls();
    double[] turned = world(Handling.result(near, stages), "Sail");
    double[] wanted = world(near, "Sail");
    for (int i = 0; i < wanted.length; i += 3) {
      wanted[i] = -wanted[i];
    }
    assertThat(turned).containsExactly(wanted, within(1e-9));
  }

  @Test
  void aShapeWithPartsBelowItIsToldWhereItsNumbersWouldMoveThem() throws Exception {
    String below =
        PATCH.replace("uniform token uForm", "def Xform \"Pole\" {\n}\nuniform token uForm");
    Scene near = read(below);
    landed(near);
    assertThat(codes()).doesNotContain("shape-not-kept");
    landed(Rebase.intoData(near, Frame.Y_UP_METRE));
    assertThat(codes()).contains("shape-not-kept");
    assertThat(text).doesNotContain("NurbsPatch").contains("def Xform \"Pole\"");
  }

  @Test
  void fieldsOfAVolumeTakeTheFrameAndTheVolumeItselfDoesNot() throws Exception {
    Scene near =
        read(
            """
            def Volume "Mist" {
              rel field:density = </Mist/density>
              float3[] extent = [(0, 0, 0), (1, 1, 1)]
              def OpenVDBAsset "density" {
                asset filePath = @./mist.vdb@
                token fieldName = "density"
              }
            }
            """);
    Scene far = landed(Rebase.intoData(near, Frame.Y_UP_METRE));
    assertThat(text)
        .contains("def Volume \"Mist\"", "rel field:density = </Mist/density>")
        .contains("asset filePath = @./mist.vdb@")
        .doesNotContain("extent")
        .containsOnlyOnce("xformOp:transform:ferrySource\"]");
    assertThat(node(far, "density").geometric().toMatrix().getScale(new Vector3d()))
        .isEqualTo(new Vector3d(0.01));
  }

  @Test
  void otherFormatsAreToldThatTheyHaveNoPlaceForIt() throws Exception {
    Scene near = read(PATCH);
    assertThat(new Contents(near).find(Capability.KEPT_SHAPES).count()).isEqualTo(1);
  }

  @Test
  void longValuesAndThoseOfSeveralNumbersOverTimeAreKept() throws Exception {
    String long20000 =
        IntStream.range(0, 20_000).mapToObj(i -> i + ".5").collect(Collectors.joining(", "));
    Scene near =
        read(
            """
            def Xform "Buoy" {
              custom double[] depths = [%s]
              custom float3 drift = (0, 1, 2)
              custom float3 drift.timeSamples = { 0: (0, 1, 2), 12: (3, 4, 5.5) }
              custom int[] marks.timeSamples = { 0: [1, 2], 12: [3, 4], 24: [5, 6] }
              custom int[] uneven.timeSamples = { 0: [1, 2], 12: [3], 18: [], 24: [4, 5, 6] }
              custom float[] loads.timeSamples = { 0: [0.1], 24: [nan, 2] }
              custom token[] crew.timeSamples = { 0: ["Ada, the tall", "Bo"], 12: [] }
            }
            """
                .formatted(long20000));
    assertThat(codes()).doesNotContain("value-motion-not-read");
    Scene far = landed(near);
    assertThat(node(far, "Buoy").properties()).isEqualTo(node(near, "Buoy").properties());
    assertThat((List<?>) node(far, "Buoy").properties().get("depths")).hasSize(20_000);
    assertThat(text)
        .contains("12: (3, 4, 5.5)")
        .contains("0: [1, 2],")
        .contains("24: [5, 6]")
        .contains("12: [3],", "18: [],", "24: [4, 5, 6]")
        .contains("0: [0.1],", "24: [nan, 2]")
        .contains("token[] crew.timeSamples", "12: []")
        .doesNotContain("11.9");
    assertThat(words(far)).isEqualTo(words(near)).hasSize(3);
  }

  private static Map<String, List<String>> words(Scene scene) {
    return scene.clips().get(0).words().stream()
        .collect(Collectors.toMap(Clip.Words::property, Clip.Words::values));
  }

  @Test
  void itsMaterialsLandWithItInEachLook() throws Exception {
    Scene near =
        read(
            """
            def Xform "Yard" (
              prepend apiSchemas = ["MaterialBindingAPI"]
              prepend variantSets = "dye"
              variants = { string dye = "red" }
            ) {
              rel material:binding = </Yard/Looks/Red>
              def Scope "Looks" {
                def Material "Red" { }
                def Material "Blue" { }
              }
              def NurbsPatch "Sail" { int uVertexCount = 2 }
              variantSet "dye" = {
                "red" { over "Sail" ( prepend apiSchemas = ["MaterialBindingAPI"] )
                  { rel material:binding = </Yard/Looks/Red> } }
                "blue" { over "Sail" ( prepend apiSchemas = ["MaterialBindingAPI"] )
                  { rel material:binding = </Yard/Looks/Blue> } }
              }
            }
            """);
    assertThat(materials(near)).containsExactly("Red", "Red", "Blue");
    assertThat(materials(landed(near))).containsExactly("Red", "Red", "Blue");
  }

  private static List<String> materials(Scene scene) {
    Node.Content.KeptShape sail = (Node.Content.KeptShape) node(scene, "Sail").content();
    return Arrays.stream(sail.materialIds())
        .mapToObj(id -> scene.material(id).orElseThrow().name())
        .toList();
  }
}
