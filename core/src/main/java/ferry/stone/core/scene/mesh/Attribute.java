package ferry.stone.core.scene.mesh;

import java.util.Objects;

/**
 * Values laid over a mesh: normals, UVs, colours and anything else.
 *
 * @param name the source's name for it, e.g. {@code uv} or {@code map1}
 * @param semantic what it means
 * @param domain what carries one value each
 * @param components numbers a value, 1 to 4
 * @param values {@code float[components*n]}
 * @param indices value of each element of the domain, −1 for none; {@code null} when the n-th
 *     element has the n-th value
 */
public record Attribute(
    String name, Semantic semantic, Domain domain, int components, float[] values, int[] indices) {

  /** What a value means. */
  public enum Semantic {
    NORMAL(3, 3),
    /** The fourth number is the side of the bitangent. */
    TANGENT(3, 4),
    UV(2, 3),
    COLOUR(3, 4),
    OTHER(1, 4);

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
    if (components < 1 || components > 4 || values.length % components != 0) {
      throw new IllegalArgumentException(name + ": " + values.length + " numbers, " + components);
    }
  }

  /** How many values are stored. */
  public int valueCount() {
    return values.length / components;
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

  public Attribute withValues(float[] newValues) {
    return new Attribute(name, semantic, domain, components, newValues, indices);
  }
}
