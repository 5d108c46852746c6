package ferry.stone.core.format.gltf.draco;

import java.util.List;

/**
 * A mesh as it was packed.
 *
 * @param points how many vertices
 * @param triangles {@code int[3*faces]} of points
 */
public record DracoMesh(int points, int[] triangles, List<Values> attributes) {

  /**
   * Values of the points.
   *
   * @param id by which the file names them
   * @param components numbers a value
   * @param normalized whether whole numbers stand for 0 to 1
   * @param numbers {@code double[components*values]}
   * @param valueOf {@code int[points]}: the value of each point
   */
  public record Values(
      int id, int components, boolean normalized, double[] numbers, int[] valueOf) {}
}
