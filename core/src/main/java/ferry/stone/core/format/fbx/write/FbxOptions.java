package ferry.stone.core.format.fbx.write;

/**
 * How a scene is written.
 *
 * @param form binary or text
 * @param version 7400 or 7500; text is always 7400
 * @param texturesInside images inside the file; else in a {@code textures} folder beside it
 * @param bakeTransforms write every part with plain translation, rotation and scale, for readers
 *     that know neither pivots nor other ways of inheriting scale
 * @param toleranceRadians how far baked rotations may be off between keys
 */
public record FbxOptions(
    Form form,
    int version,
    boolean texturesInside,
    boolean bakeTransforms,
    double toleranceRadians) {
  /** Baked rotations are off by at most this: a hundredth of a millimetre at a metre. */
  public static final double TOLERANCE = 1e-5;

  public static final FbxOptions USUAL = new FbxOptions(Form.BINARY, 7400, true, false, TOLERANCE);

  /** How records are coded. */
  public enum Form {
    BINARY,
    TEXT
  }

  public FbxOptions {
    if (version != 7400 && version != 7500) {
      throw new IllegalArgumentException("the FBX version must be 7400 or 7500, not " + version);
    }
    if (form == Form.TEXT && version != 7400) {
      throw new IllegalArgumentException("text FBX is written as version 7400, not " + version);
    }
    if (!(toleranceRadians > 0) || toleranceRadians > 0.1) {
      throw new IllegalArgumentException(
          "the tolerance must be above 0 and at most 0.1 radians, not " + toleranceRadians);
    }
  }
}
