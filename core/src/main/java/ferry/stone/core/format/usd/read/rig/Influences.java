package ferry.stone.core.format.usd.read.rig;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.read.stage.Above;
import ferry.stone.core.format.usd.read.stage.Said;
import ferry.stone.core.format.usd.read.stage.UsdReading;
import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;
import java.io.IOException;

/**
 * Which joints move the vertices of a mesh, and how much; of weight 0 is none.
 *
 * @param offsets first influence of each vertex, and one past the last
 * @param joints place of the joint in the skeleton
 */
record Influences(int[] offsets, int[] joints, float[] weights) {
  static final String INDICES = "primvars:skel:jointIndices";
  private static final String WEIGHTS = "primvars:skel:jointWeights";

  /**
   * @param here the mesh; what it does not say, the prims above it do
   * @param places place in the skeleton of each joint that the mesh names, −1 for none
   * @return {@code null} and told where the arrays do not fit the mesh
   */
  static Influences of(UsdReading reading, Above here, int vertices, int[] places)
      throws IOException, FormatException {
    UsdPrim saying = here.saying(INDICES);
    UsdPrim weighing = here.saying(WEIGHTS);
    int[] indices = Said.ints(saying, INDICES);
    float[] weights = weighing == null ? new float[0] : Said.floats(weighing, WEIGHTS);
    boolean rigid =
        Said.field(saying.property(INDICES), "interpolation", "constant").equals("constant");
    int width = rigid ? indices.length : elementSize(saying);
    int rows = rigid ? 1 : vertices;
    if (indices.length < rows * (long) width || weights.length < indices.length || width == 0) {
      reading
          .report()
          .lost(
              "joint-missing",
              here.prim().path(),
              indices.length
                  + " influences with "
                  + weights.length
                  + " weights do not fit its "
                  + vertices
                  + " points: nothing moves it.");
      return null;
    }
    reading.report().claim(8L * width * vertices + 4L * vertices, here.prim().path(), "its skin");
    IntList joints = new IntList(vertices * width);
    FloatList kept = new FloatList(vertices * width);
    int[] offsets = new int[vertices + 1];
    int lost = 0;
    for (int v = 0; v < vertices; v++) {
      int row = rigid ? 0 : v * width;
      for (int i = row; i < row + width; i++) {
        boolean there = indices[i] >= 0 && indices[i] < places.length && places[indices[i]] >= 0;
        if (weights[i] != 0 && there) {
          joints.add(places[indices[i]]);
          kept.add(weights[i]);
        }
        lost += weights[i] != 0 && !there ? 1 : 0;
      }
      offsets[v + 1] = joints.size();
    }
    if (lost > 0) {
      reading
          .report()
          .lost(
              "joint-missing",
              here.prim().path(),
              lost + " influences name joints that its skeleton has not: left out.");
    }
    return new Influences(offsets, joints.toArray(), kept.toArray());
  }

  private static int elementSize(UsdPrim saying) {
    return saying.property(INDICES).field("elementSize") instanceof UsdValue value
        ? (int) Math.max(1, value.number(0))
        : 1;
  }
}
