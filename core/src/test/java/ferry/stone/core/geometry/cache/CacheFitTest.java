package ferry.stone.core.geometry.cache;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.math.LengthUnit;
import ferry.stone.core.scene.mesh.Coordinates;
import java.io.IOException;
import java.util.List;
import java.util.Random;
import org.joml.Matrix3d;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/** Frames of reference are found again, whatever they were. */
class CacheFitTest {
  private static WavingSheet sheet(Matrix4d frame) {
    return new WavingSheet(1, 2, 20, sample -> frame);
  }

  /** How far the points of all samples are off after a fit. */
  private static double farthest(CacheFit fit, WavingSheet cache) {
    float[] points = new float[3 * cache.pointCount()];
    double most = 0;
    for (int s = 0; s < cache.sampleCount(); s++) {
      cache.read(s, 0, cache.pointCount(), points);
      for (int v = 0; v < cache.pointCount(); v++) {
        Vector3d p = new Vector3d(points[3 * v], points[3 * v + 1], points[3 * v + 2]);
        most = Math.max(most, fit.matrix().transformPosition(p).distance(WavingSheet.at(v, s)));
      }
    }
    return most;
  }

  @Test
  void all48FramesInEveryUsualUnitAreFound() throws IOException {
    assertThat(AxisFrame.ALL).hasSize(48).doesNotHaveDuplicates();
    assertThat(AxisFrame.ALL.get(0)).isEqualTo(AxisFrame.SAME);
    assertThat(AxisFrame.ALL.stream().filter(AxisFrame::isMirror)).hasSize(24);
    for (AxisFrame axes : AxisFrame.ALL) {
      for (LengthUnit unit : LengthUnit.values()) {
        Matrix4d there = axes.matrix(1 / unit.metres());
        WavingSheet cache = sheet(there);
        CacheFit fit = CacheFit.of(cache, WavingSheet.rest());
        assertThat(fit.scale()).as(axes + " " + unit).isCloseTo(unit.metres(), within(1e-9));
        assertThat(fit.axes().isMirror()).isEqualTo(axes.isMirror());
        assertThat(farthest(fit, cache)).isLessThan(1e-4);
        assertThat(fit.turn().angle()).isCloseTo(0, within(1e-9));
        assertThat(fit.move().length()).isZero();
        assertThat(fit.isAsItIs())
            .isEqualTo(axes.equals(AxisFrame.SAME) && unit == LengthUnit.METRE);
      }
    }
  }

  @Test
  void aTurnAndAMoveBesideTheAxesAreFound() throws IOException {
    Random random = new Random(7);
    for (int i = 0; i < 40; i++) {
      AxisFrame axes = AxisFrame.ALL.get(random.nextInt(48));
      Quaterniond turn =
          new Quaterniond()
              .rotateXYZ(random.nextDouble(), random.nextDouble(), random.nextDouble());
      Matrix4d there = new Matrix4d().translation(3, -8, 40).rotate(turn).mul(axes.matrix(100));
      WavingSheet cache = sheet(there);
      CacheFit fit = CacheFit.of(cache, WavingSheet.rest());
      assertThat(farthest(fit, cache)).isLessThan(1e-4);
      assertThat(fit.scale()).isCloseTo(0.01, within(1e-9));
      assertThat(fit.axes().isMirror()).isEqualTo(axes.isMirror());
      assertThat(fit.left()).isLessThan(1e-4);
    }
  }

  /**
   * The example of Umeyama 1991, section IV: (0,0), (1,0), (0,2) onto (0,0), (−1,0), (0,2), where
   * the best turn without a mirror is c R with c = 0.721 and R by 0.832, 0.555 (from memory).
   */
  @Test
  void theExampleOfThePaperComesOut() {
    float[] from = {0, 0, 0, 1, 0, 0, 0, 2, 0};
    double[] to = {0, 0, 0, -1, 0, 0, 0, 2, 0};
    PointPairs pairs = new PointPairs(from, to);
    // In the plane the paper's turn has no third axis to turn about: hold it there.
    double c = 0.832;
    double s = 0.555;
    Matrix3d paper = new Matrix3d(c, -s, 0, s, c, 0, 0, 0, 1);
    double scale = pairs.scale(paper);
    assertThat(scale).isCloseTo(0.721, within(1e-3));
    // Eq. 33: the spread of the second points less the square of the product by that of the first.
    double spread = 10 / 9.0;
    double product = scale * spread;
    assertThat(pairs.left(paper, scale))
        .isCloseTo(spread - product * product / spread, within(1e-6));
    // In space the half turn about Y does it.
    Matrix3d turn = pairs.turn(false);
    assertThat(turn.determinant()).isCloseTo(1, within(1e-9));
    assertThat(pairs.left(turn, pairs.scale(turn))).isCloseTo(0, within(1e-9));
    assertThat(pairs.isFlat()).isTrue();
  }

  @Test
  void whatDeformsIsNotTakenForAnotherFrame() throws IOException {
    CacheFit fit = CacheFit.of(sheet(new Matrix4d()), WavingSheet.rest());
    assertThat(fit.isAsItIs()).isTrue();
    // Stretched by 30 % along X: no unit and no axes make it better by half.
    CacheFit bent = CacheFit.of(sheet(new Matrix4d().scaling(1.3, 1, 1)), WavingSheet.rest());
    assertThat(bent.axes()).isEqualTo(AxisFrame.SAME);
    assertThat(bent.isAsItIs()).isTrue();
  }

  @Test
  void samplesThatAreMirroredAndTurnedInBetweenAreFound() throws IOException {
    AxisFrame mirrored = AxisFrame.parse("-x,y,z");
    AxisFrame lying = AxisFrame.parse("x,-z,y");
    WavingSheet cache =
        new WavingSheet(
            1,
            2,
            300,
            sample ->
                sample >= 30 && sample <= 101
                    ? mirrored.matrix(1)
                    : sample >= 150 && sample < 290 ? lying.matrix(1) : new Matrix4d());
    List<FrameRuns.Run> runs = FrameRuns.of(cache);
    assertThat(runs).hasSize(2);
    assertThat(runs.get(0)).isEqualTo(new FrameRuns.Run(30, 101, mirrored));
    assertThat(runs.get(1).first()).isEqualTo(150);
    assertThat(runs.get(1).last()).isEqualTo(289);
    // What brings a lying sample back is the other way round.
    Vector3d p = new Vector3d(1, 2, 3);
    lying.matrix(1).transformPosition(p);
    runs.get(1).axes().matrix(1).transformPosition(p);
    assertThat(p.distance(1, 2, 3)).isLessThan(1e-12);
    assertThat(FrameRuns.of(sheet(new Matrix4d()))).isEmpty();
  }

  @Test
  void anotherOrderIsFoundWithItsFirstDifference() {
    Coordinates rest = WavingSheet.rest();
    int[] order = new Random(3).ints(0, rest.count()).distinct().limit(rest.count()).toArray();
    order =
        java.util.stream.IntStream.concat(
                java.util.stream.IntStream.of(0, 1, 2),
                java.util.stream.IntStream.of(order).filter(v -> v > 2))
            .toArray();
    float[] shuffled = new float[3 * order.length];
    for (int v = 0; v < order.length; v++) {
      for (int c = 0; c < 3; c++) {
        shuffled[3 * order[v] + c] = (float) (100 * rest.at(3 * v + c));
      }
    }
    PointOrder found = PointOrder.of(shuffled, rest);
    assertThat(found.source()).isEqualTo(order);
    assertThat(found.first()).isGreaterThanOrEqualTo(3);
    assertThat(found.frame().m00()).isCloseTo(0.01, within(1e-12));
    assertThat(PointOrder.of(rest.toFloats(), rest).first()).isEqualTo(-1);
    float[] elsewhere = rest.toFloats().clone();
    elsewhere[3] += 5;
    assertThat(PointOrder.of(elsewhere, rest)).isNull();
  }

  @Test
  void axesAreWrittenAndReadInWords() {
    AxisFrame frame = AxisFrame.parse("x, -z, y");
    assertThat(frame.text()).isEqualTo("x,-z,y");
    assertThat(frame.label()).isEqualTo("−Z → Y, Y → Z");
    assertThat(AxisFrame.SAME.label()).isEqualTo("same axes");
    assertThatThrownBy(() -> AxisFrame.parse("x,x,z")).hasMessageContaining("named once");
    assertThatThrownBy(() -> AxisFrame.parse("up")).hasMessageContaining("x,-z,y");
  }
}
