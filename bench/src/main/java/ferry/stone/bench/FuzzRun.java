package ferry.stone.bench;

import com.code_intelligence.jazzer.Jazzer;
import ferry.stone.core.TestFiles;
import ferry.stone.core.fuzz.Cargos;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Map;

/**
 * Runs the readers, the survey, the landing and the proof over inputs that a coverage-guided search
 * makes from whole cargos. Inputs that reach new code are kept in {@code target/fuzz/inputs} and
 * taken up by the next run; an input that ends in a fault is left in {@code target/fuzz}.
 */
final class FuzzRun {
  private static final int LARGEST_INPUT = 1 << 16;

  private FuzzRun() {}

  /**
   * @param seconds how long to search
   */
  static void run(int seconds, Path folder) throws Exception {
    Path inputs = Files.createDirectories(folder.resolve("inputs"));
    seed(inputs);
    Jazzer.main(
        new String[] {
          "--target_class=" + FuzzTarget.class.getName(),
          "--instrumentation_includes=ferry.stone.core.**",
          "--reproducer_path=" + folder,
          "-artifact_prefix=" + folder + "/",
          "-max_total_time=" + seconds,
          "-max_len=" + LARGEST_INPUT,
          "-timeout=30",
          "-rss_limit_mb=6000",
          inputs.toString()
        });
  }

  /** Whole files to begin with, each with the byte of its format before it. */
  private static void seed(Path inputs) throws Exception {
    int number = 0;
    for (Map.Entry<String, TestFiles> cargo : Cargos.all().entrySet()) {
      String scene = Cargos.scene(cargo.getValue());
      byte[] content = cargo.getValue().bytes(scene);
      if (content.length < LARGEST_INPUT) {
        write(inputs.resolve("whole_" + number++), scene, content);
      }
    }
  }

  private static void write(Path file, String scene, byte[] content) throws IOException {
    byte[] input = new byte[1 + content.length];
    input[0] = (byte) Arrays.asList(FuzzTarget.FILES).indexOf(scene);
    System.arraycopy(content, 0, input, 1, content.length);
    Files.write(file, input);
  }
}
