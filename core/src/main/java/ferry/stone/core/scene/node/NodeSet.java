package ferry.stone.core.scene.node;

/**
 * Nodes that belong together beside the hierarchy.
 *
 * @param nodeIds its nodes
 * @param visible whether a layer's nodes are shown
 */
public record NodeSet(String name, Kind kind, int[] nodeIds, boolean visible) {
  /** What the set is for. */
  public enum Kind {
    /** Switched on and off together. */
    LAYER,
    /** Picked together. */
    SELECTION
  }
}
