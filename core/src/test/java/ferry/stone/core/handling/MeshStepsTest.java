package ferry.stone.core.handling;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertSame;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.RandomScene;
import ferry.stone.core.geometry.mesh.MeshMeasure;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Steps that change faces, on random sheets of mixed polygons with all layers. */
class MeshStepsTest {
  private static Scene run(Scene near, String kind, List<Integer> nodes) {
    var stages =
        Handling.run(near, List.of(new Step("1", kind, Map.of(), true, nodes)), Progress.NONE);
    assertEquals(null, stages.get(0).failure());
    return Handling.result(near, stages);
  }

  @Test
  void trianglesCoverTheSameSurfaceOnTheSameMaterials() {
    for (int seed = 0; seed < 20; seed++) {
      Scene near = RandomScene.of(new Random(seed));
      Scene far = run(near, "triangulate", List.of());
      for (int m = 0; m < near.meshes().size(); m++) {
        PolygonMesh a = near.meshes().get(m);
        PolygonMesh b = far.meshes().get(m);
        assertTrue(b.faces().allTriangles() || b.faces().faceCount() == 0);
        assertEquals(a.faces().triangleCount(), b.faces().faceCount());
        assertSame(a.points(), b.points());
        // Faces that are not flat measure a little differently once cut.
        double area = MeshMeasure.of(a).area();
        assertEquals(area, MeshMeasure.of(b).area(), 0.05 * area);
        assertEquals(triangles(a), triangles(b));
      }
      // A second time nothing is left to do.
      Scene again = run(far, "triangulate", List.of());
      for (int m = 0; m < far.meshes().size(); m++) {
        assertSame(far.meshes().get(m), again.meshes().get(m));
      }
    }
  }

  private static Map<Integer, Long> triangles(PolygonMesh mesh) {
    Map<Integer, Long> counts = new java.util.TreeMap<>();
    for (int f = 0; f < mesh.faces().faceCount(); f++) {
      long cut = Math.max(0, mesh.faces().size(f) - 2);
      if (cut > 0) {
        counts.merge(mesh.materialOf(f), cut, Long::sum);
      }
    }
    return counts;
  }

  @Test
  void turnedRoundTwiceIsTheSame() {
    for (int seed = 0; seed < 20; seed++) {
      Scene near = RandomScene.of(new Random(seed));
      Scene once = run(near, "flip", List.of());
      Scene twice = run(once, "flip", List.of());
      for (int m = 0; m < near.meshes().size(); m++) {
        PolygonMesh a = near.meshes().get(m);
        PolygonMesh b = twice.meshes().get(m);
        PolygonMesh flipped = once.meshes().get(m);
        for (int f = 0; f < a.faces().faceCount(); f++) {
          int start = a.faces().start(f);
          int last = a.faces().end(f) - 1;
          assertEquals(a.faces().vertex(start), flipped.faces().vertex(start));
          assertEquals(a.faces().vertex(last), flipped.faces().vertex(start + 1));
          for (int c = start; c <= last; c++) {
            assertEquals(a.faces().vertex(c), b.faces().vertex(c));
          }
        }
        a.first(Semantic.NORMAL)
            .ifPresent(
                n -> {
                  assertArrayEquals(n.values(), b.first(Semantic.NORMAL).orElseThrow().values());
                  assertEquals(
                      -n.values()[0], flipped.first(Semantic.NORMAL).orElseThrow().values()[0]);
                });
      }
    }
  }

  @Test
  void onlyChosenPartsChange() {
    Scene near = RandomScene.of(new Random(3));
    assertTrue(near.nodes().size() > 1);
    Scene far = run(near, "flip", List.of(near.nodes().get(0).id()));
    assertSame(near.meshes().get(1), far.meshes().get(1));
  }
}
