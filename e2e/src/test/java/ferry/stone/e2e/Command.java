package ferry.stone.e2e;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;

/** The command line as a process of its own. */
final class Command {
  private Command() {}

  private static List<String> java() {
    return List.of(
        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
        "-Xmx1g",
        "-XX:+UseSerialGC",
        "-XX:TieredStopAtLevel=1",
        "-cp",
        System.getProperty("java.class.path"),
        "ferry.stone.cli.Ferry");
  }

  static Process start(Path log, String... arguments) throws Exception {
    List<String> command = new ArrayList<>(java());
    command.addAll(List.of(arguments));
    return new ProcessBuilder(command)
        .redirectErrorStream(true)
        .redirectOutput(ProcessBuilder.Redirect.appendTo(log.toFile()))
        .start();
  }

  /** Runs it to its end; its exit code. */
  static int run(Path log, String... arguments) throws Exception {
    Process process = start(log, arguments);
    if (!process.waitFor(5, TimeUnit.MINUTES)) {
      process.destroyForcibly();
      throw new IllegalStateException("the command does not end: " + List.of(arguments));
    }
    return process.exitValue();
  }

  /** A script that is the command, for schedulers. */
  static Path script(Path file, String before) throws Exception {
    StringBuilder text = new StringBuilder("#!/bin/bash\n").append(before).append("\nexec");
    java().forEach(word -> text.append(" '").append(word).append('\''));
    Files.writeString(file, text.append(" \"$@\"\n"));
    file.toFile().setExecutable(true);
    return file;
  }
}
