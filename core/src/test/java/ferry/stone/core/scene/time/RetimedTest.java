package ferry.stone.core.scene.time;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import java.io.IOException;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Caches and sequences on other time lines are read where they lie. */
class RetimedTest {
  /** Two points; the first goes along x by its sample's number from an offset on. */
  private record Line(int id, int sampleCount, double from, double step) implements PointCache {
    @Override
    public String name() {
      return "line";
    }

    @Override
    public int meshId() {
      return 7;
    }

    @Override
    public int pointCount() {
      return 2;
    }

    @Override
    public double timeSeconds(int sample) {
      return from + step * sample;
    }

    @Override
    public void read(int sample, int from, int count, float[] target) {
      for (int i = 0; i < count; i++) {
        target[3 * i] = (float) (10 * timeSeconds(sample) + from + i);
        target[3 * i + 1] = from + i;
        target[3 * i + 2] = 0;
      }
    }
  }

  private static float x(PointCache cache, int sample, int point) throws IOException {
    float[] one = new float[3];
    cache.read(sample, point, 1, one);
    return one[0];
  }

  @Test
  void samplesAreNamedAnew() throws IOException {
    Line line = new Line(1, 5, 0, 1);
    PointCache back = new RetimedCache(line, new int[] {4, 2, 0}, new double[] {1, 2, 3});
    assertThat(back.sampleCount()).isEqualTo(3);
    assertThat(back.timeSeconds(2)).isEqualTo(3);
    assertThat(x(back, 0, 0)).isEqualTo(40);
    assertThat(x(back, 1, 1)).isEqualTo(21);
    assertThat(back.sampleAt(2.5)).isEqualTo(1);
    assertThat(back.meshId()).isEqualTo(7);
    assertThatThrownBy(() -> new RetimedCache(line, new int[2], new double[1]))
        .hasMessageContaining("2 samples at 1");
    assertThatThrownBy(() -> new RetimedCache(line, new int[0], new double[0]))
        .isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void betweenSamplesPointsRunStraight() throws IOException {
    Line line = new Line(1, 5, 0, 1);
    double[] at = {-1, 0, 0.25, 3.5, 9};
    PointCache anew = new ResampledCache(line, at, new double[] {0, 1, 2, 3, 4});
    assertThat(x(anew, 0, 0)).isEqualTo(0);
    assertThat(x(anew, 1, 0)).isEqualTo(0);
    assertThat(x(anew, 2, 0)).isCloseTo(2.5f, within(1e-6f));
    assertThat(x(anew, 3, 1)).isCloseTo(36f, within(1e-6f));
    assertThat(x(anew, 4, 0)).isEqualTo(40);
    assertThat(anew.endSeconds()).isEqualTo(4);
    assertThatThrownBy(() -> new ResampledCache(line, new double[1], new double[2]))
        .isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void cachesFollowEachOtherAndShareNoMoment() throws IOException {
    Line first = new Line(1, 3, 0, 1);
    Line second = new Line(2, 3, 2, 1);
    Line third = new Line(3, 2, 7, 0.5);
    PointCache all = JoinedCache.of(9, "all", 8, List.of(first, second, third));
    assertThat(all.id()).isEqualTo(9);
    assertThat(all.meshId()).isEqualTo(8);
    assertThat(all.sampleCount()).isEqualTo(7);
    double[] times = {0, 1, 2, 3, 4, 7, 7.5};
    for (int s = 0; s < times.length; s++) {
      assertThat(all.timeSeconds(s)).isEqualTo(times[s]);
      assertThat(x(all, s, 0)).isCloseTo((float) (10 * times[s]), within(1e-5f));
    }
  }

  @Test
  void meshesOfSequencesFollowToo() throws IOException {
    PolygonMesh rest =
        PolygonMesh.of(
            7,
            "line",
            Coordinates.of(new float[] {0, 0, 0, 1, 0, 0}),
            Polygons.triangles(new int[0]));
    MeshSequence meshes = new CacheMeshes(new Line(1, 4, 0, 1), rest);
    assertThat(meshes.mesh(3).points().x(1)).isEqualTo(31);
    assertThat(meshes.mesh(3).id()).isEqualTo(7);
    MeshSequence back = new RetimedSequence(meshes, new int[] {3, 0}, new double[] {5, 6});
    assertThat(back.sampleCount()).isEqualTo(2);
    assertThat(back.startSeconds()).isEqualTo(5);
    assertThat(back.mesh(0).points().x(0)).isEqualTo(30);
    assertThat(back.name()).isEqualTo("line");
    MeshSequence joined =
        JoinedSequence.of(
            4, "both", 11, List.of(meshes, new CacheMeshes(new Line(2, 2, 3, 1), rest)));
    assertThat(joined.sampleCount()).isEqualTo(5);
    assertThat(joined.mesh(4).points().x(0)).isEqualTo(40);
    assertThat(joined.mesh(4).id()).isEqualTo(11);
    assertThatThrownBy(() -> new RetimedSequence(meshes, new int[1], new double[2]))
        .isInstanceOf(IllegalArgumentException.class);
  }
}
