package ferry.stone.core.geometry;

import ferry.stone.core.scene.Attribute;
import ferry.stone.core.scene.Attribute.Domain;
import ferry.stone.core.scene.Attribute.Semantic;
import ferry.stone.core.scene.PolygonMesh;
import ferry.stone.core.scene.Polygons;
import java.util.ArrayList;
import java.util.List;

/** Which way round faces run. */
public final class Winding {
  private Winding() {}

  /** The mesh turned inside out: faces run the other way, normals look the other way. */
  public static PolygonMesh flipped(PolygonMesh mesh) {
    List<Attribute> attributes = new ArrayList<>();
    for (Attribute a : mesh.attributes()) {
      Attribute turned = a;
      if (a.semantic() == Semantic.NORMAL) {
        turned = negated(a, 0);
      } else if (a.semantic() == Semantic.TANGENT && a.components() == 4) {
        // The third direction of the surface's frame stays: its sign is told by the fourth number.
        turned = negated(a, 3);
      }
      attributes.add(reversed(turned, mesh.faces()));
    }
    return mesh.toBuilder().faces(reversed(mesh.faces())).attributes(attributes).build();
  }

  private static Attribute negated(Attribute a, int from) {
    float[] values = a.values().clone();
    for (int i = 0; i < values.length; i++) {
      values[i] = i % a.components() >= from ? -values[i] : values[i];
    }
    return a.withValues(values);
  }

  /** The faces seen from their other side; the first corner of each stays first. */
  public static Polygons reversed(Polygons faces) {
    int[] corners = new int[faces.cornerCount()];
    int[] offsets = new int[faces.faceCount() + 1];
    for (int f = 0; f < faces.faceCount(); f++) {
      int start = faces.start(f);
      int end = faces.end(f);
      for (int c = start; c < end; c++) {
        corners[c] = faces.vertex(mirror(c, start, end));
      }
      offsets[f + 1] = end;
    }
    return Polygons.of(corners, offsets);
  }

  /** The first corner stays first; the others run the other way. */
  private static int mirror(int corner, int start, int end) {
    return corner == start ? start : end - (corner - start);
  }

  /** The corner values in the order of the reversed faces. */
  static Attribute reversed(Attribute a, Polygons faces) {
    if (a.domain() != Domain.CORNER) {
      return a;
    }
    int[] indices = new int[faces.cornerCount()];
    for (int f = 0; f < faces.faceCount(); f++) {
      int start = faces.start(f);
      int end = faces.end(f);
      for (int c = start; c < end; c++) {
        int from = mirror(c, start, end);
        indices[c] = a.indices() == null ? from : a.indices()[from];
      }
    }
    return new Attribute(a.name(), a.semantic(), a.domain(), a.components(), a.values(), indices);
  }
}
