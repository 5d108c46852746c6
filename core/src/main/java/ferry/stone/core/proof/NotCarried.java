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
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;

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
          Capability.SKINS,
          Capability.MORPHS,
          Capability.MATERIALS,
          Capability.NORMALS,
          Capability.UVS,
          Capability.HIERARCHY,
          Capability.SHARED_MESHES,
          Capability.LIGHTS,
          Capability.OWN_TANGENTS,
          Capability.LISTED_COPIES,
          Capability.BRANCH_COPIES,
          Capability.FACE_SETS,
          Capability.EDGE_SETS,
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
          Capability.UNCHOSEN,
          Capability.KEPT_SHAPES,
          Capability.NOT_READ);

  /** What is told of flat formats: all that a scene tells; their clips are told as such. */
  private static final List<Capability> FLAT =
      Arrays.stream(Capability.values())
          .filter(c -> c != Capability.EMPTY_CLIPS && c != Capability.BROKEN_LAYERS)
          .toList();

  /** What is told of a thing that does not land at all; else its own rows tell it. */
  private static final Map<Capability, List<Capability>> GROUPS =
      Map.of(
          Capability.LIGHTS,
          List.of(Capability.AREA_LIGHTS, Capability.DOME_LIGHTS),
          Capability.MATERIALS,
          List.of(Capability.PACKED_IMAGES, Capability.VARIANTS),
          Capability.DETAIL_LEVELS,
          List.of(Capability.DETAIL_LEVELS));

  private NotCarried() {}

  private static List<Capability> parts(Landed landed, Capability whole, List<Capability> parts) {
    return landed.fate(whole) == Fate.LOST ? parts : List.of();
  }

  static void list(Ledger ledger, Scene far, Landed landed) {
    ledger.group("What the format does not hold");
    CapabilityTable table = landed.table();
    Contents contents = new Contents(far);
    List<Capability> named = new ArrayList<>(landed.holding().isFlat() ? FLAT : NAMED);
    if (!landed.holding().isFlat()) {
      GROUPS.forEach((whole, parts) -> named.addAll(parts(landed, whole, parts)));
    }
    for (Capability capability : named) {
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
