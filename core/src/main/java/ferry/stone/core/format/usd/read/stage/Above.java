package ferry.stone.core.format.usd.read.stage;

import ferry.stone.core.format.usd.compose.UsdPrim;

/**
 * What a prim stands below.
 *
 * @param parent of this one, {@code null} at the top
 * @param node place of its node in the scene's list, −1 for none
 * @param primvars that come down from it
 */
public record Above(Above parent, UsdPrim prim, int node, Primvars primvars) {
  public static Above top(UsdPrim root) {
    return new Above(null, root, -1, Primvars.NONE);
  }

  /** This or the nearest above that says a property; {@code null} for none. */
  public UsdPrim saying(String property) {
    for (Above at = this; at != null; at = at.parent) {
      if (at.prim.property(property) != null) {
        return at.prim;
      }
    }
    return null;
  }
}
