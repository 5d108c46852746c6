package ferry.stone.core.shore;

/**
 * How much a destination lets what lands differ. What is not stated is not judged: the proof then
 * says by how much things differ, and nobody is to look because of it.
 *
 * @param apart millimetres that surfaces, origins and moving points may lie apart
 * @param turned degrees that normals, tangents and directions may be turned
 * @param uv how far UVs may lie apart, as a part of the image
 * @param values how far colours, factors and weights may lie apart, of 1
 * @param seenFrom metres from which it is seen; where the whole fills the picture when left out
 */
public record Tolerances(Double apart, Double turned, Double uv, Double values, Double seenFrom) {
  public static final Tolerances NONE = new Tolerances(null, null, null, null, null);

  public Tolerances {
    check("apart", apart, "millimetres");
    check("turned", turned, "degrees");
    check("uv", uv, "parts of the image");
    check("values", values, "of 1");
    check("seenFrom", seenFrom, "metres");
    if (seenFrom != null && seenFrom == 0) {
      throw new IllegalArgumentException("seenFrom must be more than 0 metres");
    }
  }

  private static void check(String name, Double value, String unit) {
    if (value != null && !(value >= 0 && value < Double.POSITIVE_INFINITY)) {
      throw new IllegalArgumentException(name + " must be 0 or more " + unit + ", not " + value);
    }
  }
}
