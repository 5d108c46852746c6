package ferry.stone.core.format.usd.read.shape;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.ReadReport;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.read.stage.Said;
import java.io.IOException;
import java.util.stream.IntStream;

/** A part of a mesh that a prim below it says. */
public record UsdSubset(UsdPrim prim, String element, String family) {
  static final String BIND = "materialBind";

  public static boolean is(UsdPrim prim) {
    return prim.typeName().equals("GeomSubset");
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

  boolean isOfPoints() {
    return element.equals("point");
  }

  /** The points that it names, at first. */
  int[] points(ReadReport report) throws IOException, FormatException {
    UsdValue value = Said.value(prim, "indices");
    int[] members = value == null ? new int[0] : value.ints();
    report.claim(8L * members.length, prim.path(), "its points");
    if (Said.moves(prim, "indices")) {
      report.lost(
          "layer-motion-not-read",
          prim.path(),
          "The set has other points over time: those at first are read.");
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
