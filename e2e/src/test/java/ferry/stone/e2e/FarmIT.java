package ferry.stone.e2e;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import ferry.stone.core.routine.Batch;
import ferry.stone.core.routine.FortyAssets;
import ferry.stone.core.routine.RunRecord;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The worked example of a farm on a real Slurm of two nodes, where Debian's packages are there. */
class FarmIT {
  private static final Path FARM = Path.of("..", "farm", "slurm").toAbsolutePath().normalize();

  @TempDir Path folder;

  private String shell(Map<String, String> environment, String... command) throws Exception {
    Path log = folder.resolve("shell.log");
    ProcessBuilder builder =
        new ProcessBuilder(command).redirectErrorStream(true).redirectOutput(log.toFile());
    builder.environment().putAll(environment);
    int code = builder.start().waitFor();
    String said = Files.readString(log);
    assertEquals(0, code, () -> List.of(command) + ": " + said);
    return said;
  }

  private static boolean isThere(String command) {
    return List.of("/usr/sbin/", "/usr/bin/").stream()
        .anyMatch(place -> Files.isExecutable(Path.of(place + command)));
  }

  @Test
  void fortyAssetsLandOverTheSchedulerWithOneReport() throws Exception {
    assumeTrue(
        "root".equals(System.getProperty("user.name"))
            && List.of("slurmctld", "slurmd", "sbatch", "munged").stream()
                .allMatch(FarmIT::isThere),
        "Slurm's packages are not there");
    Path in = folder.resolve("in");
    Path out = folder.resolve("out");
    Map<String, RunRecord.Verdict> wanted = FortyAssets.write(in);
    Path routine = folder.resolve("forty.routine.json");
    Files.writeString(routine, FortyAssets.ROUTINE);
    // The third shard dies at its first try, as on a machine that goes down.
    String dies =
        "case \"$*\" in *'--shard 3/4'*) [ -f "
            + folder
            + "/died ] || { touch "
            + folder
            + "/died; kill -9 $$; } ;; esac";
    Path ferry = Command.script(folder.resolve("ferry"), dies);
    Path state = Files.createTempDirectory(Path.of("/tmp"), "slurm");
    shell(Map.of(), FARM + "/one-machine", "start", state.toString());
    try {
      Map<String, String> environment =
          Map.of("SLURM_CONF", state + "/slurm.conf", "FERRY", ferry.toString());
      List<String> submit = new ArrayList<>();
      submit.addAll(List.of(FARM + "/submit", "4", out.toString(), in.toString()));
      submit.addAll(List.of("--", "--routine", routine.toString()));
      shell(environment, submit.toArray(String[]::new));
      Instant end = Instant.now().plus(Duration.ofMinutes(4));
      while (!Files.exists(out.resolve("batch.html")) && Instant.now().isBefore(end)) {
        Thread.sleep(500);
      }
      assertTrue(Files.exists(folder.resolve("died")), "a shard was cut off");
      Map<String, RunRecord.Verdict> seen = new TreeMap<>();
      for (String name : wanted.keySet()) {
        Batch.record(out.resolve(name)).ifPresent(r -> seen.put(name, r.verdict()));
      }
      assertEquals(wanted, seen);
      assertTrue(
          Files.readString(out.resolve("batch.html")).contains("25 assets of 40 to look at"));
    } finally {
      shell(Map.of(), FARM + "/one-machine", "stop", state.toString());
    }
  }
}
