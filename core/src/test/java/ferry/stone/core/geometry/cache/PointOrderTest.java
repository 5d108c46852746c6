package ferry.stone.core.geometry.cache;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.scene.mesh.Coordinates;
import java.util.Random;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/** Whatever the order, each vertex gets a point that lies where it does, and each point is used. */
class PointOrderTest {
  private static float[] cloud(Random random, int count, boolean doubled) {
    float[] points = new float[3 * count];
    for (int v = 0; v < count; v++) {
      // A seam: each second vertex stands where the one before it does.
      boolean same = doubled && v % 2 == 1;
      for (int c = 0; c < 3; c++) {
        points[3 * v + c] = same ? points[3 * v - 3 + c] : (float) (c + 4 * random.nextGaussian());
      }
    }
    return points;
  }

  private static int[] shuffled(Random random, int count) {
    int[] order = new int[count];
    for (int i = 0; i < count; i++) {
      int j = random.nextInt(i + 1);
      order[i] = order[j];
      order[j] = i;
    }
    return order;
  }

  private static void holds(long seed, boolean doubled) {
    Random random = new Random(seed);
    int count = 40 + random.nextInt(200);
    Coordinates mesh = Coordinates.of(cloud(random, count, doubled));
    int[] order = shuffled(random, count);
    AxisFrame axes = AxisFrame.ALL.get(random.nextInt(48));
    float[] cache = new float[3 * count];
    Vector3d p = new Vector3d();
    for (int v = 0; v < count; v++) {
      axes.matrix(100).transformPosition(p.set(mesh.x(v), mesh.y(v), mesh.z(v)));
      cache[3 * order[v]] = (float) p.x;
      cache[3 * order[v] + 1] = (float) p.y;
      cache[3 * order[v] + 2] = (float) p.z;
    }
    PointOrder found = PointOrder.of(cache, mesh);
    assertThat(found).as("seed " + seed).isNotNull();
    boolean[] used = new boolean[count];
    double near = 1e-3 * mesh.bounds().diagonal();
    for (int v = 0; v < count; v++) {
      int i = found.source()[v];
      assertThat(used[i]).as("point " + i + " twice, seed " + seed).isFalse();
      used[i] = true;
      found.frame().transformPosition(p.set(cache[3 * i], cache[3 * i + 1], cache[3 * i + 2]));
      assertThat(p.distance(mesh.x(v), mesh.y(v), mesh.z(v))).isLessThan(near);
      assertThat(v < found.first()).as("first difference").isEqualTo(sameUpTo(found, v));
    }
    if (!doubled) {
      assertThat(found.source()).isEqualTo(order);
    }
  }

  private static boolean sameUpTo(PointOrder found, int vertex) {
    for (int v = 0; v <= vertex; v++) {
      if (found.source()[v] != v) {
        return false;
      }
    }
    return true;
  }

  @Test
  void anyOrderInAnyFrameIsFound() {
    for (long seed = 0; seed < 60; seed++) {
      holds(seed, false);
    }
  }

  @Test
  void verticesThatStandAtOnePlaceEachGetAPointOfTheirOwn() {
    for (long seed = 100; seed < 160; seed++) {
      holds(seed, true);
    }
  }

  @Test
  void onePointElsewhereIsNoOrder() {
    Random random = new Random(9);
    for (int i = 0; i < 30; i++) {
      float[] points = cloud(random, 80, false);
      Coordinates mesh = Coordinates.of(points.clone());
      points[random.nextInt(points.length)] += 3;
      assertThat(PointOrder.of(points, mesh)).isNull();
    }
    assertThat(PointOrder.of(new float[3], Coordinates.of(new float[6]))).isNull();
  }
}
