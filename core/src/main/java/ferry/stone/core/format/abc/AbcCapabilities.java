package ferry.stone.core.format.abc;

import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.format.losses.CapabilityTable;

/** What Alembic carries, as read and written here. */
final class AbcCapabilities {
  private static final String NO_LOOKS = "Names of materials land; what they look like does not.";

  static final CapabilityTable TABLE =
      rest(CapabilityTable.named("abc", "Alembic", "Ogawa archives read and written")
              .kept(
                  Capability.POLYGONS,
                  Capability.NORMALS,
                  Capability.UVS,
                  Capability.COLOURS,
                  Capability.FURTHER_SETS,
                  Capability.PARTLY_LAYERED,
                  Capability.SHARED_VERTICES,
                  Capability.SEAMS,
                  Capability.LINES,
                  Capability.CURVES,
                  Capability.NURBS_CURVES,
                  Capability.POINTS,
                  Capability.EMPTY_MESHES,
                  Capability.UNUSED_VERTICES,
                  Capability.SUBDIVISION,
                  Capability.FACE_SETS,
                  Capability.CUSTOM_LAYERS,
                  Capability.TEXT_LAYERS,
                  Capability.LAYER_TYPES,
                  Capability.POINT_CACHES,
                  Capability.CHANGING_MESHES,
                  Capability.SEVERAL_PARTS,
                  Capability.HIERARCHY,
                  Capability.SHARED_MESHES,
                  Capability.HIDDEN_PARTS,
                  Capability.SHOWN_PARTS,
                  Capability.CUSTOM_VALUES,
                  Capability.TEXTS_OVER_TIME,
                  Capability.SHEAR,
                  Capability.CLIPS,
                  Capability.TIME_BEFORE_ZERO,
                  Capability.CAMERAS,
                  Capability.CAMERA_LENSES,
                  Capability.BARE_FACES)
              .set(
                  Capability.BRANCH_COPIES,
                  Fate.KEPT,
                  Fate.CHANGED,
                  "Each copy is written as parts of its own, which show the same meshes.")
              .set(
                  Capability.LISTED_COPIES,
                  Fate.NONE,
                  Fate.CHANGED,
                  "Each copy is written as a part of its own, which shows the same mesh.")
              .set(
                  Capability.LINES_BESIDE_FACES,
                  Fate.NONE,
                  Fate.LOST,
                  "A mesh has faces or lines: split the lines off to keep them.")
              .set(
                  Capability.PIVOTS,
                  Fate.CHANGED,
                  Fate.CHANGED,
                  "Lists of operations are read, and pivots written, as what they come to.")
              .set(
                  Capability.OTHER_MOTION,
                  Fate.CHANGED,
                  Fate.LOST,
                  "Visibility, angles of view and custom values move; nothing else beside places and"
                      + " points.")
              .set(
                  Capability.MATERIALS,
                  Fate.CHANGED,
                  Fate.LOST,
                  "Which material a set or a mesh has, by its name; not what it looks like.")
              .set(
                  Capability.SKINS,
                  Fate.NONE,
                  Fate.CHANGED,
                  "What the joints do to the mesh is in its points; the skin itself goes.")
              .set(
                  Capability.MORPHS,
                  Fate.NONE,
                  Fate.CHANGED,
                  "What the targets do to the mesh is in its points; they themselves go.")
              .set(
                  Capability.HELPERS,
                  Fate.NONE,
                  Fate.CHANGED,
                  "A mesh or camera with a place of its own stands in a child of it.")
              .set(
                  Capability.ROOT_TRANSFORM,
                  Fate.NONE,
                  Fate.CHANGED,
                  "One root part is added that carries unit, axes and place.")
              .set(
                  Capability.INHERITED_SCALE,
                  Fate.NONE,
                  Fate.CHANGED,
                  "Parts stand where the rule puts them; the rule itself goes.")
              .set(
                  Capability.OPEN_CAMERAS,
                  Fate.NONE,
                  Fate.CHANGED,
                  "The format needs numbers: 100,000 units for no end, 16:9 for any shape.")
              .set(
                  Capability.LIGHTS,
                  Fate.LOST,
                  Fate.LOST,
                  "The format says nothing of their light.")
              .set(
                  Capability.NOT_NUMBERS,
                  Fate.KEPT,
                  Fate.CHANGED,
                  "Written as they are; the surface there cannot be compared.")
              .unchosen()
              .keptShapes()
              .edgeSets()
              .set(Capability.NOT_READ, Fate.LOST, Fate.LOST, "")
              .set(
                  Capability.DETAIL_LEVELS,
                  Fate.NONE,
                  Fate.LOST,
                  "All levels land, beside each other in a group.")
              .set(
                  Capability.EMPTY_CLIPS,
                  Fate.NONE,
                  Fate.CHANGED,
                  "Times stand with what moves: a clip that moves nothing is not there.")
              .set(
                  Capability.SMOOTHING,
                  Fate.NONE,
                  Fate.LOST,
                  "The format has none: write normals from the groups first to keep the shading.")
              .set(
                  Capability.SHARP_EDGES,
                  Fate.NONE,
                  Fate.LOST,
                  "The format has none: write normals first to keep the shading.")
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
              .neverWritten())
          .set(Capability.PACKING, Fate.NONE, Fate.CHANGED, "As chosen at the landing.")
          .build();

  private AbcCapabilities() {}

  private static CapabilityTable.Builder rest(CapabilityTable.Builder table) {
    for (Capability rest :
        new Capability[] {
          Capability.TANGENTS,
          Capability.OWN_TANGENTS,
          Capability.PURPOSES,
          Capability.NODE_SETS,
          Capability.DETAIL_DISTANCES,
          Capability.AREA_LIGHTS,
          Capability.DOME_LIGHTS
        }) {
      table.set(rest, Fate.NONE, Fate.LOST, "The format has none.");
    }
    for (Capability baked :
        new Capability[] {
          Capability.SKINNED_BELOW,
          Capability.JOINTS_APART,
          Capability.INFLUENCES,
          Capability.VERTICES_WITHOUT_JOINT,
          Capability.IN_BETWEENS
        }) {
      table.set(baked, Fate.NONE, Fate.KEPT, "");
    }
    for (Capability look :
        new Capability[] {
          Capability.MATERIAL_MODEL,
          Capability.OWN_VALUES,
          Capability.PACKED_CHANNELS,
          Capability.TINTED_TEXTURES,
          Capability.MATERIAL_CHANNELS,
          Capability.VARIANTS,
          Capability.MISSING_TEXTURES,
          Capability.NO_UVS,
          Capability.BUMP_MAPS,
          Capability.SEPARATE_CHANNELS,
          Capability.PACKED_IMAGES,
          Capability.IMAGE_FORMATS,
          Capability.OPACITY_PLACEMENT
        }) {
      table.set(look, Fate.NONE, Fate.LOST, NO_LOOKS);
    }
    return table;
  }
}
