package ferry.stone.core.format.obj;

import ferry.stone.core.format.Capability;
import ferry.stone.core.format.Capability.Fate;
import ferry.stone.core.format.CapabilityTable;
import java.util.Set;

/** What OBJ with MTL carries, as it is read here; it is not written yet. */
public final class ObjCapabilities {
  private static final Set<Capability> READ =
      Set.of(
          Capability.POLYGONS,
          Capability.NORMALS,
          Capability.UVS,
          Capability.COLOURS,
          Capability.SHARED_VERTICES,
          Capability.SEAMS,
          Capability.PARTLY_LAYERED,
          Capability.SEVERAL_PARTS,
          Capability.MATERIALS,
          Capability.LINES,
          Capability.POINTS,
          Capability.EMPTY_MESHES,
          Capability.UNUSED_VERTICES,
          Capability.NOT_NUMBERS,
          Capability.SMOOTHING,
          Capability.SMOOTHING_BESIDE,
          Capability.FACE_SETS,
          Capability.MATERIAL_MODEL,
          Capability.MATERIAL_CHANNELS,
          Capability.BUMP_MAPS,
          Capability.SEPARATE_CHANNELS,
          Capability.IMAGE_FORMATS,
          Capability.OPACITY_PLACEMENT);

  public static final CapabilityTable TABLE = table();

  private ObjCapabilities() {}

  private static CapabilityTable table() {
    CapabilityTable.Builder builder = CapabilityTable.named("obj", "OBJ with MTL", "3.0 read");
    for (Capability capability : Capability.values()) {
      boolean read = READ.contains(capability);
      builder.set(
          capability,
          read ? Fate.KEPT : capability == Capability.MISSING_TEXTURES ? Fate.LOST : Fate.NONE,
          Fate.NONE,
          read ? "" : "The format has none.");
    }
    return builder.build();
  }
}
