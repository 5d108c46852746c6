package ferry.stone.core.format.usd.rules;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.losses.BrokenRules;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.compose.UsdProperty;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.read.stage.Said;
import java.io.IOException;
import java.util.Arrays;
import java.util.Set;

/** UsdGeom: meshes, curves and points, their sets and the values over them. */
final class UsdMeshRules {
  private static final Set<String> SCHEMES = Set.of("none", "catmullClark", "loop", "bilinear");
  private static final Set<String> POINT_BASED =
      Set.of("Mesh", "BasisCurves", "NurbsCurves", "Points");

  /** Of a box, as a part of its size: four steps of a 32-bit number. */
  private static final double ROUNDED = 4 * 0x1p-23;

  private final BrokenRules rules;

  UsdMeshRules(BrokenRules rules) {
    this.rules = rules;
  }

  /**
   * How many elements carry values.
   *
   * @param uniform faces, or curves
   */
  private record Counts(int points, int uniform, int corners) {
    /** Values that an interpolation wants, −1 for an unknown one. */
    int of(String interpolation) {
      return switch (interpolation) {
        case "constant" -> 1;
        case "uniform" -> uniform;
        case "vertex", "varying" -> points;
        case "faceVarying" -> corners;
        default -> -1;
      };
    }
  }

  void check(UsdPrim prim) throws IOException, FormatException {
    if (!POINT_BASED.contains(prim.typeName())) {
      return;
    }
    float[] points = Said.floats(prim, "points");
    boolean mesh = prim.typeName().equals("Mesh");
    Counts counts = mesh ? mesh(prim, points.length / 3) : others(prim, points.length / 3);
    extent(prim, points);
    moving(prim, points.length);
    for (String name : prim.propertyNames()) {
      boolean primvar = name.startsWith("primvars:") && !name.endsWith(":indices");
      if (primvar || name.equals("normals")) {
        values(prim, name, counts);
      }
    }
    if (mesh) {
      subsets(prim, counts);
    }
  }

  private Counts mesh(UsdPrim prim, int points) throws IOException, FormatException {
    int[] sizes = Said.ints(prim, "faceVertexCounts");
    int[] corners = Said.ints(prim, "faceVertexIndices");
    long sum = 0;
    boolean small = false;
    for (int size : sizes) {
      sum += size;
      small |= size < 3;
    }
    rules.hold(
        sum == corners.length,
        prim.path() + ".faceVertexCounts",
        "The faces have more or fewer corners than are named.");
    rules.hold(!small, prim.path() + ".faceVertexCounts", "A face has fewer than three corners.");
    boolean inRange = true;
    for (int corner : corners) {
      inRange &= corner >= 0 && corner < points;
    }
    rules.hold(
        inRange, prim.path() + ".faceVertexIndices", "A corner names a point that is not there.");
    rules.hold(
        SCHEMES.contains(Said.text(prim, "subdivisionScheme", "catmullClark")),
        prim.path() + ".subdivisionScheme",
        "No way of subdivision is called so.");
    return new Counts(points, sizes.length, corners.length);
  }

  private Counts others(UsdPrim prim, int points) throws IOException, FormatException {
    if (prim.typeName().equals("Points")) {
      UsdValue widths = Said.value(prim, "widths");
      rules.hold(
          widths == null || widths.length() == 1 || widths.length() == points,
          prim.path() + ".widths",
          "There are more or fewer values than what carries them.");
      return new Counts(points, 1, points);
    }
    int[] sizes = Said.ints(prim, "curveVertexCounts");
    long sum = 0;
    for (int size : sizes) {
      sum += size;
    }
    rules.hold(
        sum == points,
        prim.path() + ".curveVertexCounts",
        "The curves have more or fewer points than there are.");
    // Values that vary along a cubic curve are counted by its segments: not held to here.
    boolean linear = Said.text(prim, "type", "cubic").equals("linear");
    return new Counts(linear ? points : -1, sizes.length, -1);
  }

  /** The box holds the points. */
  private void extent(UsdPrim prim, float[] points) throws IOException, FormatException {
    float[] box = Said.floats(prim, "extent");
    String where = prim.path() + ".extent";
    if (points.length == 0) {
      return;
    }
    if (box.length != 6) {
      rules.broken(where, "A shape does not say its box.");
      return;
    }
    float[] reached = reached(points);
    for (int c = 0; prim.typeName().equals("Mesh") && c < 3; c++) {
      float low = box[c];
      float high = box[c + 3];
      double slack = ROUNDED * Math.max(Math.abs(low), Math.abs(high));
      boolean inside = !(reached[c] < low - slack) && !(reached[c + 3] > high + slack);
      rules.hold(inside, where, "A shape reaches out of the box that it says.");
    }
  }

  /** The box around points; what is no number lies in no box. */
  private static float[] reached(float[] points) {
    float[] box = new float[6];
    Arrays.fill(box, 0, 3, Float.POSITIVE_INFINITY);
    Arrays.fill(box, 3, 6, Float.NEGATIVE_INFINITY);
    for (int i = 0; i + 2 < points.length; i += 3) {
      for (int c = 0; c < 3; c++) {
        float p = points[i + c];
        box[c] = p < box[c] ? p : box[c];
        box[c + 3] = p > box[c + 3] ? p : box[c + 3];
      }
    }
    return box;
  }

  /** While the faces stay, so does the number of points. */
  private void moving(UsdPrim prim, int length) throws IOException, FormatException {
    UsdProperty points = prim.property("points");
    UsdSamples samples = points == null ? null : points.samples();
    if (samples == null
        || Said.moves(prim, "faceVertexIndices")
        || Said.moves(prim, "curveVertexCounts")
        || prim.typeName().equals("Points")) {
      return;
    }
    for (int s = 0; s < samples.codes().length; s++) {
      int own = samples.length(s);
      rules.hold(
          own == 0 || own == length,
          prim.path() + ".points",
          "Points come or go over time while the faces stay.");
    }
  }

  private void values(UsdPrim prim, String name, Counts counts)
      throws IOException, FormatException {
    UsdProperty property = prim.property(name);
    UsdValue value = Said.value(property);
    String where = prim.path() + "." + name;
    if (value == null || property.isRelationship()) {
      return;
    }
    boolean normals = name.equals("normals");
    String said = Said.field(property, "interpolation", normals ? "vertex" : "constant");
    int wanted = counts.of(said);
    if (wanted < 0) {
      rules.hold(
          said.equals("faceVarying") || said.equals("vertex") || said.equals("varying"),
          where,
          "It is not said what carries the values.");
      return;
    }
    int size =
        property.field("elementSize") instanceof UsdValue each && each.length() > 0
            ? (int) each.number(0)
            : property.field("elementSize") instanceof Number n ? n.intValue() : 1;
    int[] indices = Said.ints(prim, name + ":indices");
    boolean indexed = prim.property(name + ":indices") != null;
    // One value for all may be of any length by itself.
    boolean free = said.equals("constant") && !indexed;
    if (!free && !Said.moves(property)) {
      int found = indexed ? indices.length : value.count() / Math.max(1, size);
      rules.hold(found == wanted, where, "There are more or fewer values than what carries them.");
    }
    for (int index : indices) {
      if (index < 0 || (long) (index + 1) * size > value.count()) {
        rules.broken(where + ":indices", "An index names a value that is not there.");
        break;
      }
    }
  }

  private void subsets(UsdPrim mesh, Counts counts) throws IOException, FormatException {
    for (UsdPrim child : mesh.children()) {
      if (!child.typeName().equals("GeomSubset")) {
        continue;
      }
      int most =
          switch (Said.text(child, "elementType", "face")) {
            case "face" -> counts.uniform();
            case "point" -> counts.points();
            default -> Integer.MAX_VALUE;
          };
      for (int index : Said.ints(child, "indices")) {
        if (index < 0 || index >= most) {
          rules.broken(child.path() + ".indices", "A set names an element that is not there.");
          break;
        }
      }
    }
  }
}
