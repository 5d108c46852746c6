package ferry.stone.core.geometry.mesh;

import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import java.util.ArrayList;
import java.util.BitSet;
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

  /**
   * The mesh with some faces turned round. Normals on corners and faces follow theirs; normals and
   * tangents on vertices become ones on corners.
   */
  public static PolygonMesh flipped(PolygonMesh mesh, BitSet turn) {
    Polygons faces = mesh.faces();
    int[] corners = new int[faces.cornerCount()];
    int[] source = new int[corners.length];
    int[] offsets = new int[faces.faceCount() + 1];
    for (int f = 0; f < faces.faceCount(); f++) {
      int start = faces.start(f);
      int end = faces.end(f);
      for (int c = start; c < end; c++) {
        source[c] = turn.get(f) ? mirror(c, start, end) : c;
        corners[c] = faces.vertex(source[c]);
      }
      offsets[f + 1] = end;
    }
    List<Attribute> attributes = new ArrayList<>();
    for (Attribute a : mesh.attributes()) {
      boolean turns = a.semantic() == Semantic.NORMAL || a.semantic() == Semantic.TANGENT;
      attributes.add(
          turns
              ? turned(a, faces, source, turn)
              : a.domain() == Domain.CORNER ? Layers.moved(a, source) : a);
    }
    return mesh.toBuilder().faces(Polygons.of(corners, offsets)).attributes(attributes).build();
  }

  /** Values followed by their opposites; corners of turned faces take the latter. */
  private static Attribute turned(Attribute a, Polygons faces, int[] source, BitSet turn) {
    int n = a.valueCount();
    float[] both = java.util.Arrays.copyOf(a.values(), 2 * a.values().length);
    Attribute opposite =
        a.semantic() == Semantic.NORMAL ? negated(a, 0) : a.components() == 4 ? negated(a, 3) : a;
    System.arraycopy(opposite.values(), 0, both, a.values().length, a.values().length);
    int[] indices = new int[source.length];
    for (int f = 0; f < faces.faceCount(); f++) {
      for (int c = faces.start(f); c < faces.end(f); c++) {
        int value = a.valueOf(source[c], faces.vertex(source[c]), f);
        indices[c] = value < 0 ? -1 : turn.get(f) ? n + value : value;
      }
    }
    return new Attribute(a.name(), a.semantic(), Domain.CORNER, a.components(), both, indices);
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
    return a.on(a.domain(), indices);
  }
}
