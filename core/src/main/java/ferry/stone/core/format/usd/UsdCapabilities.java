package ferry.stone.core.format.usd;

import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.format.losses.CapabilityTable;

/** What USD carries, as read and written here. */
final class UsdCapabilities {
  private static final String SMOOTH =
      "The format has none: write normals first to keep the shading.";

  static final CapabilityTable TABLE =
      rest(CapabilityTable.named(
                  "usd", "USD", "text, crates 0.4–0.16 and packages read; crates 0.8 written")
              .wholeScenes()
              .kept(
                  Capability.POLYGONS,
                  Capability.LINES,
                  Capability.CURVES,
                  Capability.NURBS_CURVES,
                  Capability.POINTS,
                  Capability.EMPTY_MESHES,
                  Capability.UNUSED_VERTICES,
                  Capability.TANGENTS,
                  Capability.SUBDIVISION,
                  Capability.FACE_SETS,
                  Capability.CUSTOM_LAYERS,
                  Capability.TEXT_LAYERS,
                  Capability.POINT_CACHES,
                  Capability.CHANGING_MESHES,
                  Capability.BRANCH_COPIES,
                  Capability.VARIANTS,
                  Capability.DETAIL_DISTANCES,
                  Capability.PURPOSES,
                  Capability.SHOWN_PARTS,
                  Capability.PIVOTS,
                  Capability.SHEAR,
                  Capability.SKINNED_BELOW,
                  Capability.INFLUENCES,
                  Capability.IN_BETWEENS,
                  Capability.TEXTS_OVER_TIME,
                  Capability.TIME_BEFORE_ZERO,
                  Capability.CAMERA_LENSES,
                  Capability.AREA_LIGHTS,
                  Capability.DOME_LIGHTS,
                  Capability.SEPARATE_CHANNELS,
                  Capability.PACKED_CHANNELS,
                  Capability.TINTED_TEXTURES,
                  Capability.BARE_FACES,
                  Capability.NO_UVS,
                  Capability.OWN_VALUES,
                  Capability.OPACITY_PLACEMENT)
              .neverWritten())
          .build();

  private UsdCapabilities() {}

  private static CapabilityTable.Builder rest(CapabilityTable.Builder table) {
    geometry(table);
    parts(table);
    looks(table);
    return table
        .set(
            Capability.EMPTY_CLIPS,
            Fate.NONE,
            Fate.CHANGED,
            "Times stand with what moves: a clip that moves nothing is not there.")
        .set(
            Capability.OTHER_MOTION,
            Fate.KEPT,
            Fate.LOST,
            "Motion of values that the format does not know is left out.")
        .set(
            Capability.OPEN_CAMERAS,
            Fate.NONE,
            Fate.CHANGED,
            "The format needs numbers: 1,000,000 units for no end, 16:9 for any shape.")
        .set(Capability.PACKING, Fate.NONE, Fate.CHANGED, "As chosen at the landing.");
  }

  private static void geometry(CapabilityTable.Builder table) {
    table
        .set(
            Capability.LINES_BESIDE_FACES,
            Fate.NONE,
            Fate.LOST,
            "A shape is faces or lines: split the lines off to keep them.")
        .set(
            Capability.NOT_NUMBERS,
            Fate.KEPT,
            Fate.CHANGED,
            "Written as they are; the surface there cannot be compared.")
        .set(Capability.SMOOTHING, Fate.NONE, Fate.LOST, SMOOTH)
        .set(Capability.SHARP_EDGES, Fate.NONE, Fate.LOST, SMOOTH)
        .set(
            Capability.SMOOTHING_BESIDE,
            Fate.NONE,
            Fate.CHANGED,
            "The normals say the same; the groups themselves go.")
        .set(
            Capability.SHARP_EDGES_BESIDE,
            Fate.NONE,
            Fate.CHANGED,
            "The normals say the same; the edges themselves go.")
        .set(
            Capability.LAYER_TYPES,
            Fate.CHANGED,
            Fate.KEPT,
            "Whole numbers of 64 bits are read as numbers with a fraction of 64.");
  }

  private static void parts(CapabilityTable.Builder table) {
    table
        .kept(Capability.KEPT_SHAPES, Capability.EDGE_SETS)
        .set(
            Capability.LISTED_COPIES,
            Fate.KEPT,
            Fate.CHANGED,
            "One point instancer lists their places: other programs show them all, as one part.")
        .set(
            Capability.ROOT_TRANSFORM,
            Fate.KEPT,
            Fate.CHANGED,
            "One root part is added that carries unit, axes and place.")
        .set(
            Capability.INHERITED_SCALE,
            Fate.NONE,
            Fate.CHANGED,
            "Parts stand where the rule puts them; the rule itself goes.")
        .set(
            Capability.HELPERS,
            Fate.NONE,
            Fate.CHANGED,
            "Joints stand in a skeleton, and a mesh with parts below it in a child; what hangs on a"
                + " joint stands beside the skeleton.")
        .set(Capability.NODE_SETS, Fate.NONE, Fate.LOST, "Layers and selections are not written.")
        .set(
            Capability.DETAIL_LEVELS,
            Fate.NONE,
            Fate.CHANGED,
            "Variants of their group: others show the finest until another is chosen.")
        .set(
            Capability.JOINTS_APART,
            Fate.KEPT,
            Fate.CHANGED,
            "What stands between joints of one skin becomes a joint.")
        .set(
            Capability.VERTICES_WITHOUT_JOINT,
            Fate.KEPT,
            Fate.CHANGED,
            "They follow the first joint of the skeleton: others would put them at its origin.");
  }

  private static void looks(CapabilityTable.Builder table) {
    table
        .set(
            Capability.MATERIAL_MODEL,
            Fate.CHANGED,
            Fate.CHANGED,
            "Preview surfaces are metallic-roughness: others are translated, as the proof lists.")
        .set(
            Capability.MATERIAL_CHANNELS,
            Fate.KEPT,
            Fate.LOST,
            "A channel that the preview surface has no input for goes.")
        .set(
            Capability.MISSING_TEXTURES,
            Fate.LOST,
            Fate.LOST,
            "An image that is not in the cargo cannot land; its path is written.")
        .set(
            Capability.BUMP_MAPS,
            Fate.NONE,
            Fate.LOST,
            "The preview surface has no bump: make a normal map of it first.")
        .set(
            Capability.PACKED_IMAGES,
            Fate.NONE,
            Fate.LOST,
            "The format has no place for a second form of an image.")
        .set(
            Capability.IMAGE_FORMATS,
            Fate.KEPT,
            Fate.CHANGED,
            "What readers of the format do not know becomes PNG.");
  }
}
