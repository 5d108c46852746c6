package ferry.stone.core.handling.step.surface;

import ferry.stone.core.geometry.triangle.Triangulate;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.mesh.PolygonMesh;

/** Cuts faces into triangles, along the same diagonals as a landing does. */
public final class TriangulateFaces extends FaceStep {
  @Override
  public String kind() {
    return "triangulate";
  }

  @Override
  public String label() {
    return "Cut into triangles";
  }

  @Override
  public String help() {
    return "Cuts all faces into triangles; vertices, layers and materials stay.";
  }

  @Override
  PolygonMesh changed(PolygonMesh mesh) {
    return Triangulate.of(mesh);
  }

  @Override
  String figure(long before, long after) {
    return Figures.count(before, "face") + " to " + Figures.count(after, "triangle");
  }
}
