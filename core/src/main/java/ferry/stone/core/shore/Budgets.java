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
 * @param skinMove how far a vertex may move when joints are left out, in millimetres on something
 *     of a person's size, 1.75 m, and in proportion otherwise; here 0 is none at all, and 0.5 when
 *     left out
 */
public record Budgets(
    long fileBytes,
    long triangles,
    long vertices,
    int joints,
    int influences,
    int morphs,
    int textureSize,
    int materialsPerMesh,
    Double skinMove) {
  /** What goes unseen on a person (common practice, no source). */
  public static final double USUAL_SKIN_MOVE = 0.5;

  public static final Budgets NONE = new Budgets(0, 0, 0, 0, 0, 0, 0, 0);

  /** With the usual tolerance of skins. */
  public Budgets(
      long fileBytes,
      long triangles,
      long vertices,
      int joints,
      int influences,
      int morphs,
      int textureSize,
      int materialsPerMesh) {
    this(
        fileBytes,
        triangles,
        vertices,
        joints,
        influences,
        morphs,
        textureSize,
        materialsPerMesh,
        null);
  }

  public Budgets {
    skinMove = skinMove == null ? Double.valueOf(USUAL_SKIN_MOVE) : skinMove;
    if (!(skinMove >= 0)) {
      throw new IllegalArgumentException("skinMove must be 0 or more millimetres, not " + skinMove);
    }
    long least =
        Math.min(
            Math.min(Math.min(fileBytes, triangles), Math.min(vertices, joints)),
            Math.min(Math.min(influences, morphs), Math.min(textureSize, materialsPerMesh)));
    if (least < 0) {
      throw new IllegalArgumentException("a limit must be 0 (none) or more, not " + least);
    }
  }
}
