package ferry.stone.demo;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.MemoryFiles;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.shore.Shores;
import ferry.stone.core.survey.Survey;
import ferry.stone.core.survey.SurveyMemo;
import ferry.stone.core.work.Progress;
import java.io.ByteArrayOutputStream;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The singing head gets its look back, whatever format the file with the look has. */
class LookFilesTest {

  @ParameterizedTest
  @ValueSource(strings = {"fbx", "glb", "obj", "usda", "usdc", "usdz"})
  void aLookIsFoundBesideTheCacheAndPutOn(String format) throws Exception {
    Map<String, byte[]> files =
        DemoWorldTest.entries(DemoWorldTest.zip(DemoWorld.Cargo.SINGING_HEAD));
    MemoryFiles own = new MemoryFiles(files);
    Scene look = CargoReader.read("look", List.of("head_look.fbx"), ReadContext.of(own));
    Map<String, byte[]> both = new TreeMap<>();
    both.put("head_song.abc", files.get("head_song.abc"));
    Map<String, ByteArrayOutputStream> landed = new TreeMap<>();
    Landing.write(
        look,
        LandingOptions.of(format),
        "look",
        own,
        path -> landed.computeIfAbsent(path, p -> new ByteArrayOutputStream()),
        Progress.NONE);
    landed.forEach((path, bytes) -> both.put(path, bytes.toByteArray()));
    Findings told = new Findings();
    ReadContext context = new ReadContext(new MemoryFiles(both), Map.of(), told, Progress.NONE);
    Scene scene = CargoReader.read("head", context);
    Survey survey = Survey.of(scene, told.list(), Shores.usual(), new SurveyMemo(), Progress.NONE);
    Finding finding =
        survey.findings().stream().filter(f -> f.code().equals("look-beside")).findFirst().get();
    Step put =
        new Step(
            "put",
            finding.offers().get(0).kind(),
            finding.offers().get(0).params(),
            true,
            finding.nodeIds());
    Handling.Stage stage = Handling.run(scene, List.of(put), Progress.NONE).get(0);
    assertThat(stage.figure()).isEqualTo("4 sets bound");
    PolygonMesh head =
        stage.scene().meshes().stream()
            .filter(m -> m.faceSets().size() >= 4)
            .findFirst()
            .orElseThrow();
    assertThat(head.materialIds()).hasSizeGreaterThanOrEqualTo(4);
  }
}
