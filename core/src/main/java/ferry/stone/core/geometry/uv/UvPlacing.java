package ferry.stone.core.geometry.uv;

import ferry.stone.core.geometry.triangle.Triangulation;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import java.util.Arrays;
import java.util.Comparator;
import java.util.stream.IntStream;
import org.joml.Matrix3dc;
import org.joml.Vector3d;

/** Lays UVs out anew, or moves those that are there. Every method gives a new layer. */
public final class UvPlacing {
  /** Room between islands, as a part of the square's side. */
  private static final double GAP = 0.004;

  /** An island this much above 1 still fits a tile: the rounding of 32-bit numbers. */
  private static final double ROUNDING = 1e-4;

  /** So often what lies over its own island is cut off; at last face by face. */
  private static final int MOST_CUTS = 4;

  private UvPlacing() {}

  /**
   * Projects each face along the axis that it looks along most, so that a picture stands upright
   * and reads the right way round from outside. One UV a corner, in units of {@code size}.
   *
   * @param size length of a side of the square, in the mesh's own units
   * @param toUpright turns the mesh's axes so that Y is up
   */
  public static Attribute box(
      PolygonMesh mesh, String name, double size, UvOrigin origin, Matrix3dc toUpright) {
    Polygons faces = mesh.faces();
    Coordinates points = mesh.points();
    float[] values = new float[2 * faces.cornerCount()];
    double down = origin == UvOrigin.TOP_LEFT ? -1 : 1;
    Vector3d n = new Vector3d();
    Vector3d p = new Vector3d();
    for (int f = 0; f < faces.faceCount(); f++) {
      Triangulation.newell(points, faces, faces.start(f), faces.size(f), n);
      toUpright.transform(n);
      double x = Math.abs(n.x);
      double y = Math.abs(n.y);
      double z = Math.abs(n.z);
      for (int c = faces.start(f); c < faces.end(f); c++) {
        int v = faces.vertex(c);
        toUpright.transform(p.set(points.x(v), points.y(v), points.z(v)));
        double u;
        double w;
        if (x >= y && x >= z) {
          u = n.x > 0 ? -p.z : p.z;
          w = p.y;
        } else if (y >= z) {
          u = p.x;
          w = n.y > 0 ? -p.z : p.z;
        } else {
          u = n.z > 0 ? p.x : -p.x;
          w = p.y;
        }
        boolean finite = Double.isFinite(u + w);
        values[2 * c] = finite ? (float) (u / size) : 0;
        values[2 * c + 1] = finite ? (float) (down * w / size) : 0;
      }
    }
    return new Attribute(name, Attribute.Semantic.UV, Attribute.Domain.CORNER, 2, values, null);
  }

  /** The layer with one UV a corner; a corner without one gets 0, 0. */
  public static Attribute perCorner(PolygonMesh mesh, Attribute uv) {
    Polygons faces = mesh.faces();
    float[] values = new float[2 * faces.cornerCount()];
    for (int f = 0; f < faces.faceCount(); f++) {
      for (int c = faces.start(f); c < faces.end(f); c++) {
        int value = uv.valueOf(c, faces.vertex(c), f);
        if (value >= 0) {
          values[2 * c] = uv.values()[uv.components() * value];
          values[2 * c + 1] = uv.values()[uv.components() * value + 1];
        }
      }
    }
    return new Attribute(
        uv.name(), Attribute.Semantic.UV, Attribute.Domain.CORNER, 2, values, null);
  }

  /** The layer where it has UVs, another one for faces with a corner that has none. */
  public static Attribute filled(PolygonMesh mesh, Attribute uv, Attribute otherwise) {
    Polygons faces = mesh.faces();
    Attribute result = perCorner(mesh, uv);
    for (int f = 0; f < faces.faceCount(); f++) {
      boolean bare = false;
      for (int c = faces.start(f); c < faces.end(f); c++) {
        bare |= uv.valueOf(c, faces.vertex(c), f) < 0;
      }
      for (int c = faces.start(f); bare && c < faces.end(f); c++) {
        result.values()[2 * c] = otherwise.values()[2 * c];
        result.values()[2 * c + 1] = otherwise.values()[2 * c + 1];
      }
    }
    return result;
  }

  /**
   * Boxes of the islands.
   *
   * @param low {@code double[2*i]}, lowest u and v of each
   * @param high highest u and v of each
   */
  private record Boxes(double[] low, double[] high) {
    static Boxes of(PolygonMesh mesh, Attribute uv, UvIslands islands) {
      double[] low = new double[2 * islands.count()];
      double[] high = new double[2 * islands.count()];
      Arrays.fill(low, Double.POSITIVE_INFINITY);
      Arrays.fill(high, Double.NEGATIVE_INFINITY);
      Polygons faces = mesh.faces();
      for (int f = 0; f < faces.faceCount(); f++) {
        int island = islands.ofFace()[f];
        for (int c = faces.start(f); island >= 0 && c < faces.end(f); c++) {
          for (int k = 0; k < 2; k++) {
            double x = uv.values()[2 * c + k];
            low[2 * island + k] = Math.min(low[2 * island + k], x);
            high[2 * island + k] = Math.max(high[2 * island + k], x);
          }
        }
      }
      return new Boxes(low, high);
    }

    double size(int island, int k) {
      return high[2 * island + k] - low[2 * island + k];
    }
  }

  /** Whether every island is small enough to lie in one tile. */
  public static boolean fitTiles(PolygonMesh mesh, Attribute uv) {
    Attribute layer = perCorner(mesh, uv);
    UvIslands islands = UvIslands.of(mesh, layer);
    Boxes boxes = Boxes.of(mesh, layer, islands);
    for (int i = 0; i < islands.count(); i++) {
      if (boxes.size(i, 0) > 1 + ROUNDING || boxes.size(i, 1) > 1 + ROUNDING) {
        return false;
      }
    }
    return true;
  }

  /**
   * Moves each island so that it lies in the square: by whole tiles where it then fits, which a
   * repeated texture does not show, else by what is missing.
   */
  public static Attribute intoTile(PolygonMesh mesh, Attribute uv) {
    Attribute layer = perCorner(mesh, uv);
    UvIslands islands = UvIslands.of(mesh, layer);
    Boxes boxes = Boxes.of(mesh, layer, islands);
    double[] move = new double[2 * islands.count()];
    for (int i = 0; i < move.length; i++) {
      double low = boxes.low()[i];
      double high = boxes.high()[i];
      double tiles = -Math.floor((low + high) / 2);
      boolean fits = low + tiles >= -ROUNDING && high + tiles <= 1 + ROUNDING;
      move[i] = fits ? tiles : low + tiles < 0 ? -low : 1 - high;
    }
    return moved(mesh, layer, islands, 1, move);
  }

  /** Scales and moves the whole set into the square, all directions alike. */
  public static Attribute fitted(Attribute uv) {
    double[] low = {Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY};
    double[] high = {Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY};
    int n = uv.components();
    for (int i = 0; i < uv.values().length; i++) {
      int k = i % n;
      if (k < 2 && Float.isFinite(uv.values()[i])) {
        low[k] = Math.min(low[k], uv.values()[i]);
        high[k] = Math.max(high[k], uv.values()[i]);
      }
    }
    double size = Math.max(high[0] - low[0], high[1] - low[1]);
    double scale = size > 1 ? 1 / size : 1;
    float[] values = uv.values().clone();
    for (int i = 0; i < values.length; i++) {
      int k = i % n;
      if (k < 2) {
        double tiles = size > 1 ? low[k] : Math.max(0, high[k] - 1) + Math.min(0, low[k]);
        values[i] = (float) ((values[i] - tiles) * scale);
      }
    }
    return uv.withValues(values);
  }

  /**
   * Puts the islands side by side into the square, none over another, all at one scale: shelves of
   * falling height, as in Coffman, Garey, Johnson and Tarjan 1980 ("next fit decreasing height").
   * Where an island lies over itself, what lies over is cut off. O(k log k) for k islands.
   */
  public static Attribute packed(PolygonMesh mesh, Attribute uv) {
    Attribute layer = perCorner(mesh, uv);
    int[] kind = new int[mesh.faces().faceCount()];
    Attribute packed = packed(mesh, layer, UvIslands.of(mesh, layer, kind));
    for (int round = 1; round <= MOST_CUTS; round++) {
      UvOverlap overlap = UvOverlap.of(mesh, packed);
      if (overlap.part() <= UvOverlap.WORTH_TELLING) {
        break;
      }
      for (int i = 0; i < overlap.faces().size(); i++) {
        kind[overlap.faces().get(i)] = round < MOST_CUTS ? round : -1;
      }
      packed = packed(mesh, layer, UvIslands.of(mesh, layer, kind));
    }
    return packed;
  }

  private static Attribute packed(PolygonMesh mesh, Attribute layer, UvIslands islands) {
    int count = islands.count();
    if (count == 0) {
      return layer;
    }
    Boxes boxes = Boxes.of(mesh, layer, islands);
    double area = 0;
    double widest = 0;
    for (int i = 0; i < count; i++) {
      area += boxes.size(i, 0) * boxes.size(i, 1);
      widest = Math.max(widest, boxes.size(i, 0));
    }
    double gap = GAP * Math.max(widest, Math.sqrt(area));
    gap /= Math.max(1, Math.sqrt(count) / 16);
    Integer[] order = IntStream.range(0, count).boxed().toArray(Integer[]::new);
    Arrays.sort(order, Comparator.comparingDouble((Integer i) -> -boxes.size(i, 1)));
    double[] best = null;
    double least = Double.POSITIVE_INFINITY;
    // A few widths of the shelves are tried; the one whose square is smallest is taken.
    for (double part = 1; part < 1.5; part += 0.05) {
      double width = Math.max(widest, part * Math.sqrt(area)) + 2 * gap;
      double[] move = new double[2 * count];
      double side = shelves(boxes, order, width, gap, move);
      if (side < least) {
        least = side;
        best = move;
      }
    }
    double scale = least > 0 ? 1 / least : 1;
    for (int i = 0; i < best.length; i++) {
      best[i] *= scale;
    }
    return moved(mesh, layer, islands, scale, best);
  }

  /** Places of islands on shelves; the side of the square that holds them. */
  private static double shelves(
      Boxes boxes, Integer[] order, double width, double gap, double[] move) {
    double x = gap;
    double y = gap;
    double shelf = 0;
    double right = 0;
    for (int i : order) {
      double w = boxes.size(i, 0);
      if (x > gap && x + w + gap > width) {
        x = gap;
        y += shelf + gap;
        shelf = 0;
      }
      move[2 * i] = x - boxes.low()[2 * i];
      move[2 * i + 1] = y - boxes.low()[2 * i + 1];
      shelf = Math.max(shelf, boxes.size(i, 1));
      x += w + gap;
      right = Math.max(right, x);
    }
    return Math.max(right, y + shelf + gap);
  }

  private static Attribute moved(
      PolygonMesh mesh, Attribute layer, UvIslands islands, double scale, double[] move) {
    Polygons faces = mesh.faces();
    float[] values = layer.values().clone();
    for (int f = 0; f < faces.faceCount(); f++) {
      int island = islands.ofFace()[f];
      for (int c = faces.start(f); island >= 0 && c < faces.end(f); c++) {
        values[2 * c] = (float) (values[2 * c] * scale + move[2 * island]);
        values[2 * c + 1] = (float) (values[2 * c + 1] * scale + move[2 * island + 1]);
      }
    }
    return layer.withValues(values);
  }
}
