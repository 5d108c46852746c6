package ferry.stone.core.proof;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.scene.Attribute;
import ferry.stone.core.scene.FaceSet;
import ferry.stone.core.scene.PolygonMesh;
import ferry.stone.core.scene.Scene;
import java.util.List;

/** Lists what the landed format has no place for, and what its writer said. */
final class NotCarried {
  private NotCarried() {}

  static void list(Ledger ledger, Scene far, Landed landed) {
    ledger.group("What the format does not hold");
    int smoothing = 0;
    int besides = 0;
    int subdivided = 0;
    int sets = 0;
    for (PolygonMesh mesh : far.meshes()) {
      boolean shaded = mesh.first(Attribute.Semantic.NORMAL).isPresent();
      smoothing += mesh.smoothing() != null && !shaded ? 1 : 0;
      besides += (mesh.smoothing() != null || mesh.hardEdges() != null) && shaded ? 1 : 0;
      subdivided += mesh.subdivision() != null ? 1 : 0;
      sets += mesh.faceSets().size();
    }
    if (smoothing > 0 && landed.isGltf()) {
      row(
          ledger,
          "Smoothing groups",
          Figures.count(smoothing, "mesh"),
          "normals say the same",
          Verdict.LOST,
          "glTF has none; the shading is in the normals");
    }
    if (besides > 0 && landed.isGltf()) {
      row(
          ledger,
          "Smoothing beside the normals",
          Figures.count(besides, "mesh"),
          "normals say the same",
          Verdict.CHANGED,
          "glTF has none; the shading is in the normals");
    }
    if (subdivided > 0 && landed.isGltf()) {
      row(
          ledger,
          "Subdivision",
          Figures.count(subdivided, "mesh"),
          Figures.count(-subdivided),
          Verdict.LOST,
          "glTF has none: the mesh lands as its cage");
    }
    if (!far.sets().isEmpty() && landed.isGltf()) {
      ledger.add(
          "Layers and selections",
          -1,
          Figures.count(far.sets().size()),
          Figures.count(far.sets().size()),
          "—",
          Figures.count(-far.sets().size()),
          Verdict.LOST,
          "glTF has none: " + far.sets().get(0).name());
    }
    if (sets > 0) {
      List<String> names =
          far.meshes().stream()
              .flatMap(m -> m.faceSets().stream())
              .map(FaceSet::name)
              .distinct()
              .limit(5)
              .toList();
      ledger.add(
          "Groups inside parts",
          -1,
          Figures.count(sets),
          Figures.count(sets),
          "—",
          Figures.count(-sets),
          Verdict.LOST,
          landed.format() + " has none: " + String.join(", ", names));
    }
    landed.findings().forEach(f -> finding(ledger, f));
  }

  private static void row(
      Ledger ledger, String fact, String had, String change, Verdict verdict, String note) {
    ledger.add(fact, -1, had, had, "—", change, verdict, note);
  }

  private static void finding(Ledger ledger, Finding finding) {

    boolean lost = finding.severity() == Severity.FIX;
    ledger.add(
        finding.where().isEmpty() ? finding.code() : finding.where(),
        -1,
        "—",
        "—",
        finding.measured().isEmpty() ? "—" : finding.measured(),
        "",
        lost ? Verdict.LOST : Verdict.CHANGED,
        finding.message());
  }
}
