package ferry.stone.core.format.usd.read;

import ferry.stone.core.format.usd.compose.UsdPrim;

/**
 * What a prim stands below.
 *
 * @param parent of this one, {@code null} at the top
 * @param node place of its node in the scene's list, −1 for none
 * @param primvars that come down from it
 */
record Above(Above parent, UsdPrim prim, int node, Primvars primvars) {
  static Above top(UsdPrim root) {
    return new Above(null, root, -1, Primvars.NONE);
  }

  /** This or the nearest above that says a property; {@code null} for none. */
  UsdPrim saying(String property) {
    for (Above at = this; at != null; at = at.parent) {
      if (at.prim.property(property) != null) {
        return at.prim;
      }
    }
    return null;
  }
}
