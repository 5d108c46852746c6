package ferry.stone.core.format.usd.write.shape;

import ferry.stone.core.format.files.FreeNames;
import ferry.stone.core.format.usd.PointSets;
import ferry.stone.core.format.usd.ValidNames;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.write.spec.Spec;
import ferry.stone.core.format.usd.write.spec.TimeCodes;
import ferry.stone.core.geometry.curve.LineRuns;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.CurveForm;
import ferry.stone.core.scene.mesh.EdgeSet;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.mesh.Subdivision;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.scene.time.Samples;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Meshes, curves and clouds of points, at rest and over time; samples are read as they are written.
 */
public final class ShapeOut {
  private final TimeCodes times;
  private final PrimvarsOut primvars = new PrimvarsOut();

  public ShapeOut(TimeCodes times) {
    this.times = times;
  }

  /** Whether lines or points alone make the mesh. */
  static boolean isLoose(PolygonMesh mesh) {
    return mesh.faces().faceCount() == 0 && mesh.loose() != null;
  }

  /** The type of prim that a mesh becomes. */
  public static String type(PolygonMesh mesh) {
    if (!isLoose(mesh)) {
      return "Mesh";
    }
    return mesh.loose().lineCount() > 0 ? type(mesh.loose()) : "Points";
  }

  /** Bézier pieces of another degree than 3 are NURBS there. */
  private static String type(LooseElements loose) {
    CurveForm form = loose.form();
    boolean nurbs =
        form != null
            && (form.basis() == CurveForm.Basis.NURBS
                || form.basis() == CurveForm.Basis.BEZIER && form.degree() != 3);
    return nurbs ? "NurbsCurves" : "BasisCurves";
  }

  public void write(PrimSpec prim, PolygonMesh mesh, PointCache cache, MeshSequence sequence) {
    if (isLoose(mesh)) {
      int again = again(mesh);
      int[] order = order(mesh, again);
      PolygonMesh alone = picked(mesh, order);
      points(prim, alone, cache == null ? null : c -> read(cache, c).picked(order), cache);
      curves(prim, mesh.loose(), again);
      primvars.write(prim, alone, null, times);
      return;
    }
    if (sequence == null) {
      points(prim, mesh, cache == null ? null : c -> read(cache, c), cache);
    } else {
      points(prim, mesh, s -> sequence.mesh(s).points(), sequence);
    }
    faces(prim, mesh, sequence);
    Subdivision how = mesh.subdivision();
    Spec.token(prim, "subdivisionScheme", how == null ? "none" : how.scheme());
    if (how != null) {
      subdivision(prim, how);
    }
    primvars.write(prim, mesh, sequence, times);
  }

  private static int again(PolygonMesh mesh) {
    return mesh.loose().lineCount() > 0 ? LineRuns.again(mesh.loose()) : 0;
  }

  /** Vertices in the order in which they are written: each point of a line is its own. */
  private static int[] order(PolygonMesh mesh, int again) {
    return mesh.loose().lineCount() > 0
        ? LineRuns.along(mesh.loose(), again)
        : mesh.loose().points();
  }

  private static PolygonMesh picked(PolygonMesh mesh, int[] order) {
    List<Attribute> layers = new ArrayList<>();
    for (Attribute layer : mesh.attributes()) {
      if (layer.domain() == Attribute.Domain.VERTEX) {
        int[] rows = new int[order.length];
        for (int i = 0; i < rows.length; i++) {
          rows[i] = layer.indices() == null ? order[i] : layer.indices()[order[i]];
        }
        boolean whole = Arrays.stream(rows).allMatch(r -> r >= 0);
        layers.add(
            whole
                ? layer.withTable(layer.table().picked(rows)).on(Attribute.Domain.VERTEX, null)
                : layer.on(Attribute.Domain.VERTEX, rows));
      } else if (layer.domain() != Attribute.Domain.CORNER) {
        layers.add(layer);
      }
    }
    return mesh.withPoints(mesh.points().picked(order)).withAttributes(layers);
  }

  /** Points of a sample. */
  private interface At {
    Coordinates points(int sample) throws IOException;
  }

  /**
   * @param at gives those of each sample, {@code null} where they rest
   */
  private void points(PrimSpec prim, PolygonMesh mesh, At at, Samples samples) {
    PropertySpec points = Spec.attribute(prim, "point3f", true, "points");
    PropertySpec extent = Spec.attribute(prim, "float3", true, "extent");
    if (!(samples instanceof MeshSequence)) {
      points.value(points(mesh.points()));
      extent.value(extent(mesh.points()));
    }
    if (at != null) {
      double[] codes = times.codes(samples.allSeconds());
      // Points are read once: boxes are found on the way.
      UsdValue[] boxes = new UsdValue[codes.length];
      points.samples(
          sampled(
              codes,
              s -> {
                Coordinates there = at.points(s);
                boxes[s] = extent(there);
                return points(there);
              }));
      extent.samples(sampled(codes, s -> boxes[s] == null ? extent(at.points(s)) : boxes[s]));
    }
  }

  private static Coordinates read(PointCache cache, int sample) throws IOException {
    float[] xyz = new float[3 * cache.pointCount()];
    cache.read(sample, 0, cache.pointCount(), xyz);
    return Coordinates.of(xyz);
  }

  private static UsdValue points(Coordinates points) {
    return Spec.value("point3f", true, points.toFloats());
  }

  private static UsdValue extent(Coordinates points) {
    Bounds box = points.bounds();
    boolean none = box.equals(Bounds.EMPTY) || !Double.isFinite(box.diagonal());
    float[] all =
        none
            ? new float[6]
            : new float[] {
              (float) box.minX(), (float) box.minY(), (float) box.minZ(),
              (float) box.maxX(), (float) box.maxY(), (float) box.maxZ()
            };
    return Spec.value("float3", true, all);
  }

  /** Makes the value of a sample. */
  public interface Made {
    UsdValue at(int sample) throws IOException;
  }

  public static UsdSamples sampled(double[] codes, Made made) {
    return new UsdSamples() {
      @Override
      public double[] codes() {
        return codes;
      }

      @Override
      public Object value(int sample) throws IOException {
        return made.at(sample);
      }
    };
  }

  private void faces(PrimSpec prim, PolygonMesh mesh, MeshSequence sequence) {
    PropertySpec counts = Spec.attribute(prim, "int", true, "faceVertexCounts");
    PropertySpec corners = Spec.attribute(prim, "int", true, "faceVertexIndices");
    if (sequence == null) {
      counts.value(counts(mesh.faces()));
      corners.value(corners(mesh.faces()));
    } else {
      double[] codes = times.codes(sequence.allSeconds());
      counts.samples(sampled(codes, s -> counts(sequence.mesh(s).faces())));
      corners.samples(sampled(codes, s -> corners(sequence.mesh(s).faces())));
    }
  }

  private static UsdValue counts(Polygons faces) {
    return Spec.value("int", true, faces.sizes());
  }

  private static UsdValue corners(Polygons faces) {
    return Spec.value("int", true, faces.vertices());
  }

  private static void subdivision(PrimSpec prim, Subdivision how) {
    int edges = how.creaseEdges().length / 2;
    if (edges > 0) {
      int[] lengths = new int[edges];
      Arrays.fill(lengths, 2);
      Spec.set(prim, "creaseIndices", Spec.value("int", true, how.creaseEdges()));
      Spec.set(prim, "creaseLengths", Spec.value("int", true, lengths));
      Spec.set(prim, "creaseSharpnesses", Spec.value("float", true, how.creaseSharpness()));
    }
    if (how.creaseVertices().length > 0) {
      Spec.set(prim, "cornerIndices", Spec.value("int", true, how.creaseVertices()));
      Spec.set(prim, "cornerSharpnesses", Spec.value("float", true, how.vertexSharpness()));
    }
    if (how.holes().length > 0) {
      Spec.set(prim, "holeIndices", Spec.value("int", true, how.holes()));
    }
  }

  private static void curves(PrimSpec prim, LooseElements loose, int again) {
    if (loose.lineCount() == 0) {
      return;
    }
    int[] counts = new int[loose.lineCount()];
    for (int l = 0; l < counts.length; l++) {
      counts[l] = loose.lineOffsets()[l + 1] - loose.lineOffsets()[l] - again;
    }
    Spec.set(prim, "curveVertexCounts", Spec.value("int", true, counts));
    CurveForm form = loose.form();
    if (type(loose).equals("NurbsCurves")) {
      double[] knots = form.knots() != null ? form.knots() : LineRuns.knots(counts, form.degree());
      int[] orders = new int[counts.length];
      Arrays.fill(orders, form.degree() + 1);
      Spec.set(prim, "order", Spec.value("int", true, orders));
      Spec.set(prim, "knots", Spec.value("double", true, knots));
      Spec.set(prim, "ranges", Spec.value("double2", true, ranges(knots, counts, form.degree())));
      if (form.weights() != null) {
        Spec.set(prim, "pointWeights", Spec.value("double", true, form.weights()));
      }
      return;
    }
    Spec.token(prim, "type", form == null ? "linear" : "cubic");
    Spec.token(prim, "wrap", again > 0 ? "periodic" : "nonperiodic");
    if (form != null) {
      Spec.token(
          prim,
          "basis",
          switch (form.basis()) {
            case BSPLINE -> "bspline";
            case CATMULL_ROM -> "catmullRom";
            default -> "bezier";
          });
    }
  }

  /** Where each curve begins and ends on its knots. */
  private static double[] ranges(double[] knots, int[] counts, int degree) {
    double[] ranges = new double[2 * counts.length];
    int at = 0;
    for (int l = 0; l < counts.length; l++) {
      ranges[2 * l] = knots[at + degree];
      ranges[2 * l + 1] = knots[at + counts[l]];
      at += counts[l] + degree + 1;
    }
    return ranges;
  }

  /**
   * Sets of faces as prims below.
   *
   * @param taken names of the prims that stand there
   * @return name of the prim of each set
   */
  public Map<FaceSet, String> sets(
      PrimSpec prim, PolygonMesh mesh, MeshSequence sequence, FreeNames taken, Families families) {
    Map<FaceSet, String> names = new HashMap<>();
    for (FaceSet set : mesh.faceSets()) {
      PrimSpec subset = subset(prim, "face", families.of(set), set.name(), taken);
      members(subset, set.faces(), sequence, m -> faces(m, set.name()));
      names.put(set, subset.name());
    }
    for (Attribute layer : mesh.attributes()) {
      if (PointSets.is(layer)) {
        points(prim, layer, sequence, taken);
      }
    }
    for (EdgeSet set : mesh.edgeSets()) {
      edges(prim, set, sequence, taken);
    }
    return names;
  }

  private void points(PrimSpec prim, Attribute layer, MeshSequence sequence, FreeNames taken) {
    PrimSpec subset = subset(prim, "point", PointSets.family(layer), PointSets.name(layer), taken);
    members(subset, PointSets.points(layer), sequence, m -> points(m, layer.name()));
  }

  private static int[] points(PolygonMesh mesh, String layer) {
    int[] points = new int[0];
    for (Attribute there : mesh.attributes()) {
      points = there.name().equals(layer) && PointSets.is(there) ? PointSets.points(there) : points;
    }
    return points;
  }

  private void edges(PrimSpec prim, EdgeSet set, MeshSequence sequence, FreeNames taken) {
    PrimSpec subset = subset(prim, "edge", set.family(), set.name(), taken);
    members(subset, set.pairs(), sequence, m -> edges(m, set));
  }

  private static int[] edges(PolygonMesh mesh, EdgeSet like) {
    int[] pairs = new int[0];
    for (EdgeSet there : mesh.edgeSets()) {
      boolean same = there.name().equals(like.name()) && there.family().equals(like.family());
      pairs = same ? there.pairs() : pairs;
    }
    return pairs;
  }

  private interface Members {
    int[] of(PolygonMesh mesh);
  }

  private void members(PrimSpec subset, int[] rest, MeshSequence sequence, Members members) {
    PropertySpec indices = Spec.attribute(subset, "int", true, "indices");
    if (sequence == null) {
      indices.value(Spec.value("int", true, rest));
    } else {
      double[] codes = times.codes(sequence.allSeconds());
      indices.samples(sampled(codes, s -> Spec.value("int", true, members.of(sequence.mesh(s)))));
    }
  }

  private static PrimSpec subset(
      PrimSpec prim, String element, String family, String own, FreeNames taken) {
    String name = taken.take(ValidNames.of(own));
    PrimSpec subset = Spec.def(prim, "GeomSubset", name);
    if (!name.equals(own)) {
      subset.fields().put("displayName", Spec.text("string", own));
    }
    Spec.token(subset, "elementType", element);
    Spec.token(subset, "familyName", family);
    return subset;
  }

  /** Which family a set belongs to. */
  public interface Families {
    String of(FaceSet set);
  }

  private static int[] faces(PolygonMesh mesh, String name) {
    int[] faces = new int[0];
    for (FaceSet there : mesh.faceSets()) {
      faces = there.name().equals(name) ? there.faces() : faces;
    }
    return faces;
  }
}
