package ferry.stone.core.scene.node;

import ferry.stone.core.scene.Copies;

/**
 * Parts that a source said once and showed several times. They are parts like others here, so that
 * every step, view and proof knows them; {@link Copies#standing} says which are still alike, for
 * formats that can say them once again.
 *
 * @param kind how the source said it
 * @param holderId node that lists the places, or the places of the branches; −1 for none
 * @param nodeIds tops of the copies, in the order of the source
 */
public record CopySet(Kind kind, int holderId, int[] nodeIds) {
  /** How copies are said. */
  public enum Kind {
    /** A node lists places at which one mesh is shown. */
    PLACES,
    /** A branch of the hierarchy is shown again under another parent. */
    BRANCHES
  }

  /** The same of fewer parts. */
  public CopySet of(int[] newNodeIds) {
    return new CopySet(kind, holderId, newNodeIds);
  }
}
