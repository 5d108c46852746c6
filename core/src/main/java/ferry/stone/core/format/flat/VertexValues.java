package ferry.stone.core.format.flat;

import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * One value a vertex, for formats that hold no other: where corners of one vertex have values of
 * their own, the vertex stands as often as there are different ones. O(c) for c corners.
 */
public final class VertexValues {
  private VertexValues() {}

  /** Whether a vertex has corners whose values differ. */
  public static boolean hasSeams(PolygonMesh mesh) {
    List<Attribute> fitting =
        mesh.attributes().stream().filter(a -> FittingLayers.fits(mesh, a)).toList();
    return of(mesh.withAttributes(fitting)).points().count() > mesh.points().count();
  }

  /** The mesh with one value a vertex; the first stands where it stood, others come after all. */
  public static PolygonMesh of(PolygonMesh mesh) {
    List<Attribute> layers =
        mesh.attributes().stream()
            .filter(a -> a.semantic() != Attribute.Semantic.OTHER)
            .filter(a -> a.domain() != Attribute.Domain.CONSTANT)
            .toList();
    boolean plain =
        layers.stream().allMatch(a -> a.domain() == Attribute.Domain.VERTEX)
            && layers.size() == mesh.attributes().size();
    if (plain) {
      return mesh;
    }
    Polygons faces = mesh.faces();
    int count = mesh.points().count();
    int[][] valueOf = new int[count][];
    Map<List<Integer>, Integer> others = new HashMap<>();
    List<int[]> added = new ArrayList<>();
    List<Integer> source = new ArrayList<>();
    int[] corners = new int[faces.cornerCount()];
    int[] offsets = new int[faces.faceCount() + 1];
    for (int f = 0; f < faces.faceCount(); f++) {
      offsets[f + 1] = faces.end(f);
      for (int c = faces.start(f); c < faces.end(f); c++) {
        int v = faces.vertex(c);
        int[] values = values(layers, c, v, f);
        if (valueOf[v] == null) {
          valueOf[v] = values;
        }
        if (same(layers, valueOf[v], values)) {
          corners[c] = v;
          continue;
        }
        List<Integer> key = new ArrayList<>(List.of(v));
        Arrays.stream(values).forEach(key::add);
        Integer at = others.get(key);
        if (at == null) {
          at = count + added.size();
          others.put(key, at);
          added.add(values);
          source.add(v);
        }
        corners[c] = at;
      }
    }
    int[] points = new int[count + added.size()];
    for (int v = 0; v < points.length; v++) {
      points[v] = v < count ? v : source.get(v - count);
    }
    List<Attribute> attributes = new ArrayList<>();
    for (int l = 0; l < layers.size(); l++) {
      attributes.add(layer(layers.get(l), l, valueOf, added));
    }
    Coordinates picked = mesh.points().picked(points);
    return PolygonMesh.of(mesh.id(), mesh.name(), picked, Polygons.of(corners, offsets))
        .withAttributes(attributes);
  }

  private static int[] values(List<Attribute> layers, int corner, int vertex, int face) {
    int[] values = new int[layers.size()];
    for (int l = 0; l < values.length; l++) {
      values[l] = layers.get(l).valueOf(corner, vertex, face);
    }
    return values;
  }

  /** Whether two sets of values are the same numbers, wherever these are kept. */
  private static boolean same(List<Attribute> layers, int[] a, int[] b) {
    for (int l = 0; l < a.length; l++) {
      Attribute layer = layers.get(l);
      boolean none = a[l] < 0 || b[l] < 0;
      if (none && a[l] != b[l]) {
        return false;
      }
      if (!none && !layer.table().same(a[l], layer.table(), b[l])) {
        return false;
      }
    }
    return true;
  }

  private static Attribute layer(Attribute a, int l, int[][] first, List<int[]> added) {
    int n = a.components();
    float[] values = new float[n * (first.length + added.size())];
    for (int v = 0; v < first.length + added.size(); v++) {
      int[] own = v < first.length ? first[v] : added.get(v - first.length);
      int at = own == null ? -1 : own[l];
      if (at >= 0) {
        System.arraycopy(a.values(), n * at, values, n * v, n);
      }
    }
    return new Attribute(a.name(), a.semantic(), Attribute.Domain.VERTEX, n, values, null);
  }
}
