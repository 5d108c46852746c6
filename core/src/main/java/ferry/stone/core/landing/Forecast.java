package ferry.stone.core.landing;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.flat.Contents;
import ferry.stone.core.format.flat.FittingLayers;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.format.losses.CapabilityTable;
import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.format.losses.WriterSays;
import ferry.stone.core.math.Figures;
import ferry.stone.core.motion.InfluenceCut;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What a landing will change or lose, before it is written: the format's table over what the scene
 * holds. Nothing is written; hierarchy and materials are asked by the same code that writes them.
 *
 * @param items what will not arrive as it is, the worst first
 * @param cost what the caches of the scene take
 */
public record Forecast(List<Item> items, CacheCost cost) {

  /**
   * One thing that will not arrive as it is.
   *
   * @param capability what of the format it is about
   * @param fate {@code CHANGED} or {@code LOST}
   * @param label what it is
   * @param measured how much
   * @param where the first place, or empty
   * @param how what becomes of it
   * @param nodeIds parts that hold it, possibly none
   * @param offers steps that avoid it
   */
  public record Item(
      Capability capability,
      Fate fate,
      String label,
      String measured,
      String where,
      String how,
      List<Integer> nodeIds,
      List<Offer> offers) {}

  /**
   * @param cargo the source's files, for images that may have to be converted
   */
  public static Forecast of(Scene far, LandingOptions options, Resources cargo) {
    return new Work(options.contents().of(far), options, cargo).run();
  }

  private static final class Work implements SceneWriter.Told {
    private final Scene far;
    private final LandingOptions options;
    private final SceneWriter writer;
    private final Resources cargo;
    private final CapabilityTable table;
    private final Holding holding;
    private final List<Item> items = new ArrayList<>();

    Work(Scene far, LandingOptions options, Resources cargo) {
      this.far = far;
      this.options = options;
      this.cargo = cargo;
      table = options.target().losses();
      writer = options.writer();
      holding = writer.holding(options.values());
    }

    Forecast run() {
      Contents raw = new Contents(far);
      // Layers that do not fit their mesh go before anything else is looked at.
      Scene fitting = FittingLayers.of(far, (mesh, layer) -> {});
      Contents contents = new Contents(fitting);
      for (Capability capability : Capability.values()) {
        // The parts of a stage are no stages with variants.
        boolean parts = capability == Capability.UNCHOSEN && options.parts().isSeveral();
        Fate fate = parts ? Fate.LOST : holding.fate(capability);
        if (fate == Fate.KEPT || capability == Capability.EMPTY_CLIPS) {
          continue;
        }
        Contents.Found found =
            (capability == Capability.BROKEN_LAYERS ? raw : contents).find(capability);
        if (found.count() > 0) {
          String count = Figures.count(found.count(), found.noun());
          add(capability, fate, count, found.where(), found.nodeIds());
        }
      }
      roots();
      influences();
      motion();
      writer.foretell(
          new SceneWriter.Outlook(
              far, Landing.arrived(fitting, options), options.values(), cargo, this));
      Preflight.secondMotions(far).forEach(this::said);
      items.sort(Comparator.comparing((Item i) -> i.fate() != Fate.LOST));
      return new Forecast(List.copyOf(items), CacheCost.of(far));
    }

    private void add(
        Capability capability, Fate fate, String measured, String where, List<Integer> nodeIds) {
      add(capability, fate, measured, where, table.of(capability).how(), nodeIds);
    }

    private void add(
        Capability capability,
        Fate fate,
        String measured,
        String where,
        String how,
        List<Integer> nodeIds) {
      items.add(
          new Item(
              capability,
              fate,
              capability.label(),
              measured,
              where,
              how.isEmpty() ? "As chosen at the landing." : how,
              nodeIds,
              fate == Fate.LOST && capability == Capability.POLYGONS
                  ? List.of()
                  : offers(capability, nodeIds)));
    }

    @Override
    public void item(
        Capability capability, Fate fate, String measured, String where, List<Integer> nodeIds) {
      add(
          capability,
          fate == null ? table.of(capability).written() : fate,
          measured,
          where,
          nodeIds);
    }

    @Override
    public void said(Finding finding) {
      Fate fate = finding.severity() == Severity.FIX ? Fate.LOST : Fate.CHANGED;
      add(
          WriterSays.about(finding.code()),
          fate,
          finding.measured(),
          finding.where(),
          finding.message(),
          finding.nodeIds());
    }

    @Override
    public void count(Capability capability, long count, String noun, String where) {
      if (count > 0 && table.of(capability).written() != Fate.KEPT) {
        item(capability, null, Figures.count(count, noun), where, List.of());
      }
    }

    /** Steps that make the far side what the format can hold, where that is one's own choice. */
    private static List<Offer> offers(Capability capability, List<Integer> ids) {
      return switch (capability) {
        case POLYGONS ->
            List.of(Offer.step("Cut into triangles yourself", "triangulate", Map.of()).on(ids));
        case SMOOTHING, SHARP_EDGES ->
            List.of(
                Offer.step("Write normals from groups", "normals", Map.of("from", "groups"))
                    .on(ids));
        case FACE_SETS ->
            List.of(Offer.step("Split by face set", "split", Map.of("by", "set")).on(ids));
        case CUSTOM_LAYERS ->
            List.of(
                Offer.step("Remove custom layers", "remove", Map.of("what", "attributes")).on(ids));
        case UNUSED_VERTICES ->
            List.of(Offer.step("Remove them", "remove", Map.of("what", "unusedVertices")).on(ids));
        case NOT_NUMBERS ->
            List.of(Offer.step("Remove them", "remove", Map.of("what", "brokenVertices")).on(ids));
        case SHEAR, PIVOTS, INHERITED_SCALE ->
            List.of(
                Offer.step("Bake rotation and scale", "reset", Map.of("what", "rotation")).on(ids));
        case POINT_CACHES ->
            List.of(
                Offer.step("Stiff ones as moving parts", "cacheToNodes", Map.of()),
                Offer.step("A morph target a sample", "cacheToMorphs", Map.of()));
        case EMPTY_CLIPS -> List.of();
        default -> List.of();
      };
    }

    private void roots() {
      boolean root = Landing.needsRoot(far, options);
      count(Capability.ROOT_TRANSFORM, root ? 1 : 0, "part", "");
    }

    private void influences() {
      int most = writer.mostInfluences(options.values());
      List<Skin> over =
          far.skins().stream().filter(s -> most > 0 && s.mostInfluences() > most).toList();
      if (over.isEmpty()) {
        return;
      }
      InfluenceCut cut = InfluenceCut.of(far, most, Progress.NONE);
      boolean lost = cut.metres() > InfluenceCut.allowedMetres(far, options.skinMove());
      String place = cut.where().isEmpty() ? "at rest" : "in " + cut.where();
      items.add(
          new Item(
              Capability.INFLUENCES,
              lost ? Fate.LOST : Fate.CHANGED,
              Capability.INFLUENCES.label(),
              Figures.count(over.size(), "skin") + ", up to " + Figures.length(cut.metres()),
              over.get(0).name(),
              "The "
                  + most
                  + " strongest joints of a vertex are kept and scaled to 1. That moves points by up to "
                  + Figures.length(cut.metres())
                  + ", most "
                  + place
                  + (lost
                      ? ": more than the shore allows. Keep all joints if its programs read them."
                      : "."),
              List.of(),
              List.of(Offer.option("Keep all joints", "influences", 0))));
    }

    private void motion() {
      if (table.of(Capability.CLIPS).written() == Fate.LOST) {
        return;
      }
      Set<Integer> skinned = new HashSet<>();
      for (Node node : far.nodes()) {
        if (node.content() instanceof Node.Content.MeshContent c && c.skinId() >= 0) {
          skinned.add(node.id());
        }
      }
      int lost = 0;
      int empty = 0;
      String firstLost = "";
      String firstEmpty = "";
      for (Clip clip : far.clips()) {
        int kept = 0;
        for (Clip.Track track : clip.tracks()) {
          boolean ignored =
              writer.leavesSkinnedPlaces()
                  && track.isTransform()
                  && skinned.contains(track.targetId());
          boolean carried = writer.carries(far, track);
          if (!carried) {
            firstLost = lost++ == 0 ? clip.name() + ", " + track.property() : firstLost;
          } else if (!ignored) {
            kept++;
          }
        }
        if (kept == 0) {
          firstEmpty = empty++ == 0 ? clip.name() : firstEmpty;
        }
      }
      count(Capability.OTHER_MOTION, lost, "track", firstLost);
      count(Capability.EMPTY_CLIPS, empty, "clip", firstEmpty);
    }
  }
}
