package ferry.stone.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.routine.Routine;
import ferry.stone.core.routine.Routines;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Many assets in one call, and what is listed for it. */
class RunTest {
  private static final String OBJ =
      "o crate\nv 0 0 0\nv 1 0 0\nv 1 0 1\nv 0 0 1\nvn 0 1 0\nf 1//1 3//1 2//1\nf 1//1 4//1 3//1\n";

  @TempDir Path folder;
  private Path in;
  private Path out;
  private String said;
  private String complained;

  @BeforeEach
  void assets() throws Exception {
    in = Files.createDirectories(folder.resolve("in"));
    out = folder.resolve("out");
    for (String name : new String[] {"a", "b", "c"}) {
      Files.writeString(in.resolve(name + ".obj"), OBJ);
    }
    Files.writeString(in.resolve("d.obj"), "nothing");
  }

  private int ferry(String... arguments) {
    StringWriter to = new StringWriter();
    StringWriter err = new StringWriter();
    int code = Ferry.run(arguments, new PrintWriter(to, true), new PrintWriter(err, true));
    said = to.toString();
    complained = err.toString();
    return code;
  }

  private int run(String... more) {
    String[] all = new String[more.length + 4];
    System.arraycopy(new String[] {"run", in.toString(), "--out", out.toString()}, 0, all, 0, 4);
    System.arraycopy(more, 0, all, 4, more.length);
    return ferry(all);
  }

  @Test
  void aListOnTheCommandLineIsARoutineThatCanBeSaved() throws Exception {
    Path saved = folder.resolve("mine.json");
    int code =
        run(
            "--to",
            "glb,fbx",
            "--step",
            "scale factor=2 on=crate",
            "--step",
            "ground",
            "--save",
            saved.toString());
    assertThat(code).as(complained).isEqualTo(Ferry.LOST);
    assertThat(said).contains("[4/4]", "d: refused: d.obj, line 1", "Report of 4 assets");
    assertThat(out.resolve("a/glb/a.glb")).exists();
    assertThat(out.resolve("a/fbx/a.fbx")).exists();
    assertThat(out.resolve("batch.html")).exists();
    Routine routine = Routines.read(Files.readString(saved));
    assertThat(routine.steps()).hasSize(2);
    assertThat(routine.steps().get(0).pattern()).isEqualTo("crate");
    assertThat(run("--routine", saved.toString())).isEqualTo(Ferry.LOST);
    assertThat(said).contains("a: ", "(done before)");
    Files.delete(in.resolve("d.obj"));
    assertThat(run("--routine", saved.toString())).isEqualTo(Ferry.KEPT);
  }

  @Test
  void partsOfTheAssetsAndOneReportAreAllOfThem() throws Exception {
    Files.delete(in.resolve("d.obj"));
    assertThat(run("--to", "glb", "--shard", "1/2")).isEqualTo(Ferry.KEPT);
    assertThat(out.resolve("batch.html")).doesNotExist();
    assertThat(run("--to", "glb", "--summary")).as("b was not run").isEqualTo(Ferry.LOST);
    JsonNode batch = new ObjectMapper().readTree(out.resolve("batch.json").toFile());
    assertThat(batch.at("/verdicts/missing").asInt()).isEqualTo(1);
    assertThat(run("--to", "glb", "--shard", "2/2")).isEqualTo(Ferry.KEPT);
    assertThat(run("--to", "glb", "--summary")).isEqualTo(Ferry.KEPT);
  }

  @Test
  void jsonIsALineForEachAsset() throws Exception {
    run("--to", "glb", "--json", "--jobs", "1");
    String[] lines = said.strip().split("\n");
    assertThat(lines).hasSize(4);
    assertThat(new ObjectMapper().readTree(lines[0]).path("verdict").asText()).isEqualTo("KEPT");
    assertThat(new ObjectMapper().readTree(lines[3]).path("verdict").asText()).isEqualTo("REFUSED");
  }

  @Test
  void eachFileIsInspectedByItself() throws Exception {
    String a = in.resolve("a.obj").toString();
    String d = in.resolve("d.obj").toString();
    assertThat(ferry("inspect", "--each", "--json", a, d, a)).isEqualTo(Ferry.LOST);
    String[] lines = said.strip().split("\n");
    assertThat(lines).hasSize(3);
    ObjectMapper mapper = new ObjectMapper();
    assertThat(mapper.readTree(lines[0]).path("asset").asText()).isEqualTo("a");
    assertThat(mapper.readTree(lines[0]).at("/counts/triangles").asInt()).isEqualTo(2);
    assertThat(mapper.readTree(lines[1]).path("problem").asText()).contains("d.obj", "line 1");
    assertThat(ferry("inspect", "--each", a)).isZero();
    assertThat(said).contains("2 triangles");
  }

  @Test
  void assetsCanBeNamedInAFile() throws Exception {
    Path list = folder.resolve("list.txt");
    Files.writeString(list, in.resolve("a.obj") + "\n" + in.resolve("b.obj") + "\n");
    int code = ferry("run", "@" + list, "--to", "glb", "--out", out.toString());
    assertThat(code).isEqualTo(Ferry.KEPT);
    assertThat(said).contains("[2/2]");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "--jobs 0 --to glb|at least one job",
        "--to tape|tape",
        "--shard 3/2 --to glb|K from 1 to N",
        "--step fly --to glb|there is no step \"fly\"",
        "--step scale_by=2 --to glb|there is no step",
        "--jobs 1|--routine ROUTINE or --to FORMAT is needed",
        "--routine web-room --to glb|says all of it",
        "--routine nowhere|takes a JSON file or one of web-room"
      })
  void wrongUsageIsToldInASentence(String arguments, String told) {
    assertThat(run(arguments.split(" "))).isEqualTo(Ferry.USAGE);
    assertThat(complained).contains(told);
    assertThat(out).doesNotExist();
  }

  @Test
  void whatThereIsIsListed() throws Exception {
    assertThat(ferry("routines")).isZero();
    assertThat(said).contains("web-room", "sculpt-ready", "detail-levels", "parts-at-origin");
    assertThat(ferry("routines", "web-room")).isZero();
    assertThat(Routines.read(said)).isEqualTo(Routines.builtIn("web-room").orElseThrow());
    assertThat(ferry("routines", "--steps")).isZero();
    assertThat(said).contains("scale  Scale", "factor=number");
    assertThat(ferry("routines", "--schema")).isZero();
    assertThat(new ObjectMapper().readTree(said).path("title").asText()).contains("Routine");
    assertThat(ferry("shores")).isZero();
    assertThat(said).contains("y-up-metre-web-room");
    assertThat(ferry("shores", "y-up-metre")).isZero();
    assertThat(said).contains("\"metresPerUnit\" : 1.0");
    assertThat(ferry("formats")).isZero();
    assertThat(said).contains("glb  GLB, read and written");
    assertThat(ferry("formats", "stl")).isZero();
    assertThat(said).contains("lost  Skins");
    assertThat(ferry("completion")).isZero();
    assertThat(said).contains("complete -F _complete_ferry");
    assertThat(ferry("manual", "--out", folder.resolve("man").toString())).isZero();
    assertThat(folder.resolve("man/ferry-run.adoc")).exists();
    assertThat(ferry("shores", "moon")).isEqualTo(Ferry.USAGE);
  }

  @Test
  void aWatchedFolderIsEmptied() throws Exception {
    int code =
        ferry(
            "watch",
            in.toString(),
            "--out",
            out.toString(),
            "--to",
            "glb",
            "--once",
            "--quiet-for",
            "0");
    assertThat(code).isEqualTo(Ferry.LOST);
    assertThat(out.resolve("done/a/a.glb")).exists();
    assertThat(out.resolve("trouble/d/source/d.obj")).exists();
    assertThat(in).isEmptyDirectory();
    assertThat(ferry("watch", in.toString(), "--out", in + "/x", "--to", "glb", "--once"))
        .isEqualTo(Ferry.USAGE);
  }
}
