package ferry.stone.core.format.fbx.read;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.fbx.raw.FbxDocument;
import ferry.stone.core.format.fbx.raw.FbxRecord;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.mesh.Subdivision;
import ferry.stone.core.work.Beside;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.Supplier;

/** Reads a geometry: polygons, layer elements, creases, materials of faces. */
final class FbxMeshReader {
  /** Points from which it pays to use another core. */
  private static final int MANY = 20_000;

  private final String resource;
  private final FbxDocument.Item item;
  private final FbxRecord record;
  private final Findings findings;
  private int vertices;
  private Polygons faces;
  private int[] edgeCorners;

  FbxMeshReader(String resource, FbxDocument.Item item, Findings findings) {
    this.resource = resource;
    this.item = item;
    this.findings = findings;
    record = item.record();
  }

  PolygonMesh read(int id) throws FormatException {
    double[] xyz = record.at("Vertices").doubles();
    if (xyz.length % 3 != 0) {
      throw error("Vertices", xyz.length + " numbers are no whole number of points.");
    }
    vertices = xyz.length / 3;
    try (Beside beside = new Beside()) {
      Supplier<Coordinates> points =
          vertices < MANY ? () -> coordinates(xyz) : beside.give(() -> coordinates(xyz));
      return read(id, points);
    }
  }

  private PolygonMesh read(int id, Supplier<Coordinates> points) throws FormatException {
    faces = polygons();
    edgeCorners = record.at("Edges").ints();
    List<Attribute> attributes = new ArrayList<>();
    add(attributes, "LayerElementNormal", "Normals", "NormalsIndex", Semantic.NORMAL, 3);
    add(attributes, "LayerElementTangent", "Tangents", "TangentsIndex", Semantic.TANGENT, 3);
    add(attributes, "LayerElementUV", "UV", "UVIndex", Semantic.UV, 2);
    add(attributes, "LayerElementColor", "Colors", "ColorIndex", Semantic.COLOUR, 4);
    int[] slots = materials();
    int slotCount = 1 + (slots == null ? 0 : Arrays.stream(slots).max().orElse(0));
    int[] none = new int[slotCount];
    Arrays.fill(none, -1);
    return PolygonMesh.of(id, item.name(), points.get(), faces).toBuilder()
        .attributes(attributes)
        .materials(none, slots)
        .smoothing(smoothing())
        .hardEdges(hardEdges())
        .subdivision(subdivision())
        .properties(item.properties().custom())
        .build();
  }

  /** Most files hold floats widened to doubles: those are kept as floats. */
  static Coordinates coordinates(double[] xyz) {
    float[] floats = new float[xyz.length];
    for (int i = 0; i < floats.length; i++) {
      floats[i] = (float) xyz[i];
      if (floats[i] != xyz[i] && !Double.isNaN(xyz[i])) {
        return Coordinates.of(xyz);
      }
    }
    return Coordinates.of(floats);
  }

  /** The last corner of each polygon is written as its one's complement. */
  private Polygons polygons() throws FormatException {
    int[] written = record.at("PolygonVertexIndex").ints();
    Polygons triangles = triangles(written);
    if (triangles != null) {
      return triangles;
    }
    int[] corners = new int[written.length];
    IntList offsets = new IntList(written.length / 3 + 2);
    offsets.add(0);
    for (int i = 0; i < written.length; i++) {
      int index = written[i];
      boolean last = index < 0;
      corners[i] = last ? ~index : index;
      if (corners[i] >= vertices) {
        throw error(
            "PolygonVertexIndex",
            "corner " + i + " names vertex " + corners[i] + ", but there are " + vertices + ".");
      }
      if (last) {
        offsets.add(i + 1);
      }
    }
    if (offsets.get(offsets.size() - 1) != written.length) {
      report("polygon-not-closed", "The last polygon has no end; it is closed there.", 1);
      offsets.add(written.length);
    }
    return Polygons.of(corners, offsets.toArray());
  }

  /** The same where all faces are triangles and all is well; {@code null} for anything else. */
  private Polygons triangles(int[] written) {
    if (written.length % 3 != 0) {
      return null;
    }
    int[] corners = new int[written.length];
    for (int i = 0; i < written.length; i += 3) {
      int a = written[i];
      int b = written[i + 1];
      int c = ~written[i + 2];
      if ((a | b | c) < 0 || Math.max(a, Math.max(b, c)) >= vertices) {
        return null;
      }
      corners[i] = a;
      corners[i + 1] = b;
      corners[i + 2] = c;
    }
    return Polygons.triangles(corners);
  }

  private void add(
      List<Attribute> attributes,
      String element,
      String values,
      String indices,
      Semantic semantic,
      int components)
      throws FormatException {
    for (FbxRecord layer : record.all(element)) {
      float[] numbers = floats(layer.at(values).doubles());
      if (numbers.length == 0 || numbers.length % components != 0) {
        continue;
      }
      int[] index =
          layer.at("ReferenceInformationType").text(0).equals("Direct")
              ? null
              : layer.child(indices).map(FbxRecord::ints).orElse(null);
      String mapping = layer.at("MappingInformationType").text(0);
      Domain domain =
          switch (mapping) {
            case "ByPolygonVertex" -> Domain.CORNER;
            case "ByVertice", "ByVertex", "ByControlPoint" -> Domain.VERTEX;
            case "ByPolygon" -> Domain.FACE;
            case "AllSame" -> Domain.CONSTANT;
            default -> null;
          };
      if (domain == null) {
        report("layer-mapping-unknown", element + " is laid out as " + mapping + ": left out.", 1);
        continue;
      }
      int wanted =
          switch (domain) {
            case CORNER -> faces.cornerCount();
            case VERTEX -> vertices;
            case FACE -> faces.faceCount();
            case CONSTANT -> 1;
          };
      int count = numbers.length / components;
      double[] fourth = layer.at("TangentsW").doubles();
      boolean sided = semantic == Semantic.TANGENT && fourth.length == count;
      if ((index == null ? count : index.length) < wanted) {
        report(
            "layer-too-short",
            element
                + " has "
                + (index == null ? count : index.length)
                + " values for "
                + wanted
                + " places: it is left out.",
            1);
        continue;
      }
      if (index != null) {
        index = checked(Arrays.copyOf(index, wanted), count, element);
      }
      String name = layer.at("Name").text(0);
      attributes.add(
          new Attribute(
              name.isEmpty() ? element.substring("LayerElement".length()) : name,
              semantic,
              domain,
              sided ? 4 : components,
              sided ? sided(numbers, fourth) : numbers,
              index));
    }
  }

  /** Tangents with the side of the other one as their fourth number. */
  private static float[] sided(float[] xyz, double[] side) {
    float[] result = new float[4 * side.length];
    for (int i = 0; i < side.length; i++) {
      System.arraycopy(xyz, 3 * i, result, 4 * i, 3);
      result[4 * i + 3] = (float) side[i];
    }
    return result;
  }

  private int[] checked(int[] index, int count, String element) {
    int bad = 0;
    for (int i = 0; i < index.length; i++) {
      if (index[i] < 0 || index[i] >= count) {
        bad += index[i] == -1 ? 0 : 1;
        index[i] = -1;
      }
    }
    if (bad > 0) {
      report("layer-index-out-of-range", element + " names values that are not there.", bad);
    }
    return index;
  }

  private static float[] floats(double[] values) {
    float[] result = new float[values.length];
    for (int i = 0; i < result.length; i++) {
      result[i] = (float) values[i];
    }
    return result;
  }

  /** Slot of each face, −1 for none; {@code null} when all have the first. */
  private int[] materials() {
    FbxRecord layer = record.at("LayerElementMaterial");
    int[] written = layer.at("Materials").ints();
    boolean perFace = layer.at("MappingInformationType").text(0).equals("ByPolygon");
    if (!perFace || written.length < faces.faceCount()) {
      return null;
    }
    int[] slots = Arrays.copyOf(written, faces.faceCount());
    for (int i = 0; i < slots.length; i++) {
      // A place beyond any list of materials would make a list of that length.
      slots[i] = slots[i] < 0 ? -1 : slots[i] > 65_535 ? 0 : slots[i];
    }
    return slots;
  }

  private static boolean isLaidOut(FbxRecord layer, String mapping) {
    return layer.at("MappingInformationType").text(0).equals(mapping);
  }

  /** Smoothing groups of the faces, {@code null} where there are none. */
  private int[] smoothing() {
    for (FbxRecord layer : record.all("LayerElementSmoothing")) {
      int[] written = layer.at("Smoothing").ints();
      if (isLaidOut(layer, "ByPolygon") && written.length >= faces.faceCount()) {
        return Arrays.copyOf(written, faces.faceCount());
      }
    }
    return null;
  }

  /** Pairs of vertices of the edges that are not smooth, {@code null} where nothing says so. */
  private int[] hardEdges() {
    for (FbxRecord layer : record.all("LayerElementSmoothing")) {
      if (!isLaidOut(layer, "ByEdge")) {
        continue;
      }
      int[] smooth = layer.at("Smoothing").ints();
      if (smooth.length < edgeCorners.length || edgeCorners.length == 0) {
        report(
            "smoothing-not-read",
            "Smoothing by edge does not fit the edges: recompute the normals.",
            1);
        return null;
      }
      IntList hard = new IntList(16);
      for (int e = 0; e < edgeCorners.length; e++) {
        int corner = edgeCorners[e];
        if (smooth[e] == 0 && corner >= 0 && corner < faces.cornerCount()) {
          hard.add(faces.vertex(corner));
          hard.add(faces.vertex(next(corner)));
        }
      }
      return hard.toArray();
    }
    return null;
  }

  private Subdivision subdivision() {
    double smoothness = record.at("Smoothness").number(0, 0);
    double[] creases = record.at("LayerElementEdgeCrease").at("EdgeCrease").doubles();
    double[] corners = record.at("LayerElementVertexCrease").at("VertexCrease").doubles();
    int[] hole = record.at("LayerElementHole").at("Hole").ints();
    boolean any =
        Arrays.stream(creases).anyMatch(c -> c > 0)
            || Arrays.stream(corners).anyMatch(c -> c > 0)
            || Arrays.stream(hole).anyMatch(h -> h != 0);
    if (smoothness < 1 && !any) {
      return null;
    }
    IntList edges = new IntList(16);
    FloatList sharpness = new FloatList(8);
    for (int e = 0; e < Math.min(edgeCorners.length, creases.length); e++) {
      int corner = edgeCorners[e];
      if (creases[e] > 0 && corner >= 0 && corner < faces.cornerCount()) {
        edges.add(faces.vertex(corner));
        edges.add(faces.vertex(next(corner)));
        sharpness.add((float) creases[e]);
      }
    }
    IntList sharp = new IntList(8);
    FloatList howSharp = new FloatList(8);
    for (int v = 0; v < Math.min(vertices, corners.length); v++) {
      if (corners[v] > 0) {
        sharp.add(v);
        howSharp.add((float) corners[v]);
      }
    }
    IntList holes = new IntList(8);
    for (int f = 0; f < Math.min(faces.faceCount(), hole.length); f++) {
      if (hole[f] != 0) {
        holes.add(f);
      }
    }
    int level = (int) Math.max(0, Math.min(10, record.at("PreviewDivisionLevels").number(0, 2)));
    return new Subdivision(
        "catmullClark",
        level,
        edges.toArray(),
        sharpness.toArray(),
        sharp.toArray(),
        howSharp.toArray(),
        holes.toArray());
  }

  /** The corner after one in its own face. */
  private int next(int corner) {
    int face = faces.faceOf(corner);
    return corner + 1 < faces.end(face) ? corner + 1 : faces.start(face);
  }

  private void report(String code, String message, int count) {
    findings.add(
        Finding.of(code, Severity.LOOK, item.name(), message)
            .measured(Figures.count(count, "place")));
  }

  private FormatException error(String what, String problem) {
    return new FormatException(
        Kind.CORRUPT,
        resource,
        record.place() + ", geometry \"" + item.name() + "\", " + what,
        problem + " Export the file again.");
  }
}
