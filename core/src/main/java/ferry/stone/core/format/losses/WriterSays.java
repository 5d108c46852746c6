package ferry.stone.core.format.losses;

import ferry.stone.core.format.flat.ArrangedParts;
import java.util.Map;

/**
 * What writers say while they write, by the code of the finding: what of the table it tells of. A
 * finding to put right tells of a loss, any other of a change.
 */
public final class WriterSays {
  private static final Map<String, Capability> ABOUT =
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
          Map.entry("image-repacked", Capability.PACKING),
          Map.entry("channels-packed", Capability.SEPARATE_CHANNELS),
          Map.entry("texture-unreadable", Capability.MISSING_TEXTURES),
          Map.entry("clip-not-written", Capability.EMPTY_CLIPS),
          Map.entry("clip-shifted", Capability.TIME_BEFORE_ZERO),
          Map.entry("track-not-carried", Capability.OTHER_MOTION),
          Map.entry("motion-not-carried", Capability.OTHER_MOTION),
          Map.entry("samples-evened", Capability.POINT_CACHES),
          Map.entry("subdivision-levels-not-carried", Capability.SUBDIVISION),
          Map.entry("camera-not-carried", Capability.CAMERAS),
          Map.entry("clip-not-chosen", Capability.CLIPS),
          Map.entry("clip-in-layer", Capability.CLIPS),
          Map.entry("motion-sampled", Capability.CLIPS),
          Map.entry("quantized", Capability.PACKING),
          Map.entry("copies-gathered", Capability.PACKING),
          Map.entry("lines-not-carried", Capability.LINES_BESIDE_FACES),
          Map.entry("points-not-carried", Capability.POINTS),
          Map.entry(ArrangedParts.SHEARED, Capability.SHEAR),
          Map.entry(ArrangedParts.UNSHEARED, Capability.SHEAR),
          Map.entry(ArrangedParts.HELPERS, Capability.HELPERS),
          Map.entry(ArrangedParts.PACKED, Capability.PACKING),
          Map.entry(ArrangedParts.ROOT, Capability.ROOT_TRANSFORM),
          Map.entry("levels-beside", Capability.DETAIL_LEVELS),
          Map.entry("levels-as-variants", Capability.DETAIL_LEVELS),
          Map.entry("variants-not-carried", Capability.VARIANTS),
          Map.entry("skinned-at-top", Capability.SKINNED_BELOW),
          Map.entry("skeleton-root-added", Capability.JOINTS_APART),
          Map.entry("part-names-changed", Capability.HIERARCHY),
          Map.entry("group-names-changed", Capability.FACE_SETS),
          Map.entry("set-names-changed", Capability.FACE_SETS),
          Map.entry("second-motion-stays", Capability.POINT_CACHES),
          Map.entry("empty-sets-not-carried", Capability.FACE_SETS),
          Map.entry("material-names-changed", Capability.MATERIALS),
          Map.entry("material-values-not-carried", Capability.MATERIAL_CHANNELS),
          Map.entry("material-translated", Capability.MATERIAL_MODEL),
          Map.entry("part-of-image-not-taken", Capability.PACKED_CHANNELS),
          Map.entry("colours-averaged", Capability.COLOURS),
          Map.entry("colour-opacity-not-carried", Capability.COLOURS),
          Map.entry("copies-as-parts", Capability.BRANCH_COPIES),
          Map.entry("file-not-in-package", Capability.CUSTOM_VALUES),
          Map.entry("copies-in-instancer", Capability.LISTED_COPIES),
          Map.entry("shape-not-kept", Capability.KEPT_SHAPES),
          Map.entry("relationship-leads-nowhere", Capability.CUSTOM_VALUES),
          Map.entry("variants-not-kept", Capability.UNCHOSEN),
          Map.entry("camera-closed", Capability.OPEN_CAMERAS),
          Map.entry("joint-values-not-written", Capability.CUSTOM_VALUES),
          Map.entry("positions-rounded", Capability.PACKING));

  private WriterSays() {}

  /** What a word tells of, {@code null} for what is no word of a writer. */
  public static Capability about(String code) {
    return ABOUT.get(code);
  }
}
