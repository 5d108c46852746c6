package ferry.stone.core.scene.mesh;

/**
 * A named set of edges, as the subsets of a scene format have them.
 *
 * @param family of sets that belong together, empty for none
 * @param pairs the two vertices of each edge; an edge may lie in several sets
 */
public record EdgeSet(String name, String family, int[] pairs) {
  public EdgeSet withPairs(int[] others) {
    return new EdgeSet(name, family, others);
  }

  public int count() {
    return pairs.length / 2;
  }
}
