package ferry.stone.core.handling.step.surface;

import ferry.stone.core.geometry.mesh.Winding;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.mesh.PolygonMesh;

/** Turns parts inside out, for those that arrive with their backs outside. */
public final class FlipFaces extends FaceStep {
  @Override
  public String kind() {
    return "flip";
  }

  @Override
  public String label() {
    return "Turn faces round";
  }

  @Override
  public String help() {
    return "Turns parts inside out: faces run and normals look the other way.";
  }

  @Override
  PolygonMesh changed(PolygonMesh mesh) {
    return Winding.flipped(mesh);
  }

  @Override
  String figure(long before, long after) {
    return Figures.count(after, "face");
  }
}
