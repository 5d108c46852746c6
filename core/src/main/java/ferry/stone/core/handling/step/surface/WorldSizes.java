package ferry.stone.core.handling.step.surface;

import ferry.stone.core.scene.Scene;
import java.util.HashMap;
import java.util.Map;

/** How long one unit of a mesh's own numbers is where it is shown, in metres. */
final class WorldSizes {
  private WorldSizes() {}

  /** By mesh; of a mesh shown several times the largest. */
  static Map<Integer, Double> of(Scene scene) {
    Map<Integer, Double> sizes = new HashMap<>();
    for (Scene.ShownMesh shown : scene.shownMeshes()) {
      double size =
          Math.cbrt(Math.abs(shown.world().determinant3x3())) * scene.frame().metresPerUnit();
      if (size > 0) {
        sizes.merge(shown.mesh().id(), size, Math::max);
      }
    }
    return sizes;
  }
}
