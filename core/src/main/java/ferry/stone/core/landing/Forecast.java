package ferry.stone.core.landing;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.ArrangedParts;
import ferry.stone.core.format.Capability;
import ferry.stone.core.format.Capability.Fate;
import ferry.stone.core.format.CapabilityTable;
import ferry.stone.core.format.Contents;
import ferry.stone.core.format.Resources;
import ferry.stone.core.format.fbx.FbxCapabilities;
import ferry.stone.core.format.gltf.GltfCapabilities;
import ferry.stone.core.math.Figures;
import ferry.stone.core.motion.InfluenceCut;
import ferry.stone.core.scene.Channel;
import ferry.stone.core.scene.Clip;
import ferry.stone.core.scene.Material;
import ferry.stone.core.scene.Node;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.Skin;
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
 */
public record Forecast(List<Item> items) {

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
    return new Work(far, options, cargo).run();
  }

  private static final class Work {
    private final Scene far;
    private final LandingOptions options;
    private final Resources cargo;
    private final CapabilityTable table;
    private final List<Item> items = new ArrayList<>();

    Work(Scene far, LandingOptions options, Resources cargo) {
      this.far = far;
      this.options = options;
      this.cargo = cargo;
      table = options.fbx() == null ? GltfCapabilities.TABLE : FbxCapabilities.TABLE;
    }

    Forecast run() {
      Contents contents = new Contents(far);
      for (Capability capability : Capability.values()) {
        Contents.Found found = contents.find(capability);
        Fate fate = fate(capability);
        boolean asked = capability == Capability.EMPTY_CLIPS;
        if (found.count() > 0 && fate != Fate.KEPT && !asked) {
          add(
              capability,
              fate,
              Figures.count(found.count(), found.noun()),
              found.where(),
              found.nodeIds());
        }
      }
      roots();
      hierarchy();
      influences();
      motion();
      materials();
      packing();
      items.sort(Comparator.comparing((Item i) -> i.fate() != Fate.LOST));
      return new Forecast(List.copyOf(items));
    }

    /** The table's word, or what was chosen against it. */
    private Fate fate(Capability capability) {
      boolean fbx = options.fbx() != null;
      return switch (capability) {
        case POLYGONS ->
            fbx && options.fbx().triangulate() ? Fate.CHANGED : table.of(capability).written();
        case PIVOTS, INHERITED_SCALE ->
            fbx && options.fbx().bake() ? Fate.CHANGED : table.of(capability).written();
        default -> table.of(capability).written();
      };
    }

    private void add(
        Capability capability, Fate fate, String measured, String where, List<Integer> nodeIds) {
      String how = table.of(capability).how();
      items.add(
          new Item(
              capability,
              fate,
              capability.label(),
              measured,
              where,
              how.isEmpty() ? "As chosen at the landing." : how,
              nodeIds,
              offers(capability, nodeIds)));
    }

    private void add(Capability capability, long count, String noun, String where) {
      if (count > 0 && table.of(capability).written() != Fate.KEPT) {
        add(
            capability,
            table.of(capability).written(),
            Figures.count(count, noun),
            where,
            List.of());
      }
    }

    /** Steps that make the far side what the format can hold, where that is one's own choice. */
    private static List<Offer> offers(Capability capability, List<Integer> ids) {
      return switch (capability) {
        case POLYGONS ->
            List.of(Offer.step("Cut into triangles yourself", "triangulate", Map.of()).on(ids));
        case SMOOTHING ->
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
        case EMPTY_CLIPS -> List.of();
        default -> List.of();
      };
    }

    private void roots() {
      boolean root = Landing.needsRoot(far, options);
      add(Capability.ROOT_TRANSFORM, root ? 1 : 0, "part", "");
    }

    private void hierarchy() {
      Scene arrived = Landing.arrived(far, options);
      List<Finding> said =
          options.fbx() == null
              ? GltfCapabilities.arrangement(arrived)
              : FbxCapabilities.arrangement(
                  arrived, options.fbx().options(options.embedTextures()));
      for (Finding finding : said) {
        Capability capability =
            switch (finding.code()) {
              case "skinned-at-top" -> Capability.SKINNED_BELOW;
              case "skeleton-root-added" -> Capability.JOINTS_APART;
              case ArrangedParts.SHEARED, ArrangedParts.UNSHEARED -> Capability.SHEAR;
              case ArrangedParts.HELPERS -> Capability.HELPERS;
              case "levels-beside" -> Capability.DETAIL_LEVELS;
              default -> null;
            };
        if (capability != null) {
          add(
              capability,
              finding.severity() == Severity.FIX ? Fate.LOST : Fate.CHANGED,
              finding.measured().isEmpty() ? "1 part" : finding.measured(),
              finding.where(),
              finding.nodeIds());
        }
      }
    }

    private void influences() {
      int most = options.influences();
      List<Skin> over =
          far.skins().stream().filter(s -> most > 0 && s.mostInfluences() > most).toList();
      if (options.fbx() != null || over.isEmpty()) {
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
              options.fbx() == null && track.isTransform() && skinned.contains(track.targetId());
          boolean carried =
              options.fbx() == null
                  ? GltfCapabilities.carries(far, track)
                  : FbxCapabilities.carries(far, track);
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
      add(Capability.OTHER_MOTION, lost, "track", firstLost);
      add(Capability.EMPTY_CLIPS, empty, "clip", firstEmpty);
    }

    private void materials() {
      if (options.fbx() == null) {
        new MaterialForecast(far, cargo).tell(this::add);
        for (Finding said : GltfCapabilities.surfaces(far, options.packing().tangents())) {
          add(
              said.code().equals("tangents-computed") ? Capability.TANGENTS : Capability.NO_UVS,
              said.severity() == Severity.FIX ? Fate.LOST : Fate.CHANGED,
              said.measured(),
              said.where(),
              List.of());
        }
        return;
      }
      int lost = 0;
      String first = "";
      for (Material material : far.materials()) {
        for (Channel channel : FbxCapabilities.lostChannels(material)) {
          first = lost++ == 0 ? material.name() + ", " + channel.label() : first;
        }
      }
      add(Capability.MATERIAL_CHANNELS, lost, "channel", first);
      each(Capability.OWN_VALUES, "value", m -> FbxCapabilities.ownValues(m));
      each(
          Capability.PACKED_CHANNELS,
          "channel",
          m -> FbxCapabilities.splitChannels(m).stream().map(Channel::label).toList());
      each(
          Capability.TINTED_TEXTURES,
          "channel",
          m -> FbxCapabilities.tinted(far, m).stream().map(Channel::label).toList());
      List<String> bare = FbxCapabilities.bareFaces(far);
      add(Capability.BARE_FACES, bare.size(), "part", bare.isEmpty() ? "" : bare.get(0));
      MaterialForecast.Missing missing = MaterialForecast.missing(far);
      add(Capability.MISSING_TEXTURES, missing.count(), "texture", missing.first());
    }

    private void each(
        Capability capability,
        String noun,
        java.util.function.Function<Material, List<String>> found) {
      int count = 0;
      String first = "";
      for (Material material : far.materials()) {
        for (String value : found.apply(material)) {
          first = count++ == 0 ? material.name() + ", " + value : first;
        }
      }
      add(capability, count, noun, first);
    }

    private void packing() {
      if (options.fbx() != null) {
        return;
      }
      boolean packed =
          options.packing().quantized()
              || options.packing().drawOrder()
              || options.packing().instanced();
      int larger = MaterialForecast.largerThan(far, options.packing().largestTexture(), cargo);
      add(Capability.PACKING, (packed ? 1 : 0) + larger, "choice", "");
    }
  }
}
