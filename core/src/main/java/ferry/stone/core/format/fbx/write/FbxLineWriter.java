package ferry.stone.core.format.fbx.write;

import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.fbx.raw.FbxBuild;
import ferry.stone.core.format.fbx.raw.FbxCustom;
import ferry.stone.core.format.fbx.raw.FbxRecord;
import ferry.stone.core.geometry.curve.NurbsAlone;
import ferry.stone.core.scene.mesh.CurveForm;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.util.ArrayList;
import java.util.List;

/**
 * Writes parts of lines alone as geometry of lines, and a NURBS curve that is alone in its part as
 * one.
 */
public final class FbxLineWriter {
  private static final String LINE = "Line";
  private static final String CURVE = "NurbsCurve";
  private static final int GEOMETRY_VERSION = 124;
  private static final int CURVE_VERSION = 100;
  private static final int DIMENSION = 3;

  private FbxLineWriter() {}

  /** Whether a mesh is lines without faces. */
  public static boolean holds(PolygonMesh mesh) {
    return mesh.faces().faceCount() == 0 && mesh.loose() != null && mesh.loose().lineCount() > 0;
  }

  /** The kind of geometry, and of the part that shows it. */
  static String type(PolygonMesh mesh) {
    return !holds(mesh) ? "Mesh" : NurbsAlone.is(mesh) ? CURVE : LINE;
  }

  /**
   * Points of four numbers, the last of them the weight; names as readers know them (ufbx 0.18).
   */
  private static void curve(PolygonMesh mesh, List<FbxRecord> children) {
    LooseElements loose = mesh.loose();
    CurveForm form = loose.form();
    double[] xyz = FbxMeshWriter.doubles(mesh.points());
    double[] points = new double[4 * mesh.points().count()];
    for (int i = 0; i < points.length / 4; i++) {
      System.arraycopy(xyz, 3 * i, points, 4 * i, 3);
      points[4 * i + 3] = form.weights() == null ? 1 : form.weights()[i];
    }
    children.add(FbxBuild.record("NurbsCurveVersion", CURVE_VERSION));
    children.add(FbxBuild.record("Order", form.degree() + 1));
    children.add(FbxBuild.record("Dimension", DIMENSION));
    children.add(FbxBuild.record("Form", NurbsAlone.isPeriodic(mesh) ? "Periodic" : "Open"));
    children.add(FbxBuild.record("Rational", form.weights() == null ? 0 : 1));
    children.add(FbxBuild.record("Points", (Object) points));
    children.add(FbxBuild.record("KnotVector", (Object) form.knots(loose, 0)));
  }

  static List<FbxRecord> write(PolygonMesh mesh, Findings findings) {
    List<FbxRecord> children = new ArrayList<>();
    if (!mesh.properties().isEmpty()) {
      children.add(FbxBuild.properties(FbxCustom.records(mesh.properties(), List.of())));
    }
    children.add(FbxBuild.record("GeometryVersion", GEOMETRY_VERSION));
    children.add(FbxBuild.record("Type", type(mesh)));
    if (NurbsAlone.is(mesh)) {
      curve(mesh, children);
      return children;
    }
    LooseElements loose = mesh.loose();
    int[] index = loose.lineVertices().clone();
    for (int l = 0; l < loose.lineCount(); l++) {
      // The last vertex of each line is told by its one's complement.
      int last = loose.lineOffsets()[l + 1] - 1;
      index[last] = ~index[last];
    }
    children.add(FbxBuild.record("Points", (Object) FbxMeshWriter.doubles(mesh.points())));
    children.add(FbxBuild.record("PointsIndex", (Object) index));
    if (loose.points().length > 0) {
      findings.add(FbxMeshWriter.pointsNotCarried(mesh));
    }
    return children;
  }
}
