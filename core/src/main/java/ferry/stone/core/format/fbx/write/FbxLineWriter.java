package ferry.stone.core.format.fbx.write;

import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.fbx.raw.FbxBuild;
import ferry.stone.core.format.fbx.raw.FbxCustom;
import ferry.stone.core.format.fbx.raw.FbxRecord;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.util.ArrayList;
import java.util.List;

/** Writes parts of lines alone as geometry of lines. */
public final class FbxLineWriter {
  static final String TYPE = "Line";
  private static final int GEOMETRY_VERSION = 124;

  private FbxLineWriter() {}

  /** Whether a mesh is lines without faces. */
  public static boolean holds(PolygonMesh mesh) {
    return mesh.faces().faceCount() == 0 && mesh.loose() != null && mesh.loose().lineCount() > 0;
  }

  static List<FbxRecord> write(PolygonMesh mesh, Findings findings) {
    List<FbxRecord> children = new ArrayList<>();
    if (!mesh.properties().isEmpty()) {
      children.add(FbxBuild.properties(FbxCustom.records(mesh.properties(), List.of())));
    }
    LooseElements loose = mesh.loose();
    int[] index = loose.lineVertices().clone();
    for (int l = 0; l < loose.lineCount(); l++) {
      // The last vertex of each line is told by its one's complement.
      int last = loose.lineOffsets()[l + 1] - 1;
      index[last] = ~index[last];
    }
    children.add(FbxBuild.record("GeometryVersion", GEOMETRY_VERSION));
    children.add(FbxBuild.record("Type", TYPE));
    children.add(FbxBuild.record("Points", (Object) FbxMeshWriter.doubles(mesh.points())));
    children.add(FbxBuild.record("PointsIndex", (Object) index));
    if (loose.points().length > 0) {
      findings.add(FbxMeshWriter.pointsNotCarried(mesh));
    }
    return children;
  }
}
