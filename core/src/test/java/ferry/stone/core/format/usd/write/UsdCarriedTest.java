package ferry.stone.core.format.usd.write;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.format.usd.PointSets;
import ferry.stone.core.format.usd.read.UsdReader;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What has no place in a scene is told, kept as values and written as it was. */
class UsdCarriedTest {
  private static final String STAGE = stage();

  private final Findings said = new Findings();
  private final TestFiles cargo = new TestFiles();
  private TestFiles out;
  private String text;

  private static String stage() {
    try (InputStream in = UsdCarriedTest.class.getResourceAsStream("/usd/carried.usda")) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private Scene read(String stage) throws Exception {
    cargo.with("a.usda", stage);
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

  private static Map<String, Map<String, Object>> values(Scene scene) {
    Map<String, Map<String, Object>> all = new HashMap<>();
    for (Node node : scene.nodes()) {
      all.put(node.name(), node.properties());
    }
    all.putAll(
        scene.materials().stream().collect(Collectors.toMap(Material::name, Material::properties)));
    return all;
  }

  @Test
  void schemasRelationshipsAndNetworksLandAsTheyWere() throws Exception {
    Scene near = read(STAGE);
    assertThat(codes())
        .contains("schema-kept", "network-kept")
        .doesNotContain("network-not-read", "geometry-not-read");
    assertThat(near.unread()).isEmpty();
    Scene far = landed(near);
    assertThat(values(far)).isEqualTo(values(near));
    assertThat(text)
        .contains("def PhysicsScene \"Sim\"", "vector3f physics:gravityDirection = (0, -1, 0)")
        .doesNotContain("custom vector3f")
        .contains("uniform token collection:lit:expansionRule = \"explicitOnly\"")
        .contains("rel collection:lit:includes = </Yard/m>")
        .contains("\"PhysicsRigidBodyAPI\", \"PhysicsMassAPI\", \"MaterialBindingAPI\"")
        .contains("custom rel helps = </Yard/n>", "rel physics:body0 = </Yard/m>")
        .contains("token outputs:mtlx:surface.connect = </Yard/Looks/Oak/Coat.outputs:out>")
        .contains("color3f outputs:tone.connect = </Yard/Looks/Oak/Graph/Mix.outputs:out>")
        .contains("uniform token info:id = \"ND_mix_color3\"", "float inputs:mix = 0.25");
    // The material that has no preview surface gets none.
    assertThat(text.split("UsdPreviewSurface")).hasSize(2);
    assertThat(said.list()).noneMatch(f -> f.code().equals("relationship-leads-nowhere"));
  }

  @Test
  void anEndThatWasRenamedIsTold() throws Exception {
    Scene near = read(STAGE);
    Node mesh = near.nodes().stream().filter(n -> n.name().equals("n")).findFirst().orElseThrow();
    Step rename =
        new Step("s", "rename", Map.of("find", "n", "with", "plank"), true, List.of(mesh.id()));
    var stages = Handling.run(near, List.of(rename), Progress.NONE);
    assertThat(stages.get(0).failure()).isNull();
    landed(Handling.result(near, stages));
    assertThat(text).contains("def Mesh \"plank\"");
    assertThat(said.list())
        .filteredOn(f -> f.code().equals("relationship-leads-nowhere"))
        .extracting(Finding::where)
        .containsExactlyInAnyOrder("m, helps", "Hinge, physics:body1");
  }

  private Scene withImage(String path) throws Exception {
    return read(STAGE.replace("float inputs:coat = 0.75", "asset inputs:file = @" + path + "@"));
  }

  @Test
  void imagesThatAreNotThereAreTold() throws Exception {
    withImage("gone.png");
    assertThat(codes()).contains("network-not-read");
  }

  @Test
  void imagesOfOtherNetworksComeAlong() throws Exception {
    byte[] image = {1, 2, 3};
    cargo.with("tex/grain.png", image);
    Scene near = withImage("./tex/grain.png");
    assertThat(codes()).contains("network-kept").doesNotContain("network-not-read");
    landed(near);
    assertThat(text).contains("asset inputs:file = @./tex/grain.png@");
    assertThat(out.bytes("tex/grain.png")).isEqualTo(image);
  }

  @ParameterizedTest
  @CsvSource({"../grain.png", "/elsewhere/grain.png", "C:/work/grain.png"})
  void imagesThatAreNotBelowTheLayerComeAlongUnderAnotherPath(String path) throws Exception {
    byte[] image = {1, 2, 3};
    cargo.with("grain.png", image);
    landed(withImage(path));
    assertThat(text).contains("asset inputs:file = @textures/grain.png@");
    assertThat(out.bytes("textures/grain.png")).isEqualTo(image);
    assertThat(codes()).doesNotContain("network-not-read");
  }

  @Test
  void tilesOfAnImageComeAlongTogether() throws Exception {
    cargo.with("tex/oak.1001.png", new byte[] {1}).with("tex/oak.1012.png", new byte[] {2});
    landed(withImage("tex/oak.<UDIM>.png"));
    assertThat(text).contains("asset inputs:file = @tex/oak.<UDIM>.png@");
    assertThat(out.bytes("tex/oak.1001.png")).containsExactly(1);
    assertThat(out.bytes("tex/oak.1012.png")).containsExactly(2);
    assertThat(codes()).doesNotContain("network-not-read");
  }

  @Test
  void filesThatValuesNameComeAlongAndThoseThatAreMissingAreTold() throws Exception {
    cargo.with("mist.vdb", new byte[] {7, 7});
    String two = "custom asset cloud = @./mist.vdb@\ncustom asset sound = @gone.wav@\n";
    Scene near = read("#usda 1.0\ndef Xform \"Yard\" {\n" + two + "}\n");
    assertThat(said.list())
        .filteredOn(f -> f.code().equals("named-file-missing"))
        .singleElement()
        .satisfies(f -> assertThat(f.message()).contains("gone.wav"));
    landed(near);
    assertThat(text).contains("custom asset cloud = @./mist.vdb@");
    assertThat(out.bytes("mist.vdb")).containsExactly(7, 7);
    UsdOptions packed = UsdOptions.of(UsdOptions.Container.PACKAGE);
    UsdPlan plan = new UsdPlan(near, packed);
    plan.held("b");
    assertThat(plan.said()).extracting(Finding::code).contains("file-not-in-package");
  }

  private static final String SHARED =
      """
      #usda 1.0
      def Xform "Yard" {
        def Mesh "m" ( prepend apiSchemas = ["MaterialBindingAPI"] ) {
          point3f[] points = [(0,0,0),(1,0,0),(0,1,0)]
          int[] faceVertexCounts = [3]
          int[] faceVertexIndices = [0,1,2]
          rel material:binding = </Yard/Looks/Oak>
        }
        def Scope "Looks" {
          def NodeGraph "Grain" {
            float outputs:out.connect = </Yard/Looks/Grain/Noise.outputs:out>
            def Shader "Noise" { uniform token info:id = "ND_noise2d_float"
              float inputs:amplitude.connect = </Yard/Looks/Height.outputs:out>
              float outputs:out }
          }
          def Shader "Height" { uniform token info:id = "ND_constant_float"
            float outputs:out }
          def Material "Oak" {
            token outputs:mtlx:surface.connect = </Yard/Looks/Oak/Coat.outputs:out>
            def Shader "Coat" { uniform token info:id = "ND_standard_surface_surfaceshader"
              float inputs:coat.connect = %s
              float2 inputs:place.connect = </Yard/Looks/Oak/St.outputs:result>
              token outputs:out }
            def Shader "St" { uniform token info:id = "UsdPrimvarReader_float2"
              string inputs:varname = "st"
              float2 outputs:result }
          }
          def Material "Ash" { float inputs:wet = 1
            def Shader "Rain" { uniform token info:id = "UsdPrimvarReader_float"
              float inputs:value.connect = </Yard/Looks/Ash.inputs:wet>
              float outputs:out } }
        }
      }
      """;

  @Test
  void whatANetworkSharesWithOthersStandsInItsMaterialThen() throws Exception {
    Scene near = read(SHARED.formatted("</Yard/Looks/Grain.outputs:out>"));
    assertThat(codes()).contains("network-kept").doesNotContain("network-not-read");
    Scene far = landed(near);
    assertThat(text)
        .contains("float inputs:coat.connect = </Yard/Looks/Oak/Grain.outputs:out>")
        .contains("float outputs:out.connect = </Yard/Looks/Oak/Grain/Noise.outputs:out>")
        .contains("float inputs:amplitude.connect = </Yard/Looks/Oak/Height.outputs:out>")
        .contains("uniform token info:id = \"ND_constant_float\"")
        .contains("def Shader \"St\"", "string inputs:varname = \"st\"");
    assertThat(values(far)).isEqualTo(values(near));
  }

  @Test
  void aNetworkThatLeadsIntoAnotherMaterialTakesItAlong() throws Exception {
    Scene near = read(SHARED.formatted("</Yard/Looks/Ash/Rain.outputs:out>"));
    assertThat(codes()).contains("network-kept").doesNotContain("network-not-read");
    Scene far = landed(near);
    assertThat(text)
        .contains("float inputs:coat.connect = </Yard/Looks/Oak/Ash/Rain.outputs:out>")
        .contains("def NodeGraph \"Ash\"")
        .contains("float inputs:value.connect = </Yard/Looks/Oak/Ash.inputs:wet>")
        .contains("float inputs:wet = 1")
        .contains("uniform token info:id = \"UsdPrimvarReader_float\"");
    assertThat(values(far)).isEqualTo(values(near));
  }

  @Test
  void aNetworkThatLeadsToNothingIsTold() throws Exception {
    Scene near = read(SHARED.formatted("</Yard/Looks/Gone.inputs:wet>"));
    assertThat(codes()).contains("network-not-read");
    assertThat(
            near.materials().stream().filter(m -> m.name().equals("Oak")).findFirst().orElseThrow())
        .satisfies(m -> assertThat(m.properties()).isEmpty());
  }

  private static final String SETS =
      """
      #usda 1.0
      def Mesh "sail" {
        point3f[] points = [(0,0,0),(1,0,0),(1,1,0),(0,1,0),(9,9,9)]
        int[] faceVertexCounts = [4]
        int[] faceVertexIndices = [0,1,2,3]
        def GeomSubset "soft_luff" {
          uniform token elementType = "%s"
          uniform token familyName = "cloth"
          int[] indices = [0, 3, 77]
        }
      }
      """;

  @Test
  void setsOfPointsGoThroughStepsAndLandAsSetsOfPoints() throws Exception {
    Scene near = read(SETS.formatted("point"));
    assertThat(codes()).doesNotContain("shape-kept");
    List<Step> steps = List.of(new Step("t", "triangulate", Map.of(), true, List.of()));
    var stages = Handling.run(near, steps, Progress.NONE);
    assertThat(stages.get(0).failure()).isNull();
    Scene far = landed(Handling.result(near, stages));
    assertThat(text.replaceAll("\\s+", " "))
        .contains("def GeomSubset \"soft_luff\" {")
        .contains("uniform token elementType = \"point\"")
        .contains("uniform token familyName = \"cloth\"")
        .contains("int[] indices = [0, 3]")
        .doesNotContain("primvars:subset");
    assertThat(far.meshes().get(0).attributes())
        .extracting(a -> a.name())
        .contains("subset:point:cloth:soft_luff");
  }

  @Test
  void setsOfEdgesGoThroughStepsAndLandAsSetsOfEdges() throws Exception {
    Scene near = read(SETS.formatted("edge").replace("[0, 3, 77]", "[0, 3, 2, 1, 77, 0]"));
    assertThat(codes()).contains("faces-of-sets-left-out");
    List<Step> steps =
        List.of(
            new Step("u", "remove", Map.of("what", "unusedVertices"), true, List.of()),
            new Step("t", "triangulate", Map.of(), true, List.of()));
    var stages = Handling.run(near, steps, Progress.NONE);
    assertThat(stages).extracting(s -> s.failure()).containsOnlyNulls();
    Scene far = landed(Handling.result(near, stages));
    assertThat(text.replaceAll("\\s+", " "))
        .contains("uniform token elementType = \"edge\"")
        .contains("uniform token familyName = \"cloth\"")
        .contains("int[] indices = [0, 3, 2, 1]");
    assertThat(far.meshes().get(0).edgeSets())
        .singleElement()
        .satisfies(set -> assertThat(set.pairs()).containsExactly(0, 3, 2, 1));
  }

  @Test
  void setsOfElementsThatAreNotKnownAreKeptAsTheyAre() throws Exception {
    Scene near = read(SETS.formatted("tetrahedron"));
    assertThat(codes()).contains("shape-kept");
    Scene far = landed(near);
    assertThat(text.replaceAll("\\s+", " "))
        .contains("def Mesh \"sail\"")
        .contains("def GeomSubset \"soft_luff\" { uniform token elementType = \"tetrahedron\"")
        .contains("int[] indices = [0, 3, 77]")
        .doesNotContain("sail_shape", "xformOp");
    assertThat(far.paths()).isEqualTo(near.paths());
  }

  @Test
  void setsOfMeshesThatChangeAreOthersOverTime() throws Exception {
    Scene near =
        read(
            """
            #usda 1.0
            ( timeCodesPerSecond = 24 startTimeCode = 0 endTimeCode = 24 )
            def Mesh "sail" {
              point3f[] points.timeSamples = { 0: [(0,0,0),(1,0,0),(1,1,0)],
                24: [(0,0,0),(1,0,0),(1,1,0),(0,1,0)] }
              int[] faceVertexCounts.timeSamples = { 0: [3], 24: [4] }
              int[] faceVertexIndices.timeSamples = { 0: [0,1,2], 24: [0,1,2,3] }
              def GeomSubset "luff" { uniform token elementType = "point"
                uniform token familyName = "cloth"
                int[] indices.timeSamples = { 0: [0], 24: [0, 3] } }
              def GeomSubset "hem" { uniform token elementType = "edge"
                uniform token familyName = "cloth"
                int[] indices.timeSamples = { 0: [0, 1], 24: [0, 3, 2, 3] } }
            }
            """);
    assertThat(said.list())
        .extracting(Finding::code)
        .doesNotContain("shape-kept", "layer-motion-not-read");
    Scene far = landed(near);
    assertThat(text).contains("0: [0],", "24: [0, 3]", "0: [0, 1],", "24: [0, 3, 2, 3]");
    var last = far.sequences().get(0).mesh(1);
    assertThat(last.edgeSets())
        .singleElement()
        .satisfies(set -> assertThat(set.pairs()).containsExactly(0, 3, 2, 3));
    assertThat(last.attributes())
        .filteredOn(a -> a.name().equals("subset:point:cloth:luff"))
        .singleElement()
        .satisfies(a -> assertThat(PointSets.points(a)).containsExactly(0, 3));
  }
}
