package ferry.stone.core.scene;

/** Which corner of an image UV (0, 0) names. */
public enum UvOrigin {
  BOTTOM_LEFT,
  TOP_LEFT
}
