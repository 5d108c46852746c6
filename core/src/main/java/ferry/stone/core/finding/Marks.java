package ferry.stone.core.finding;

/**
 * The mesh elements that a finding is about, by index into one mesh.
 *
 * @param nodeId the node that shows the mesh
 * @param kind what the indices count
 * @param indices vertices: one index each; edges: two vertex indices each; faces: one face each.
 *     Cut to {@link #MAX} elements; the finding's message has the full count.
 */
public record Marks(int nodeId, Kind kind, int[] indices) {
  /** Most elements kept for showing; enough to see where, small enough to send. */
  public static final int MAX = 20_000;

  /** What a mark points at. */
  public enum Kind {
    VERTICES,
    EDGES,
    FACES
  }
}
