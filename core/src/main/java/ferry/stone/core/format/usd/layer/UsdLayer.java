package ferry.stone.core.format.usd.layer;

import java.util.List;

/**
 * One file as it is.
 *
 * @param resource its path in the cargo
 * @param root its children are the prims at the top, its fields those of the layer
 * @param sublayers the stronger first
 */
public record UsdLayer(String resource, PrimSpec root, List<UsdArc> sublayers) {
  public UsdLayer {
    sublayers = List.copyOf(sublayers);
  }

  /** A number of the layer's own fields, or another where it is not said. */
  public double number(String field, double otherwise) {
    return root.fields().get(field) instanceof UsdValue value && value.length() > 0
        ? value.number(0)
        : otherwise;
  }

  /** A text of the layer's own fields, or another where it is not said. */
  public String text(String field, String otherwise) {
    return root.fields().get(field) instanceof UsdValue value && value.text() != null
        ? value.text()
        : otherwise;
  }
}
