package ferry.stone.core.proof;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.flat.Contents;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.format.losses.CapabilityTable;
import ferry.stone.core.format.losses.WriterSays;
import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.scene.Scene;
import java.util.Arrays;
import java.util.List;

/** Lists what the landed format has no place for, and what its writer said. */
final class NotCarried {
  /** What no other row of a proof tells of. */
  private static final List<Capability> NAMED =
      List.of(
          Capability.UNUSED_VERTICES,
          Capability.SMOOTHING,
          Capability.SMOOTHING_BESIDE,
          Capability.SHARP_EDGES,
          Capability.SHARP_EDGES_BESIDE,
          Capability.SUBDIVISION,
          Capability.NODE_SETS,
          Capability.LISTED_COPIES,
          Capability.BRANCH_COPIES,
          Capability.FACE_SETS,
          Capability.POINT_CACHES,
          Capability.CHANGING_MESHES,
          Capability.TEXTS_OVER_TIME,
          Capability.PIVOTS,
          Capability.INHERITED_SCALE,
          Capability.DETAIL_DISTANCES,
          Capability.CUSTOM_LAYERS,
          Capability.CURVES,
          Capability.NURBS_CURVES,
          Capability.TEXT_LAYERS,
          Capability.LAYER_TYPES,
          Capability.PURPOSES,
          Capability.CAMERA_LENSES,
          Capability.OPEN_CAMERAS,
          Capability.NOT_READ);

  /** What is told of flat formats: all that a scene tells; their clips are told as such. */
  private static final List<Capability> FLAT =
      Arrays.stream(Capability.values())
          .filter(c -> c != Capability.EMPTY_CLIPS && c != Capability.BROKEN_LAYERS)
          .toList();

  private NotCarried() {}

  static void list(Ledger ledger, Scene far, Landed landed) {
    ledger.group("What the format does not hold");
    CapabilityTable table = landed.table();
    Contents contents = new Contents(far);
    for (Capability capability : landed.holding().isFlat() ? FLAT : NAMED) {
      Fate fate = landed.fate(capability);
      Contents.Found found = contents.find(capability);
      if (capability == Capability.NOT_READ) {
        far.unread().forEach(what -> unread(ledger, what));
      } else if (fate != Fate.KEPT && found.count() > 0) {
        String had = Figures.count(found.count(), found.noun());
        ledger
            .about(capability)
            .add(
                capability.label(),
                -1,
                had,
                had,
                "—",
                fate == Fate.LOST ? Figures.count(-found.count()) : "",
                fate == Fate.LOST ? Verdict.LOST : Verdict.CHANGED,
                (landed.holding().isBaked()
                        ? "Baked into plain transforms, as chosen."
                        : table.of(capability).how())
                    + (found.where().isEmpty() ? "" : " First: " + found.where() + "."));
      }
    }
    landed.findings().forEach(f -> finding(ledger, f));
  }

  private static String fact(Finding finding) {
    Capability about = WriterSays.about(finding.code());
    return !finding.where().isEmpty()
        ? finding.where()
        : about != null ? about.label() : finding.code();
  }

  private static void unread(Ledger ledger, String what) {
    ledger
        .about(Capability.NOT_READ)
        .add(
            what,
            -1,
            "in the source",
            "—",
            "—",
            "",
            Verdict.LOST,
            "It was not read: see the survey.");
  }

  private static void finding(Ledger ledger, Finding finding) {
    boolean lost = finding.severity() == Severity.FIX;
    ledger
        .about(WriterSays.about(finding.code()))
        .add(
            fact(finding),
            -1,
            "—",
            "—",
            finding.measured().isEmpty() ? "—" : finding.measured(),
            "",
            lost ? Verdict.LOST : Verdict.CHANGED,
            finding.message());
  }
}
