package ferry.stone.core.format.obj.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.texture.ColourSpace;
import java.util.ArrayList;
import java.util.List;

/**
 * Meshes as OBJ holds them: one set of UVs from the bottom left, one of normals, one colour of
 * three numbers a vertex as sRGB, positions with the decimals that were chosen. Vertices stay what
 * they are and where they are in the list. O(c) for c corners.
 */
final class ObjMeshes {
  /** Colours nearer than this are the same. */
  private static final double SAME_COLOUR = 1e-3;

  /** Numbers this far out, against the size of the mesh, need more digits than a float has. */
  private static final double FLOAT_REACH = 16;

  private final Scene scene;
  private final int decimals;
  private final Findings said;
  private final Count averaged = new Count();
  private final Count seeThrough = new Count();
  private double moved;
  private final Count rounded = new Count();

  /** How many meshes, and the first. */
  private static final class Count {
    private int count;
    private String first = "";

    void add(PolygonMesh mesh) {
      first = count++ == 0 ? mesh.name() : first;
    }
  }

  ObjMeshes(Scene scene, int decimals, Findings said) {
    this.scene = scene;
    this.decimals = decimals;
    this.said = said;
  }

  PolygonMesh held(PolygonMesh mesh) {
    List<Attribute> layers = new ArrayList<>();
    mesh.first(Semantic.UV).ifPresent(uv -> layers.add(upright(uv)));
    mesh.first(Semantic.NORMAL).ifPresent(layers::add);
    mesh.first(Semantic.COLOUR).ifPresent(colour -> layers.add(ofVertices(mesh, colour)));
    return mesh.toBuilder().points(written(mesh)).attributes(layers).hardEdges(null).build();
  }

  private Attribute upright(Attribute uv) {
    boolean turn = scene.uvOrigin() == UvOrigin.TOP_LEFT;
    if (!turn && uv.components() == 2) {
      return uv;
    }
    float[] values = new float[2 * uv.valueCount()];
    for (int i = 0; i < uv.valueCount(); i++) {
      values[2 * i] = uv.values()[uv.components() * i];
      float v = uv.values()[uv.components() * i + 1];
      values[2 * i + 1] = turn ? 1 - v : v;
    }
    return new Attribute(uv.name(), Semantic.UV, uv.domain(), 2, values, uv.indices());
  }

  /** The mean of a vertex's corners where they differ; white where there is none. */
  private Attribute ofVertices(PolygonMesh mesh, Attribute colour) {
    int vertices = mesh.points().count();
    double[] sum = new double[3 * vertices];
    int[] count = new int[vertices];
    boolean differ = false;
    boolean through = false;
    int n = colour.components();
    boolean perVertex = colour.domain() == Domain.VERTEX;
    int elements = perVertex ? vertices : mesh.faces().faceCount();
    for (int e = 0; e < elements; e++) {
      int from = perVertex ? 0 : mesh.faces().start(e);
      int to = perVertex ? 1 : mesh.faces().end(e);
      for (int c = from; c < to; c++) {
        int v = perVertex ? e : mesh.faces().vertex(c);
        int i = colour.valueOf(c, v, e);
        if (i < 0) {
          continue;
        }
        through |= n == 4 && colour.values()[n * i + 3] < 1;
        for (int k = 0; k < 3; k++) {
          double own = coded(colour.values()[n * i + k]);
          differ |= count[v] > 0 && Math.abs(own - sum[3 * v + k] / count[v]) > SAME_COLOUR;
          sum[3 * v + k] += own;
        }
        count[v]++;
      }
    }
    if (differ) {
      averaged.add(mesh);
    }
    if (through) {
      seeThrough.add(mesh);
    }
    float[] values = new float[sum.length];
    for (int i = 0; i < values.length; i++) {
      values[i] = count[i / 3] == 0 ? 1 : (float) (sum[i] / count[i / 3]);
    }
    return new Attribute("colour", Semantic.COLOUR, Domain.VERTEX, 3, values, null);
  }

  private double coded(double value) {
    return scene.linearColours() ? ColourSpace.toSrgb(value) : value;
  }

  /** Floats where they are exact enough: what readers take them for. */
  private Coordinates written(PolygonMesh mesh) {
    Coordinates points = mesh.points();
    double[] xyz = new double[3 * points.count()];
    double step = Math.pow(10, decimals);
    double most = 0;
    for (int i = 0; i < xyz.length; i++) {
      double own = points.at(i);
      xyz[i] = decimals == ObjOptions.ALL ? own : Math.rint(own * step) / step;
      most = Double.isFinite(own) ? Math.max(most, Math.abs(own - xyz[i])) : most;
    }
    if (decimals != ObjOptions.ALL) {
      moved = Math.max(moved, most);
      if (most > 0) {
        rounded.add(mesh);
      }
      return Coordinates.of(xyz);
    }
    var box = points.bounds();
    return box.farthest() > FLOAT_REACH * box.diagonal()
        ? points
        : Coordinates.of(points.toFloats());
  }

  /** Says what was met. */
  void tell() {
    tell(
        averaged,
        "colours-averaged",
        Severity.NOTE,
        "The format holds one colour a vertex: where corners of a vertex differ, it gets their mean.");
    tell(
        seeThrough,
        "colour-opacity-not-carried",
        Severity.FIX,
        "The format holds no opacity of vertex colours.");
    if (rounded.count > 0) {
      double metres = moved * scene.frame().metresPerUnit();
      said.add(
          Finding.of(
                  "positions-rounded",
                  Severity.NOTE,
                  rounded.first,
                  "Positions are written with "
                      + Figures.count(decimals, "decimal")
                      + ", as chosen.")
              .measured("up to " + Figures.length(metres)));
    }
  }

  private void tell(Count met, String code, Severity severity, String message) {
    if (met.count > 0) {
      said.add(
          Finding.of(code, severity, met.first, message)
              .measured(Figures.count(met.count, "mesh")));
    }
  }
}
