package ferry.stone.core.scene.mesh;

import java.util.Objects;

/**
 * Values laid over a mesh: normals, UVs, colours and anything else.
 *
 * @param name the source's name for it, e.g. {@code uv} or {@code map1}
 * @param semantic what it means
 * @param domain what carries one value each
 * @param table the values, row by row
 * @param indices value of each element of the domain, −1 for none; {@code null} when the n-th
 *     element has the n-th value
 */
public record Attribute(String name, Semantic semantic, Domain domain, Table table, int[] indices) {

  /** Most numbers of a value: those of a matrix. */
  public static final int MOST = 16;

  /**
   * A layer of 32-bit numbers.
   *
   * @param components numbers a value
   * @param values {@code float[components*n]}
   */
  public Attribute(
      String name,
      Semantic semantic,
      Domain domain,
      int components,
      float[] values,
      int[] indices) {
    this(name, semantic, domain, new Table.Floats(values, components, false), indices);
  }

  /** What a value means. */
  public enum Semantic {
    NORMAL(3, 3),
    /** The fourth number is the side of the bitangent. */
    TANGENT(3, 4),
    UV(2, 3),
    COLOUR(3, 4),
    OTHER(1, MOST);

    private final int fewest;
    private final int most;

    Semantic(int fewest, int most) {
      this.fewest = fewest;
      this.most = most;
    }

    /** Whether a value with this meaning can have so many numbers. */
    public boolean holds(int components) {
      return components >= fewest && components <= most;
    }
  }

  /** What carries a value. */
  public enum Domain {
    VERTEX,
    CORNER,
    FACE,
    CONSTANT
  }

  public Attribute {
    Objects.requireNonNull(name, "name");
    if (table.components() > MOST) {
      throw new IllegalArgumentException(name + ": " + table.components() + " numbers a value");
    }
    if (semantic != Semantic.OTHER && !(table instanceof Table.Floats)) {
      throw new IllegalArgumentException(name + ": " + semantic + " of type " + table.type());
    }
  }

  /** Numbers a value. */
  public int components() {
    return table.components();
  }

  /** {@code float[components*n]}; only custom layers have other types. */
  public float[] values() {
    return ((Table.Floats) table).numbers();
  }

  /** How many values are stored. */
  public int valueCount() {
    return table.count();
  }

  /** The value's index for a corner of a mesh, −1 where it has none. */
  public int valueOf(int corner, int vertex, int face) {
    int element =
        switch (domain) {
          case VERTEX -> vertex;
          case CORNER -> corner;
          case FACE -> face;
          case CONSTANT -> 0;
        };
    return indices == null ? element : indices[element];
  }

  public Attribute withName(String other) {
    return new Attribute(other, semantic, domain, table, indices);
  }

  public Attribute withValues(float[] newValues) {
    return new Attribute(name, semantic, domain, components(), newValues, indices);
  }

  /** The same values for other elements, each named by its row. */
  public Attribute on(Domain newDomain, int[] newIndices) {
    return new Attribute(name, semantic, newDomain, table, newIndices);
  }

  public Attribute withTable(Table newTable) {
    return new Attribute(name, semantic, domain, newTable, indices);
  }
}
