package ferry.stone.core.format.fbx;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.fbx.raw.FbxBuild;
import ferry.stone.core.format.fbx.raw.FbxDocument;
import ferry.stone.core.format.fbx.raw.FbxRecord;
import ferry.stone.core.format.fbx.rules.FbxRules;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.FaultScene;
import ferry.stone.core.proof.FaultScene.Fault;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * What readers expect of FBX, broken one by one in a file that keeps it all. The format has no
 * published standard: common practice, no source.
 */
class FbxRulesTest {
  /** A landed file whose records can be changed. */
  private static final class Work {
    private final Scene scene = FaultScene.with(Fault.NONE);
    private final TestFiles files = new TestFiles();
    private final LandingOptions options = LandingOptions.of("fbx");
    private final Landing landing;
    private final FbxRecord root;
    private final int version;
    private byte[] written;

    Work() throws Exception {
      landing = Landing.write(scene, options, "a", new TestFiles(), files, Progress.NONE);
      String main = landing.mainFile();
      root =
          FbxDocument.parse(main, files.random(main), Budget.of(main, files), new Findings())
              .root();
      version = (int) root.at("FBXHeaderExtension").at("FBXVersion").number(0, 0);
    }

    /** The first object of a kind and class. */
    FbxRecord object(String kind, String type) {
      return root.at("Objects").children().stream()
          .filter(o -> o.name().equals(kind) && (type.isEmpty() || o.text(2).equals(type)))
          .findFirst()
          .orElseThrow();
    }

    /** The first curve with several keys. */
    FbxRecord curve() {
      return root.at("Objects").all("AnimationCurve").stream()
          .filter(c -> c.at("KeyTime").longs().length > 1)
          .findFirst()
          .orElseThrow();
    }

    /** Puts other values in place of those of a record below. */
    void set(FbxRecord in, String name, Object... values) {
      FbxRecord record = in.child(name).orElseThrow();
      record.values().clear();
      record.values().addAll(Arrays.asList(values));
    }

    void property(FbxRecord object, String name, Object value) {
      FbxRecord p =
          object.at("Properties70").all("P").stream()
              .filter(r -> r.text(0).equals(name))
              .findFirst()
              .orElseThrow();
      p.values().set(4, value);
    }

    FbxRecord mesh() {
      return object("Geometry", "Mesh");
    }

    List<Finding> told() throws Exception {
      files.with(
          landing.mainFile(), written == null ? FbxEncoder.binary(root, version, true) : written);
      Findings findings = new Findings();
      FbxRules.check(landing.mainFile(), files, findings);
      return findings.list();
    }
  }

  private interface Breaking {
    void in(Work work) throws Exception;
  }

  private static Arguments broken(String words, Breaking breaking) {
    return Arguments.of(words, breaking);
  }

  static Stream<Arguments> rules() {
    return Stream.concat(Stream.concat(around(), meshes()), Stream.concat(bending(), motion()));
  }

  private static Stream<Arguments> around() {
    return Stream.of(
        broken(
            "does not end as the binary form does",
            w -> {
              byte[] whole = FbxEncoder.binary(w.root, w.version, true);
              w.written = Arrays.copyOf(whole, whole.length - 1);
            }),
        broken(
            "not the one at the beginning",
            w -> w.set(w.root.at("FBXHeaderExtension"), "FBXVersion", 7300)),
        broken(
            "Two axes are the same", w -> w.property(w.root.at("GlobalSettings"), "FrontAxis", 1)),
        broken(
            "not said as one of three",
            w -> w.property(w.root.at("GlobalSettings"), "UpAxisSign", 0)),
        broken(
            "The unit is not above 0",
            w -> w.property(w.root.at("GlobalSettings"), "UnitScaleFactor", 0.0)),
        broken(
            "Two objects have one id",
            w -> w.object("Material", "").values().set(0, w.mesh().id(0))),
        broken(
            "names an object that is not in the file",
            w -> w.root.at("Connections").children().get(0).values().set(1, 77L)),
        broken(
            "connected to nothing",
            w -> w.root.at("Connections").children().removeIf(c -> c.id(1) == w.mesh().id(0))),
        broken(
            "counts other objects",
            w -> w.set(w.root.at("Definitions").all("ObjectType").get(1), "Count", 99)),
        broken(
            "leaves out kinds",
            w -> w.root.at("Definitions").children().removeIf(c -> c.text(0).equals("Geometry"))));
  }

  private static Stream<Arguments> meshes() {
    return Stream.of(
        broken(
            "not three numbers each", w -> w.set(w.mesh(), "Vertices", (Object) new double[400])),
        broken(
            "A corner names a vertex",
            w -> ((int[]) w.mesh().at("PolygonVertexIndex").values().get(0))[0] = 9999),
        broken(
            "The last polygon is not closed",
            w -> {
              int[] corners = (int[]) w.mesh().at("PolygonVertexIndex").values().get(0);
              corners[corners.length - 1] = 0;
            }),
        broken(
            "does not say what carries its values",
            w -> w.set(w.mesh().at("LayerElementUV"), "MappingInformationType", "ByNothing")),
        broken(
            "index names a value that is not there",
            w -> ((int[]) w.mesh().at("LayerElementUV").at("UVIndex").values().get(0))[2] = 4444),
        broken(
            "more or fewer indices",
            w -> w.set(w.mesh().at("LayerElementUV"), "UVIndex", (Object) new int[3])),
        broken(
            "a material that its part does not have",
            w -> {
              FbxRecord layer = w.mesh().at("LayerElementMaterial");
              ((int[]) layer.at("Materials").values().get(0))[0] = 5;
            }),
        broken(
            "A layer lists what is not there",
            w -> w.set(w.mesh().at("Layer").at("LayerElement"), "TypedIndex", 7)),
        broken(
            "listed in no layer",
            w -> w.mesh().at("Layer").children().removeIf(c -> c.name().equals("LayerElement"))));
  }

  private static Stream<Arguments> bending() {
    return Stream.of(
        broken(
            "more or fewer weights than vertices",
            w -> w.set(w.object("Deformer", "Cluster"), "Weights", (Object) new double[1])),
        broken(
            "weights of a vertex are not 1 together",
            w ->
                ((double[]) w.object("Deformer", "Cluster").at("Weights").values().get(0))[0] =
                    0.125),
        broken(
            "names a vertex that it does not have",
            w -> ((int[]) w.object("Deformer", "Cluster").at("Indexes").values().get(0))[0] = 8888),
        broken(
            "not said by two matrices",
            w -> w.set(w.object("Deformer", "Cluster"), "TransformLink", (Object) new double[9])),
        broken(
            "more or fewer offsets than vertices",
            w -> w.set(w.object("Geometry", "Shape"), "Vertices", (Object) new double[1])),
        broken(
            "A morph's weights do not rise",
            w ->
                w.set(
                    w.object("Deformer", "BlendShapeChannel"),
                    "FullWeights",
                    (Object) new double[] {50, 20})),
        broken("counts other nodes", w -> w.set(w.object("Pose", "BindPose"), "NbPoseNodes", 55)),
        broken(
            "names a node that is not there",
            w -> w.set(w.object("Pose", "BindPose").at("PoseNode"), "Node", 66L)));
  }

  private static Stream<Arguments> motion() {
    return Stream.of(
        broken(
            "more or fewer values than keys",
            w -> w.set(w.curve(), "KeyValueFloat", (Object) new float[1])),
        broken(
            "times of a curve fall",
            w -> ((long[]) w.curve().at("KeyTime").values().get(0))[1] = -5),
        broken(
            "said for other keys than it has",
            w -> w.set(w.curve(), "KeyAttrRefCount", (Object) new int[] {9999})),
        broken(
            "ends before it begins",
            w -> w.property(w.object("AnimationStack", ""), "LocalStop", -1L)),
        broken(
            "belongs to no moving value",
            w -> {
              long curve = w.curve().id(0);
              long mesh = w.mesh().id(0);
              w.root.at("Connections").children().stream()
                  .filter(c -> c.id(1) == curve)
                  .forEach(c -> c.values().set(2, mesh));
            }));
  }

  @Test
  void whatWeWriteKeepsThemAll() throws Exception {
    assertThat(new Work().told()).isEmpty();
    Work text = new Work();
    LandingOptions options = LandingOptions.of("fbx").with("form", "text");
    Landing.write(text.scene, options, "a", new TestFiles(), text.files, Progress.NONE);
    Findings findings = new Findings();
    FbxRules.check("a.fbx", text.files, findings);
    assertThat(findings.list()).isEmpty();
  }

  @ParameterizedTest(name = "{0}")
  @MethodSource("rules")
  void eachIsToldWithItsPlace(String words, Breaking breaking) throws Exception {
    Work work = new Work();
    breaking.in(work);
    assertThat(work.told())
        .anySatisfy(
            finding -> {
              assertThat(finding.message()).contains(words);
              assertThat(finding.where()).startsWith(work.landing.mainFile());
            });
  }

  /** Other readers may take such a file otherwise: its proof is not all kept. */
  @Test
  void theProofTellsOfIt() throws Exception {
    Work work = new Work();
    work.root.at("Definitions").children().add(FbxBuild.record("ObjectType", "Texture"));
    assertThat(work.told()).isNotEmpty();
    Proof proof =
        Proof.of(
            work.scene,
            work.scene,
            work.landing.landed(work.options, work.files),
            new TestFiles(),
            Progress.NONE);
    assertThat(proof.rows())
        .filteredOn(r -> r.group().startsWith("Where the file is not as its standard says"))
        .isNotEmpty()
        .allSatisfy(r -> assertThat(r.verdict()).isEqualTo(LedgerRow.Verdict.CHANGED));
  }
}
