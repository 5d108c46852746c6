package ferry.stone.core.format.abc.read;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.abc.raw.AbcCompound;
import ferry.stone.core.format.abc.raw.AbcObject;
import ferry.stone.core.format.abc.raw.AbcProperty;
import ferry.stone.core.format.files.ReadReport;
import ferry.stone.core.format.mesh.FileLayers;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.CurveForm;
import ferry.stone.core.scene.mesh.CurveForm.Basis;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import java.io.IOException;
import java.util.stream.IntStream;

/** Clouds of points, and curves. */
final class AbcLoose {
  private static final int CUBIC = 0;
  private static final int LINEAR = 1;
  private static final int PERIODIC = 1;

  private final ReadReport report;
  private final AbcObject object;
  private final AbcCompound geometry;

  AbcLoose(ReadReport report, AbcObject object, AbcCompound geometry) {
    this.report = report;
    this.object = object;
    this.geometry = geometry;
  }

  /** The cloud or the curves of a sample. */
  PolygonMesh read(int id, int sample) throws IOException, FormatException {
    AbcProperty points = geometry.value("P").orElse(null);
    float[] xyz = points == null ? new float[0] : AbcShape.points(report, object, points, sample);
    int count = xyz.length / 3;
    boolean curves = object.schema().startsWith("AbcGeom_Curve");
    LooseElements loose =
        curves
            ? curves(count, sample)
            : new LooseElements(new int[] {0}, new int[0], IntStream.range(0, count).toArray());
    AbcLayers layers =
        new AbcLayers(new FileLayers(report, object.path(), count, 0, new int[0], false));
    return PolygonMesh.of(id, object.name(), Coordinates.of(xyz), Polygons.triangles(new int[0]))
        .toBuilder()
        .loose(loose)
        .attributes(AbcShape.layers(report, geometry, layers, sample))
        .build();
  }

  private LooseElements curves(int points, int sample) throws IOException, FormatException {
    AbcProperty numbers = geometry.value("nVertices").orElse(null);
    int[] counts = numbers == null ? new int[] {points} : numbers.ints(sample);
    AbcProperty kinds = geometry.value("curveBasisAndType").orElse(null);
    int[] kind = kinds == null ? new int[0] : kinds.ints(sample);
    int type = kind.length > 0 ? kind[0] : LINEAR;
    boolean periodic = kind.length > 1 && kind[1] == PERIODIC;
    Basis basis = basis(kind);
    if (type == CUBIC && basis == null) {
      report.lost(
          "curve-form-not-read",
          object.path(),
          "The curves have a basis that is not known here: they are read as straight lines.");
    }
    boolean cubic = type == CUBIC && basis != null;
    int again = !periodic ? 0 : cubic && basis != Basis.BEZIER ? 3 : 1;
    IntList vertices = new IntList(points);
    int[] offsets = new int[counts.length + 1];
    long at = 0;
    for (int c = 0; c < counts.length; c++) {
      if (counts[c] < 0 || at + counts[c] > points) {
        throw report.broken(
            object.path(),
            "curve " + c + " ends at point " + (at + counts[c]) + " of " + points + ".");
      }
      for (int k = 0; k < counts[c] + (counts[c] == 0 ? 0 : again); k++) {
        vertices.add((int) at + k % counts[c]);
      }
      at += counts[c];
      offsets[c + 1] = vertices.size();
    }
    int[] line = vertices.toArray();
    CurveForm form = cubic ? new CurveForm(basis, 3, null, null) : null;
    if (type > LINEAR) {
      form = nurbs(counts, line.length, periodic, sample);
    }
    return new LooseElements(offsets, line, new int[0], form);
  }

  private static Basis basis(int[] kind) {
    return switch (kind.length > 2 ? kind[2] : 0) {
      case 1 -> Basis.BEZIER;
      case 2 -> Basis.BSPLINE;
      case 3 -> Basis.CATMULL_ROM;
      default -> null;
    };
  }

  /** Curves of an order of their own, which has to be one for all. */
  private CurveForm nurbs(int[] counts, int points, boolean periodic, int sample)
      throws IOException, FormatException {
    AbcProperty orders = geometry.value(".orders").orElse(null);
    AbcProperty knots = geometry.value(".knots").orElse(null);
    int[] order = orders == null ? new int[0] : orders.ints(sample);
    boolean one = order.length > 0 && IntStream.of(order).allMatch(o -> o == order[0]);
    int degree = one ? order[0] - 1 : 0;
    double[] all = knots == null ? new double[0] : knots.doubles(sample);
    boolean fits = all.length == points + counts.length * (degree + 1);
    if (periodic || degree < 1 || degree > CurveForm.MOST_DEGREE || !fits) {
      report.lost(
          "curve-form-not-read",
          object.path(),
          "The curves differ in order, are closed, or their knots do not fit their points: they"
              + " are read as straight lines.");
      return null;
    }
    AbcProperty weights = geometry.value("w").orElse(null);
    double[] weight = weights == null ? null : weights.doubles(sample);
    boolean weighted = weight != null && weight.length == points;
    return new CurveForm(Basis.NURBS, degree, all, weighted ? weight : null);
  }
}
