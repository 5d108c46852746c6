package ferry.stone.core.geometry;

import java.util.List;

/**
 * Triangles of one material as real-time engines take them: one index for all values of a vertex.
 *
 * @param materialId material of the scene, −1 for none
 * @param positions {@code float[3*n]}
 * @param normals {@code float[3*n]} of length 1, or {@code null}
 * @param uvs one {@code float[2*n]} for each UV set, in the scene's own direction
 * @param colours {@code float[colourComponents*n]}, or {@code null}
 * @param colourComponents 3 or 4, 0 without colours
 * @param sourceVertex mesh vertex of each vertex here
 * @param indices {@code int[3*t]}
 * @param triangleFace mesh face of each triangle
 */
public record RenderPrimitive(
    int materialId,
    float[] positions,
    float[] normals,
    List<float[]> uvs,
    float[] colours,
    int colourComponents,
    int[] sourceVertex,
    int[] indices,
    int[] triangleFace) {

  public int vertexCount() {
    return sourceVertex.length;
  }

  public int triangleCount() {
    return triangleFace.length;
  }
}
