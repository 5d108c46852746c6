package ferry.stone.core.format.abc.write;

/**
 * What was chosen for an archive.
 *
 * @param rate samples a second, 0 for those of the source
 * @param from seconds from which motion is written
 * @param to seconds until which, 0 for its end
 * @param clip name of the clip that is written, empty for the first
 * @param inWorld whether places go into the points; else parts keep theirs
 * @param normals whether normals are written
 * @param uvs whether UVs are written
 * @param velocities whether how fast points move is written
 * @param setsFromMaterials whether each material gets a set of its faces
 */
public record AbcOptions(
    double rate,
    double from,
    double to,
    String clip,
    boolean inWorld,
    boolean normals,
    boolean uvs,
    boolean velocities,
    boolean setsFromMaterials) {
  /** The whole of it as it is. */
  public static final AbcOptions STANDARD =
      new AbcOptions(0, 0, 0, "", false, true, true, false, true);
}
