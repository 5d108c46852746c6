package ferry.stone.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.format.Format;
import ferry.stone.core.format.Formats;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Cargos of several files on the command line: frames, parts, broken ones, every format. */
class SeveralFilesTest {
  private static final String FACE = "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n";

  @TempDir Path folder;
  private final StringWriter out = new StringWriter();
  private final StringWriter err = new StringWriter();

  private int run(String... args) {
    out.getBuffer().setLength(0);
    err.getBuffer().setLength(0);
    return Ferry.run(args, new PrintWriter(out, true), new PrintWriter(err, true));
  }

  private JsonNode inspected(String... args) throws Exception {
    List<String> all = new ArrayList<>(List.of("inspect"));
    all.addAll(List.of(args));
    all.add("--json");
    assertThat(run(all.toArray(String[]::new))).as(err.toString()).isZero();
    return new ObjectMapper().readTree(out.toString());
  }

  private void swell(int frames) throws IOException {
    StringBuilder text = new StringBuilder();
    for (int f = 1; f <= frames; f++) {
      text.append(FACE.replace("f 1 2 3", "f -3 -2 -1"));
      Files.writeString(folder.resolve("swell_" + f + ".obj"), text);
    }
  }

  @Test
  void numberedFilesAreFramesIfAsked() throws Exception {
    swell(4);
    JsonNode parts = inspected(folder.toString());
    assertThat(parts.at("/counts/meshes").asInt()).isEqualTo(4);
    assertThat(codes(parts)).contains("numbered-run");
    JsonNode frames = inspected(folder.toString(), "--numbered-files", "frames");
    assertThat(frames.at("/counts/meshes").asInt()).isEqualTo(1);
    assertThat(codes(frames)).contains("numbered-frames").doesNotContain("numbered-run");
    assertThat(run("inspect", folder.toString(), "--numbered-files", "moments")).isEqualTo(2);
    assertThat(err.toString()).contains("parts, frames");
    assertThat(run("inspect", folder.toString(), "--files-per-second", "fast")).isEqualTo(2);
    assertThat(err.toString()).contains("takes a number");
  }

  private static List<String> codes(JsonNode json) {
    List<String> codes = new ArrayList<>();
    json.path("findings").forEach(f -> codes.add(f.path("code").asText()));
    return codes;
  }

  @Test
  void aMeshThatChangesLandsAsItIsAtFirstAndThatIsALoss() throws Exception {
    swell(3);
    Path target = folder.resolve("out");
    int code =
        run(
            "convert",
            folder.toString(),
            "--numbered-files",
            "frames",
            "--to",
            "glb",
            "--out",
            target.toString());
    assertThat(code).as("something was lost").isEqualTo(1);
    JsonNode proof;
    try (Stream<Path> files = Files.list(target)) {
      Path file = files.filter(f -> f.toString().endsWith(".proof.json")).findFirst().orElseThrow();
      proof = new ObjectMapper().readTree(Files.readString(file));
    }
    assertThat(proof.path("lost").asInt()).isPositive();
    assertThat(proof.path("rows").toString()).contains("faces change over time");
  }

  static Stream<String> formats() {
    return Formats.written().stream()
        .map(Format::key)
        .filter(k -> !k.equals("mdd") && !k.equals("pc2"));
  }

  @ParameterizedTest
  @MethodSource("formats")
  void everyFormatIsWrittenAndReadAgain(String format) throws Exception {
    Path obj = Files.writeString(folder.resolve("crate.obj"), "o crate\n" + FACE);
    Path target = folder.resolve("out");
    int code = run("convert", obj.toString(), "--to", format, "--out", target.toString());
    assertThat(code).as(err.toString()).isLessThan(2);
    Path file;
    try (Stream<Path> files = Files.list(target)) {
      file =
          files
              .filter(f -> f.getFileName().toString().equals("crate." + format))
              .findFirst()
              .orElseThrow();
    }
    JsonNode again = inspected(file.toString());
    assertThat(again.at("/counts/triangles").asInt()).isEqualTo(1);
  }

  @Test
  void optionsOfAnotherFormatAreRefused() throws Exception {
    Path obj = Files.writeString(folder.resolve("crate.obj"), "o crate\n" + FACE);
    int code =
        run(
            "convert",
            obj.toString(),
            "--to",
            "stl",
            "--out",
            folder.resolve("out").toString(),
            "--quantize");
    assertThat(code).isEqualTo(2);
    assertThat(err.toString()).contains("--quantize").contains("not of STL");
    assertThat(folder.resolve("out")).doesNotExist();
  }

  @Test
  void helpListsEveryOptionOfEveryFormat() {
    run("convert", "--help");
    String help = out.toString();
    for (Format format : Formats.written()) {
      format
          .writer()
          .orElseThrow()
          .fields()
          .forEach(
              field ->
                  assertThat(help).contains("--").contains(FormatArguments.kebab(field.name())));
    }
    assertThat(help.getBytes(StandardCharsets.UTF_8).length).isGreaterThan(2000);
  }
}
