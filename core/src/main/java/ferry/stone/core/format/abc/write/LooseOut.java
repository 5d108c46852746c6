package ferry.stone.core.format.abc.write;

import ferry.stone.core.format.abc.raw.AbcProperty.Type;
import ferry.stone.core.format.abc.raw.CompoundOut;
import ferry.stone.core.format.abc.raw.Pod;
import ferry.stone.core.geometry.curve.LineRuns;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.CurveForm;
import ferry.stone.core.scene.mesh.CurveForm.Basis;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.Arrays;

/** Clouds of points, and curves, each point of a curve its own. */
final class LooseOut {
  static final String POINTS = "schema=AbcGeom_Points_v1;schemaBaseType=AbcGeom_GeomBase_v1";
  static final String CURVES = "schema=AbcGeom_Curve_v2;schemaBaseType=AbcGeom_GeomBase_v1";

  private static final int CUBIC = 0;
  private static final int LINEAR = 1;
  private static final int OF_ANY_ORDER = 2;

  private final AbcOptions options;
  private final LayersOut layers;
  private final Progress progress;
  private final Boxes boxes = new Boxes();

  LooseOut(Scene scene, AbcOptions options, Progress progress) {
    this.options = options;
    this.progress = progress;
    layers = new LayersOut(scene);
  }

  /** Around the points of all samples. */
  Boxes boxes() {
    return boxes;
  }

  /** Whether a mesh is written here: it has no faces, and lines or points. */
  static boolean is(PolygonMesh mesh) {
    return mesh.faces().faceCount() == 0
        && mesh.loose() != null
        && (mesh.loose().lineCount() > 0 || mesh.loose().points().length > 0);
  }

  static boolean isCurves(PolygonMesh mesh) {
    return mesh.loose().lineCount() > 0;
  }

  static String schema(PolygonMesh mesh) {
    return isCurves(mesh) ? CURVES : POINTS;
  }

  void write(CompoundOut geometry, PolygonMesh mesh, PointCache cache) throws IOException {
    boolean curves = isCurves(mesh);
    int again = curves ? LineRuns.again(mesh.loose()) : 0;
    int[] order = curves ? LineRuns.along(mesh.loose(), again) : mesh.loose().points();
    double[] seconds = PointsOut.seconds(cache);
    boolean speeds = options.velocities() && cache != null;
    new PointsOut(geometry, seconds, curves ? "vtx" : "var", speeds, boxes)
        .write(mesh, cache, isAll(order, mesh) ? null : order, progress);
    if (curves) {
      curves(geometry, mesh.loose(), again, seconds);
    } else {
      ids(geometry, mesh, order, seconds);
    }
    CompoundOut arbitrary = null;
    for (Attribute layer : mesh.attributes()) {
      boolean known = layer.name().equals(PointsOut.VELOCITIES) || layer.name().equals(".pointIds");
      boolean fits = layer.domain() == Domain.VERTEX || layer.domain() == Domain.CONSTANT;
      if (known || !fits || layer.semantic() == Semantic.TANGENT) {
        continue;
      }
      boolean width = layer.name().equals(".widths") || layer.name().equals("width");
      boolean own = width || layer.semantic() == Semantic.NORMAL;
      if (!own) {
        arbitrary = arbitrary == null ? geometry.compound(".arbGeomParams", "") : arbitrary;
      }
      CompoundOut holder = own ? geometry : arbitrary;
      String name = layer.semantic() == Semantic.NORMAL ? "N" : layer.name();
      Attribute told = layers.told(layer);
      LayersOut.Parameter parameter =
          layers.open(holder, ShapeOut.free(holder, name), told, false, null);
      layers.gathered(parameter, told, layer.domain() == Domain.CONSTANT ? new int[1] : order);
    }
  }

  private static boolean isAll(int[] order, PolygonMesh mesh) {
    for (int i = 0; i < order.length; i++) {
      if (order[i] != i) {
        return false;
      }
    }
    return order.length == mesh.points().count();
  }

  private static void ids(CompoundOut geometry, PolygonMesh mesh, int[] order, double[] seconds)
      throws IOException {
    long[] ids = new long[0];
    for (Attribute layer : mesh.attributes()) {
      if (layer.name().equals(".pointIds") && layer.domain() == Domain.VERTEX) {
        ids = new long[order.length];
        for (int i = 0; i < ids.length; i++) {
          int row = layer.indices() == null ? order[i] : layer.indices()[order[i]];
          ids[i] = (long) layer.table().number(row, 0);
        }
      }
    }
    var property =
        geometry.property(".pointIds", new Type(true, Pod.UINT64, 1), "geoScope=var", seconds);
    property.addLongs(ids);
    property.repeat(seconds == null ? 0 : seconds.length - 1);
  }

  private static void curves(CompoundOut geometry, LooseElements loose, int again, double[] seconds)
      throws IOException {
    int more = seconds == null ? 0 : seconds.length - 1;
    int[] counts = new int[loose.lineCount()];
    for (int c = 0; c < counts.length; c++) {
      counts[c] = loose.lineOffsets()[c + 1] - loose.lineOffsets()[c] - again;
    }
    Type wholes = new Type(true, Pod.INT32, 1);
    var numbers = geometry.property("nVertices", wholes, "", seconds);
    numbers.add(counts);
    numbers.repeat(more);
    CurveForm form = loose.form();
    int basis = basis(form);
    int type = form == null ? LINEAR : basis == 0 ? OF_ANY_ORDER : CUBIC;
    var kind = geometry.property("curveBasisAndType", new Type(false, Pod.UINT8, 4), "", seconds);
    kind.add(type, again > 0 ? 1 : 0, basis, basis);
    kind.repeat(more);
    if (type != OF_ANY_ORDER) {
      return;
    }
    int[] orders = new int[counts.length];
    Arrays.fill(orders, form.degree() + 1);
    geometry.property(".orders", new Type(true, Pod.UINT8, 1), "", null).add(orders);
    double[] knots = form.knots() != null ? form.knots() : LineRuns.knots(counts, form.degree());
    geometry.property(".knots", new Type(true, Pod.FLOAT32, 1), "", null).add(floats(knots));
    if (form.weights() != null) {
      geometry.property("w", new Type(true, Pod.FLOAT32, 1), "", null).add(floats(form.weights()));
    }
  }

  private static int basis(CurveForm form) {
    if (form == null || form.basis() == Basis.BEZIER && form.degree() != 3) {
      return 0;
    }
    return switch (form.basis()) {
      case BEZIER -> 1;
      case BSPLINE -> 2;
      case CATMULL_ROM -> 3;
      default -> 0;
    };
  }

  private static float[] floats(double[] numbers) {
    float[] floats = new float[numbers.length];
    for (int i = 0; i < floats.length; i++) {
      floats[i] = (float) numbers[i];
    }
    return floats;
  }
}
