package ferry.stone.core.geometry.curve;

import ferry.stone.core.scene.mesh.CurveForm;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;

/** Meshes that are one NURBS curve and nothing else, as formats of such geometry hold them. */
public final class NurbsAlone {
  private NurbsAlone() {}

  /**
   * Whether the vertices are the control points in order. A periodic curve begins anew with its
   * first points.
   */
  public static boolean is(PolygonMesh mesh) {
    LooseElements loose = mesh.loose();
    return loose != null
        && loose.form() != null
        && loose.form().basis() == CurveForm.Basis.NURBS
        && loose.lineCount() == 1
        && loose.points().length == 0
        && mesh.faces().faceCount() == 0
        && mesh.morphs().isEmpty()
        && mesh.attributes().isEmpty()
        && controls(mesh) > 0;
  }

  /** Whether its end goes over into its start. */
  public static boolean isPeriodic(PolygonMesh mesh) {
    return mesh.loose().lineVertices().length > mesh.points().count();
  }

  /** How many control points it has, 0 where the vertices are not these in order. */
  private static int controls(PolygonMesh mesh) {
    int[] along = mesh.loose().lineVertices();
    int count = mesh.points().count();
    if (along.length != count && along.length != count + mesh.loose().form().degree()) {
      return 0;
    }
    for (int i = 0; i < along.length; i++) {
      boolean again = i >= count && sameWeight(mesh.loose().form(), i, i - count);
      if (along[i] != i && !(again && along[i] == i - count)) {
        return 0;
      }
    }
    return count;
  }

  private static boolean sameWeight(CurveForm form, int a, int b) {
    return form.weights() == null || form.weights()[a] == form.weights()[b];
  }
}
