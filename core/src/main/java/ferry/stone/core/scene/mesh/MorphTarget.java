package ferry.stone.core.scene.mesh;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

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

  /** The last shape: the target fully on. */
  public Shape full() {
    return shapes.get(shapes.size() - 1);
  }

  /**
   * The key of each target in tracks: its name; repeated names are followed by {@code #2}, {@code
   * #3} and so on.
   */
  public static List<String> keys(List<MorphTarget> morphs) {
    List<String> keys = new ArrayList<>();
    Map<String, Integer> seen = new HashMap<>();
    for (MorphTarget morph : morphs) {
      int count = seen.merge(morph.name(), 1, Integer::sum);
      keys.add(count == 1 ? morph.name() : morph.name() + "#" + count);
    }
    return keys;
  }

  /**
   * @param fullWeight channel weight at which this shape is fully on
   * @param vertices touched vertices, {@code null} when all are
   * @param deltas {@code float[3*n]} added to positions
   * @param normalDeltas {@code float[3*n]} added to vertex normals, or {@code null}
   */
  public record Shape(double fullWeight, int[] vertices, float[] deltas, float[] normalDeltas) {}
}
