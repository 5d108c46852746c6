package ferry.stone.core.format.abc.read;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.abc.raw.AbcCompound;
import ferry.stone.core.format.abc.raw.AbcObject;
import ferry.stone.core.format.abc.raw.AbcProperty;
import ferry.stone.core.format.files.ReadReport;
import ferry.stone.core.format.mesh.Creases;
import ferry.stone.core.format.mesh.FileFaces;
import ferry.stone.core.format.mesh.FileLayers;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
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
 * Meshes and subdivision surfaces. Faces of the format run clockwise seen from outside; here they
 * run the other way, from the same first corner, and the values of corners with them.
 */
final class AbcShape {
  private final ReadReport report;
  private final AbcObject object;
  private final AbcCompound geometry;

  AbcShape(ReadReport report, AbcObject object, AbcCompound geometry) {
    this.report = report;
    this.object = object;
    this.geometry = geometry;
  }

  /** Properties whose change makes another mesh and not a moved one. */
  static List<String> topology() {
    return List.of(".faceIndices", ".faceCounts", "nVertices");
  }

  /** The mesh of a sample. */
  PolygonMesh read(int id, int sample) throws IOException, FormatException {
    AbcProperty points = geometry.value("P").orElse(null);
    float[] xyz = points == null ? new float[0] : points(report, object, points, sample);
    int[] counts = ints(".faceCounts", sample);
    int[] vertices = ints(".faceIndices", sample);
    FileFaces faces = FileFaces.of(report, object.path(), counts, vertices, xyz.length / 3, true);
    PolygonMesh mesh = PolygonMesh.of(id, object.name(), Coordinates.of(xyz), faces.polygons());
    boolean moves = points != null && !points.isConstant() && !report.everySample();
    AbcLayers layers =
        new AbcLayers(
            new FileLayers(
                report, object.path(), xyz.length / 3, counts.length, faces.corners(), moves));
    return mesh.toBuilder()
        .attributes(layers(report, geometry, layers, sample))
        .faceSets(faceSets(counts.length, sample))
        .subdivision(object.schema().startsWith("AbcGeom_SubD") ? subdivision(mesh, sample) : null)
        .build();
  }

  static float[] points(ReadReport report, AbcObject object, AbcProperty points, int sample)
      throws IOException, FormatException {
    AbcProperty.Place place = points.place(sample);
    report.claim(place.bytes(), object.path(), "its points");
    if (points.type().extent() != 3) {
      throw report.broken(
          object.path(), "its points have " + points.type().extent() + " numbers each.");
    }
    return points.floats(sample);
  }

  private int[] ints(String name, int sample) throws IOException, FormatException {
    AbcProperty property = geometry.value(name).orElse(null);
    if (property == null) {
      return new int[0];
    }
    report.claim(2 * property.place(sample).bytes(), object.path(), "\"" + name + "\"");
    return property.ints(sample);
  }

  /** Normals, UVs, velocities and what else lies over the points of a schema. */
  static List<Attribute> layers(
      ReadReport report, AbcCompound geometry, AbcLayers layers, int sample)
      throws IOException, FormatException {
    List<Attribute> result = new ArrayList<>();
    add(result, layers.layer(geometry, "N", Semantic.NORMAL, sample));
    add(result, layers.layer(geometry, "uv", Semantic.UV, sample));
    add(result, layers.layer(geometry, ".velocities", Semantic.OTHER, sample));
    for (String name : List.of(".pointIds", ".widths", "width")) {
      add(result, layers.layer(geometry, name, Semantic.OTHER, sample));
    }
    AbcCompound arbitrary = geometry.compound(".arbGeomParams").orElse(null);
    if (arbitrary != null) {
      List<String> names = new ArrayList<>(arbitrary.compounds());
      arbitrary.values().forEach(p -> names.add(p.name()));
      for (String name : names) {
        add(result, layers.layer(arbitrary, name, null, sample));
      }
    }
    return result;
  }

  private static void add(List<Attribute> layers, Attribute layer) {
    if (layer != null) {
      layers.add(layer);
    }
  }

  /** The sets of faces, which are objects below the mesh. */
  private List<FaceSet> faceSets(int faces, int sample) throws IOException, FormatException {
    List<FaceSet> sets = new ArrayList<>();
    for (AbcObject child : object.children()) {
      if (isFaceSet(child)) {
        AbcCompound set = child.properties().compound(".faceset").orElse(null);
        AbcProperty property = set == null ? null : set.value(".faces").orElse(null);
        int[] members = property == null ? new int[0] : property.ints(sample);
        int[] inside =
            IntStream.of(members).filter(f -> f >= 0 && f < faces).sorted().distinct().toArray();
        if (inside.length < members.length) {
          report.note(
              "faces-of-sets-left-out",
              child.path(),
              "The set names faces that are not there, or twice: these are left out.");
        }
        if (property != null && !property.isConstant() && !report.everySample()) {
          report.lost(
              "layer-motion-not-read",
              child.path(),
              "The set has other faces over time: those at first are read.");
        }
        sets.add(new FaceSet(child.name(), inside));
      }
    }
    return sets;
  }

  static boolean isFaceSet(AbcObject object) {
    return object.schema().startsWith("AbcGeom_FaceSet");
  }

  private Subdivision subdivision(PolygonMesh mesh, int sample)
      throws IOException, FormatException {
    rules();
    int[] edges = ints(".creaseIndices", sample);
    int[] lengths = ints(".creaseLengths", sample);
    float[] sharpness = floats(".creaseSharpnesses", sample);
    Creases creases = Creases.of(edges, lengths, sharpness, mesh.points().count());
    int[] corners = ints(".cornerIndices", sample);
    float[] cornerSharp = floats(".cornerSharpnesses", sample);
    int known = Math.min(corners.length, cornerSharp.length);
    AbcProperty scheme = geometry.value(".scheme").orElse(null);
    String name = scheme == null ? "" : String.join("", scheme.texts(0));
    return new Subdivision(
        name.isEmpty() || name.startsWith("catmull") ? "catmullClark" : name,
        0,
        creases.pairs(),
        creases.sharpness(),
        Arrays.copyOf(corners, known),
        Arrays.copyOf(cornerSharp, known),
        IntStream.of(ints(".holes", sample))
            .filter(f -> f >= 0 && f < mesh.faces().faceCount())
            .sorted()
            .distinct()
            .toArray());
  }

  /** Tells of what a subdivision says and no place is here for. */
  private void rules() throws IOException, FormatException {
    for (String name :
        List.of(
            ".interpolateBoundary",
            ".faceVaryingInterpolateBoundary",
            ".faceVaryingPropagateCorners")) {
      AbcProperty rule = geometry.value(name).orElse(null);
      if (rule != null && IntStream.of(rule.ints(0)).anyMatch(v -> v != 0)) {
        report.lost(
            "subdivision-rule-not-read",
            object.path(),
            "How borders are subdivided (\"" + name.substring(1) + "\") is not read.");
      }
    }
    for (String name : List.of(".creaseSharpnesses", ".cornerSharpnesses", ".holes")) {
      if (!report.everySample()
          && !geometry.value(name).map(AbcProperty::isConstant).orElse(true)) {
        report.lost(
            "layer-motion-not-read",
            object.path(),
            "Its \""
                + name.substring(1)
                + "\" change over time: they are read as they are at"
                + " first.");
      }
    }
  }

  private float[] floats(String name, int sample) throws IOException, FormatException {
    AbcProperty property = geometry.value(name).orElse(null);
    if (property == null) {
      return new float[0];
    }
    report.claim(2 * property.place(sample).bytes(), object.path(), "\"" + name + "\"");
    return property.floats(sample);
  }
}
