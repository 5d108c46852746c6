package ferry.stone.cli;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.math.LengthUnit;
import ferry.stone.core.shore.Shores;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FerryTest {
  /** A door of 90 × 205 × 4, standing along Z. */
  private static final String DOOR =
      "mtllib door.mtl\no door\nv 0 0 0\nv 90 0 0\nv 0 4 0\nv 90 4 0\nv 0 0 205\nv 90 0 205\n"
          + "v 0 4 205\nv 90 4 205\nvn 0 0 1\nusemtl oak\nf 1//1 3//1 4//1 2//1\n"
          + "f 5//1 6//1 8//1 7//1\nf 1//1 2//1 6//1 5//1\nf 3//1 7//1 8//1 4//1\n"
          + "f 1//1 5//1 7//1 3//1\nf 2//1 4//1 8//1 6//1\n";

  @TempDir Path folder;
  private final StringWriter out = new StringWriter();
  private final StringWriter err = new StringWriter();

  private int run(String... args) {
    return Ferry.run(args, new PrintWriter(out, true), new PrintWriter(err, true));
  }

  private Path door() throws IOException {
    Files.writeString(folder.resolve("door.mtl"), "newmtl oak\nKd .5 .4 .3\n");
    return Files.writeString(folder.resolve("door.obj"), DOOR);
  }

  @Test
  void inspectPrintsOneJsonObject() throws Exception {
    assertEquals(0, run("inspect", door().toString(), "--json"));
    JsonNode json = new ObjectMapper().readTree(out.toString());
    assertEquals(0.01, json.at("/frame/metresPerUnit").asDouble());
    assertEquals("right", json.at("/frame/handedness").asText());
    assertEquals(8, json.at("/counts/vertices").asInt());
    assertEquals(12, json.at("/counts/triangles").asInt());
    assertEquals(6, json.at("/counts/faces").asInt());
    assertEquals("door", json.at("/nodes/0/path").asText());
    assertEquals("mesh", json.at("/nodes/0/type").asText());
    boolean said = false;
    for (JsonNode finding : json.path("findings")) {
      said |= finding.path("code").asText().equals("unit-assumed");
    }
    assertTrue(said, "the assumed unit is a finding");
  }

  @Test
  void givenUnitAndAxisAreTaken() throws Exception {
    assertEquals(0, run("inspect", door().toString(), "--json", "--unit-in", "cm", "--up-in", "z"));
    JsonNode json = new ObjectMapper().readTree(out.toString());
    assertEquals("z", json.at("/frame/up").asText());
    assertEquals(2.05, json.at("/bounds/max/1").asDouble(), 1e-9);
    assertEquals(0, json.at("/bounds/min/1").asDouble(), 1e-9);
    for (JsonNode finding : json.path("findings")) {
      assertTrue(!finding.path("code").asText().endsWith("-assumed"));
    }
  }

  @Test
  void convertWritesTheResultAndItsProof() throws Exception {
    Path target = folder.resolve("out");
    int code =
        run(
            "convert",
            door().toString(),
            "--to",
            "glb",
            "--out",
            target.toString(),
            "--unit-in",
            "cm",
            "--up-in",
            "z",
            "--ground",
            "--centre");
    assertEquals(0, code, err.toString());
    assertTrue(Files.size(target.resolve("door.glb")) > 500);
    JsonNode proof = new ObjectMapper().readTree(target.resolve("door.proof.json").toFile());
    assertEquals(0, proof.path("lost").asInt());
    assertTrue(proof.path("kept").asInt() > 10);
    StringWriter second = new StringWriter();
    Ferry.run(
        new String[] {"inspect", target.resolve("door.glb").toString(), "--json"},
        new PrintWriter(second, true),
        new PrintWriter(err, true));
    JsonNode landed = new ObjectMapper().readTree(second.toString());
    assertEquals(-0.45, landed.at("/bounds/min/0").asDouble(), 1e-6);
    assertEquals(0, landed.at("/bounds/min/1").asDouble(), 1e-6);
    assertEquals(2.05, landed.at("/bounds/max/1").asDouble(), 1e-6);
  }

  @Test
  void inspectGoesByAShoreAndForecasts() throws Exception {
    Path quads = folder.resolve("quads.obj");
    Files.writeString(quads, "o Gate 1\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nf 1 2 3 4\n");
    assertEquals(0, run("inspect", quads.toString(), "--json", "--forecast", "glb"));
    JsonNode json = new ObjectMapper().readTree(out.toString());
    assertEquals("changed", json.at("/forecast/0/fate").asText());
    assertTrue(json.at("/forecast/0/what").asText().contains("corners"));
    // A shore of one's own that takes one triangle only.
    Path shore = folder.resolve("pond.json");
    ObjectNode own = new ObjectMapper().valueToTree(Shores.usual());
    own.put("id", "pond").withObject("/budgets").put("triangles", 1);
    Files.writeString(shore, own.toString());
    out.getBuffer().setLength(0);
    assertEquals(0, run("inspect", quads.toString(), "--shore", shore.toString()));
    assertTrue(out.toString().contains("More than the shore takes"), out.toString());
    assertEquals(2, run("inspect", quads.toString(), "--shore", "nowhere"));
    assertTrue(err.toString().contains(Shores.usual().id()), err.toString());
    assertEquals(2, run("inspect", quads.toString(), "--forecast", "stone"));
    Files.writeString(shore, "{\"id\":\"Pond!\"}");
    assertEquals(2, run("inspect", quads.toString(), "--shore", shore.toString()));
    assertTrue(err.toString().contains("is no shore"), err.toString());
  }

  @Test
  void eachPartBecomesAFileOfItsOwn() throws Exception {
    Path yard = folder.resolve("yard.obj");
    Files.writeString(
        yard,
        "o gate\nv 0 0 0\nv 1 0 0\nv 1 1 0\nf 1 2 3\n"
            + "o Post\nv 5 0 0\nv 6 0 0\nv 6 2 0\nf 4 5 6\n");
    Path target = folder.resolve("parts");
    String[] command = {
      "convert",
      yard.toString(),
      "--to",
      "glb",
      "--out",
      target.toString(),
      "--each-part",
      "--origin",
      "PLACE",
      "--pattern",
      "{number}-{part}"
    };
    assertEquals(0, run(command), err.toString());
    assertTrue(Files.exists(target.resolve("1-gate.glb")));
    assertTrue(Files.exists(target.resolve("2-Post.glb")));
    JsonNode proof = new ObjectMapper().readTree(target.resolve("yard.proof.json").toFile());
    assertEquals("2 files", proof.path("file").asText());
    assertEquals(0, proof.path("lost").asInt());
    Path lines = folder.resolve("lines.obj");
    Files.writeString(lines, "v 0 0 0\n");
    assertEquals(
        1,
        run("convert", lines.toString(), "--to", "glb", "--out", target.toString(), "--each-part"));
    assertTrue(!err.toString().contains("Unexpected fault"), err.toString());
    command[command.length - 1] = "{colour}";
    assertEquals(2, run(command));
    assertTrue(err.toString().contains("{asset}, {part} and {number}"), err.toString());
  }

  @Test
  void whatIsLostGivesExitCodeOne() throws Exception {
    Path door = door();
    Files.writeString(folder.resolve("door.mtl"), "newmtl oak\nmap_Kd gone.png\n");
    Path target = folder.resolve("out");
    assertEquals(1, run("convert", door.toString(), "--to", "gltf", "--out", target.toString()));
    assertTrue(err.toString().contains("lost"), err.toString());
    assertTrue(Files.exists(target.resolve("door.gltf")));
    assertTrue(Files.exists(target.resolve("door.bin")));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "convert x.obj --out o                      | 2",
        "convert x.obj --to stone --out o           | 2",
        "inspect                                    | 2",
        "inspect x.obj --unit-in cubit              | 2",
        "wade x.obj                                 | 2",
        "inspect nowhere.obj                        | 1"
      })
  void errorsAreOneSentence(String line, int code) {
    assertEquals(code, run(line.strip().split("\\s+")), err.toString());
    assertEquals(1, err.toString().strip().lines().count(), err.toString());
    assertTrue(err.toString().strip().endsWith("."), err.toString());
  }

  @Test
  void refusedFilesSayWhere() throws Exception {
    Path bad = Files.writeString(folder.resolve("bad.obj"), "v 0 0 0\nf 1 2 3\n");
    assertEquals(1, run("inspect", bad.toString()));
    assertTrue(err.toString().contains("line 2"), err.toString());
    assertEquals(1, err.toString().strip().lines().count());
  }

  /** FBX in centimetres and Z up, packed into a small GLB: 2.05 m high again, proved. */
  @Test
  void fbxIsConvertedAndPacked() throws Exception {
    StringBuilder text =
        new StringBuilder(
            "FBXHeaderExtension: {\n FBXVersion: 7400\n}\nGlobalSettings: {\n Properties70: {\n");
    Object[][] axes = {
      {"UpAxis", 2},
      {"UpAxisSign", 1},
      {"FrontAxis", 1},
      {"FrontAxisSign", -1},
      {"CoordAxis", 0},
      {"CoordAxisSign", 1},
      {"UnitScaleFactor", 1}
    };
    for (Object[] axis : axes) {
      text.append("P: \"" + axis[0] + "\", \"int\", \"\", \"\", " + axis[1] + "\n");
    }
    text.append(
        "}\n}\nObjects: {\n Geometry: 1, \"Geometry::\", \"Mesh\" {\n"
            + "Vertices: *12 { a: 0,0,0,90,0,0,90,0,205,0,0,205 }\n"
            + "PolygonVertexIndex: *4 { a: 0,1,2,-4 }\n}\n Model: 2, \"Model::gate\", \"Mesh\" {\n}\n}\n"
            + "Connections: {\nC: \"OO\",1,2\nC: \"OO\",2,0\n}\n");
    Path gate = Files.writeString(folder.resolve("gate.fbx"), text);
    Path target = folder.resolve("packed");
    int code =
        run(
            "convert",
            gate.toString(),
            "--to",
            "glb",
            "--out",
            target.toString(),
            "--quantize",
            "--compress",
            "--index-bits",
            "long");
    assertEquals(0, code, err.toString());
    out.getBuffer().setLength(0);
    assertEquals(0, run("inspect", target.resolve("gate.glb").toString(), "--json"));
    JsonNode json = new ObjectMapper().readTree(out.toString());
    assertEquals(2.05, json.at("/bounds/max/1").asDouble(), 1e-4);
    JsonNode proof = new ObjectMapper().readTree(target.resolve("gate.proof.json").toFile());
    assertEquals(0, proof.path("lost").asInt());
  }

  @Test
  void theSourceIsNeverWrittenOver() throws Exception {
    Path target = folder.resolve("out");
    assertEquals(0, run("convert", door().toString(), "--to", "glb", "--out", target.toString()));
    Path glb = target.resolve("door.glb");
    byte[] before = Files.readAllBytes(glb);
    int code = run("convert", glb.toString(), "--to", "glb", "--out", target.toString(), "--force");
    assertEquals(1, code);
    assertTrue(err.toString().contains("would be written over"), err.toString());
    org.junit.jupiter.api.Assertions.assertArrayEquals(before, Files.readAllBytes(glb));
  }

  @Test
  void filesThatAreThereStayUnlessForced() throws Exception {
    Path target = Files.createDirectories(folder.resolve("out"));
    Files.writeString(target.resolve("door.glb"), "mine");
    assertEquals(1, run("convert", door().toString(), "--to", "glb", "--out", target.toString()));
    assertTrue(err.toString().contains("--force"), err.toString());
    assertEquals("mine", Files.readString(target.resolve("door.glb")));
    try (var left = Files.list(target)) {
      assertEquals(1, left.count(), "no temporary folder, no proof");
    }
    assertEquals(
        0, run("convert", door().toString(), "--to", "glb", "--out", target.toString(), "--force"));
    assertTrue(Files.size(target.resolve("door.glb")) > 500);
    assertTrue(Files.exists(target.resolve("door.proof.json")));
  }

  @Test
  void aRefusedLandingLeavesNoFolderBehind() throws Exception {
    Path bad = Files.writeString(folder.resolve("bad.glb"), "glTF nonsense");
    Path target = folder.resolve("new/deep");
    assertEquals(1, run("convert", bad.toString(), "--to", "fbx", "--out", target.toString()));
    assertFalse(Files.exists(folder.resolve("new")));
  }

  @Test
  void whereNothingCanBeWrittenIsSaidInASentence() throws Exception {
    Path file = Files.writeString(folder.resolve("file"), "x");
    assertEquals(
        1,
        run("convert", door().toString(), "--to", "glb", "--out", file.resolve("out").toString()));
    assertTrue(err.toString().contains("Nothing can be written to"), err.toString());
    assertTrue(err.toString().contains("--out"), err.toString());
  }

  @Test
  void oneBadFileIsNamedAndTheRestCarriedIfAsked() throws Exception {
    Path cargo = Files.createDirectories(folder.resolve("cargo"));
    Files.writeString(cargo.resolve("a.obj"), DOOR);
    Files.writeString(cargo.resolve("b.obj"), "no obj at all");
    assertEquals(1, run("inspect", cargo.toString()));
    assertTrue(err.toString().contains("b.obj"), err.toString());
    assertTrue(err.toString().contains("--skip-bad"), err.toString());
    assertEquals(0, run("inspect", cargo.toString(), "--skip-bad", "--json"));
    assertTrue(out.toString().contains("file-skipped"), out.toString());
  }

  @Test
  void unitsAreNamedAsTheyAreRead() {
    String all = LengthUnit.SYMBOLS;
    for (var unit : LengthUnit.values()) {
      assertTrue(all.matches(".*\\b" + unit.symbol() + "\\b.*"), unit.symbol());
    }
    assertEquals(2, run("inspect", "x.obj", "--unit-in", "furlong"));
    assertTrue(err.toString().contains(all), err.toString());
  }

  /**
   * Two triangles whose seam is not sewn: the survey offers to weld it, and what was done is said.
   */
  @Test
  void offersAreAcceptedAsOnThePage() throws Exception {
    String sheet =
        "o sheet\nv 0 0 0\nv 1 0 0\nv 0 1 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nf 1 2 3\nf 4 5 6\n";
    Path file = Files.writeString(folder.resolve("sheet.obj"), sheet);
    String[] plain = {"convert", file.toString(), "--to", "obj", "--out"};
    Path accepted = folder.resolve("accepted");
    Path asIs = folder.resolve("as-is");
    run(plain[0], plain[1], plain[2], plain[3], plain[4], asIs.toString());
    assertEquals(1, out.toString().lines().count(), out.toString());
    run(plain[0], plain[1], plain[2], plain[3], plain[4], accepted.toString(), "--accept");
    assertTrue(out.toString().contains("Weld"), out.toString());
    assertEquals(6, vertices(asIs.resolve("sheet.obj")));
    assertEquals(4, vertices(accepted.resolve("sheet.obj")));
  }

  private static long vertices(Path obj) throws IOException {
    return Files.readAllLines(obj).stream().filter(line -> line.startsWith("v ")).count();
  }

  @Test
  void aChoiceAboutTheReadingIsTakenAndRefusedInASentence() throws Exception {
    Path obj =
        Files.writeString(
            folder.resolve("crate.obj"),
            "o crate\nv 0 0 0\nv 1 0 0\nv 0 1 0\ng planks\nf 1 2 3\ng bands\nf 3 2 1\n");
    assertEquals(0, run("inspect", obj.toString(), "--json", "--parts-from", "groups"));
    JsonNode json = new ObjectMapper().readTree(out.toString());
    assertEquals("planks", json.at("/nodes/0/path").asText());
    assertEquals("bands", json.at("/nodes/1/path").asText());
    assertEquals(2, run("inspect", obj.toString(), "--parts-from", "doors"));
    assertTrue(err.toString().contains("objects, groups, materials, whole"), err.toString());
    out.getBuffer().setLength(0);
    Path target = folder.resolve("parted");
    run(
        "convert",
        obj.toString(),
        "--to",
        "glb",
        "--out",
        target.toString(),
        "--parts-from",
        "groups");
    String landed = Files.readString(target.resolve("crate.glb"), StandardCharsets.ISO_8859_1);
    assertTrue(landed.contains("\"planks\"") && landed.contains("\"bands\""), out.toString());
    out.getBuffer().setLength(0);
    run("inspect", "--help");
    assertTrue(out.toString().contains("--parts-from"), out.toString());
    assertTrue(out.toString().contains("Reading OBJ"), out.toString());
  }
}
