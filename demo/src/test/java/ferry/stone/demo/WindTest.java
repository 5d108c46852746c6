package ferry.stone.demo;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.MemoryFiles;
import ferry.stone.core.handling.Accepting;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.motion.Caches;
import ferry.stone.core.motion.ClipPoses;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.survey.Survey;
import ferry.stone.core.work.Progress;
import java.io.ByteArrayOutputStream;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.IntStream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The wind has a closed form: every vertex of every frame is checked after a crossing. */
class WindTest {
  private static final int COLUMNS = 49;
  private static final int FRAMES = 72;

  /** Two parts in a million of the pennant's size, and what 32-bit numbers round by: metres. */
  private static final double CLOSE = 2e-5;

  private record Read(Scene scene, List<Finding> findings) {}

  private static MemoryFiles files(DemoWorld.Cargo cargo) throws Exception {
    return new MemoryFiles(DemoWorldTest.entries(DemoWorldTest.zip(cargo)));
  }

  private static Read pennant(DemoWorld.Cargo cargo) throws Exception {
    MemoryFiles files = files(cargo);
    Findings findings = new Findings();
    Scene scene =
        CargoReader.read("pennant", new ReadContext(files, Map.of(), findings, Progress.NONE));
    return new Read(scene, findings.list());
  }

  /** All that the survey offers is accepted: then the cloth is where its form has it. */
  private static Scene mended(Read read) {
    Survey survey = Survey.of(read.scene(), read.findings(), Progress.NONE);
    List<Step> steps =
        Accepting.with(
            List.of(), Accepting.together(survey.findings()), () -> "s" + System.nanoTime());
    return done(read.scene(), steps);
  }

  private static Scene done(Scene scene, List<Step> steps) {
    var stages = Handling.run(scene, steps, Progress.NONE);
    stages.forEach(s -> assertThat(s.failure()).isNull());
    return Handling.result(scene, stages);
  }

  /** The farthest that a vertex of the cloth is from its form, in metres. */
  private static double farthest(Scene scene) {
    int place =
        IntStream.range(0, scene.nodes().size())
            .filter(i -> scene.nodes().get(i).content() instanceof Node.Content.MeshContent)
            .filter(i -> scene.nodes().get(i).name().startsWith("pennant"))
            .findFirst()
            .orElseThrow();
    Clip clip = Caches.timeline(scene).get(0);
    ClipPoses poses = ClipPoses.of(scene, clip);
    double metres = scene.frame().metresPerUnit();
    double most = 0;
    for (int frame = 0; frame < FRAMES; frame++) {
      double[] points = Deform.world(scene, poses.at(frame / 24.0), place);
      for (int v = 0; 3 * v < points.length; v++) {
        double[] wanted = Pennant.blown(v % COLUMNS, v / COLUMNS, frame);
        for (int c = 0; c < 3; c++) {
          most = Math.max(most, Math.abs(metres * points[3 * v + c] - wanted[c] / 100));
        }
      }
    }
    return most;
  }

  @ParameterizedTest
  @CsvSource({"PENNANT", "PENNANT_CACHE"})
  void whatGoesInWithItsFaultsIsMended(DemoWorld.Cargo cargo) throws Exception {
    Scene far = mended(pennant(cargo));
    assertThat(far.caches()).hasSize(1);
    assertThat(farthest(far)).isLessThan(CLOSE);
  }

  @ParameterizedTest
  @CsvSource({"abc, cm", "abc, m", "mdd, m", "pc2, cm", "fbx, cm", "glb, ''"})
  void everyVertexOfEveryFrameLands(String format, String unit) throws Exception {
    Scene near = pennant(DemoWorld.Cargo.PENNANT).scene();
    Scene far = mended(pennant(DemoWorld.Cargo.PENNANT));
    boolean holdsCaches = format.length() == 3 && !format.equals("fbx") && !format.equals("glb");
    Scene shown =
        holdsCaches
            ? far
            : done(far, List.of(new Step("m", "cacheToMorphs", Map.of(), true, List.of())));
    LandingOptions options = LandingOptions.of(format);
    options = unit.isEmpty() ? options : options.with("unit", unit);
    Map<String, ByteArrayOutputStream> out = new TreeMap<>();
    MemoryFiles cargo = files(DemoWorld.Cargo.PENNANT);
    Landing landing =
        Landing.write(
            shown,
            options,
            "pennant",
            cargo,
            path -> out.computeIfAbsent(path, p -> new ByteArrayOutputStream()),
            Progress.NONE);
    Map<String, byte[]> files = new TreeMap<>();
    out.forEach((path, bytes) -> files.put(path, bytes.toByteArray()));
    MemoryFiles landed = new MemoryFiles(files);
    Scene back =
        landing.landed(options, landed).holding().read(landing.mainFile(), ReadContext.of(landed));
    if (!format.equals("glb")) {
      // A GLB has vertices of its own order: its proof compares them.
      assertThat(farthest(back)).isLessThan(CLOSE);
    }
    Proof proof = Proof.of(near, shown, landing.landed(options, landed), cargo, Progress.NONE);
    assertThat(proof.rows())
        .filteredOn(
            r ->
                r.fact().equals("Positions in all samples")
                    || r.fact().startsWith("Vertices during"))
        .isNotEmpty()
        .allMatch(r -> r.verdict() == LedgerRow.Verdict.KEPT);
  }
}
