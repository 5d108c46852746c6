package ferry.stone.core.format.usd.layer;

/** Said to have no value, so that weaker opinions count no more: {@code None}. */
public enum UsdBlock {
  VALUE,
  ANIMATION
}
