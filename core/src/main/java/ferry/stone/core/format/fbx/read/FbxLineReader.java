package ferry.stone.core.format.fbx.read;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.fbx.raw.FbxDocument;
import ferry.stone.core.format.fbx.raw.FbxRecord;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.CurveForm;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;

/**
 * Reads geometry of lines, and NURBS curves: points of four numbers, the last of them a weight,
 * with a knot vector; a periodic curve begins anew with its first points.
 */
final class FbxLineReader {
  static final String LINE = "Line";
  static final String CURVE = "NurbsCurve";

  private final String resource;
  private final FbxDocument.Item item;
  private final FbxRecord record;

  FbxLineReader(String resource, FbxDocument.Item item) {
    this.resource = resource;
    this.item = item;
    record = item.record();
  }

  PolygonMesh read(int id) throws FormatException {
    return item.type().equals(LINE) ? lines(id) : curve(id);
  }

  /** The last vertex of each line is written as its one's complement. */
  private PolygonMesh lines(int id) throws FormatException {
    double[] xyz = record.at("Points").doubles();
    int count = xyz.length / 3;
    IntList vertices = new IntList(16);
    IntList offsets = new IntList(4);
    int begin = 0;
    for (int written : record.at("PointsIndex").ints()) {
      int vertex = written < 0 ? ~written : written;
      if (vertex >= count) {
        throw error("PointsIndex", "names point " + vertex + ", but there are " + count + ".");
      }
      vertices.add(vertex);
      if (written < 0) {
        offsets.add(begin);
        begin = vertices.size();
      }
    }
    if (begin < vertices.size()) {
      offsets.add(begin);
    }
    offsets.add(vertices.size());
    return mesh(id, xyz, new LooseElements(offsets.toArray(), vertices.toArray(), new int[0]));
  }

  private PolygonMesh curve(int id) throws FormatException {
    double[] points = record.at("Points").doubles();
    double[] knots = record.at("KnotVector").doubles();
    int order = (int) record.at("Order").number(0, 4);
    int degree = order - 1;
    if (degree < 1 || degree > CurveForm.MOST_DEGREE) {
      throw error("Order", order + " is none from 2 to " + (CurveForm.MOST_DEGREE + 1) + ".");
    }
    int count = points.length / 4;
    boolean periodic = record.at("Form").text(0).equals("Periodic");
    int controls = periodic ? count + degree : count;
    if (points.length % 4 != 0 || count < 1 || knots.length != controls + order) {
      throw error(
          "KnotVector",
          knots.length + " knots do not fit " + count + " points of order " + order + ".");
    }
    double[] xyz = new double[3 * count];
    double[] weights = new double[controls];
    int[] vertices = new int[controls];
    boolean weighted = false;
    for (int i = 0; i < controls; i++) {
      int from = i % count;
      vertices[i] = from;
      weights[i] = points[4 * from + 3];
      weighted |= weights[i] != 1;
      System.arraycopy(points, 4 * from, xyz, 3 * from, 3);
    }
    CurveForm form = new CurveForm(CurveForm.Basis.NURBS, degree, knots, weighted ? weights : null);
    return mesh(id, xyz, new LooseElements(new int[] {0, controls}, vertices, new int[0], form));
  }

  private PolygonMesh mesh(int id, double[] xyz, LooseElements loose) {
    Coordinates points = FbxMeshReader.coordinates(xyz);
    return PolygonMesh.of(id, item.name(), points, Polygons.triangles(new int[0])).toBuilder()
        .loose(loose)
        .properties(item.properties().custom())
        .build();
  }

  private FormatException error(String where, String problem) {
    return new FormatException(
        Kind.CORRUPT, resource, "Geometry " + item.name() + ", " + where, problem);
  }
}
