package ferry.stone.core.view;

import ferry.stone.core.geometry.triangle.PlacedTriangles;
import ferry.stone.core.geometry.triangle.RenderMesh;
import ferry.stone.core.geometry.triangle.RenderPrimitive;
import ferry.stone.core.geometry.triangle.TriangleTree;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * How far the surface of one state lies from that of another, for a heat map: at each vertex of the
 * views' meshes the distance to the other surface in metres. A part is held against the part of the
 * same id; against everything when that is gone. O(n log m) for n vertices and m triangles.
 */
public final class Deviation {
  /** Numbers of a triangle. */
  private static final int CORNERS = 9;

  private final Scene scene;
  private final Matrix4d toMetres;
  private final Map<Integer, Integer> same;
  private final List<Part> others = new ArrayList<>();
  private TriangleTree all;

  private record Part(int nodeId, double[] triangles) {}

  private Deviation(Scene scene, Scene other, boolean sameSpot, Map<Integer, Integer> same) {
    this.scene = scene;
    this.same = same;
    toMetres = metres(scene);
    Matrix4d otherToMetres = metres(other);
    if (sameSpot) {
      otherToMetres.mulLocal(new Matrix4d().translation(spotOffset(scene, other)));
    }
    for (Scene.ShownMesh shown : other.shownMeshes()) {
      others.add(new Part(shown.node().id(), triangles(shown, otherToMetres)));
    }
  }

  /**
   * @param sameSpot whether the middles of both bases are put on one spot first
   */
  public static Deviation between(Scene scene, Scene other, boolean sameSpot) {
    return new Deviation(scene, other, sameSpot, null);
  }

  /**
   * Of scenes that are not states of one crossing.
   *
   * @param same ids of parts of the other by those of the scene's parts that they are
   */
  public static Deviation between(Scene scene, Scene other, Map<Integer, Integer> same) {
    return new Deviation(scene, other, false, same);
  }

  private static Matrix4d metres(Scene scene) {
    return scene.frame().matrixTo(Frame.Y_UP_METRE);
  }

  private static Vector3d spotOffset(Scene scene, Scene other) {
    return base(scene).sub(base(other));
  }

  private static Vector3d base(Scene scene) {
    Bounds box = Bounds.EMPTY;
    Matrix4d toMetres = metres(scene);
    for (Scene.ShownMesh shown : scene.shownMeshes()) {
      box = box.union(shown.mesh().points().bounds(new Matrix4d(toMetres).mul(shown.world())));
    }
    return box.isEmpty() ? new Vector3d() : box.centre().setComponent(1, box.minY());
  }

  /** The vertices of the view's mesh of a node: float32 each, primitive after primitive. */
  public byte[] of(int nodeId, Progress progress) {
    Scene.ShownMesh shown =
        scene.shownMeshes().stream().filter(s -> s.node().id() == nodeId).findFirst().orElse(null);
    if (shown == null) {
      return new byte[0];
    }
    TriangleTree tree = treeFor(nodeId);
    Matrix4d world = new Matrix4d(toMetres).mul(shown.world());
    List<RenderPrimitive> primitives = RenderMesh.of(shown.mesh(), progress);
    int count = primitives.stream().mapToInt(RenderPrimitive::vertexCount).sum();
    ByteBuffer out = ByteBuffer.allocate(4 * count).order(ByteOrder.LITTLE_ENDIAN);
    Vector3d p = new Vector3d();
    for (RenderPrimitive primitive : primitives) {
      progress.checkCancelled();
      float[] at = primitive.positions();
      for (int i = 0; i < at.length; i += 3) {
        world.transformPosition(p.set(at[i], at[i + 1], at[i + 2]));
        boolean known = tree != null && p.isFinite();
        out.putFloat(known ? (float) tree.distance(p.x, p.y, p.z) : Float.POSITIVE_INFINITY);
      }
    }
    return out.array();
  }

  private TriangleTree treeFor(int nodeId) {
    Integer wanted = same == null ? Integer.valueOf(nodeId) : same.get(nodeId);
    for (Part part : others) {
      if (wanted != null && part.nodeId() == wanted && part.triangles().length > 0) {
        return new TriangleTree(part.triangles());
      }
    }
    if (all == null) {
      int length = others.stream().mapToInt(p -> p.triangles().length).sum();
      if (length == 0) {
        return null;
      }
      double[] joined = new double[length];
      int at = 0;
      for (Part part : others) {
        System.arraycopy(part.triangles(), 0, joined, at, part.triangles().length);
        at += part.triangles().length;
      }
      all = new TriangleTree(joined);
    }
    return all;
  }

  /** Without triangles that have a corner which is no number: they lie nowhere. */
  private static double[] somewhere(double[] triangles) {
    int kept = 0;
    for (int t = 0; t < triangles.length; t += CORNERS) {
      boolean finite = true;
      for (int i = t; i < t + CORNERS; i++) {
        finite &= Double.isFinite(triangles[i]);
      }
      if (finite) {
        System.arraycopy(triangles, t, triangles, kept, CORNERS);
        kept += CORNERS;
      }
    }
    return kept == triangles.length ? triangles : Arrays.copyOf(triangles, kept);
  }

  private static double[] triangles(Scene.ShownMesh shown, Matrix4d toMetres) {
    Matrix4d world = new Matrix4d(toMetres).mul(shown.world());
    return somewhere(PlacedTriangles.of(shown.mesh(), world).apart());
  }
}
