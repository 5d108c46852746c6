package ferry.stone.core.shore;

/**
 * Limits of a destination; 0 is no limit.
 *
 * @param fileBytes size of all landed files
 * @param triangles of the whole scene, the finest of detail levels counted
 * @param vertices of the whole scene, before seams are cut
 * @param joints of one skin
 * @param influences joints that move one vertex
 * @param morphs targets of one mesh
 * @param textureSize longest side of an image in pixels
 * @param materialsPerMesh slots in use of one mesh
 */
public record Budgets(
    long fileBytes,
    long triangles,
    long vertices,
    int joints,
    int influences,
    int morphs,
    int textureSize,
    int materialsPerMesh) {
  public static final Budgets NONE = new Budgets(0, 0, 0, 0, 0, 0, 0, 0);

  public Budgets {
    long least =
        Math.min(
            Math.min(Math.min(fileBytes, triangles), Math.min(vertices, joints)),
            Math.min(Math.min(influences, morphs), Math.min(textureSize, materialsPerMesh)));
    if (least < 0) {
      throw new IllegalArgumentException("a limit must be 0 (none) or more, not " + least);
    }
  }
}
