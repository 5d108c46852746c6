package ferry.stone.core.geometry.mesh;

import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Finds meshes with the very same vertices, faces and layers; names and materials may differ. Each
 * mesh of which there is another of its size is hashed once, O(n), and compared only with those of
 * its hash.
 */
public final class EqualMeshes {
  /** The first mesh of so many points and corners: hashed when there is a second. */
  private final Map<Long, PolygonMesh> firstOfSize = new HashMap<>();

  private final Set<Long> hashed = new HashSet<>();
  private final Map<Integer, List<PolygonMesh>> byHash = new HashMap<>();

  /** The first mesh asked for that equals this one; itself when there is none. */
  public PolygonMesh firstLike(PolygonMesh mesh) {
    long size = (long) mesh.points().count() << 32 | mesh.faces().cornerCount();
    PolygonMesh first = firstOfSize.putIfAbsent(size, mesh);
    if (first == null) {
      return mesh;
    }
    if (hashed.add(size)) {
      byHash.computeIfAbsent(hash(first), k -> new ArrayList<>(1)).add(first);
    }
    List<PolygonMesh> bucket = byHash.computeIfAbsent(hash(mesh), k -> new ArrayList<>(1));
    for (PolygonMesh other : bucket) {
      if (same(other, mesh)) {
        return other;
      }
    }
    bucket.add(mesh);
    return mesh;
  }

  private static int hash(PolygonMesh mesh) {
    int h = mesh.points().count();
    for (int i = 0; i < 3 * mesh.points().count(); i++) {
      h = 31 * h + Double.hashCode(mesh.points().at(i));
    }
    for (int c = 0; c < mesh.faces().cornerCount(); c++) {
      h = 31 * h + mesh.faces().vertex(c);
    }
    return h;
  }

  private static boolean same(PolygonMesh a, PolygonMesh b) {
    if (a == b) {
      return true;
    }
    return a.attributes().size() == b.attributes().size()
        && a.materialIds().length == b.materialIds().length
        && a.morphs().isEmpty()
        && b.morphs().isEmpty()
        && a.loose() == null
        && b.loose() == null
        && Arrays.equals(a.faceSlot(), b.faceSlot())
        && Arrays.equals(a.smoothing(), b.smoothing())
        && Arrays.equals(a.hardEdges(), b.hardEdges())
        && a.edgeSets().isEmpty()
        && b.edgeSets().isEmpty()
        && a.points().isSame(b.points())
        && a.faces().isSame(b.faces())
        && sameLayers(a, b);
  }

  private static boolean sameLayers(PolygonMesh a, PolygonMesh b) {
    for (int i = 0; i < a.attributes().size(); i++) {
      Attribute x = a.attributes().get(i);
      Attribute y = b.attributes().get(i);
      if (x.semantic() != y.semantic()
          || x.domain() != y.domain()
          || !Arrays.equals(x.indices(), y.indices())
          || !x.table().equal(y.table())) {
        return false;
      }
    }
    return true;
  }
}
