package ferry.stone.core.format.usd.compose;

/**
 * What could not be put together.
 *
 * @param code {@code usd-layer-missing}, {@code usd-circle}, {@code usd-prim-missing}, {@code
 *     usd-too-many-places} or {@code usd-move-wrong}
 * @param layer that says it
 * @param prim of which it says it, empty for the layer itself
 * @param written the path as it is written, empty for none
 */
public record UsdProblem(String code, String layer, String prim, String written, String message) {

  static UsdProblem missing(String layer, String prim, String written, String what) {
    return new UsdProblem(
        "usd-layer-missing",
        layer,
        prim,
        written,
        "The " + what + " \"" + written + "\" is not in the cargo: what it holds is not there.");
  }

  static UsdProblem circle(String layer, String prim, String written) {
    return new UsdProblem(
        "usd-circle",
        layer,
        prim,
        written,
        "\"" + written + "\" leads back to where it is said: it is left out.");
  }

  static UsdProblem noPrim(String layer, String prim, String target) {
    return new UsdProblem(
        "usd-prim-missing",
        layer,
        prim,
        target,
        "The layer \"" + target + "\" names no default prim, and the reference to it names none.");
  }

  static UsdProblem away(String layer, String prim, String target) {
    return new UsdProblem(
        "usd-prim-missing",
        layer,
        prim,
        target,
        "\""
            + target
            + "\" leads to a prim that its layer moves elsewhere: refer to the new place.");
  }

  static UsdProblem relocate(String layer, String source, String why) {
    return new UsdProblem(
        "usd-move-wrong",
        layer,
        source,
        "",
        "A relocate of the layer " + why + ": the prim stays where it is.");
  }

  static UsdProblem tooMany(String layer, String prim) {
    return new UsdProblem(
        "usd-too-many-places",
        layer,
        prim,
        "",
        "References multiply each other here: what goes beyond 2 000 places is left out.");
  }
}
