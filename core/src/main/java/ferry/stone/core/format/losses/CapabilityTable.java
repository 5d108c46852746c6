package ferry.stone.core.format.losses;

import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.format.losses.Capability.Support;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What one format can carry.
 *
 * @param format its key: {@code gltf}, {@code fbx}, {@code obj}
 * @param label for people
 * @param versions which are read and written
 */
public record CapabilityTable(
    String format, String label, String versions, List<Support> supports) {

  public CapabilityTable {
    supports = List.copyOf(supports);
  }

  /** How a capability fares on the way out. */
  public Support of(Capability capability) {
    return supports.stream()
        .filter(s -> s.capability() == capability)
        .findFirst()
        .orElseThrow(() -> new IllegalStateException(label + " says nothing of " + capability));
  }

  /** Starts a table; it must say something of each capability. */
  public static Builder named(String format, String label, String versions) {
    return new Builder(format, label, versions);
  }

  /** Says of each capability what becomes of it. */
  public static final class Builder {
    private final String format;
    private final String label;
    private final String versions;
    private final Map<Capability, Support> known = new EnumMap<>(Capability.class);

    private Builder(String format, String label, String versions) {
      this.format = format;
      this.label = label;
      this.versions = versions;
    }

    /** What no writer of ours can hold, whatever the format. */
    public Builder neverWritten() {
      set(
          Capability.BROKEN_LAYERS,
          Fate.NONE,
          Fate.LOST,
          "Such a layer cannot be written: it is left out.");
      unchosen();
      keptShapes();
      edgeSets();
      return set(
          Capability.NOT_READ,
          Fate.LOST,
          Fate.LOST,
          "There is no place for it here yet, so no landing holds it.");
    }

    /** Formats without choices hold one of them. */
    public Builder unchosen() {
      return set(
          Capability.UNCHOSEN,
          Fate.NONE,
          Fate.LOST,
          "The variants that are chosen land. Choose others at the cargo for a landing of theirs.");
    }

    /** Shapes that only the format that they come from holds. */
    public Builder keptShapes() {
      return set(
          Capability.KEPT_SHAPES,
          Fate.NONE,
          Fate.LOST,
          "The part lands as a group: only the format that such a shape comes from has a place for it.");
    }

    /** Sets of edges, which one format has. */
    public Builder edgeSets() {
      return set(
          Capability.EDGE_SETS,
          Fate.NONE,
          Fate.LOST,
          "The format has no sets of edges: they are left out.");
    }

    public Builder set(Capability capability, Fate read, Fate written, String how) {
      known.put(capability, new Support(capability, read, written, how));
      return this;
    }

    /** What changes over time in ways that no scene format of ours moves. */
    public Builder atRest() {
      set(
          Capability.TEXTS_OVER_TIME,
          Fate.NONE,
          Fate.LOST,
          "The text at rest lands: the format moves numbers only.");
      return set(
          Capability.CHANGING_MESHES,
          Fate.NONE,
          Fate.LOST,
          "The mesh lands as it is at its first moment.");
    }

    /**
     * What a format is that is read and not written; what is not named is not in it.
     *
     * @param kept what is read as it is
     * @param changed what is read in another form, and how
     * @param lost what is left out in reading, and how
     */
    public Builder readOnly(
        Set<Capability> kept, Map<Capability, String> changed, Map<Capability, String> lost) {
      for (Capability capability : Capability.values()) {
        Fate read =
            kept.contains(capability)
                ? Fate.KEPT
                : changed.containsKey(capability)
                    ? Fate.CHANGED
                    : lost.containsKey(capability) ? Fate.LOST : Fate.NONE;
        String how = changed.getOrDefault(capability, lost.getOrDefault(capability, ""));
        set(capability, read, Fate.NONE, how);
      }
      return this;
    }

    /** What formats of whole scenes keep, unlike those of bare parts. */
    public Builder wholeScenes() {
      return kept(
          Capability.NORMALS,
          Capability.OWN_TANGENTS,
          Capability.UVS,
          Capability.COLOURS,
          Capability.FURTHER_SETS,
          Capability.PARTLY_LAYERED,
          Capability.SHARED_VERTICES,
          Capability.SEAMS,
          Capability.SEVERAL_PARTS,
          Capability.HIERARCHY,
          Capability.SHARED_MESHES,
          Capability.HIDDEN_PARTS,
          Capability.CUSTOM_VALUES,
          Capability.SKINS,
          Capability.MORPHS,
          Capability.CLIPS,
          Capability.CAMERAS,
          Capability.LIGHTS,
          Capability.MATERIALS);
    }

    /** Kept both ways. */
    public Builder kept(Capability... capabilities) {
      for (Capability capability : capabilities) {
        set(capability, Fate.KEPT, Fate.KEPT, "");
      }
      return this;
    }

    /**
     * @throws IllegalStateException when the table says nothing of a capability: what is not said
     *     would be promised
     */
    public CapabilityTable build() {
      for (Capability capability : Capability.values()) {
        if (!known.containsKey(capability)) {
          throw new IllegalStateException(label + " says nothing of " + capability);
        }
      }
      return new CapabilityTable(format, label, versions, List.copyOf(known.values()));
    }
  }
}
