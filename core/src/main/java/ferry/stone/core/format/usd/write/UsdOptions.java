package ferry.stone.core.format.usd.write;

/**
 * What was chosen for a layer.
 *
 * @param rate time codes a second, 0 for that of the source
 * @param clip name of the clip that is written, empty for the first
 * @param oneRoot whether several parts at the top stand below one, so that who refers to the file
 *     has them all
 * @param layers among which files what is said is divided
 * @param parts whether parts are files of their own
 * @param copies whether what several parts show stands once
 * @param variants whether variants that are not chosen are written too
 */
public record UsdOptions(
    Container container,
    double rate,
    String clip,
    boolean oneRoot,
    Layers layers,
    Parts parts,
    boolean copies,
    boolean variants) {
  /** All in one file. */
  public UsdOptions(Container container, double rate, String clip, boolean oneRoot) {
    this(container, rate, clip, oneRoot, Layers.ONE, Parts.INSIDE, true, false);
  }

  /** All of it as it is. */
  public static UsdOptions of(Container container) {
    return new UsdOptions(container, 0, "", false);
  }

  /** The same in other files. */
  public UsdOptions in(Layers otherLayers, Parts otherParts) {
    return new UsdOptions(
        container, rate, clip, oneRoot, otherLayers, otherParts, copies, variants);
  }

  /** The same with another clip. */
  public UsdOptions with(String otherClip) {
    return new UsdOptions(container, rate, otherClip, oneRoot, layers, parts, copies, variants);
  }

  /** How many files what is said is divided among. */
  public enum Layers {
    ONE,
    /** Geometry, look and motion. */
    APART,
    /** The same, and each clip that is not written otherwise. */
    CLIPS
  }

  /** Where parts are. */
  public enum Parts {
    INSIDE,
    REFERENCES,
    PAYLOADS
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
