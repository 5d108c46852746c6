package ferry.stone.core.handling;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.work.Progress;
import java.util.List;
import java.util.Map;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/** A second motion goes through all that changes its mesh, as the one that plays does. */
class SecondMotionTest {
  private static final int SAMPLES = 4;

  /** Two triangles apart, with a vertex that no face uses, which wave. */
  private record Waves(int id, String name, int meshId, double high) implements PointCache {
    @Override
    public int sampleCount() {
      return SAMPLES;
    }

    @Override
    public double timeSeconds(int sample) {
      return sample / 24.0;
    }

    @Override
    public int pointCount() {
      return 7;
    }

    @Override
    public void read(int sample, int from, int count, float[] target) {
      for (int i = 0; i < count; i++) {
        int v = from + i;
        target[3 * i] = v;
        target[3 * i + 1] = (float) (high * sample * (v + 1));
        target[3 * i + 2] = v * v;
      }
    }
  }

  private static Scene scene(PointCache plays, PointCache second) {
    float[] points = new float[21];
    for (int v = 0; v < 7; v++) {
      points[3 * v] = v;
      points[3 * v + 2] = v * v;
    }
    SceneBuilder scene = new SceneBuilder("yard").framesPerSecond(24);
    scene.nextId(100);
    Polygons faces = Polygons.triangles(new int[] {0, 1, 2, 4, 5, 6});
    scene.add(PolygonMesh.of(1, "cloth", Coordinates.of(points), faces));
    LocalTransform doubled =
        LocalTransform.Trs.of(new Vector3d(), new Quaterniond(), new Vector3d(2, 2, 2));
    scene.add(Node.of(10, "cloth", -1, Node.Content.MeshContent.of(1)).withTransform(doubled));
    return scene.caches(List.of(plays)).secondMotions(List.of(second)).build();
  }

  private static Scene after(Scene scene, String kind, Map<String, Object> params) {
    List<Handling.Stage> stages =
        Handling.run(scene, List.of(new Step("s", kind, params, true, List.of())), Progress.NONE);
    assertThat(stages.get(0).failure()).isNull();
    return Handling.result(scene, stages);
  }

  /** Each second motion has the samples of the one that plays on its mesh. */
  private static void same(Scene scene, int meshes) throws Exception {
    assertThat(scene.caches()).hasSize(meshes);
    assertThat(scene.secondMotions()).hasSize(meshes);
    for (PointCache second : scene.secondMotions()) {
      PointCache plays =
          scene.caches().stream()
              .filter(c -> c.meshId() == second.meshId())
              .findFirst()
              .orElseThrow();
      int points = scene.mesh(second.meshId()).orElseThrow().points().count();
      assertThat(second.pointCount()).isEqualTo(points);
      float[] a = new float[3 * points];
      float[] b = new float[3 * points];
      for (int s = 0; s < SAMPLES; s++) {
        plays.read(s, 0, points, a);
        second.read(s, 0, points, b);
        assertThat(b).isEqualTo(a);
      }
    }
  }

  private static Scene both() {
    return scene(new Waves(20, "first", 1, 0.5), new Waves(21, "second", 1, 0.5));
  }

  @Test
  void stepsOnTheMeshChangeBothMotions() throws Exception {
    same(after(both(), "split", Map.of("by", "pieces")), 2);
    same(after(both(), "remove", Map.of("what", "unusedVertices")), 1);
    same(after(both(), "reset", Map.of("what", "all")), 1);
    same(after(both(), "weld", Map.of("distance", 0.001)), 1);
  }

  @Test
  void anotherUnitAndOtherAxesChangeBothMotions() throws Exception {
    Frame other =
        new Frame(
            0.01,
            Frame.Y_UP_METRE.front(),
            Frame.Y_UP_METRE.up().opposite(),
            Frame.Y_UP_METRE.handedness());
    Scene moved = Rebase.intoData(both(), other);
    same(moved, 1);
    float[] point = new float[3];
    moved.secondMotions().get(0).read(1, 1, 1, point);
    // One metre is a hundred of the other unit, whatever axis it lies on.
    assertThat(Math.abs(point[0]) + Math.abs(point[1]) + Math.abs(point[2])).isEqualTo(300);
  }

  @Test
  void stepsOnTimeLeaveTheSecondMotionAsItIs() throws Exception {
    Scene slow = after(both(), "timeSpeed", Map.of("factor", 0.5));
    assertThat(slow.caches().get(0).endSeconds())
        .isEqualTo(2 * slow.secondMotions().get(0).endSeconds());
  }

  @Test
  void puttingItOnExchangesBothAndPuttingTheOtherOnBringsThemBack() throws Exception {
    Scene scene = scene(new Waves(20, "first", 1, 0.5), new Waves(21, "second", 1, 2));
    Scene exchanged = after(scene, "cacheOn", Map.of("cache", "second"));
    assertThat(exchanged.caches()).extracting(PointCache::name).containsExactly("second");
    assertThat(exchanged.secondMotions()).extracting(PointCache::name).containsExactly("first");
    Scene back = after(exchanged, "cacheOn", Map.of("cache", "first"));
    assertThat(back.caches()).extracting(PointCache::name).containsExactly("first");
    float[] point = new float[3];
    back.caches().get(0).read(2, 0, 1, point);
    assertThat(point[1]).isEqualTo(1);
  }
}
