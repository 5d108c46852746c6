package ferry.stone.core.format.usd.write;

/**
 * What was chosen for a layer.
 *
 * @param rate time codes a second, 0 for that of the source
 * @param clip name of the clip that is written, empty for the first
 * @param oneRoot whether several parts at the top stand below one, so that who refers to the file
 *     has them all
 */
public record UsdOptions(Container container, double rate, String clip, boolean oneRoot) {
  /** All of it as it is. */
  public static UsdOptions of(Container container) {
    return new UsdOptions(container, 0, "", false);
  }

  /** What the layer is written as. */
  public enum Container {
    TEXT,
    CRATE,
    PACKAGE
  }

  /** Time codes a second of a scene without a rate. */
  static final double USUAL_RATE = 24;
}
