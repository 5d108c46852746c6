package ferry.stone.core.format.usd.read;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.MemoryFiles;
import ferry.stone.core.geometry.mesh.MeshMeasure;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Composition;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Purpose;
import ferry.stone.core.work.Progress;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Stages of a few lines, and what is told of what cannot be read of them. */
class UsdReadingTest {
  private static final String TRIANGLE =
      """
      point3f[] points = [(0, 0, 0), (1, 0, 0), (0, 1, 0)]
      int[] faceVertexCounts = [3]
      int[] faceVertexIndices = [0, 1, 2]
      uniform token subdivisionScheme = "none"
      """;

  private final Findings findings = new Findings();
  private final Map<String, byte[]> files = new HashMap<>();

  private void file(String path, String body) {
    files.put(path, ("#usda 1.0\n" + body).getBytes(StandardCharsets.UTF_8));
  }

  private ReadContext context(Map<String, Object> options) {
    return new ReadContext(new MemoryFiles(files), Map.of(), findings, Progress.NONE)
        .withOptions(options);
  }

  private Scene read(String body) throws Exception {
    file("a.usda", body);
    return UsdReader.read("a.usda", context(Map.of()));
  }

  private List<String> codes() {
    return findings.list().stream().map(Finding::code).distinct().toList();
  }

  @Test
  void aLayerThatSaysNothingIsInCentimetresWithYUpAsTheStandardHasIt() throws Exception {
    Scene scene = read("def Xform \"a\" {\n}\n");
    assertThat(scene.frame().metresPerUnit()).isEqualTo(0.01);
    assertThat(scene.frame().up().text()).isEqualTo("y");
    assertThat(scene.unitSource()).isEqualTo(FrameSource.ASSUMED);
    assertThat(scene.axesSource()).isEqualTo(FrameSource.ASSUMED);
  }

  @ParameterizedTest
  @CsvSource({
    // Boxes and volumes by the formulas of the bodies; a mesh of 48 sides lies inside of them.
    "Cube, size, 2, 8",
    "Sphere, radius, 1, 4.18879",
    "Cylinder, radius, 1, 6.28319",
    "Cone, radius, 1, 2.09440",
    "Capsule, radius, 1, 7.33038"
  })
  void solidsAreClosedAndFaceOutwards(String type, String measure, double value, double volume)
      throws Exception {
    Scene scene = read("def " + type + " \"a\" {\n double " + measure + " = " + value + "\n}\n");
    PolygonMesh mesh = scene.meshes().get(0);
    // Below 0 for faces that look inwards, and another one where it is open.
    assertThat(MeshMeasure.of(mesh).volume()).isBetween(0.98 * volume, volume * 1.0001);
    Attribute normals = mesh.first(Attribute.Semantic.NORMAL).orElseThrow();
    for (int c = 0; c < mesh.faces().cornerCount(); c++) {
      int row = normals.valueOf(c, 0, 0);
      int v = mesh.faces().vertex(c);
      double outwards = 0;
      double length = 0;
      for (int k = 0; k < 3; k++) {
        double n = normals.values()[3 * row + k];
        outwards += n * mesh.points().at(3 * v + k);
        length += n * n;
      }
      assertThat(length).isCloseTo(1, within(1e-5));
      assertThat(outwards).isGreaterThanOrEqualTo(-1e-6);
    }
    assertThat(codes()).contains("solid-read-as-mesh");
  }

  @Test
  void constantValuesComeDownUntilOneBelowSaysAnother() throws Exception {
    Scene scene =
        read(
            """
            def Xform "a" {
              color3f[] primvars:displayColor = [(1, 0, 0)]
              float[] primvars:wet = [0.5, 0.25] ( interpolation = "vertex" )
              def Mesh "b" {
            """
                + TRIANGLE
                + """
              }
              def Mesh "c" {
                color3f[] primvars:displayColor = [(0, 1, 0)]
            """
                + TRIANGLE
                + "  }\n}\n");
    assertThat(scene.meshes()).hasSize(2);
    for (int m = 0; m < 2; m++) {
      PolygonMesh mesh = scene.meshes().get(m);
      Attribute colour = mesh.first(Attribute.Semantic.COLOUR).orElseThrow();
      assertThat(colour.domain()).isEqualTo(Attribute.Domain.CONSTANT);
      assertThat(colour.values()[m]).isEqualTo(1);
      assertThat(mesh.attributes()).hasSize(1);
    }
  }

  @Test
  void purposesAndVisibilityAreThoseOfTheFile() throws Exception {
    Scene scene =
        read(
            """
            def Xform "a" {
              uniform token purpose = "guide"
              def Xform "b" { token visibility = "invisible" }
            }
            class "never" { def Xform "seen" {\n} }
            over "nor" { def Xform "this" {\n} }
            def Xform "off" ( active = false ) {\n}
            """);
    assertThat(scene.paths()).containsExactly("a", "a/b");
    assertThat(scene.purposes()).containsExactly(Purpose.GUIDE, Purpose.GUIDE);
    assertThat(scene.nodes().get(1).visible()).isFalse();
  }

  @Test
  void aMaterialIsThereForEachPlaceThatItsUvsHave() throws Exception {
    String uvs = "texCoord2f[] primvars:%s = [(0,0),(1,0),(0,1)] ( interpolation = \"vertex\" )\n";
    Scene scene =
        read(
            "def Mesh \"one\" (prepend apiSchemas = [\"MaterialBindingAPI\"]) {\n"
                + TRIANGLE
                + uvs.formatted("st")
                + uvs.formatted("wear")
                + "rel material:binding = </looks/oak>\n}\n"
                + "def Mesh \"two\" (prepend apiSchemas = [\"MaterialBindingAPI\"]) {\n"
                + TRIANGLE
                + uvs.formatted("wear")
                + "rel material:binding = </looks/oak>\n}\n"
                + """
                def Scope "looks" {
                  def Material "oak" {
                    token outputs:surface.connect = </looks/oak/s.outputs:surface>
                    def Shader "s" {
                      uniform token info:id = "UsdPreviewSurface"
                      float inputs:roughness.connect = </looks/oak/t.outputs:g>
                      token outputs:surface
                    }
                    def Shader "t" {
                      uniform token info:id = "UsdUVTexture"
                      asset inputs:file = @oak.png@
                      float4 inputs:bias = (0.1, 0, 0, 0)
                      token inputs:sourceColorSpace = "sRGB"
                      token inputs:wrapS = "black"
                      float2 inputs:st.connect = </looks/oak/u.outputs:result>
                      float outputs:g
                    }
                    def Shader "u" {
                      uniform token info:id = "UsdPrimvarReader_float2"
                      string inputs:varname = "wear"
                      float2 outputs:result
                    }
                  }
                }
                """);
    assertThat(scene.materials()).hasSize(2);
    assertThat(scene.materials().stream().map(m -> m.name())).containsExactly("oak", "oak");
    int[] sets = new int[2];
    for (int m = 0; m < 2; m++) {
      int material = scene.meshes().get(m).materialIds()[0];
      sets[m] =
          scene
              .material(material)
              .orElseThrow()
              .texture(ferry.stone.core.scene.look.Channel.ROUGHNESS)
              .orElseThrow()
              .uvSet();
    }
    assertThat(sets).containsExactly(1, 0);
    assertThat(codes())
        .contains(
            "texture-missing",
            "texture-bias-not-read",
            "colour-space-not-read",
            "texture-border-black");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "token[] xformOpOrder = [\"xformOp:translate\"]|transform-op-not-read",
        "token[] xformOpOrder = [\"xformOp:leap\"]|transform-op-not-read",
        "rel material:binding = </nowhere>|reference-broken"
      })
  void whatIsNotReadOfAMeshIsTold(String line, String code) throws Exception {
    read("def Mesh \"a\" {\n" + TRIANGLE + line + "\n}\n");
    assertThat(codes()).contains(code);
  }

  @Test
  void whatMovesByACurveMoves() throws Exception {
    Scene scene =
        read(
            """
            def Xform "a" {
              double xformOp:translateX.spline = {
                bezier,
                0: 1; post curve (3, 0),
                12: 3; pre (3, 0); post held,
              }
              uniform token[] xformOpOrder = ["xformOp:translateX"]
            }
            """);
    assertThat(codes()).contains("curve-as-samples");
    Pose pose = Pose.at(scene, scene.clips().get(0), 0.25);
    assertThat(pose.world()[0].m30()).isCloseTo(2, within(1e-9));
  }

  @ParameterizedTest
  @ValueSource(strings = {"Volume", "TetMesh", "NurbsPatch", "HermiteCurves", "OpenVDBAsset"})
  void shapesOfOtherSchemasAreKeptAndTold(String type) throws Exception {
    Scene scene = read("def " + type + " \"a\" {\n  rel material:binding = </b>\n}\n");
    assertThat(((Node.Content.KeptShape) scene.nodes().get(0).content()).schema()).isEqualTo(type);
    assertThat(codes()).contains("shape-kept");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "int[] faceVertexIndices = [0, 1, 7]",
        "int[] faceVertexIndices = [0, 1]",
        "int[] faceVertexCounts = [-3]",
        "int[] faceVertexIndices = [0, 1, -1]"
      })
  void aMeshThatNamesWhatIsNotThereEndsInASentence(String line) {
    String mesh = TRIANGLE.replaceAll("int\\[\\] " + line.split(" ")[1] + " = .*\n", "");
    assertThatThrownBy(() -> read("def Mesh \"hull\" {\n" + mesh + line + "\n}\n"))
        .isInstanceOf(FormatException.class)
        .hasMessageContaining("a.usda")
        .hasMessageContaining("/hull");
  }

  @Test
  void anInstancerHasArraysOfOneLengthAndNotTooMany() {
    String head = "def PointInstancer \"a\" {\n rel prototypes = </a/p>\n def Cube \"p\" {\n}\n";
    assertThatThrownBy(
            () ->
                read(head + "int[] protoIndices = [0, 0]\npoint3f[] positions = [(0, 0, 0)]\n}\n"))
        .isInstanceOf(FormatException.class)
        .hasMessageContaining("one length");
  }

  private void yard() {
    file(
        "yard.usda",
        """
        (
          defaultPrim = "Yard"
          upAxis = "Z"
          metersPerUnit = 1
          subLayers = [@layers/look.usda@]
        )
        def Xform "Yard" (
          prepend variantSets = "lamps"
          variants = { string lamps = "lit" }
        ) {
          variantSet "lamps" = {
            "lit" { def Xform "flame" {\n} }
            "dark" { def Xform "wick" {\n} }
          }
          def "boat" ( references = @parts/boat.usda@ ) {\n}
          def "nets" ( payload = @parts/nets.usda@ ) {\n}
        }
        """);
    file("layers/look.usda", "over \"Yard\" {\n custom int berth = 7\n}\n");
    file(
        "parts/boat.usda",
        "(\n defaultPrim = \"Boat\"\n)\ndef Xform \"Boat\" { def Xform \"mast\" {\n} }\n");
    file(
        "parts/nets.usda",
        "(\n defaultPrim = \"Nets\"\n)\ndef Xform \"Nets\" { def Xform \"coil\" {\n} }\n");
  }

  @Test
  void whatASceneIsPutTogetherFromIsKeptBesideIt() throws Exception {
    yard();
    Scene scene = CargoReader.read("yard", context(Map.of()));
    assertThat(scene.paths())
        .containsExactlyInAnyOrder(
            "Yard", "Yard/flame", "Yard/boat", "Yard/boat/mast", "Yard/nets", "Yard/nets/coil");
    Composition made = scene.composition();
    assertThat(made.layers())
        .contains(
            new Composition.Layer("yard.usda", "opened", ""),
            new Composition.Layer("layers/look.usda", "sublayer", "yard.usda"),
            new Composition.Layer("parts/boat.usda", "reference", "/Yard/boat"),
            new Composition.Layer("parts/nets.usda", "payload", "/Yard/nets"));
    assertThat(made.choices())
        .containsExactly(new Composition.Choice("/Yard", "lamps", List.of("lit", "dark"), "lit"));
    assertThat(made.payloads())
        .containsExactly(new Composition.Payload("/Yard/nets", "parts/nets.usda", true));
    assertThat(made.sources().get(scene.nodes().get(0).id()))
        .containsExactly("yard.usda", "layers/look.usda");
    assertThat(scene.nodes().get(0).properties()).containsEntry("berth", 7);
  }

  @Test
  void variantsAndPayloadsAreChosenFromOutside() throws Exception {
    yard();
    Scene scene =
        CargoReader.read(
            "yard", context(Map.of("variants", "/Yard{lamps=dark}", "payloads", "none")));
    assertThat(scene.paths()).contains("Yard/wick").doesNotContain("Yard/flame", "Yard/nets/coil");
    assertThat(scene.composition().choices().get(0).chosen()).isEqualTo("dark");
    assertThat(scene.composition().payloads().get(0).loaded()).isFalse();
    Scene loaded = CargoReader.read("yard", context(Map.of("payloads", "/Yard/nets")));
    assertThat(loaded.paths()).contains("Yard/nets/coil");
  }

  @Test
  void aLayerThatIsNotThereIsToldWithTheFileThatItMayHaveBecome() throws Exception {
    yard();
    files.put("parts/nets_new.usda", files.remove("parts/nets.usda"));
    Scene scene = CargoReader.read("yard", context(Map.of()));
    assertThat(scene.paths()).doesNotContain("Yard/nets/coil").contains("Yard/nets");
    Finding missing =
        findings.list().stream()
            .filter(f -> f.code().equals("usd-layer-missing"))
            .findFirst()
            .orElseThrow();
    assertThat(missing.where()).contains("/Yard/nets");
    assertThat(missing.offers()).isNotEmpty();
    Scene bound =
        CargoReader.read(
            "yard",
            new ReadContext(
                new MemoryFiles(files),
                Map.of("parts/nets.usda", "parts/nets_new.usda"),
                new Findings(),
                Progress.NONE));
    assertThat(bound.paths()).contains("Yard/nets/coil");
  }

  @Test
  void aLayerInAnotherFolderIsFoundAndSaidSo() throws Exception {
    yard();
    files.put("moved/boat.usda", files.remove("parts/boat.usda"));
    Scene scene = CargoReader.read("yard", context(Map.of()));
    assertThat(scene.paths()).contains("Yard/boat/mast");
    assertThat(codes()).contains("file-found-elsewhere");
  }

  @Test
  void layersThatAreMadeOfEachOtherAreAllRead() throws Exception {
    file("a.usda", "(\n subLayers = [@b.usda@]\n)\ndef Xform \"a\" {\n}\n");
    file("b.usda", "(\n subLayers = [@a.usda@]\n)\ndef Xform \"b\" {\n}\n");
    Scene scene = CargoReader.read("round", context(Map.of()));
    assertThat(scene.nodes()).isNotEmpty();
    assertThat(codes()).contains("usd-circle");
  }
}
