package ferry.stone.core.format.obj;

import ferry.stone.core.format.flat.FlatTable;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.CapabilityTable;
import java.util.Map;
import java.util.Set;

/** What OBJ with MTL carries, as it is read and written here. */
public final class ObjCapabilities {
  private static final Set<Capability> HELD =
      Set.of(
          Capability.POLYGONS,
          Capability.NORMALS,
          Capability.UVS,
          Capability.COLOURS,
          Capability.PARTLY_LAYERED,
          Capability.SHARED_VERTICES,
          Capability.SEAMS,
          Capability.SEVERAL_PARTS,
          Capability.LINES,
          Capability.LINES_BESIDE_FACES,
          Capability.POINTS,
          Capability.UNUSED_VERTICES,
          Capability.SMOOTHING,
          Capability.SMOOTHING_BESIDE,
          Capability.FACE_SETS,
          Capability.MATERIALS,
          Capability.MATERIAL_MODEL,
          Capability.TINTED_TEXTURES,
          Capability.NO_UVS,
          Capability.BUMP_MAPS,
          Capability.SEPARATE_CHANNELS,
          Capability.IMAGE_FORMATS,
          Capability.OPACITY_PLACEMENT);

  private static final Set<Capability> READ =
      Set.of(
          Capability.EMPTY_MESHES,
          Capability.NOT_NUMBERS,
          Capability.MATERIAL_CHANNELS,
          Capability.PACKED_CHANNELS,
          Capability.BARE_FACES);

  public static final CapabilityTable TABLE =
      FlatTable.of(
          "obj",
          "OBJ with MTL",
          "3.0, with MTL 4.2",
          HELD,
          READ,
          Map.of(
              Capability.HIERARCHY,
              "Each part stands alone at the top under its path; its place goes into its points.",
              Capability.NURBS_CURVES,
              "Written as straight lines, 8 for each piece of a curve.",
              Capability.CURVES,
              "Written as straight lines, 8 for each piece of a curve.",
              Capability.PACKED_CHANNELS,
              "Each part of such an image becomes a grey image of its own.",
              Capability.BARE_FACES,
              "They get a material of their own: the format cannot turn a material off.",
              Capability.PACKING,
              "As chosen at the landing."));

  private ObjCapabilities() {}
}
