package ferry.stone.cli;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class TakePictureTest {
  @TempDir Path folder;
  private final StringWriter out = new StringWriter();
  private final StringWriter err = new StringWriter();
  private Path plank;

  @BeforeEach
  void plank() throws IOException {
    String obj = "o plank\nv -1 -1 0\nv 1 -1 0\nv 1 1 0\nv -1 1 0\nf 1 2 3 4\n";
    plank = Files.writeString(folder.resolve("plank.obj"), obj);
  }

  private int run(String... args) {
    return Ferry.run(args, new PrintWriter(out, true), new PrintWriter(err, true));
  }

  private String file(String name) {
    return folder.resolve(name).toString();
  }

  @Test
  void aPictureHasTheSizeThatIsAskedForAndAClearBackground() throws Exception {
    String png = file("a.png");
    assertEquals(
        0, run("picture", plank.toString(), "--out", png, "--from", "front", "--size", "90x60"));
    BufferedImage image = ImageIO.read(Path.of(png).toFile());
    assertEquals(90, image.getWidth());
    assertEquals(60, image.getHeight());
    assertEquals(0, image.getRGB(2, 2) >>> 24, "nothing is there");
    assertEquals(255, image.getRGB(45, 30) >>> 24, "the plank is");
  }

  @Test
  void allSidesGetFilesOfTheirOwn() {
    String png = file("a.png");
    assertEquals(0, run("picture", plank.toString(), "--out", png, "--from", "all"));
    for (String side : new String[] {"corner", "front", "right", "back", "left", "top"}) {
      assertTrue(Files.exists(folder.resolve("a_" + side + ".png")), side);
    }
    assertFalse(Files.exists(Path.of(png)));
  }

  @Test
  void aFileThatIsThereIsReplacedOnlyWhereThatIsAsked() throws Exception {
    String png = file("a.png");
    run("picture", plank.toString(), "--out", png);
    byte[] first = Files.readAllBytes(Path.of(png));
    assertEquals(2, run("picture", plank.toString(), "--out", png));
    assertTrue(err.toString().contains("--force replaces it"), err.toString());
    assertEquals(0, run("picture", plank.toString(), "--out", png, "--force"));
    assertArrayEquals(first, Files.readAllBytes(Path.of(png)), "the same pixels again");
  }

  @Test
  void whatIsReadIsNeverReplaced() throws Exception {
    byte[] before = Files.readAllBytes(plank);
    assertEquals(2, run("picture", plank.toString(), "--out", plank.toString(), "--force"));
    assertArrayEquals(before, Files.readAllBytes(plank));
  }

  @ParameterizedTest
  @ValueSource(strings = {"0x5", "5", "5000x10", "10x10x10", "-1x5"})
  void aSizeThatIsNoneIsAWrongUsage(String size) {
    assertEquals(2, run("picture", plank.toString(), "--out", file("a.png"), "--size=" + size));
    assertTrue(err.toString().contains("--size takes"), err.toString());
  }

  @Test
  void aSideThatIsNoneIsAWrongUsage() {
    assertEquals(2, run("picture", plank.toString(), "--out", file("a.png"), "--from", "below"));
    assertTrue(err.toString().contains("--from takes corner"), err.toString());
  }

  @Test
  void aLandingHasItsReportBesideItWhereThatIsAsked() throws Exception {
    assertEquals(
        0,
        run(
            "convert",
            plank.toString(),
            "--to",
            "usda",
            "--unit-in",
            "m",
            "--report",
            "--out",
            file("landed")));
    String page = Files.readString(folder.resolve("landed/plank.report.html"));
    assertTrue(page.contains("Everything that was compared is the same."), "the verdict");
    assertEquals(9, page.split("data:image/png;base64,").length, "four pictures of both sides");
    assertTrue(page.contains("plank.usda") && page.contains("plank.obj"), "both files");
    assertFalse(page.contains("plank.proof.json"), "no file of the proof itself");
  }

  @Test
  void pagesStandBesideTheLandingAndBesideAComparisonWhereTheyAreAsked() throws Exception {
    String[] convert = {
      "convert", plank.toString(), "--to", "glb", "--page", "--seam", "--out", file("landed")
    };
    assertEquals(0, run(convert));
    String alone = Files.readString(folder.resolve("landed/plank.page.html"));
    assertTrue(alone.contains("data-side=\"0\"") && !alone.contains("data-side=\"1\""));
    assertTrue(alone.contains("\"asItIs\":true"), "the landed file itself");
    String both = Files.readString(folder.resolve("landed/plank.seam.html"));
    assertTrue(both.contains("data-side=\"1\""));
    assertEquals(1, run(convert), "they are not replaced unasked");
    assertTrue(err.toString().contains("--force"), err.toString());
    String seam = file("two.html");
    String other = folder.resolve("landed/plank.glb").toString();
    run("prove", plank.toString(), other, "--seam", seam);
    assertTrue(Files.readString(Path.of(seam)).contains("plank against plank"));
    assertEquals(2, run("prove", plank.toString(), other, "--seam", other));
  }
}
