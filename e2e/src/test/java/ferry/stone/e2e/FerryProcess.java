package ferry.stone.e2e;

import java.io.IOException;
import java.net.HttpURLConnection;
import java.net.ServerSocket;
import java.net.URI;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/** The packaged server as a process of its own. */
final class FerryProcess implements AutoCloseable {
  private final Process process;
  final String url;

  private FerryProcess(Process process, String url) {
    this.process = process;
    this.url = url;
  }

  static FerryProcess start(Path data, boolean demo) throws Exception {
    int port;
    try (ServerSocket socket = new ServerSocket(0)) {
      port = socket.getLocalPort();
    }
    List<String> command = new ArrayList<>();
    command.add(Path.of(System.getProperty("java.home"), "bin", "java").toString());
    command.addAll(List.of("-Xmx2g", "-jar", System.getProperty("ferry.server.jar")));
    command.addAll(
        List.of("--server.port=" + port, "--ferry.data=" + data, "--ferry.demo=" + demo));
    Process process =
        new ProcessBuilder(command)
            .redirectErrorStream(true)
            .redirectOutput(data.resolveSibling(data.getFileName() + ".log").toFile())
            .start();
    FerryProcess ferry = new FerryProcess(process, "http://localhost:" + port);
    Instant end = Instant.now().plus(Duration.ofSeconds(90));
    while (!ferry.answers()) {
      if (Instant.now().isAfter(end) || !process.isAlive()) {
        process.destroyForcibly();
        throw new IllegalStateException("the server did not start");
      }
      Thread.sleep(200);
    }
    return ferry;
  }

  private boolean answers() {
    try {
      HttpURLConnection connection =
          (HttpURLConnection) URI.create(url + "/api/jobs").toURL().openConnection();
      connection.setConnectTimeout(500);
      return connection.getResponseCode() == 200;
    } catch (IOException e) {
      return false;
    }
  }

  /** Ends it as a crash would. */
  void kill() throws InterruptedException {
    process.destroyForcibly().waitFor();
  }

  @Override
  public void close() throws Exception {
    process.destroy();
    process.waitFor();
  }
}
