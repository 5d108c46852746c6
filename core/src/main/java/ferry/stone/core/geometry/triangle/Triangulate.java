package ferry.stone.core.geometry.triangle;

import ferry.stone.core.geometry.mesh.Layers;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.mesh.Subdivision;
import java.util.ArrayList;
import java.util.List;

/**
 * Cuts all faces of a mesh into triangles; see {@link Triangulation}. Vertices stay; layers, slots,
 * smoothing groups and face sets go to the triangles of their faces. Faces of fewer than three
 * corners go.
 */
public final class Triangulate {
  private Triangulate() {}

  /** The scene with all its meshes in triangles. */
  public static Scene all(Scene scene) {
    return scene.toBuilder().meshes(scene.meshes().stream().map(Triangulate::of).toList()).build();
  }

  /** The mesh in triangles; the mesh itself when it has nothing else. */
  public static PolygonMesh of(PolygonMesh mesh) {
    Polygons faces = mesh.faces();
    if (faces.allTriangles()) {
      return mesh;
    }
    int count = Math.toIntExact(faces.triangleCount());
    int[] corners = new int[3 * count];
    int[] faceOf = new int[count];
    Triangulation triangulation = new Triangulation(mesh.points());
    int at = 0;
    for (int f = 0; f < faces.faceCount(); f++) {
      int to = triangulation.cut(faces, f, corners, at);
      for (int t = at / 3; t < to / 3; t++) {
        faceOf[t] = f;
      }
      at = to;
    }
    int[] vertices = new int[corners.length];
    for (int c = 0; c < corners.length; c++) {
      vertices[c] = faces.vertex(corners[c]);
    }
    List<Attribute> attributes = new ArrayList<>();
    for (Attribute a : mesh.attributes()) {
      attributes.add(
          switch (a.domain()) {
            case CORNER -> Layers.moved(a, corners);
            case FACE -> Layers.moved(a, faceOf);
            default -> a;
          });
    }
    return mesh.toBuilder()
        .faces(Polygons.triangles(vertices))
        .attributes(attributes)
        .materials(mesh.materialIds(), Layers.picked(mesh.faceSlot(), faceOf))
        .smoothing(Layers.picked(mesh.smoothing(), faceOf))
        .faceSets(sets(mesh.faceSets(), faces.faceCount(), faceOf))
        .subdivision(withoutHoles(mesh.subdivision()))
        .build();
  }

  private static List<FaceSet> sets(List<FaceSet> sets, int faceCount, int[] faceOf) {
    List<FaceSet> result = new ArrayList<>();
    for (FaceSet set : sets) {
      boolean[] in = new boolean[faceCount];
      for (int face : set.faces()) {
        in[face] = true;
      }
      IntList triangles = new IntList(set.faces().length);
      for (int t = 0; t < faceOf.length; t++) {
        if (in[faceOf[t]]) {
          triangles.add(t);
        }
      }
      result.add(new FaceSet(set.name(), triangles.toArray()));
    }
    return result;
  }

  /** A surface of triangles is another one than that of the faces: only its creases are kept. */
  private static Subdivision withoutHoles(Subdivision s) {
    return s == null
        ? null
        : new Subdivision(
            s.scheme(),
            s.level(),
            s.creaseEdges(),
            s.creaseSharpness(),
            s.creaseVertices(),
            s.vertexSharpness(),
            new int[0]);
  }
}
