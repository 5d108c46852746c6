package ferry.stone.core.geometry;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.geometry.mesh.MeshCut;
import ferry.stone.core.geometry.mesh.MeshMerge;
import ferry.stone.core.geometry.mesh.Weld;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.EdgeSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** Sets of edges name the same edges in space, whatever becomes of the vertices. */
class EdgeSetsTest {
  private static PolygonMesh box(int... pairs) {
    return Solids.box(1, 2, 3).toBuilder()
        .edgeSets(List.of(new EdgeSet("rail", "deck", pairs)))
        .build();
  }

  /** Where the ends of the edges of a set are. */
  private static List<String> places(PolygonMesh mesh, EdgeSet set) {
    return IntStream.range(0, set.count())
        .mapToObj(i -> place(mesh, set.pairs()[2 * i]) + " " + place(mesh, set.pairs()[2 * i + 1]))
        .sorted()
        .toList();
  }

  private static String place(PolygonMesh mesh, int v) {
    return mesh.points().x(v) + "," + mesh.points().y(v) + "," + mesh.points().z(v);
  }

  @Test
  void mergedMeshesHaveTheEdgesOfAllUnderOneName() {
    PolygonMesh first = box(0, 1);
    PolygonMesh second = box(2, 6, 4, 5);
    PolygonMesh merged =
        MeshMerge.of(
            List.of(
                new MeshMerge.Source(first, "a", new int[0]),
                new MeshMerge.Source(second, "b", new int[0])),
            0);
    assertThat(merged.edgeSets())
        .singleElement()
        .satisfies(set -> assertThat(set.pairs()).containsExactly(0, 1, 10, 14, 12, 13));
  }

  @Test
  void aCutLeavesEachPieceTheEdgesThatItHas() {
    PolygonMesh whole = box(0, 1, 2, 6, 4, 5);
    int[] groups = {0, 1, 1, 1, 1, 1};
    List<MeshCut.Part> parts = MeshCut.into(whole, groups, 2);
    IntList found = new IntList(8);
    for (MeshCut.Part part : parts) {
      for (EdgeSet set : part.mesh().edgeSets()) {
        assertThat(places(whole, whole.edgeSets().get(0))).containsAll(places(part.mesh(), set));
        found.add(set.count());
      }
    }
    // Five sides of a box have all its edges; one side has those between its own corners.
    assertThat(found.toArray()).contains(3);
  }

  @Test
  void weldedVerticesLeaveTheEdgesWhereTheyWere() {
    PolygonMesh burst =
        MeshMerge.of(
            List.of(
                new MeshMerge.Source(box(0, 1), "a", new int[0]),
                new MeshMerge.Source(box(5, 4), "b", new int[0])),
            0);
    List<String> before = places(burst, burst.edgeSets().get(0));
    PolygonMesh sewn = Weld.of(burst, null, new Weld.Options(1e-6, false, true)).mesh();
    assertThat(sewn.points().count()).isEqualTo(8);
    assertThat(places(sewn, sewn.edgeSets().get(0))).isEqualTo(before);
  }
}
