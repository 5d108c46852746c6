package ferry.stone.core.scene;

/**
 * How a mesh is meant to be subdivided.
 *
 * @param scheme e.g. {@code catmullClark}
 * @param level levels meant for view
 * @param creaseEdges pairs of vertices
 * @param creaseSharpness one value an edge pair
 */
public record Subdivision(String scheme, int level, int[] creaseEdges, float[] creaseSharpness) {}
