package ferry.stone.core.geometry.curve;

import ferry.stone.core.geometry.mesh.Layers;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.PointCache;
import java.util.HashSet;
import java.util.Set;
import java.util.function.Predicate;

/**
 * Curves as straight lines, for formats that hold no others. Where joints, morph targets or caches
 * move the control points, the lines go through these instead.
 */
public final class StraightCurves {
  private StraightCurves() {}

  public static Scene of(Scene scene) {
    return of(scene, mesh -> false);
  }

  /**
   * @param held which curves the format holds as they are, as long as nothing moves their points
   */
  public static Scene of(Scene scene, Predicate<PolygonMesh> held) {
    if (scene.meshes().stream().noneMatch(StraightCurves::hasForm)) {
      return scene;
    }
    Set<Integer> moved = new HashSet<>();
    scene.skins().stream().map(Skin::meshId).forEach(moved::add);
    scene.caches().stream().map(PointCache::meshId).forEach(moved::add);
    return scene.toBuilder()
        .meshes(
            scene.meshes().stream()
                .map(
                    m -> {
                      boolean moves = moved.contains(m.id());
                      return hasForm(m) && (moves || !held.test(m)) ? straight(m, moves) : m;
                    })
                .toList())
        .build();
  }

  private static boolean hasForm(PolygonMesh mesh) {
    return mesh.loose() != null && mesh.loose().form() != null;
  }

  static PolygonMesh straight(PolygonMesh mesh, boolean moved) {
    LooseElements loose = mesh.loose();
    if (moved || !mesh.morphs().isEmpty()) {
      LooseElements plain =
          new LooseElements(loose.lineOffsets(), loose.lineVertices(), loose.points());
      return mesh.toBuilder().loose(plain).build();
    }
    CurvePoints points = CurvePoints.of(loose, CurvePoints.PIECES);
    float[] along = points.at(mesh.points()::at);
    int[] nearest = points.nearest();
    boolean[] used = usedBeside(mesh);
    int[] newNumber = new int[used.length];
    IntList source = new IntList(used.length + nearest.length);
    for (int v = 0; v < used.length; v++) {
      newNumber[v] = used[v] ? source.size() : -1;
      if (used[v]) {
        source.add(v);
      }
    }
    int first = source.size();
    for (int v : nearest) {
      source.add(v);
    }
    int[] single = Layers.picked(newNumber, loose.points());
    PolygonMesh without = mesh.toBuilder().loose(null).build();
    PolygonMesh result = Layers.renumbered(without, source.toArray(), newNumber);
    double[] places = new double[3 * result.points().count()];
    for (int k = 0; k < places.length; k++) {
      places[k] = k < 3 * first ? result.points().at(k) : along[k - 3 * first];
    }
    int[] vertices = new int[nearest.length];
    for (int i = 0; i < vertices.length; i++) {
      vertices[i] = first + i;
    }
    return result.toBuilder()
        .points(Coordinates.of(places))
        .loose(new LooseElements(points.offsets(), vertices, single))
        .build();
  }

  /** What faces and points use: the rest are control points, or nothing uses them. */
  private static boolean[] usedBeside(PolygonMesh mesh) {
    boolean[] used = new boolean[mesh.points().count()];
    for (int c = 0; c < mesh.faces().cornerCount(); c++) {
      used[mesh.faces().vertex(c)] = true;
    }
    for (int v : mesh.loose().points()) {
      used[v] = true;
    }
    return used;
  }
}
