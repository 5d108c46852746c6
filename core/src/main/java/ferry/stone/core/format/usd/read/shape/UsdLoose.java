package ferry.stone.core.format.usd.read.shape;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.CurveForm;
import ferry.stone.core.scene.mesh.CurveForm.Basis;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import java.io.IOException;
import java.util.List;
import java.util.stream.IntStream;

/** Clouds of points, and curves. */
record UsdLoose(UsdShape shape) {
  /** The cloud or the curves under an id. */
  PolygonMesh read(int id) throws IOException, FormatException {
    Coordinates points = shape.points();
    int count = points.count();
    String type = shape.prim().typeName();
    int[] counts = type.equals("Points") ? new int[0] : shape.ints("curveVertexCounts");
    LooseElements loose =
        switch (type) {
          case "BasisCurves" -> curves(counts, count);
          case "NurbsCurves" -> nurbs(counts, count);
          default ->
              new LooseElements(new int[] {0}, new int[0], IntStream.range(0, count).toArray());
        };
    List<Attribute> layers = shape.layers(count, counts.length, new int[0]);
    return PolygonMesh.of(id, shape.prim().name(), points, Polygons.triangles(new int[0]))
        .toBuilder()
        .loose(loose)
        .attributes(layers)
        .build();
  }

  private LooseElements curves(int[] counts, int points) throws IOException, FormatException {
    boolean cubic = shape.text("type", "cubic").equals("cubic");
    String name = shape.text("basis", "bezier");
    String wrap = shape.text("wrap", "nonperiodic");
    Basis basis =
        switch (name) {
          case "bezier" -> Basis.BEZIER;
          case "bspline" -> Basis.BSPLINE;
          case "catmullRom" -> Basis.CATMULL_ROM;
          default -> null;
        };
    if (cubic && (basis == null || wrap.equals("pinned"))) {
      shape
          .report()
          .lost(
              "curve-form-not-read",
              shape.prim().path(),
              "The curves have a form (\""
                  + (basis == null ? name : wrap)
                  + "\") that has no place here: "
                  + (basis == null
                      ? "they are read as straight lines."
                      : "they are read without what pins their ends."));
    }
    boolean formed = cubic && basis != null;
    boolean periodic = wrap.equals("periodic");
    int again = !periodic ? 0 : formed && basis != Basis.BEZIER ? 3 : 1;
    CurveForm form = formed ? new CurveForm(basis, 3, null, null) : null;
    return lines(counts, points, again, form);
  }

  private LooseElements lines(int[] counts, int points, int again, CurveForm form)
      throws FormatException {
    IntList vertices = new IntList(points);
    int[] offsets = new int[counts.length + 1];
    long at = 0;
    for (int c = 0; c < counts.length; c++) {
      if (counts[c] < 0 || at + counts[c] > points) {
        throw shape
            .report()
            .broken(
                shape.prim().path(),
                "curve " + c + " ends at point " + (at + counts[c]) + " of " + points + ".");
      }
      for (int k = 0; k < counts[c] + (counts[c] == 0 ? 0 : again); k++) {
        vertices.add((int) at + k % counts[c]);
      }
      at += counts[c];
      offsets[c + 1] = vertices.size();
    }
    return new LooseElements(offsets, vertices.toArray(), new int[0], form);
  }

  /** Curves of an order of their own, which has to be one for all. */
  private LooseElements nurbs(int[] counts, int points) throws IOException, FormatException {
    int[] order = shape.ints("order");
    boolean one = order.length > 0 && IntStream.of(order).allMatch(o -> o == order[0]);
    int degree = one ? order[0] - 1 : 0;
    UsdValue said = shape.at("knots");
    double[] knots = said == null ? new double[0] : said.doubles();
    boolean fits =
        knots.length
            == IntStream.of(counts).asLongStream().sum() + (long) counts.length * (degree + 1);
    if (degree < 1 || degree > CurveForm.MOST_DEGREE || !fits) {
      shape
          .report()
          .lost(
              "curve-form-not-read",
              shape.prim().path(),
              "The curves differ in order, or their knots do not fit their points: they are read as"
                  + " straight lines.");
      return lines(counts, points, 0, null);
    }
    UsdValue weights = shape.at("pointWeights");
    boolean weighted = weights != null && weights.length() == points;
    return lines(
        counts,
        points,
        0,
        new CurveForm(Basis.NURBS, degree, knots, weighted ? weights.doubles() : null));
  }
}
