package ferry.stone.core.geometry;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Triangles of one material as real-time engines take them: one index for all values of a vertex.
 *
 * @param materialId material of the scene, −1 for none
 * @param slot first of the mesh's slots that look like this, −1 for none
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
    int slot,
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

  /**
   * The same surface, or a part of it, in another order.
   *
   * @param vertices which vertices stay, in their new order; all that the triangles use
   * @param triangles which triangles stay, in their new order
   */
  RenderPrimitive reordered(int[] vertices, int[] triangles) {
    int[] place = new int[vertexCount()];
    Arrays.fill(place, -1);
    for (int i = 0; i < vertices.length; i++) {
      place[vertices[i]] = i;
    }
    int[] newIndices = new int[3 * triangles.length];
    int[] newFaces = new int[triangles.length];
    for (int t = 0; t < triangles.length; t++) {
      newFaces[t] = triangleFace[triangles[t]];
      for (int k = 0; k < 3; k++) {
        newIndices[3 * t + k] = place[indices[3 * triangles[t] + k]];
      }
    }
    List<float[]> newUvs = new ArrayList<>();
    uvs.forEach(uv -> newUvs.add(picked(uv, 2, vertices)));
    int[] newSource = new int[vertices.length];
    for (int i = 0; i < newSource.length; i++) {
      newSource[i] = sourceVertex[vertices[i]];
    }
    return new RenderPrimitive(
        materialId,
        slot,
        picked(positions, 3, vertices),
        picked(normals, 3, vertices),
        newUvs,
        picked(colours, colourComponents, vertices),
        colourComponents,
        newSource,
        newIndices,
        newFaces);
  }

  private static float[] picked(float[] values, int components, int[] vertices) {
    if (values == null) {
      return null;
    }
    float[] result = new float[components * vertices.length];
    for (int i = 0; i < vertices.length; i++) {
      System.arraycopy(values, components * vertices[i], result, components * i, components);
    }
    return result;
  }
}
