package ferry.stone.e2e;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.TimeUnit;

/** The ufbx crate as a reader of FBX, where Rust's cargo is at hand to build it. */
final class Ufbx {
  private static final int MOST_MINUTES = 5;

  private Ufbx() {}

  /** The built program; empty where it cannot be built. */
  static Optional<Path> built() throws Exception {
    Path source = Path.of(System.getProperty("ferry.checks")).resolve("ufbx");
    Path target = source.resolve("../../target/ufbx").normalize();
    Path program = target.resolve("release/look");
    Files.createDirectories(target);
    try {
      ProcessBuilder build =
          new ProcessBuilder(
                  "cargo",
                  "build",
                  "--release",
                  "--locked",
                  "--quiet",
                  "--target-dir",
                  target.toString())
              .directory(source.toFile())
              .redirectErrorStream(true)
              .redirectOutput(target.resolve("build.log").toFile());
      Process cargo = build.start();
      if (!cargo.waitFor(MOST_MINUTES, TimeUnit.MINUTES) || cargo.exitValue() != 0) {
        cargo.destroyForcibly();
        return Optional.empty();
      }
    } catch (java.io.IOException e) {
      return Optional.empty();
    }
    return Files.isExecutable(program) ? Optional.of(program) : Optional.empty();
  }

  static List<JsonNode> look(Path program, List<Path> files) throws Exception {
    List<String> command = new ArrayList<>(List.of(program.toString()));
    files.forEach(f -> command.add(f.toString()));
    return Node.lines(command);
  }
}
