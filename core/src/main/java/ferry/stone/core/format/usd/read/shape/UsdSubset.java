package ferry.stone.core.format.usd.read.shape;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.ReadReport;
import ferry.stone.core.format.usd.PointSets;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.read.stage.Said;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.EdgeSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;

/** A part of a mesh that a prim below it says. */
public record UsdSubset(UsdPrim prim, String element, String family) {
  static final String BIND = "materialBind";

  public static boolean is(UsdPrim prim) {
    return prim.typeName().equals("GeomSubset");
  }

  /** Whether a set has a place here; others are kept as they are. */
  public static boolean isRead(UsdPrim prim, UsdPrim shape) throws IOException, FormatException {
    UsdSubset set = of(prim);
    return UsdMeshes.isShape(shape.typeName())
        && (set.isOfFaces() || set.isOfPoints() || set.isOfEdges());
  }

  public static UsdSubset of(UsdPrim prim) throws IOException, FormatException {
    return new UsdSubset(
        prim, Said.text(prim, "elementType", "face"), Said.text(prim, "familyName", ""));
  }

  String name() {
    return Said.name(prim);
  }

  boolean isOfFaces() {
    return element.equals("face");
  }

  boolean isOfEdges() {
    return element.equals("edge");
  }

  boolean isOfPoints() {
    return element.equals("point");
  }

  /** The mesh with a set of points or edges that it names. */
  PolygonMesh on(PolygonMesh mesh, ReadReport report, double code)
      throws IOException, FormatException {
    if (isOfPoints()) {
      return PointSets.with(mesh, family, name(), members(report, code));
    }
    if (!isOfEdges()) {
      return mesh;
    }
    int[] members = members(report, code);
    int vertices = mesh.points().count();
    IntList pairs = new IntList(members.length);
    for (int i = 0; i + 1 < members.length; i += 2) {
      int a = members[i];
      int b = members[i + 1];
      if (a >= 0 && b >= 0 && a < vertices && b < vertices && a != b) {
        pairs.add(a);
        pairs.add(b);
      }
    }
    if (pairs.size() < members.length) {
      report.note(
          "faces-of-sets-left-out",
          prim.path(),
          "The set names edges whose points are not there: these are left out.");
    }
    List<EdgeSet> sets = new ArrayList<>(mesh.edgeSets());
    sets.add(new EdgeSet(name(), family, pairs.toArray()));
    return mesh.toBuilder().edgeSets(sets).build();
  }

  private int[] members(ReadReport report, double code) throws IOException, FormatException {
    UsdValue value = Said.at(prim.property("indices"), code);
    int[] members = value == null ? new int[0] : value.ints();
    report.claim(8L * members.length, prim.path(), "its members");
    if (Said.moves(prim, "indices") && !report.everySample()) {
      report.lost(
          "layer-motion-not-read",
          prim.path(),
          "The set has other " + element + "s over time: those at first are read.");
    }
    return members;
  }

  boolean binds() {
    return family.equals(BIND);
  }

  /** Its faces that are there, rising. */
  int[] faces(ReadReport report, int faces, double code) throws IOException, FormatException {
    UsdValue value = Said.at(prim.property("indices"), code);
    int[] members = value == null ? new int[0] : value.ints();
    report.claim(8L * members.length, prim.path(), "its faces");
    int[] inside =
        IntStream.of(members).filter(f -> f >= 0 && f < faces).sorted().distinct().toArray();
    if (inside.length < members.length) {
      report.note(
          "faces-of-sets-left-out",
          prim.path(),
          "The set names faces that are not there, or twice: these are left out.");
    }
    if (Said.moves(prim, "indices") && !report.everySample()) {
      report.lost(
          "layer-motion-not-read",
          prim.path(),
          "The set has other faces over time: those at first are read.");
    }
    return inside;
  }
}
