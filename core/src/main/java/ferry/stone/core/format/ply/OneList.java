package ferry.stone.core.format.ply;

import ferry.stone.core.format.flat.VertexValues;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.texture.ColourSpace;
import java.util.ArrayList;
import java.util.List;

/**
 * All parts as one list of vertices with one value each: the first set of UVs with its origin at
 * the bottom left, colours as sRGB rounded to 8 bits. Where only some parts have a layer the others
 * get zeros, and white.
 */
final class OneList {
  private static final double FULL = 255;

  private OneList() {}

  /**
   * @param flat parts at the top, their places in their points
   * @param name of the one part
   */
  static Scene of(Scene flat, String name) {
    SceneBuilder scene = new SceneBuilder(flat.name());
    scene.frame(flat.frame(), flat.unitSource(), flat.axesSource());
    scene.uvOrigin(UvOrigin.BOTTOM_LEFT).nextId(flat.toBuilder().newId());
    if (flat.meshes().isEmpty()) {
      return scene.build();
    }
    List<PolygonMesh> parts = flat.meshes().stream().map(VertexValues::of).toList();
    List<Coordinates> points = parts.stream().map(PolygonMesh::points).toList();
    List<Attribute> layers = new ArrayList<>();
    for (Semantic semantic : new Semantic[] {Semantic.NORMAL, Semantic.UV, Semantic.COLOUR}) {
      if (parts.stream().anyMatch(m -> m.first(semantic).isPresent())) {
        layers.add(joined(flat, parts, semantic));
      }
    }
    int id = flat.meshes().get(0).id();
    PolygonMesh mesh =
        PolygonMesh.of(id, name, Coordinates.joined(points), faces(parts)).withAttributes(layers);
    scene.add(mesh);
    scene.add(Node.of(flat.nodes().get(0).id(), name, -1, Node.Content.MeshContent.of(id)));
    return scene.build();
  }

  private static Polygons faces(List<PolygonMesh> parts) {
    int corners = parts.stream().mapToInt(m -> m.faces().cornerCount()).sum();
    int count = parts.stream().mapToInt(m -> m.faces().faceCount()).sum();
    int[] vertices = new int[corners];
    int[] offsets = new int[count + 1];
    int corner = 0;
    int face = 0;
    int first = 0;
    for (PolygonMesh part : parts) {
      for (int f = 0; f < part.faces().faceCount(); f++) {
        for (int c = part.faces().start(f); c < part.faces().end(f); c++) {
          vertices[corner++] = first + part.faces().vertex(c);
        }
        offsets[++face] = corner;
      }
      first += part.points().count();
    }
    return Polygons.of(vertices, offsets);
  }

  private static Attribute joined(Scene flat, List<PolygonMesh> parts, Semantic semantic) {
    int n = semantic == Semantic.UV ? 2 : 3;
    boolean alpha =
        semantic == Semantic.COLOUR
            && parts.stream()
                .anyMatch(m -> m.first(semantic).map(a -> a.components() == 4).orElse(false));
    n += alpha ? 1 : 0;
    int count = parts.stream().mapToInt(m -> m.points().count()).sum();
    float[] values = new float[n * count];
    int at = 0;
    for (PolygonMesh part : parts) {
      Attribute own = part.first(semantic).orElse(null);
      for (int v = 0; v < part.points().count(); v++) {
        for (int k = 0; k < n; k++) {
          values[at++] = value(flat, own, semantic, v, k);
        }
      }
    }
    return new Attribute(
        semantic == Semantic.NORMAL ? "normal" : semantic == Semantic.UV ? "uv" : "colour",
        semantic,
        Domain.VERTEX,
        n,
        values,
        null);
  }

  private static float value(Scene flat, Attribute own, Semantic semantic, int v, int k) {
    if (own == null || k >= own.components()) {
      return semantic == Semantic.COLOUR ? 1 : 0;
    }
    int place = own.valueOf(0, v, 0);
    float value = place < 0 ? 0 : own.values()[own.components() * place + k];
    if (semantic == Semantic.UV) {
      return k == 1 && flat.uvOrigin() == UvOrigin.TOP_LEFT ? 1 - value : value;
    }
    if (semantic == Semantic.NORMAL) {
      return value;
    }
    double light = k < 3 && flat.linearColours() ? ColourSpace.toSrgb(value) : value;
    return (float) (Math.round(FULL * Math.max(0, Math.min(1, light))) / FULL);
  }
}
