package ferry.stone.core.view;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.texture.ColourSpace;
import java.util.ArrayList;
import java.util.List;

/**
 * Lines or points of a mesh as a view draws them.
 *
 * @param kind {@code lines} or {@code points}
 * @param sourceVertex mesh vertex of each vertex here
 * @param index two vertices for each segment of lines; empty for points
 */
record LooseView(String kind, int[] sourceVertex, int[] index) {

  static List<LooseView> of(PolygonMesh mesh) {
    List<LooseView> views = new ArrayList<>();
    LooseElements loose = mesh.loose();
    if (loose == null) {
      return views;
    }
    if (loose.segmentCount() > 0) {
      int[] index = new int[2 * loose.segmentCount()];
      int at = 0;
      for (int l = 0; l < loose.lineCount(); l++) {
        for (int i = loose.lineOffsets()[l]; i + 1 < loose.lineOffsets()[l + 1]; i++) {
          index[at++] = i;
          index[at++] = i + 1;
        }
      }
      views.add(new LooseView("lines", loose.lineVertices(), index));
    }
    if (loose.points().length > 0) {
      views.add(new LooseView("points", loose.points(), new int[0]));
    }
    return views;
  }

  int vertexCount() {
    return sourceVertex.length;
  }

  float[] positions(PolygonMesh mesh) {
    float[] positions = new float[3 * sourceVertex.length];
    for (int i = 0; i < sourceVertex.length; i++) {
      positions[3 * i] = (float) mesh.points().x(sourceVertex[i]);
      positions[3 * i + 1] = (float) mesh.points().y(sourceVertex[i]);
      positions[3 * i + 2] = (float) mesh.points().z(sourceVertex[i]);
    }
    return positions;
  }

  /** Linear red, green and blue of each vertex; {@code null} where vertices have no colours. */
  float[] colours(PolygonMesh mesh, Scene scene) {
    Attribute layer =
        mesh.first(Attribute.Semantic.COLOUR)
            .filter(c -> c.domain() == Attribute.Domain.VERTEX)
            .orElse(null);
    if (layer == null) {
      return null;
    }
    float[] rgb = new float[3 * sourceVertex.length];
    for (int i = 0; i < sourceVertex.length; i++) {
      int row = layer.valueOf(-1, sourceVertex[i], -1);
      for (int k = 0; k < 3; k++) {
        float c = row < 0 ? 1 : layer.values()[layer.components() * row + k];
        rgb[3 * i + k] = scene.linearColours() ? c : (float) ColourSpace.toLinear(c);
      }
    }
    return rgb;
  }
}
