package ferry.stone.core.view;

import ferry.stone.core.geometry.curve.CurvePoints;
import ferry.stone.core.math.IntList;
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
 * @param sourceVertex mesh vertex of each vertex here; of curves the control point that counts most
 * @param index two vertices for each segment of lines; empty for points
 * @param curves the points of curves as sums of control points; {@code null} for straight lines
 */
record LooseView(String kind, int[] sourceVertex, int[] index, CurvePoints curves) {

  static List<LooseView> of(PolygonMesh mesh) {
    List<LooseView> views = new ArrayList<>();
    LooseElements loose = mesh.loose();
    if (loose == null) {
      return views;
    }
    if (loose.segmentCount() > 0) {
      CurvePoints curves = loose.form() == null ? null : CurvePoints.of(loose, CurvePoints.PIECES);
      int[] vertices = curves == null ? loose.lineVertices() : curves.nearest();
      int[] offsets = curves == null ? loose.lineOffsets() : curves.offsets();
      views.add(new LooseView("lines", vertices, segments(offsets), curves));
    }
    if (loose.points().length > 0) {
      views.add(new LooseView("points", loose.points(), new int[0], null));
    }
    return views;
  }

  private static int[] segments(int[] offsets) {
    IntList index = new IntList(2 * offsets[offsets.length - 1]);
    for (int l = 0; l + 1 < offsets.length; l++) {
      for (int i = offsets[l]; i + 1 < offsets[l + 1]; i++) {
        index.add(i);
        index.add(i + 1);
      }
    }
    return index.toArray();
  }

  int vertexCount() {
    return sourceVertex.length;
  }

  float[] positions(PolygonMesh mesh) {
    return positions(mesh.points()::at);
  }

  /** Where they stand when the mesh's points are elsewhere. */
  float[] positions(CurvePoints.Places places) {
    if (curves != null) {
      return curves.at(places);
    }
    float[] positions = new float[3 * sourceVertex.length];
    for (int i = 0; i < positions.length; i++) {
      positions[i] = (float) places.at(3 * sourceVertex[i / 3] + i % 3);
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
