package ferry.stone.core.format.fbx.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.fbx.raw.FbxBuild;
import ferry.stone.core.format.fbx.raw.FbxCustom;
import ferry.stone.core.format.fbx.raw.FbxRecord;
import ferry.stone.core.geometry.mesh.EdgeTable;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.mesh.Subdivision;
import ferry.stone.core.texture.ColourSpace;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Writes polygons, the layers of values over them, and what tells smooth from sharp. */
final class FbxMeshWriter {
  private static final int GEOMETRY_VERSION = 124;

  private final Scene scene;
  private final PolygonMesh mesh;
  private final Findings findings;
  private final List<FbxRecord> children = new ArrayList<>();
  private final List<FbxRecord> elements = new ArrayList<>();
  private final Map<String, Integer> counts = new HashMap<>();
  private final List<List<FbxRecord>> layers = new ArrayList<>();

  FbxMeshWriter(Scene scene, PolygonMesh mesh, Findings findings) {
    this.scene = scene;
    this.mesh = mesh;
    this.findings = findings;
  }

  /**
   * @param slots place in the model's list of materials for each slot, −1 for none
   * @param none place there of the material of faces that have none, −1 when there is none
   */
  List<FbxRecord> write(int[] slots, int none) {
    if (!mesh.properties().isEmpty()) {
      children.add(FbxBuild.properties(FbxCustom.records(mesh.properties(), List.of())));
    }
    children.add(FbxBuild.record("Vertices", (Object) doubles(mesh.points())));
    children.add(FbxBuild.record("PolygonVertexIndex", (Object) corners(mesh.faces())));
    children.add(FbxBuild.record("GeometryVersion", GEOMETRY_VERSION));
    edges();
    for (Attribute a : mesh.attributes()) {
      attribute(a);
    }
    if (mesh.smoothing() != null) {
      layer(
          "LayerElementSmoothing",
          102,
          "",
          "ByPolygon",
          "Direct",
          FbxBuild.record("Smoothing", (Object) mesh.smoothing()));
    }
    materials(slots, none);
    subdivision();
    children.addAll(elements);
    for (int i = 0; i < layers.size(); i++) {
      List<FbxRecord> inside = new ArrayList<>();
      inside.add(FbxBuild.record("Version", 100));
      inside.addAll(layers.get(i));
      children.add(FbxBuild.list("Layer", List.of(i), inside));
    }
    report();
    return children;
  }

  static double[] doubles(Coordinates points) {
    double[] xyz = new double[3 * points.count()];
    for (int i = 0; i < xyz.length; i++) {
      xyz[i] = points.at(i);
    }
    return xyz;
  }

  private static int[] corners(Polygons faces) {
    int[] corners = new int[faces.cornerCount()];
    for (int c = 0; c < corners.length; c++) {
      corners[c] = faces.vertex(c);
    }
    for (int f = 0; f < faces.faceCount(); f++) {
      int end = faces.end(f);
      if (end > faces.start(f)) {
        corners[end - 1] = ~corners[end - 1];
      }
    }
    return corners;
  }

  /**
   * Edges are named by a corner that they begin at. They are written where something needs them.
   */
  private void edges() {
    Subdivision s = mesh.subdivision();
    boolean creased = s != null && s.creaseEdges().length > 0;
    if (!creased && mesh.hardEdges() == null) {
      return;
    }
    EdgeTable table = EdgeTable.of(mesh.faces(), mesh.points().count());
    int count = table.count();
    int[] corner = new int[count];
    Map<Long, Integer> byVertices = new HashMap<>(2 * count);
    for (int e = 0; e < count; e++) {
      corner[e] = table.corner(e, 0);
      byVertices.put(pair(table.low(e), table.high(e)), e);
    }
    children.add(FbxBuild.record("Edges", (Object) corner));
    if (mesh.hardEdges() != null) {
      int[] smooth = new int[count];
      Arrays.fill(smooth, 1);
      int[] hard = mesh.hardEdges();
      for (int i = 0; i + 1 < hard.length; i += 2) {
        Integer edge = byVertices.get(pair(hard[i], hard[i + 1]));
        if (edge != null) {
          smooth[edge] = 0;
        }
      }
      layer(
          "LayerElementSmoothing",
          102,
          "",
          "ByEdge",
          "Direct",
          FbxBuild.record("Smoothing", (Object) smooth));
    }
    if (creased) {
      double[] sharp = new double[count];
      for (int i = 0; i < s.creaseSharpness().length; i++) {
        Integer edge = byVertices.get(pair(s.creaseEdges()[2 * i], s.creaseEdges()[2 * i + 1]));
        if (edge != null) {
          sharp[edge] = s.creaseSharpness()[i];
        }
      }
      layer(
          "LayerElementEdgeCrease",
          101,
          "",
          "ByEdge",
          "Direct",
          FbxBuild.record("EdgeCrease", (Object) sharp));
    }
  }

  private static long pair(int a, int b) {
    return (long) Math.min(a, b) << 32 | Math.max(a, b);
  }

  private void attribute(Attribute a) {
    switch (a.semantic()) {
      case NORMAL -> values(a, "LayerElementNormal", 102, "Normals", "NormalsIndex", 3);
      case TANGENT -> values(a, "LayerElementTangent", 102, "Tangents", "TangentsIndex", 3);
      case UV -> values(uvs(a), "LayerElementUV", 101, "UV", "UVIndex", 2);
      case COLOUR -> values(colours(a), "LayerElementColor", 101, "Colors", "ColorIndex", 4);
      default -> {
        // The format has no layers for them that other programs read: the forecast says so.
      }
    }
  }

  static Finding pointsNotCarried(PolygonMesh mesh) {
    return notCarried(mesh, "points-not-carried", "points");
  }

  private static Finding notCarried(PolygonMesh mesh, String code, String what) {
    return Finding.of(
        code, Severity.FIX, mesh.name() + " · " + what, "Left out: FBX meshes hold faces only.");
  }

  private void values(
      Attribute a, String element, int version, String values, String indices, int components) {
    List<FbxRecord> data = new ArrayList<>();
    data.add(FbxBuild.record(values, (Object) part(a, 0, components)));
    if (a.semantic() == Semantic.TANGENT && a.components() == 4) {
      data.add(FbxBuild.record("TangentsW", (Object) part(a, 3, 1)));
    }
    if (a.indices() != null) {
      data.add(FbxBuild.record(indices, (Object) a.indices()));
    }
    String mapping =
        switch (a.domain()) {
          case VERTEX -> "ByVertice";
          case CORNER -> "ByPolygonVertex";
          case FACE -> "ByPolygon";
          case CONSTANT -> "AllSame";
        };
    layer(
        element,
        version,
        a.name(),
        mapping,
        a.indices() == null ? "Direct" : "IndexToDirect",
        data.toArray(new FbxRecord[0]));
  }

  private static double[] part(Attribute a, int from, int count) {
    int own = a.components();
    double[] result = new double[count * a.valueCount()];
    for (int i = 0; i < a.valueCount(); i++) {
      for (int k = 0; k < count; k++) {
        result[count * i + k] = from + k < own ? a.values()[own * i + from + k] : 1;
      }
    }
    return result;
  }

  private Attribute uvs(Attribute a) {
    if (scene.uvOrigin() == UvOrigin.BOTTOM_LEFT) {
      return a;
    }
    float[] flipped = a.values().clone();
    for (int i = 1; i < flipped.length; i += a.components()) {
      flipped[i] = 1 - flipped[i];
    }
    return a.withValues(flipped);
  }

  /** Colours are written as sRGB, which is how files that say nothing are read. */
  private Attribute colours(Attribute a) {
    if (!scene.linearColours()) {
      return a;
    }
    float[] coded = a.values().clone();
    for (int i = 0; i < coded.length; i++) {
      boolean alpha = a.components() == 4 && i % 4 == 3;
      coded[i] = alpha ? coded[i] : (float) ColourSpace.toSrgb(coded[i]);
    }
    return a.withValues(coded);
  }

  /**
   * @param none place of the material of faces that have none, −1 when there is no such face
   */
  private void materials(int[] slots, int none) {
    boolean any = none >= 0 || Arrays.stream(slots).anyMatch(s -> s >= 0);
    if (!any) {
      return;
    }
    if (mesh.faceSlot() == null) {
      layer(
          "LayerElementMaterial",
          101,
          "",
          "AllSame",
          "IndexToDirect",
          FbxBuild.record("Materials", (Object) new int[] {slots[0]}));
      return;
    }
    int[] ofFace = new int[mesh.faceSlot().length];
    for (int f = 0; f < ofFace.length; f++) {
      int slot = mesh.faceSlot()[f];
      ofFace[f] = slot < 0 || slots[slot] < 0 ? none : slots[slot];
    }
    layer(
        "LayerElementMaterial",
        101,
        "",
        "ByPolygon",
        "IndexToDirect",
        FbxBuild.record("Materials", (Object) ofFace));
  }

  private void subdivision() {
    Subdivision s = mesh.subdivision();
    if (s == null) {
      return;
    }
    children.add(FbxBuild.record("Smoothness", 2));
    children.add(FbxBuild.record("PreviewDivisionLevels", s.level()));
    children.add(FbxBuild.record("RenderDivisionLevels", s.level()));
    if (s.creaseVertices().length > 0) {
      double[] sharp = new double[mesh.points().count()];
      for (int i = 0; i < s.creaseVertices().length; i++) {
        sharp[s.creaseVertices()[i]] = s.vertexSharpness()[i];
      }
      layer(
          "LayerElementVertexCrease",
          101,
          "",
          "ByVertice",
          "Direct",
          FbxBuild.record("VertexCrease", (Object) sharp));
    }
    if (s.holes().length > 0) {
      int[] hole = new int[mesh.faces().faceCount()];
      for (int face : s.holes()) {
        hole[face] = 1;
      }
      layer(
          "LayerElementHole",
          101,
          "",
          "ByPolygon",
          "Direct",
          FbxBuild.record("Hole", (Object) hole));
    }
  }

  /** A layer element; the n-th of a kind goes into the n-th layer. */
  private void layer(
      String element,
      int version,
      String name,
      String mapping,
      String reference,
      FbxRecord... data) {
    int index = counts.merge(element, 1, Integer::sum) - 1;
    List<FbxRecord> inside = new ArrayList<>();
    inside.add(FbxBuild.record("Version", version));
    inside.add(FbxBuild.record("Name", name));
    inside.add(FbxBuild.record("MappingInformationType", mapping));
    inside.add(FbxBuild.record("ReferenceInformationType", reference));
    inside.addAll(List.of(data));
    elements.add(FbxBuild.list(element, List.of(index), inside));
    while (layers.size() <= index) {
      layers.add(new ArrayList<>());
    }
    layers
        .get(index)
        .add(
            FbxBuild.list(
                "LayerElement",
                FbxBuild.record("Type", element),
                FbxBuild.record("TypedIndex", index)));
  }

  private void report() {
    if (mesh.loose() != null && mesh.loose().lineCount() > 0) {
      findings.add(notCarried(mesh, "lines-not-carried", "lines"));
    }
    if (mesh.loose() != null && mesh.loose().points().length > 0) {
      findings.add(pointsNotCarried(mesh));
    }
  }
}
