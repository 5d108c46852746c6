package ferry.stone.core.format.usd.read.shape;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.read.stage.Said;
import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import java.io.IOException;
import java.util.List;
import java.util.Set;
import org.joml.Vector3d;

/**
 * Solids that are said by their measures, as meshes: sizes and axes as {@code usdGeom} defines
 * them, with normals of the solid itself. Vertices lie on the solid; a mesh of {@value #AROUND}
 * sides all around is inside of it between them.
 */
final class Solids {
  static final Set<String> TYPES =
      Set.of("Cube", "Sphere", "Cylinder", "Cylinder_1", "Cone", "Capsule", "Capsule_1", "Plane");

  /** Sides all around; four times a whole number, so that the box is that of the solid. */
  private static final int AROUND = 48;

  private static final int OVER = AROUND / 4;

  private final FloatList points = new FloatList(1024);
  private final FloatList normals = new FloatList(1024);
  private final IntList corners = new IntList(4096);
  private final IntList cornerNormals = new IntList(4096);
  private final IntList offsets = new IntList(1024);
  private final char axis;

  private Solids(char axis) {
    this.axis = axis;
    offsets.add(0);
  }

  /** The mesh of a solid under an id. */
  static PolygonMesh read(UsdPrim prim, int id) throws IOException, FormatException {
    String along = Said.text(prim, "axis", "Z");
    Solids solid = new Solids(along.isEmpty() ? 'Z' : along.charAt(0));
    switch (prim.typeName()) {
      case "Cube" -> solid.cube(Said.number(prim, "size", 2) / 2);
      case "Sphere" -> {
        double radius = Said.number(prim, "radius", 1);
        solid.turned(profile(radius, radius, 0));
      }
      case "Cylinder", "Cylinder_1" -> {
        double radius = Said.number(prim, "radius", 1);
        solid.tube(
            Said.number(prim, "radiusBottom", radius),
            Said.number(prim, "radiusTop", radius),
            Said.number(prim, "height", 2));
      }
      case "Cone" -> solid.tube(Said.number(prim, "radius", 1), 0, Said.number(prim, "height", 2));
      case "Plane" ->
          solid.plane(Said.number(prim, "width", 2) / 2, Said.number(prim, "length", 2) / 2);
      default -> {
        double radius = Said.number(prim, "radius", 0.5);
        solid.turned(
            profile(
                Said.number(prim, "radiusBottom", radius),
                Said.number(prim, "radiusTop", radius),
                Said.number(prim, "height", 1)));
      }
    }
    return solid.mesh(id, prim.name());
  }

  /** Radius, height, and the normal's two parts, from below to above. */
  private record Ring(double radius, double height, double out, double up) {}

  private static Ring[] profile(double below, double above, double height) {
    Ring[] rings = new Ring[2 * OVER + 2];
    for (int i = 0; i <= OVER; i++) {
      double angle = Math.PI / 2 * i / OVER;
      double out = i == 0 ? 0 : Math.sin(angle);
      double up = i == OVER ? 0 : Math.cos(angle);
      rings[i] = new Ring(below * out, -height / 2 - below * up, out, -up);
      rings[rings.length - 1 - i] = new Ring(above * out, height / 2 + above * up, out, up);
    }
    return rings;
  }

  private void tube(double below, double above, double height) {
    double slope = Math.hypot(height, below - above);
    double out = slope == 0 ? 1 : height / slope;
    double up = slope == 0 ? 0 : (below - above) / slope;
    double half = height / 2;
    turned(
        new Ring(0, -half, 0, -1),
        new Ring(below, -half, 0, -1),
        new Ring(below, -half, out, up),
        new Ring(above, half, out, up),
        new Ring(above, half, 0, 1),
        new Ring(0, half, 0, 1));
  }

  /** What rings sweep when they turn about the axis; rings at one place share their points. */
  private void turned(Ring... rings) {
    int[] first = new int[rings.length];
    for (int r = 0; r < rings.length; r++) {
      Ring ring = rings[r];
      boolean again = r > 0 && isFlat(rings[r - 1], ring);
      first[r] = again ? first[r - 1] : points.size() / 3;
      for (int i = 0; i < AROUND; i++) {
        double angle = 2 * Math.PI * i / AROUND;
        double x = i % (AROUND / 2) == AROUND / 4 ? 0 : Math.cos(angle);
        double y = i % (AROUND / 2) == 0 ? 0 : Math.sin(angle);
        if (!again && (i == 0 || ring.radius != 0)) {
          turn(points, ring.radius * x, ring.radius * y, ring.height);
        }
        turn(normals, ring.out * x, ring.out * y, ring.up);
      }
    }
    for (int r = 0; r + 1 < rings.length; r++) {
      if (!isFlat(rings[r], rings[r + 1]) && rings[r].radius + rings[r + 1].radius > 0) {
        band(first, r, rings[r].radius == 0, rings[r + 1].radius == 0);
      }
    }
  }

  private static boolean isFlat(Ring a, Ring b) {
    return a.radius == b.radius && a.height == b.height;
  }

  private void band(int[] first, int ring, boolean below, boolean above) {
    for (int i = 0; i < AROUND; i++) {
      int next = (i + 1) % AROUND;
      corner(first[ring] + (below ? 0 : i), AROUND * ring + i);
      if (!below) {
        corner(first[ring] + next, AROUND * ring + next);
      }
      if (!above) {
        corner(first[ring + 1] + next, AROUND * (ring + 1) + next);
      }
      corner(first[ring + 1] + (above ? 0 : i), AROUND * (ring + 1) + i);
      offsets.add(corners.size());
    }
  }

  private void cube(double half) {
    for (int side = 0; side < 6; side++) {
      double sign = side % 2 == 0 ? 1 : -1;
      Vector3d n = new Vector3d().setComponent(side / 2, sign);
      quad(half, half, n, new Vector3d().setComponent((side / 2 + 1) % 3, 1), half);
    }
  }

  /** Width and length by the axis: along x and y of a plane that faces z. */
  private void plane(double width, double length) {
    switch (axis) {
      case 'X' -> quad(length, width, new Vector3d(1, 0, 0), new Vector3d(0, 1, 0), 0);
      case 'Y' -> quad(width, length, new Vector3d(0, 1, 0), new Vector3d(1, 0, 0), 0);
      default -> quad(width, length, new Vector3d(0, 0, 1), new Vector3d(1, 0, 0), 0);
    }
  }

  /** A rectangle, half as long as said along u and along n × u. */
  private void quad(double along, double across, Vector3d n, Vector3d u, double off) {
    Vector3d v = n.cross(u, new Vector3d());
    int normal = normals.size() / 3;
    add(normals, n.x, n.y, n.z);
    for (int[] corner : new int[][] {{-1, -1}, {1, -1}, {1, 1}, {-1, 1}}) {
      Vector3d p = new Vector3d(n).mul(off).fma(along * corner[0], u).fma(across * corner[1], v);
      corner(point(p), normal);
    }
    offsets.add(corners.size());
  }

  /** A point that may be there already; of few. */
  private int point(Vector3d p) {
    int count = points.size() / 3;
    for (int i = 0; i < count; i++) {
      boolean same =
          points.get(3 * i) == (float) p.x
              && points.get(3 * i + 1) == (float) p.y
              && points.get(3 * i + 2) == (float) p.z;
      if (same) {
        return i;
      }
    }
    add(points, p.x, p.y, p.z);
    return count;
  }

  /** From an axis along z to the one that is said, without a mirror. */
  private void turn(FloatList into, double x, double y, double z) {
    switch (axis) {
      case 'X' -> add(into, z, x, y);
      case 'Y' -> add(into, y, z, x);
      default -> add(into, x, y, z);
    }
  }

  private static void add(FloatList into, double x, double y, double z) {
    into.add((float) x);
    into.add((float) y);
    into.add((float) z);
  }

  private void corner(int point, int normal) {
    corners.add(point);
    cornerNormals.add(normal);
  }

  private PolygonMesh mesh(int id, String name) {
    Attribute layer =
        new Attribute(
            "normals",
            Semantic.NORMAL,
            Domain.CORNER,
            3,
            normals.toArray(),
            cornerNormals.toArray());
    return PolygonMesh.of(
            id,
            name,
            Coordinates.of(points.toArray()),
            Polygons.of(corners.toArray(), offsets.toArray()))
        .withAttributes(List.of(layer));
  }
}
