package ferry.stone.core.scene.mesh;

/**
 * How a mesh is meant to be subdivided.
 *
 * @param scheme e.g. {@code catmullClark}
 * @param level levels meant for view
 * @param creaseEdges pairs of vertices
 * @param creaseSharpness one value an edge pair
 * @param creaseVertices vertices that stay sharp
 * @param vertexSharpness one value a sharp vertex
 * @param holes faces that shape the surface but are not shown, rising
 */
public record Subdivision(
    String scheme,
    int level,
    int[] creaseEdges,
    float[] creaseSharpness,
    int[] creaseVertices,
    float[] vertexSharpness,
    int[] holes) {}
