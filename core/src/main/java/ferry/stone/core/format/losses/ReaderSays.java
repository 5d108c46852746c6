package ferry.stone.core.format.losses;

import java.util.Set;

/**
 * What readers say, by the code of the finding. What they had to leave out stays with the scene, so
 * that no proof omits it.
 */
public final class ReaderSays {
  private static final Set<String> LOSSES =
      Set.of(
          "buffer-missing",
          "cache-without-mesh",
          "camera-motion-not-read",
          "camera-not-read",
          "curve-form-not-read",
          "layer-not-read",
          "colours-not-read",
          "connections-broken",
          "effect-not-read",
          "faces-too-small",
          "geometry-not-read",
          "ids-twice",
          "interpolation-not-read",
          "joint-missing",
          "keys-out-of-order",
          "layer-index-out-of-range",
          "layer-mapping-unknown",
          "layer-motion-not-read",
          "layer-too-short",
          "light-not-read",
          "link-mode-additive",
          "material-file-missing",
          "material-statement-broken",
          "material-undefined",
          "morph-of-other-values",
          "motion-broken",
          "motion-outside-scene",
          "motion-without-part",
          "motion-shears",
          "motion-twice",
          "node-inside-itself",
          "normal-index-out-of-range",
          "opacity-map-inverted",
          "other-scenes-not-read",
          "parts-of-later-frames",
          "pointer-not-carried",
          "rational-weights",
          "reference-broken",
          "reference-outside",
          "shape-out-of-range",
          "smoothing-not-read",
          "statements-not-read",
          "subdivision-rule-not-read",
          "texture-layers-not-read",
          "texture-unknown",
          "third-uv-coordinate",
          "collection-not-read",
          "colour-space-not-read",
          "material-purpose-not-read",
          "network-not-read",
          "named-file-missing",
          "normal-map-turned",
          "skeleton-incomplete",
          "texture-bias-not-read",
          "transform-op-not-read",
          "usd-circle",
          "usd-layer-missing",
          "usd-move-wrong",
          "usd-prim-missing",
          "usd-too-many-places",
          "uv-index-out-of-range",
          "value-motion-not-read",
          "values-not-read",
          "weights-out-of-range");

  /** Put right or guessed: another reader may do otherwise. */
  private static final Set<String> FORGIVEN =
      Set.of(
          "bind-missing",
          "empty-values",
          "file-found-elsewhere",
          "joint-outside-scene",
          "material-defined-twice",
          "material-twice",
          "model-without-parent",
          "polygon-not-closed",
          "skin-outside-root",
          "skin-without-weights",
          "named-as-another-format",
          BrokenRules.CODE);

  /** Nothing was left out, or the scene itself says what: a texture without file, other scenes. */
  private static final Set<String> OTHERS =
      Set.of(
          "light-temperature",
          "network-kept",
          "schema-kept",
          "shape-kept",
          "solid-read-as-mesh",
          "texture-border-black",
          "uv-set-not-there",
          "brought-to-one-frame",
          "cache-divided",
          "cache-is-second",
          "cache-put-on",
          "cache-put-on-one-of-several",
          "cache-rate-assumed",
          "curve-as-samples",
          "clip-without-motion",
          "extension-carried",
          "faces-of-sets-left-out",
          "normals-follow-points",
          "numbered-spans",
          "spans-overlap",
          "file-of-library",
          "frame-rates-differ",
          "holes-bridged",
          "layers-blended",
          "lines-and-points",
          "levels-gathered",
          "materials-beside",
          "materials-taken",
          "motion-put-on",
          "rest-poses-differ",
          "material-keys-not-read",
          "no-materials",
          "numbered-frames",
          "numbered-run",
          "place-not-inherited",
          "several-scenes",
          "specular-glossiness-converted",
          "texture-layers",
          "texture-missing",
          "turned-by-its-tool");

  private ReaderSays() {}

  /** Whether a finding tells of something that was left out in reading. */
  public static boolean isLoss(String code) {
    return LOSSES.contains(code);
  }

  /** Whether a file is not as its standard says; what only we do not read is no fault of it. */
  public static boolean isOffTheStandard(String code) {
    return (LOSSES.contains(code) && !code.endsWith("-not-read")) || FORGIVEN.contains(code);
  }

  /** Whether it is decided of a word if it tells of a loss. */
  static boolean knows(String code) {
    return LOSSES.contains(code) || FORGIVEN.contains(code) || OTHERS.contains(code);
  }
}
