package ferry.stone.core.handling;

import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Scene;
import org.joml.Matrix4d;
import org.joml.Matrix4dc;

/** Moves a whole scene by changing its placement; no mesh is touched. */
final class Placement {
  private Placement() {}

  /** The scene with a further move, given in the scene's own frame. */
  static Scene then(Scene scene, Matrix4dc move) {
    return scene.toBuilder().placement(new Matrix4d(move).mul(scene.placement())).build();
  }

  /** A rotation given in the Y-up frame of the view, in the scene's own frame. */
  static Matrix4d fromView(Scene scene, Matrix4dc inView) {
    Matrix4d basis = new Matrix4d().set(scene.frame().basisTo(Frame.Y_UP_METRE));
    return new Matrix4d(basis).transpose().mul(inView).mul(basis);
  }
}
