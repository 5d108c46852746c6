package ferry.stone.core.survey;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.geometry.cache.AxisFrame;
import ferry.stone.core.geometry.cache.PickedCache;
import ferry.stone.core.geometry.cache.WavingSheet;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/**
 * What is wrong with a cache is found, and the step that is offered puts it right in every sample.
 */
class CacheChecksTest {
  private static final int SAMPLES = 60;

  private static Scene scene(PointCache... caches) {
    SceneBuilder scene = new SceneBuilder("sheet");
    scene.nextId(20);
    scene.add(
        PolygonMesh.of(
            2, "sheet", WavingSheet.rest(), Polygons.triangles(new int[] {0, 1, 12, 1, 13, 12})));
    scene.add(Node.of(3, "sheet", -1, Node.Content.MeshContent.of(2)));
    scene.add(
        PolygonMesh.of(4, "twin", WavingSheet.rest(), Polygons.triangles(new int[] {0, 1, 12})));
    scene.add(Node.of(5, "twin", -1, Node.Content.MeshContent.of(4)));
    return scene.caches(List.of(caches)).build();
  }

  private static List<Finding> found(Scene scene, String code) {
    return Survey.of(scene, List.of(), Progress.NONE).findings().stream()
        .filter(f -> f.code().equals(code))
        .toList();
  }

  private static Scene accepted(Scene scene, List<Offer> offers) {
    List<Step> steps = new ArrayList<>();
    for (Offer offer : offers) {
      steps.add(new Step("s" + steps.size(), offer.kind(), offer.params(), true, offer.nodeIds()));
    }
    return done(scene, steps);
  }

  private static Scene done(Scene scene, List<Step> steps) {
    var stages = Handling.run(scene, steps, Progress.NONE);
    stages.forEach(s -> assertThat(s.failure()).isNull());
    return Handling.result(scene, stages);
  }

  private static double farthest(Scene scene) throws Exception {
    PointCache cache = scene.caches().get(0);
    float[] points = new float[3 * cache.pointCount()];
    double most = 0;
    for (int s = 0; s < cache.sampleCount(); s++) {
      cache.read(s, 0, cache.pointCount(), points);
      for (int v = 0; v < cache.pointCount(); v++) {
        Vector3d wanted = WavingSheet.at(v, s);
        most = Math.max(most, wanted.distance(points[3 * v], points[3 * v + 1], points[3 * v + 2]));
      }
    }
    return most;
  }

  @Test
  void anotherUnitAndMirroredAxesAreFoundAndMended() throws Exception {
    Matrix4d there = AxisFrame.parse("x,-z,-y").matrix(100);
    Scene scene = scene(new WavingSheet(9, 2, SAMPLES, s -> there));
    Finding finding = found(scene, "cache-frame-differs").get(0);
    assertThat(finding.severity()).isEqualTo(Severity.FIX);
    assertThat(finding.measured()).startsWith("×0.01 · ");
    assertThat(finding.evidence()).contains("mm apart as it stands");
    Scene mended = accepted(scene, finding.offers());
    assertThat(farthest(mended)).isLessThan(1e-4);
    assertThat(found(mended, "cache-frame-differs")).isEmpty();
    // The mesh itself stays.
    assertThat(mended.meshes()).isEqualTo(scene.meshes());
  }

  @Test
  void samplesThatContradictTheOthersAreFoundAndMended() throws Exception {
    Scene scene =
        scene(
            new WavingSheet(
                9,
                2,
                SAMPLES,
                s ->
                    s > 9 && s < 30
                        ? AxisFrame.parse("-x,y,z").matrix(1)
                        : s >= 30 && s < 59
                            ? AxisFrame.parse("x,z,-y").matrix(1)
                            : new Matrix4d()));
    Finding finding = found(scene, "cache-frames-contradict").get(0);
    assertThat(finding.measured()).contains("11-30: ").contains("31-59: ");
    assertThat(finding.offers()).hasSize(2);
    Scene mended = accepted(scene, finding.offers());
    assertThat(farthest(mended)).isLessThan(1e-5);
    assertThat(found(mended, "cache-frames-contradict")).isEmpty();
  }

  @Test
  void anotherOrderIsFoundAndMended() throws Exception {
    WavingSheet sheet = new WavingSheet(9, 2, SAMPLES, s -> new Matrix4d().scaling(1000));
    int[] reversed = new int[sheet.pointCount()];
    for (int v = 0; v < reversed.length; v++) {
      reversed[v] = reversed.length - 1 - v;
    }
    Scene scene = scene(new PickedCache(sheet, reversed));
    Finding finding = found(scene, "cache-order-differs").get(0);
    assertThat(finding.measured()).isEqualTo("first at vertex 1: point 84");
    Scene mended = accepted(scene, finding.offers());
    assertThat(farthest(mended)).isLessThan(1e-4);
    assertThat(found(mended, "cache-order-differs")).isEmpty();
  }

  @Test
  void aCacheThatFitsHasNothingToTell() {
    Scene scene = scene(new WavingSheet(9, 2, SAMPLES, s -> new Matrix4d()));
    List<Finding> findings = Survey.of(scene, List.of(), Progress.NONE).findings();
    assertThat(findings).noneMatch(f -> f.code().startsWith("cache"));
  }

  @Test
  void aCacheGoesOntoAnotherMeshAndIsTakenOff() throws Exception {
    Scene scene = scene(new WavingSheet(9, 2, SAMPLES, s -> new Matrix4d()));
    Scene moved =
        done(scene, List.of(new Step("a", "cacheOn", Map.of("cache", "sheet"), true, List.of(5))));
    assertThat(moved.caches()).singleElement().matches(c -> c.meshId() == 4);
    Scene off =
        done(
            moved,
            List.of(
                new Step(
                    "b",
                    "cacheOff",
                    Map.of("stand", "moment", "seconds", 10 / 24.0),
                    true,
                    List.of(5))));
    assertThat(off.caches()).isEmpty();
    Vector3d wanted = WavingSheet.at(40, 10);
    assertThat(off.mesh(4).orElseThrow().points().z(40))
        .isCloseTo(wanted.z, org.assertj.core.api.Assertions.within(1e-6));
    assertThat(off.mesh(2)).isEqualTo(scene.mesh(2));
    var none =
        Handling.run(
            scene,
            List.of(new Step("a", "cacheOn", Map.of("cache", "foam"), true, List.of(5))),
            Progress.NONE);
    assertThat(none.get(0).findings()).anyMatch(f -> f.code().equals("cache-not-put-on"));
  }
}
