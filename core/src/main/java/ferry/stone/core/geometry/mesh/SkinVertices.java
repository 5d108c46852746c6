package ferry.stone.core.geometry.mesh;

import ferry.stone.core.scene.node.Skin;

/** A skin for vertices that were taken from those of another mesh. */
public final class SkinVertices {
  private SkinVertices() {}

  /** The weights of each vertex are those of {@code source[v]}; joints stay the same. */
  public static Skin picked(Skin skin, int[] source) {
    int[] offsets = new int[source.length + 1];
    for (int v = 0; v < source.length; v++) {
      offsets[v + 1] = offsets[v] + skin.offsets()[source[v] + 1] - skin.offsets()[source[v]];
    }
    int[] joints = new int[offsets[source.length]];
    float[] weights = new float[joints.length];
    for (int v = 0; v < source.length; v++) {
      int from = skin.offsets()[source[v]];
      System.arraycopy(skin.joints(), from, joints, offsets[v], offsets[v + 1] - offsets[v]);
      System.arraycopy(skin.weights(), from, weights, offsets[v], offsets[v + 1] - offsets[v]);
    }
    return skin.withWeights(offsets, joints, weights);
  }
}
