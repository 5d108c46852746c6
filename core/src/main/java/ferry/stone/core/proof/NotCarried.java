package ferry.stone.core.proof;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.ArrangedParts;
import ferry.stone.core.format.Capability;
import ferry.stone.core.format.Capability.Fate;
import ferry.stone.core.format.CapabilityTable;
import ferry.stone.core.format.Contents;
import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.scene.Scene;
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
          Capability.SUBDIVISION,
          Capability.NODE_SETS,
          Capability.FACE_SETS,
          Capability.POINT_CACHES,
          Capability.PIVOTS,
          Capability.INHERITED_SCALE,
          Capability.DETAIL_DISTANCES,
          Capability.CUSTOM_LAYERS,
          Capability.NOT_READ);

  /** What is told of flat formats: all that a scene tells; their clips are told as such. */
  private static final List<Capability> FLAT =
      java.util.Arrays.stream(Capability.values())
          .filter(c -> c != Capability.EMPTY_CLIPS && c != Capability.BROKEN_LAYERS)
          .toList();

  private NotCarried() {}

  /** What a writer's word tells of, by its code. */
  private static final Map<String, Capability> SAID =
      Map.ofEntries(
          Map.entry("faces-over-four-corners", Capability.POLYGONS),
          Map.entry("faces-given-a-material", Capability.BARE_FACES),
          Map.entry("texture-without-uvs", Capability.NO_UVS),
          Map.entry("tangents-computed", Capability.TANGENTS),
          Map.entry("layer-does-not-fit", Capability.BROKEN_LAYERS),
          Map.entry("texture-tinted", Capability.TINTED_TEXTURES),
          Map.entry("channels-split", Capability.PACKED_CHANNELS),
          Map.entry("in-betweens-as-targets", Capability.IN_BETWEENS),
          Map.entry("opacity-map-placed-otherwise", Capability.OPACITY_PLACEMENT),
          Map.entry("triangles-nowhere", Capability.NOT_NUMBERS),
          Map.entry("vertices-given-a-joint", Capability.VERTICES_WITHOUT_JOINT),
          Map.entry("influences-reduced", Capability.INFLUENCES),
          Map.entry("bump-to-normal", Capability.BUMP_MAPS),
          Map.entry("image-converted", Capability.IMAGE_FORMATS),
          Map.entry("image-made-smaller", Capability.PACKING),
          Map.entry("channels-packed", Capability.SEPARATE_CHANNELS),
          Map.entry("texture-unreadable", Capability.MISSING_TEXTURES),
          Map.entry("clip-not-written", Capability.EMPTY_CLIPS),
          Map.entry("clip-shifted", Capability.TIME_BEFORE_ZERO),
          Map.entry("track-not-carried", Capability.OTHER_MOTION),
          Map.entry("motion-not-carried", Capability.OTHER_MOTION),
          Map.entry("copies-gathered", Capability.PACKING),
          Map.entry("lines-not-carried", Capability.LINES),
          Map.entry("points-not-carried", Capability.POINTS),
          Map.entry("layer-not-carried", Capability.CUSTOM_LAYERS),
          Map.entry(ArrangedParts.SHEARED, Capability.SHEAR),
          Map.entry(ArrangedParts.UNSHEARED, Capability.SHEAR),
          Map.entry(ArrangedParts.HELPERS, Capability.HELPERS),
          Map.entry(ArrangedParts.PACKED, Capability.PACKING),
          Map.entry(ArrangedParts.ROOT, Capability.ROOT_TRANSFORM),
          Map.entry("levels-beside", Capability.DETAIL_LEVELS),
          Map.entry("variants-not-carried", Capability.VARIANTS),
          Map.entry("skinned-at-top", Capability.SKINNED_BELOW),
          Map.entry("skeleton-root-added", Capability.JOINTS_APART));

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
    Capability about = SAID.get(finding.code());
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
        .about(SAID.get(finding.code()))
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
