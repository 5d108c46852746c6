package ferry.stone.core.geometry.cache;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.time.PointCache;
import java.io.IOException;
import java.util.Random;
import java.util.function.IntFunction;
import org.joml.Matrix4d;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/** A cache that only turns and moves is told from one that bends. */
class RigidFitTest {
  private static final int SAMPLES = 12;

  /** The sheet at rest, each sample put through a matrix of its own. */
  private record Carried(IntFunction<Matrix4d> places) implements PointCache {
    @Override
    public int id() {
      return 1;
    }

    @Override
    public int meshId() {
      return 2;
    }

    @Override
    public String name() {
      return "carried";
    }

    @Override
    public int sampleCount() {
      return SAMPLES;
    }

    @Override
    public int pointCount() {
      return WavingSheet.rest().count();
    }

    @Override
    public double timeSeconds(int sample) {
      return sample / 24.0;
    }

    @Override
    public void read(int sample, int firstPoint, int count, float[] into) {
      Vector3d p = new Vector3d();
      for (int v = 0; v < count; v++) {
        places.apply(sample).transformPosition(p.set(WavingSheet.at(firstPoint + v, 0)));
        into[3 * v] = (float) p.x;
        into[3 * v + 1] = (float) p.y;
        into[3 * v + 2] = (float) p.z;
      }
    }
  }

  private static Matrix4d[] anywhere(long seed) {
    Random random = new Random(seed);
    Matrix4d[] places = new Matrix4d[SAMPLES];
    for (int s = 0; s < SAMPLES; s++) {
      places[s] =
          new Matrix4d()
              .translation(
                  20 * random.nextGaussian(), 20 * random.nextGaussian(), random.nextGaussian())
              .rotateXYZ(6 * random.nextDouble(), 6 * random.nextDouble(), 6 * random.nextDouble());
    }
    return places;
  }

  @Test
  void turnsAndMovesOfAnySizeAreFoundAgain() throws IOException {
    Coordinates rest = WavingSheet.rest();
    for (long seed = 0; seed < 25; seed++) {
      Matrix4d[] places = anywhere(seed);
      RigidFit fit = RigidFit.of(new Carried(s -> places[s]), rest, 1e-3);
      assertThat(fit).as("seed " + seed).isNotNull();
      assertThat(fit.farthest()).isLessThan(1e-4);
      assertThat(fit.centre().distance(rest.bounds().centre())).isZero();
      Vector3d there = new Vector3d();
      Vector3d found = new Vector3d();
      for (int s = 0; s < SAMPLES; s++) {
        assertThat(fit.places()[s].determinant3x3()).isCloseTo(1, within(1e-9));
        // Well away from the points it was found from: an angle that is off shows there.
        places[s].transformPosition(there.set(3, -7, 11));
        fit.places()[s].transformPosition(found.set(3, -7, 11));
        assertThat(found.distance(there)).isLessThan(1e-4);
      }
    }
  }

  @Test
  void whatIsMirroredStretchedOrBentIsNotStiff() throws IOException {
    Coordinates rest = WavingSheet.rest();
    Matrix4d[] places = anywhere(5);
    Matrix4d mirror = AxisFrame.parse("-x,y,z").matrix(1);
    IntFunction<Matrix4d> lastMirrored =
        s -> s == SAMPLES - 1 ? new Matrix4d(places[s]).mul(mirror) : places[s];
    assertThat(RigidFit.of(new Carried(lastMirrored), rest, 1e-3)).isNull();
    IntFunction<Matrix4d> stretched = s -> new Matrix4d(places[s]).scale(1 + 0.01 * s, 1, 1);
    assertThat(RigidFit.of(new Carried(stretched), rest, 1e-3)).isNull();
    WavingSheet bent = new WavingSheet(1, 2, SAMPLES, s -> places[s]);
    assertThat(RigidFit.of(bent, rest, 1e-3)).isNull();
    // With room enough the same sheet passes, and says how far off it is.
    RigidFit loose = RigidFit.of(bent, rest, 10);
    assertThat(loose.farthest()).isBetween(1e-2, 10.0);
  }

  @Test
  void aSampleWithoutNumbersIsNoFit() throws IOException {
    IntFunction<Matrix4d> lost =
        s -> s == 4 ? new Matrix4d().translation(Double.NaN, 0, 0) : new Matrix4d();
    assertThat(RigidFit.of(new Carried(lost), WavingSheet.rest(), 1e-3)).isNull();
  }
}
