package ferry.stone.core.view.picture;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import ferry.stone.core.RandomRig;
import ferry.stone.core.RandomWreck;
import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.work.Progress;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What is drawn where, in which colour, and what hides what. */
class PictureTest {
  private final TestFiles files = new TestFiles();

  private Pixels taken(ViewFrom from, String obj, String mtl) throws Exception {
    files.with("a.obj", "mtllib a.mtl\n" + obj).with("a.mtl", mtl);
    Scene scene = CargoReader.read("a", ReadContext.of(files));
    return Picture.of(scene, files).taken(from, 100, 100, Progress.NONE);
  }

  private static int at(Pixels picture, int x, int y) {
    return picture.argb()[y * picture.width() + x];
  }

  private static int red(int argb) {
    return argb >> 16 & 255;
  }

  private static int green(int argb) {
    return argb >> 8 & 255;
  }

  private static int blue(int argb) {
    return argb & 255;
  }

  /** A square of 2 m that looks along Z, at a depth. */
  private static String square(double z, String material) {
    return "usemtl %s\nv -1 -1 %s\nv 1 -1 %s\nv 1 1 %s\nv -1 1 %s\nf -4 -3 -2 -1\n"
        .formatted(material, z, z, z, z);
  }

  private static final String COLOURS =
      "newmtl red\nKd 1 0 0\nnewmtl blue\nKd 0 0 1\nnewmtl veil\nKd 0 0 1\nd 0.5\n";

  @Test
  void aSquareFillsThePictureButForItsMargin() throws Exception {
    Pixels picture = taken(ViewFrom.FRONT, square(0, "red"), COLOURS);
    assertThat(at(picture, 0, 0)).as("nothing is there").isZero();
    assertThat(at(picture, 50, 50) >>> 24).isEqualTo(255);
    assertThat(red(at(picture, 50, 50))).isGreaterThan(150);
    assertThat(green(at(picture, 50, 50)) + blue(at(picture, 50, 50))).isZero();
    int covered = 0;
    for (int pixel : picture.argb()) {
      covered += pixel >>> 24;
    }
    // 2 m in 2 · 1.06 m, both ways.
    double part = 1 / (1.06 * 1.06);
    assertThat(covered / 255.0 / picture.argb().length).isBetween(part - 0.01, part + 0.01);
  }

  @Test
  void whatIsNearerHidesWhatIsBehindItWhicheverComesFirst() throws Exception {
    String near = square(1, "red");
    String far = square(-1, "blue");
    for (String both : new String[] {near + far, far + near}) {
      assertThat(blue(at(taken(ViewFrom.FRONT, both, COLOURS), 50, 50))).isZero();
      assertThat(red(at(taken(ViewFrom.BACK, both, COLOURS), 50, 50))).isZero();
    }
  }

  @Test
  void bothSidesAreLitAlike() throws Exception {
    int front = red(at(taken(ViewFrom.FRONT, square(0, "red"), COLOURS), 50, 50));
    int back = red(at(taken(ViewFrom.BACK, square(0, "red"), COLOURS), 50, 50));
    assertThat(back).isCloseTo(front, org.assertj.core.data.Offset.offset(2));
  }

  @Test
  void aVeilLetsThroughWhatIsBehindIt() throws Exception {
    String both = square(1, "veil") + square(-1, "red");
    int pixel = at(taken(ViewFrom.FRONT, both, COLOURS), 50, 50);
    assertThat(red(pixel)).isGreaterThan(80);
    assertThat(blue(pixel)).isGreaterThan(80);
  }

  @Test
  void anImageStandsUprightAndTheRightWayRound() throws Exception {
    int[] quarters = {0xffff0000, 0xff00ff00, 0xff0000ff, 0xffffffff};
    int[] argb = new int[64];
    Arrays.setAll(argb, i -> quarters[i % 8 / 4 + 2 * (i / 32)]);
    files.with("four.png", ImageCodec.encodePng(new Pixels(8, 8, argb, false)));
    String obj =
        "vt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\nusemtl four\nv -1 -1 0\nv 1 -1 0\nv 1 1 0\nv -1 1 0\n"
            + "f 1/1 2/2 3/3 4/4\n";
    Pixels picture = taken(ViewFrom.FRONT, obj, "newmtl four\nKd 1 1 1\nmap_Kd four.png\n");
    assertThat(red(at(picture, 20, 20))).isGreaterThan(2 * blue(at(picture, 20, 20)));
    assertThat(green(at(picture, 80, 20))).isGreaterThan(2 * red(at(picture, 80, 20)));
    assertThat(blue(at(picture, 20, 80))).isGreaterThan(2 * green(at(picture, 20, 80)));
    int white = at(picture, 80, 80);
    assertThat(red(white)).isEqualTo(green(white)).isEqualTo(blue(white)).isGreaterThan(150);
  }

  @Test
  void linesAndPointsAreDrawn() throws Exception {
    Pixels picture =
        taken(ViewFrom.FRONT, "v -1 0 0\nv 1 0 0\nv 0 1 0\nv 0 -1 0\nl 1 2\np 3\np 4\n", "");
    assertThat(at(picture, 50, 50) >>> 24).isGreaterThan(100);
    assertThat(at(picture, 50, 25)).isZero();
    assertThat(at(picture, 50, 3) >>> 24).isGreaterThan(100);
  }

  @ParameterizedTest
  @EnumSource(ViewFrom.class)
  void theSamePictureHasTheSamePixels(ViewFrom from) {
    Scene scene = RandomRig.of(new Random(5), 4);
    int[] once = Picture.of(scene, files).taken(from, 120, 90, Progress.NONE).argb();
    int[] again = Picture.of(scene, files).taken(from, 120, 90, Progress.NONE).argb();
    assertThat(again).isEqualTo(once);
    assertThat(Arrays.stream(once).anyMatch(pixel -> pixel != 0)).isTrue();
  }

  @ParameterizedTest
  @ValueSource(ints = {0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18, 19})
  void whateverIsBrokenIsDrawnOrLeftOut(int seed) {
    Scene wreck = RandomWreck.of(new Random(seed));
    assertThat(Picture.of(wreck, files).taken(ViewFrom.CORNER, 40, 30, Progress.NONE).argb())
        .hasSize(1200);
  }

  @Test
  void aMomentOfTheClipIsDrawnAsItIsThen() {
    Scene scene = RandomRig.of(new Random(3), 4);
    int[] rest = Picture.of(scene, files).taken(ViewFrom.FRONT, 80, 60, Progress.NONE).argb();
    int[] moved =
        Picture.of(scene, files, 0.5, Progress.NONE)
            .taken(ViewFrom.FRONT, 80, 60, Progress.NONE)
            .argb();
    assertThat(moved).isNotEqualTo(rest);
  }

  @Test
  void aPictureOfNoSizeIsRefused() {
    Picture picture = Picture.of(RandomRig.of(new Random(1), 4), files);
    assertThatThrownBy(() -> picture.taken(ViewFrom.FRONT, 0, 10, Progress.NONE))
        .hasMessageContaining("1 to 4096");
  }
}
