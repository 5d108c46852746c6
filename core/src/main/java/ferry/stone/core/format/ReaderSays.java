package ferry.stone.core.format;

import java.util.Set;

/**
 * What readers say that they had to leave out, by the code of the finding: it stays with the scene,
 * so that no proof omits it.
 */
public final class ReaderSays {
  private static final Set<String> LOSSES =
      Set.of(
          "cache-without-mesh",
          "camera-not-read",
          "colours-not-read",
          "effect-not-read",
          "geometry-not-read",
          "interpolation-not-read",
          "keys-out-of-order",
          "layer-mapping-unknown",
          "layer-too-short",
          "light-not-read",
          "link-mode-additive",
          "material-file-missing",
          "material-undefined",
          "morph-of-other-values",
          "motion-broken",
          "motion-outside-scene",
          "motion-shears",
          "motion-twice",
          "node-inside-itself",
          "normal-index-out-of-range",
          "opacity-map-inverted",
          "pointer-not-carried",
          "reference-broken",
          "reference-outside",
          "shape-out-of-range",
          "smoothing-not-read",
          "statements-not-read",
          "texture-unknown",
          "uv-index-out-of-range",
          "weights-out-of-range");

  private ReaderSays() {}

  /** Whether a finding tells of something that was left out in reading. */
  public static boolean isLoss(String code) {
    return LOSSES.contains(code);
  }
}
