package ferry.stone.cli;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.math.Frame;
import ferry.stone.core.shore.Shore;
import ferry.stone.core.shore.Shores;
import ferry.stone.core.shore.Tolerances;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ProveTest {
  private static final ObjectMapper JSON = new ObjectMapper();
  private static final String PLANK =
      "o plank\nv 0 0 0\nv 2 0 0\nv 2 1 0\nv 0 1 0\nf 1 2 3 4\no peg\nv 5 0 0\nv 6 0 0\nv 5 1 0\n"
          + "f 5 6 7\n";

  @TempDir Path folder;
  private final StringWriter out = new StringWriter();
  private final StringWriter err = new StringWriter();

  private int run(String... args) {
    return Ferry.run(args, new PrintWriter(out, true), new PrintWriter(err, true));
  }

  private String file(String name, String text) throws IOException {
    Path place = folder.resolve(name);
    Files.createDirectories(place.getParent());
    return Files.writeString(place, text).toString();
  }

  @Test
  void equalFilesAreTheSameAsset() throws Exception {
    assertEquals(0, run("prove", file("a/x.obj", PLANK), file("b/y.obj", PLANK), "--unit-in", "m"));
    assertTrue(out.toString().startsWith("The same asset: "), out.toString());
  }

  @Test
  void aMovedVertexIsNamedWithItsDistance() throws Exception {
    String moved = PLANK.replace("v 2 1 0", "v 2 1 0.001");
    String json = folder.resolve("facts.json").toString();
    int code =
        run(
            "prove",
            file("a/x.obj", PLANK),
            file("b/x.obj", moved),
            "--unit-in",
            "m",
            "--json",
            json);
    assertEquals(1, code);
    assertTrue(out.toString().contains("plank, Vertex order"), out.toString());
    assertTrue(out.toString().contains("1.000 mm"), out.toString());
    JsonNode tree = new ObjectMapper().readTree(Path.of(json).toFile());
    assertEquals(7, tree.at("/first/counts/vertices").asInt());
    assertTrue(tree.at("/changed").asInt() > 0);
  }

  @Test
  void partsAreMatchedByHand() throws Exception {
    String other = PLANK.replace("o plank", "o deck").replace("v 2 1 0", "v 2 1.5 0");
    String a = file("a/x.obj", PLANK);
    String b = file("b/x.obj", other);
    assertEquals(1, run("prove", a, b, "--match", "plank=deck"));
    assertTrue(out.toString().contains("plank, Compared with: plank → deck; found as you say"));
    assertEquals(2, run("prove", a, b, "--match", "plank=oar"));
    assertTrue(err.toString().contains("has no part \"oar\""), err.toString());
  }

  @Test
  void anAssetElsewhereIsTheSameOnceItIsPutOnTheSpot() throws Exception {
    String away = PLANK.replaceAll("(?m)^v (\\d)", "v 1$1");
    String a = file("a/x.obj", PLANK);
    String b = file("b/x.obj", away);
    assertEquals(1, run("prove", a, b));
    assertEquals(0, run("prove", a, b, "--together", "BASES"));
  }

  @Test
  void aShoreSaysWhatMayDiffer() throws Exception {
    String a = file("a/x.obj", PLANK);
    String b = file("b/x.obj", PLANK.replace("v 2 1 0", "v 2 1 0.001"));
    assertEquals(1, run("prove", a, b, "--unit-in", "m"));
    for (double apart : new double[] {0.5, 2}) {
      Shore own =
          Shores.nearest(Frame.Y_UP_METRE)
              .withTolerances(new Tolerances(apart, null, null, null, null));
      String shore = file("own.json", JSON.writeValueAsString(own));
      int code = run("prove", a, b, "--unit-in", "m", "--shore", shore);
      assertEquals(apart > 1 ? 0 : 1, code, out.toString());
      assertEquals(apart > 1, out.toString().contains("of them within what the shore lets differ"));
    }
  }

  @Test
  void aTakeIsNamedOfBoth() throws Exception {
    String a = file("a/x.obj", PLANK);
    assertEquals(2, run("prove", a, a, "--takes", "wave"));
    assertTrue(err.toString().contains("takes CLIP=CLIP"), err.toString());
    assertEquals(2, run("prove", a, a, "--takes", "wave=flutter"));
    assertTrue(err.toString().contains("has no clip \"wave\""), err.toString());
  }

  @Test
  void oneFileOrThreeAreAWrongUsage() throws Exception {
    assertEquals(2, run("prove", file("a.obj", PLANK)));
    assertTrue(err.toString().contains("Two files are compared; 1 were given"), err.toString());
  }

  @Test
  void whatIsComparedIsNeverReplaced() throws Exception {
    String a = file("a/x.obj", PLANK);
    assertEquals(2, run("prove", a, file("b/x.obj", PLANK), "--json", a));
    assertTrue(err.toString().contains("would be replaced"), err.toString());
    assertEquals(PLANK, Files.readString(Path.of(a)));
  }
}
