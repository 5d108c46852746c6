package ferry.stone.core.scene.node;

/** What a node is for; it holds for the nodes below that say nothing else. */
public enum Purpose {
  /** For everything. */
  DEFAULT,
  /** For the final picture only. */
  RENDER,
  /** Stands in for a heavier part while people work. */
  PROXY,
  /** Helps to place things and is in no picture. */
  GUIDE
}
