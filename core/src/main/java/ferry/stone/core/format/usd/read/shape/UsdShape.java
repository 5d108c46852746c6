package ferry.stone.core.format.usd.read.shape;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.ReadReport;
import ferry.stone.core.format.mesh.Creases;
import ferry.stone.core.format.mesh.FileFaces;
import ferry.stone.core.format.mesh.FileLayers;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.read.stage.Primvars;
import ferry.stone.core.format.usd.read.stage.Said;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Subdivision;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;

/**
 * Meshes. Faces of a left-handed mesh run clockwise seen from outside; here they run the other way,
 * from the same first corner, and the values of corners with them.
 *
 * @param subsets the prims below that say parts of it
 * @param code time code at which it is read, no number for the mesh at rest
 */
record UsdShape(
    ReadReport report, UsdPrim prim, Primvars primvars, List<UsdSubset> subsets, double code) {
  static final String POINTS = "points";

  /** Properties whose change makes another mesh and not a moved one. */
  static final List<String> TOPOLOGY =
      List.of("faceVertexIndices", "faceVertexCounts", "curveVertexCounts");

  /** The mesh under an id. */
  PolygonMesh read(int id) throws IOException, FormatException {
    Coordinates points = points();
    int[] counts = ints("faceVertexCounts");
    int[] vertices = ints("faceVertexIndices");
    boolean left = text("orientation", "rightHanded").equals("leftHanded");
    FileFaces faces = FileFaces.of(report, prim.path(), counts, vertices, points.count(), left);
    PolygonMesh mesh = PolygonMesh.of(id, prim.name(), points, faces.polygons());
    return mesh.toBuilder()
        .attributes(layers(points.count(), counts.length, faces.corners()))
        .faceSets(faceSets(counts.length))
        .subdivision(subdivision(mesh))
        .build();
  }

  Coordinates points() throws IOException, FormatException {
    UsdValue value = at(POINTS);
    if (value == null) {
      return Coordinates.of(new float[0]);
    }
    if (value.length() % 3 != 0 || value.type().components() != 3) {
      throw report.broken(prim.path(), "its points have not three numbers each.");
    }
    report.claim(4L * value.length(), prim.path(), "its points");
    return value.data() instanceof double[] wide
        ? Coordinates.of(wide)
        : Coordinates.of(value.floats());
  }

  List<Attribute> layers(int vertices, int faces, int[] corners)
      throws IOException, FormatException {
    boolean moves = Double.isNaN(code) && Said.moves(prim, POINTS);
    Attribute.Domain varying = Attribute.Domain.VERTEX;
    FileLayers over = new FileLayers(report, prim.path(), vertices, faces, corners, moves);
    return new UsdLayers(over, varying, code).all(prim, primvars);
  }

  int[] ints(String name) throws IOException, FormatException {
    UsdValue value = at(name);
    if (value == null) {
      return new int[0];
    }
    report.claim(8L * value.length(), prim.path(), "\"" + name + "\"");
    return value.ints();
  }

  float[] floats(String name) throws IOException, FormatException {
    UsdValue value = at(name);
    return value == null ? new float[0] : value.floats();
  }

  String text(String name, String otherwise) throws IOException, FormatException {
    return Said.text(prim, name, otherwise);
  }

  /** A value at the time code, {@code null} for none. */
  UsdValue at(String name) throws IOException, FormatException {
    return Said.at(prim.property(name), code);
  }

  private List<FaceSet> faceSets(int faces) throws IOException, FormatException {
    List<FaceSet> sets = new ArrayList<>();
    for (UsdSubset subset : subsets) {
      if (subset.isOfFaces()) {
        sets.add(new FaceSet(subset.name(), subset.faces(report, faces, code)));
      }
    }
    return sets;
  }

  private Subdivision subdivision(PolygonMesh mesh) throws IOException, FormatException {
    String scheme = text("subdivisionScheme", "catmullClark");
    if (scheme.equals("none")) {
      return null;
    }
    rules();
    int[] edges = ints("creaseIndices");
    int[] lengths = ints("creaseLengths");
    float[] sharpness = floats("creaseSharpnesses");
    Creases creases = Creases.of(edges, lengths, sharpness, mesh.points().count());
    int[] corners = ints("cornerIndices");
    float[] cornerSharp = floats("cornerSharpnesses");
    int known = Math.min(corners.length, cornerSharp.length);
    return new Subdivision(
        scheme,
        0,
        creases.pairs(),
        creases.sharpness(),
        Arrays.copyOf(corners, known),
        Arrays.copyOf(cornerSharp, known),
        IntStream.of(ints("holeIndices"))
            .filter(f -> f >= 0 && f < mesh.faces().faceCount())
            .sorted()
            .distinct()
            .toArray());
  }

  /** Tells of what a subdivision says and no place is here for. */
  private void rules() throws IOException, FormatException {
    rule("interpolateBoundary", "edgeAndCorner");
    rule("faceVaryingLinearInterpolation", "cornersPlus1");
    rule("triangleSubdivisionRule", "catmullClark");
    for (String name : List.of("creaseSharpnesses", "cornerSharpnesses", "holeIndices")) {
      if (!report.everySample() && Said.moves(prim, name)) {
        report.lost(
            "layer-motion-not-read",
            prim.path(),
            "Its \"" + name + "\" change over time: they are read as they are at first.");
      }
    }
  }

  private void rule(String name, String usual) throws IOException, FormatException {
    if (!text(name, usual).equals(usual)) {
      report.lost(
          "subdivision-rule-not-read",
          prim.path(),
          "How borders are subdivided (\"" + name + "\") is not read.");
    }
  }
}
