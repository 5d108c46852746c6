package ferry.stone.core.geometry.mesh;

import ferry.stone.core.geometry.triangle.FaceSizes;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;

/** Takes faces and vertices out of a mesh that nobody needs. All in O(c) for c corners. */
public final class MeshClean {
  private MeshClean() {}

  /**
   * @param sourceVertex vertex before for each vertex, {@code null} when they are the same
   * @param removed how many vertices or faces went
   */
  public record Result(PolygonMesh mesh, int[] sourceVertex, int removed) {}

  /** Vertices that no face, line or point uses, rising. */
  public static IntList unused(PolygonMesh mesh) {
    int n = mesh.points().count();
    boolean[] used = new boolean[n];
    for (int c = 0; c < mesh.faces().cornerCount(); c++) {
      used[mesh.faces().vertex(c)] = true;
    }
    if (mesh.loose() != null) {
      for (int v : mesh.loose().lineVertices()) {
        used[v] = true;
      }
      for (int v : mesh.loose().points()) {
        used[v] = true;
      }
    }
    IntList unused = new IntList(16);
    for (int v = 0; v < n; v++) {
      if (!used[v]) {
        unused.add(v);
      }
    }
    return unused;
  }

  public static Result unusedVertices(PolygonMesh mesh) {
    int gone = unused(mesh).size();
    if (gone == 0) {
      return new Result(mesh, null, 0);
    }
    boolean[] all = new boolean[mesh.faces().faceCount()];
    java.util.Arrays.fill(all, true);
    MeshCut.Part part = MeshCut.keeping(mesh, all);
    return new Result(withSlots(mesh, part), part.sourceVertex(), gone);
  }

  /** The slots stay as they were: others may choose materials by them. */
  private static PolygonMesh withSlots(PolygonMesh mesh, MeshCut.Part part) {
    int[] ofFace = part.mesh().faceSlot() == null ? null : part.mesh().faceSlot().clone();
    for (int f = 0; ofFace != null && f < ofFace.length; f++) {
      ofFace[f] = ofFace[f] < 0 ? -1 : part.sourceSlot()[ofFace[f]];
    }
    return part.mesh().toBuilder()
        .materials(mesh.materialIds(), ofFace)
        .variantMaterials(mesh.variantMaterials())
        .build();
  }

  /** Vertices whose position is no number, with the faces at them. */
  public static Result brokenVertices(PolygonMesh mesh) {
    Coordinates points = mesh.points();
    IntList gone = new IntList(16);
    for (int f = 0; f < mesh.faces().faceCount(); f++) {
      boolean broken = false;
      for (int c = mesh.faces().start(f); c < mesh.faces().end(f); c++) {
        int v = mesh.faces().vertex(c);
        broken |= !Double.isFinite(points.x(v) + points.y(v) + points.z(v));
      }
      if (broken) {
        gone.add(f);
      }
    }
    return gone.size() > 0 ? without(mesh, gone) : unusedVertices(mesh);
  }

  public static Result degenerateFaces(PolygonMesh mesh) {
    return without(mesh, FaceSizes.of(mesh).flat());
  }

  /** Of faces over the same vertices the first stays. */
  public static Result duplicateFaces(PolygonMesh mesh) {
    return without(mesh, DuplicateFaces.find(mesh.faces()));
  }

  private static Result without(PolygonMesh mesh, IntList gone) {
    if (gone.size() == 0) {
      return new Result(mesh, null, 0);
    }
    boolean[] keep = new boolean[mesh.faces().faceCount()];
    java.util.Arrays.fill(keep, true);
    for (int i = 0; i < gone.size(); i++) {
      keep[gone.get(i)] = false;
    }
    MeshCut.Part part = MeshCut.keeping(mesh, keep);
    return new Result(withSlots(mesh, part), part.sourceVertex(), gone.size());
  }
}
