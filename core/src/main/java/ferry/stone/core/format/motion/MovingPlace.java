package ferry.stone.core.format.motion;

import ferry.stone.core.scene.node.LocalTransform;
import org.joml.Matrix4d;

/** Where a part of a file stands in its parent, which may change over time. */
public interface MovingPlace {
  /** Whether it goes on from the world and not from the parent at any moment. */
  boolean leavesItsParent();

  /** Whether two moments differ. */
  boolean moves();

  /** Whether it goes on from its parent at a moment. */
  boolean inherits(double seconds);

  /** Its own points to those of its parent, or of the world. */
  Matrix4d at(double seconds);

  /** Moments of its samples, rising, and between them as many as its turns need. */
  double[] moments();

  /** The moment at which it is at rest. */
  default double restSeconds() {
    return moments()[0];
  }

  /** Its place at rest in the form in which it is written; {@code null} for what it comes to. */
  default LocalTransform form() {
    return null;
  }
}
