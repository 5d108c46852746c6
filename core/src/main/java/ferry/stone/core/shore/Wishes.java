package ferry.stone.core.shore;

/**
 * How a destination wants things written.
 *
 * @param triangulate faces cut into triangles
 * @param embedTextures images inside the file
 * @param onRoot unit and axes as one transform on a root; else in the data
 * @param oneRoot all parts under one root
 * @param detailGroups versions of a part bundled as detail levels
 */
public record Wishes(
    boolean triangulate,
    boolean embedTextures,
    boolean onRoot,
    boolean oneRoot,
    boolean detailGroups) {
  public static final Wishes USUAL = new Wishes(false, true, false, false, false);
}
