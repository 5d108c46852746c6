package ferry.stone.core.scene;

import java.util.List;

/**
 * A named shape that a mesh can be blended towards.
 *
 * @param name the key that animation and engines find it by
 * @param weight weight in the rest state
 * @param shapes in-betweens by rising full weight; the last is the target itself
 */
public record MorphTarget(String name, double weight, List<Shape> shapes) {

  public MorphTarget {
    shapes = List.copyOf(shapes);
  }

  /**
   * @param fullWeight channel weight at which this shape is fully on
   * @param vertices touched vertices, {@code null} when all are
   * @param deltas {@code float[3*n]} added to positions
   * @param normalDeltas {@code float[3*n]} added to vertex normals, or {@code null}
   */
  public record Shape(double fullWeight, int[] vertices, float[] deltas, float[] normalDeltas) {}
}
