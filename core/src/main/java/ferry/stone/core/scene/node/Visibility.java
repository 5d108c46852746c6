package ferry.stone.core.scene.node;

/** Whether a node is meant to be seen, and what that means for the nodes below. */
public enum Visibility {
  /** As its parent; a root is seen. */
  INHERITED,
  /** Hidden, with everything below that is not {@link #SHOWN}. */
  HIDDEN,
  /** Seen whatever its parent is. */
  SHOWN
}
