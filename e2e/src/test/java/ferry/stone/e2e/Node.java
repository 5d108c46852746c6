package ferry.stone.e2e;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** Runs the independent readers under {@code checks/}. */
final class Node {
  private Node() {}

  static JsonNode run(String script, Path file) throws IOException, InterruptedException {
    List<String> command = new ArrayList<>(List.of("node", script, file.toString()));
    Process process =
        new ProcessBuilder(command)
            .directory(Path.of(System.getProperty("ferry.checks")).toFile())
            .redirectError(ProcessBuilder.Redirect.INHERIT)
            .start();
    String out = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    if (process.waitFor() != 0) {
      throw new AssertionError(script + " could not read " + file);
    }
    return new ObjectMapper().readTree(out);
  }
}
