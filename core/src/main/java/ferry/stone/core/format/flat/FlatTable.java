package ferry.stone.core.format.flat;

import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.format.losses.CapabilityTable;
import java.util.Map;
import java.util.Set;

/** The table of a format that holds bare parts: see {@link FlatParts}. */
public final class FlatTable {
  private static final Map<Capability, String> CHANGED =
      Map.of(
          Capability.LISTED_COPIES,
          "Each copy lands as a part of its own.",
          Capability.BRANCH_COPIES,
          "Each copy lands as parts of its own.",
          Capability.HIERARCHY,
          "Each part stands alone at the top; its place goes into its points.",
          Capability.SHARED_MESHES,
          "Each part gets a copy of the mesh.",
          Capability.HIDDEN_PARTS,
          "They land like the others: the format hides nothing.",
          Capability.PIVOTS,
          "Parts stand where they stood; pivots go.",
          Capability.INHERITED_SCALE,
          "Parts stand where the rule puts them; the rule itself goes.");

  private static final Map<Capability, String> LOST =
      Map.of(
          Capability.SKINS,
          "Skinned meshes land in their rest pose.",
          Capability.CHANGING_MESHES,
          "The mesh lands as it is at its first moment.",
          Capability.MORPHS,
          "Meshes land with the weights at rest; the targets go.",
          Capability.SHARP_EDGES,
          "The format has none: write normals first to keep the shading.",
          Capability.DETAIL_LEVELS,
          "The finest level lands.",
          Capability.UNUSED_VERTICES,
          "Only vertices that faces use are written; the box may be smaller.",
          Capability.NOT_NUMBERS,
          "Faces at such corners cannot be written.",
          Capability.EMPTY_MESHES,
          "A mesh without faces has nothing to write.");

  /** Never in the way: such formats hold no transform that could be sheared or need a helper. */
  private static final Set<Capability> KEPT =
      Set.of(
          Capability.ROOT_TRANSFORM,
          Capability.SHEAR,
          Capability.HELPERS,
          Capability.SKINNED_BELOW,
          Capability.JOINTS_APART);

  private FlatTable() {}

  /**
   * @param held what it holds both ways
   * @param read what else is read of it
   * @param changed what becomes of what it holds otherwise
   */
  public static CapabilityTable of(
      String key,
      String label,
      String versions,
      Set<Capability> held,
      Set<Capability> read,
      Map<Capability, String> changed) {
    CapabilityTable.Builder table = CapabilityTable.named(key, label, versions);
    for (Capability capability : Capability.values()) {
      Fate in = read.contains(capability) ? Fate.KEPT : Fate.NONE;
      if (held.contains(capability) || KEPT.contains(capability)) {
        table.kept(capability);
      } else if (changed.containsKey(capability)) {
        table.set(capability, in, Fate.CHANGED, changed.get(capability));
      } else if (CHANGED.containsKey(capability)) {
        table.set(capability, Fate.NONE, Fate.CHANGED, CHANGED.get(capability));
      } else {
        String how = LOST.getOrDefault(capability, "The format has none.");
        table.set(capability, in, Fate.LOST, how);
      }
    }
    return table.neverWritten().build();
  }
}
