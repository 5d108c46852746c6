package ferry.stone.core.geometry.triangle;

import ferry.stone.core.geometry.uv.TangentSpace;
import ferry.stone.core.math.IntList;
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
 * @param tangents {@code float[4*n]}, the fourth number is the side of the bitangent; or {@code
 *     null}
 * @param uvs one {@code float[2*n]} for each UV set, in the scene's own direction
 * @param colours {@code float[colourComponents*n]}, or {@code null}
 * @param colourComponents 3 or 4, 0 without colours
 * @param sourceVertex mesh vertex of each vertex here
 * @param indices {@code int[3*t]}
 * @param triangleFace mesh face of each triangle
 * @param layerRows for each custom layer that was asked for its row at each vertex, −1 for none
 */
public record RenderPrimitive(
    int materialId,
    int slot,
    float[] positions,
    float[] normals,
    float[] tangents,
    List<float[]> uvs,
    float[] colours,
    int colourComponents,
    int[] sourceVertex,
    int[] indices,
    int[] triangleFace,
    List<int[]> layerRows) {

  public int vertexCount() {
    return sourceVertex.length;
  }

  public int triangleCount() {
    return triangleFace.length;
  }

  /** The same triangles, each from another of its corners. */
  public RenderPrimitive withIndices(int[] turned) {
    return new RenderPrimitive(
        materialId,
        slot,
        positions,
        normals,
        tangents,
        uvs,
        colours,
        colourComponents,
        sourceVertex,
        turned,
        triangleFace,
        layerRows);
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
    float[] newTangents = picked(tangents, TangentSpace.COMPONENTS, vertices);
    return gathered(vertices, newTangents, newIndices, newFaces);
  }

  /** Whether all tangents can be used: of length 1, with a side. */
  public boolean hasTangents() {
    if (tangents == null) {
      return false;
    }
    for (int i = 0; i < tangents.length; i += TangentSpace.COMPONENTS) {
      double length = Math.hypot(Math.hypot(tangents[i], tangents[i + 1]), tangents[i + 2]);
      if (!(Math.abs(length - 1) < 1e-4) || Math.abs(tangents[i + 3]) != 1) {
        return false;
      }
    }
    return true;
  }

  /**
   * The same triangles with tangents; a vertex whose corners differ is repeated at the end.
   *
   * @param corners {@code float[4*3*t]}
   */
  public RenderPrimitive withTangents(float[] corners) {
    int count = vertexCount();
    IntList source = new IntList(count + 16);
    int[] firstCorner = new int[count];
    Arrays.fill(firstCorner, -1);
    IntList cornerOf = new IntList(count + 16);
    IntList next = new IntList(count + 16);
    for (int v = 0; v < count; v++) {
      source.add(v);
      cornerOf.add(-1);
      next.add(-1);
    }
    int[] newIndices = new int[indices.length];
    for (int c = 0; c < indices.length; c++) {
      int at = indices[c];
      while (cornerOf.get(at) >= 0 && !alike(corners, cornerOf.get(at), c) && next.get(at) >= 0) {
        at = next.get(at);
      }
      if (cornerOf.get(at) < 0) {
        cornerOf.set(at, c);
      } else if (!alike(corners, cornerOf.get(at), c)) {
        next.set(at, source.size());
        at = source.size();
        source.add(indices[c]);
        cornerOf.add(c);
        next.add(-1);
      }
      newIndices[c] = at;
    }
    int[] vertices = source.toArray();
    float[] made = new float[TangentSpace.COMPONENTS * vertices.length];
    for (int v = 0; v < vertices.length; v++) {
      int from = TangentSpace.COMPONENTS * Math.max(0, cornerOf.get(v));
      System.arraycopy(corners, from, made, TangentSpace.COMPONENTS * v, TangentSpace.COMPONENTS);
    }
    return gathered(vertices, made, newIndices, triangleFace);
  }

  private static boolean alike(float[] corners, int a, int b) {
    int i = TangentSpace.COMPONENTS * a;
    int j = TangentSpace.COMPONENTS * b;
    return corners[i] == corners[j]
        && corners[i + 1] == corners[j + 1]
        && corners[i + 2] == corners[j + 2]
        && corners[i + 3] == corners[j + 3];
  }

  /** The same without tangents. */
  public RenderPrimitive withoutTangents() {
    return new RenderPrimitive(
        materialId,
        slot,
        positions,
        normals,
        null,
        uvs,
        colours,
        colourComponents,
        sourceVertex,
        indices,
        triangleFace,
        layerRows);
  }

  /** The values of given vertices, in their order, under new triangles. */
  private RenderPrimitive gathered(
      int[] vertices, float[] newTangents, int[] newIndices, int[] newFaces) {
    List<float[]> newUvs = new ArrayList<>();
    uvs.forEach(uv -> newUvs.add(picked(uv, 2, vertices)));
    List<int[]> newRows = new ArrayList<>();
    layerRows.forEach(rows -> newRows.add(picked(rows, vertices)));
    int[] newSource = new int[vertices.length];
    for (int i = 0; i < newSource.length; i++) {
      newSource[i] = sourceVertex[vertices[i]];
    }
    return new RenderPrimitive(
        materialId,
        slot,
        picked(positions, 3, vertices),
        picked(normals, 3, vertices),
        newTangents,
        newUvs,
        picked(colours, colourComponents, vertices),
        colourComponents,
        newSource,
        newIndices,
        newFaces,
        newRows);
  }

  private static int[] picked(int[] rows, int[] vertices) {
    int[] result = new int[vertices.length];
    for (int i = 0; i < result.length; i++) {
      result[i] = rows[vertices[i]];
    }
    return result;
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
