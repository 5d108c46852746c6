package ferry.stone.core.proof;

/**
 * The numbers of a fact, for programs: the texts beside them are for people.
 *
 * @param unit {@code m}, {@code m2}, {@code s}, {@code deg}, {@code uv} for parts of an image,
 *     {@code 1} for plain numbers or {@code count}
 * @param near {@code null} where it has no number or its unit is not known
 * @param far as it was meant to land
 * @param landed as it was read back
 * @param differs by how much landed and far differ at most
 */
public record Measure(String unit, Double near, Double far, Double landed, Double differs) {
  public static final String METRES = "m";
  public static final String DEGREES = "deg";

  /** Parts of an image. */
  public static final String UV = "uv";

  /** Plain numbers, most of them from 0 to 1. */
  public static final String PART = "1";

  /** A count of each side. */
  public static Measure count(long near, long far, long landed) {
    return new Measure(
        "count", (double) near, (double) far, (double) landed, (double) (landed - far));
  }

  /** How far apart, where there is no single number on the sides; nothing for what is no number. */
  public static Measure off(String unit, double differs) {
    return Double.isFinite(differs) ? new Measure(unit, null, null, null, differs) : null;
  }
}
