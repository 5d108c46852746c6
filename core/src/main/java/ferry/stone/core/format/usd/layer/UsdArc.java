package ferry.stone.core.format.usd.layer;

import java.util.Map;

/**
 * A reference, a payload or a sublayer: to another file, or to a prim of the same one.
 *
 * @param asset path as it is written; empty for the same layer
 * @param prim path of the prim; empty for the default one, or for a sublayer
 * @param offset added to its time codes once they are scaled
 * @param scale of its time codes
 * @param custom data of a reference
 */
public record UsdArc(
    String asset, String prim, double offset, double scale, Map<String, Object> custom) {
  public UsdArc {
    custom = Map.copyOf(custom);
  }
}
