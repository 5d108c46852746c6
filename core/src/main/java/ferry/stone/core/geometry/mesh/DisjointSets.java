package ferry.stone.core.geometry.mesh;

/** Union-find with path halving (Tarjan and van Leeuwen 1984); the lowest element names a set. */
public final class DisjointSets {
  private final int[] parent;

  /** So many elements, each alone. */
  public DisjointSets(int count) {
    parent = new int[count];
    for (int i = 0; i < count; i++) {
      parent[i] = i;
    }
  }

  /**
   * Elements that are joined already.
   *
   * @param parent of each element one of its set that is not higher; it is changed
   */
  public DisjointSets(int[] parent) {
    this.parent = parent;
  }

  public int find(int element) {
    int at = element;
    while (parent[at] != at) {
      parent[at] = parent[parent[at]];
      at = parent[at];
    }
    return at;
  }

  public void join(int a, int b) {
    if (parent[a] == parent[b]) {
      return;
    }
    int x = find(a);
    int y = find(b);
    if (x < y) {
      parent[y] = x;
    } else {
      parent[x] = y;
    }
  }
}
