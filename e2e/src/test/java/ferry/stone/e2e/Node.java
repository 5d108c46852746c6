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
  private static final ObjectMapper JSON = new ObjectMapper();

  private Node() {}

  static JsonNode run(String script, Path file, String... more)
      throws IOException, InterruptedException {
    List<String> command = new ArrayList<>(List.of("node", script, file.toString()));
    command.addAll(List.of(more));
    return JSON.readTree(output(command));
  }

  /** What a script says of each file, a line for each. */
  static List<JsonNode> lines(String script, List<Path> files)
      throws IOException, InterruptedException {
    List<String> command = new ArrayList<>(List.of("node", script));
    files.forEach(f -> command.add(f.toString()));
    return lines(command);
  }

  /** What a program says, one JSON object a line. */
  static List<JsonNode> lines(List<String> command) throws IOException, InterruptedException {
    List<JsonNode> all = new ArrayList<>();
    for (String line : output(command).lines().toList()) {
      all.add(JSON.readTree(line));
    }
    return all;
  }

  private static String output(List<String> command) throws IOException, InterruptedException {
    Process process =
        new ProcessBuilder(command)
            .directory(Path.of(System.getProperty("ferry.checks")).toFile())
            .redirectError(ProcessBuilder.Redirect.INHERIT)
            .start();
    String out = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    if (process.waitFor() != 0) {
      throw new AssertionError(String.join(" ", command.subList(0, 2)) + " failed");
    }
    return out;
  }
}
