package ferry.stone.core.view.picture;

import ferry.stone.core.format.files.Resources;
import ferry.stone.core.geometry.curve.StraightCurves;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.geometry.triangle.RenderMesh;
import ferry.stone.core.geometry.triangle.RenderPrimitive;
import ferry.stone.core.math.Frame;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node.Content.MeshContent;
import ferry.stone.core.scene.node.Purpose;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.joml.Matrix3d;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * A picture of a scene at rest, or at a moment of its first clip. Its light comes from above the
 * viewer's left shoulder; both sides of faces are lit. O(t + p) for t triangles and p pixels that
 * they cover.
 */
public final class Picture {
  /** Longest side, in pixels. */
  public static final int LARGEST = 4096;

  private static final float AMBIENT = 0.28f;
  private static final float LIGHT = 0.62f;
  private static final float[] LINES = {0.05f, 0.08f, 0.1f};

  private final Map<Integer, Surface> surfaces;
  private final List<Part> parts = new ArrayList<>();
  private final Surface plain = Surface.plain();

  /** A shape where it stands, in metres with Y up. */
  private record Part(
      int nodeId,
      PolygonMesh mesh,
      double[] points,
      Matrix3d directions,
      Map<Integer, Integer> slots) {}

  /** How far each vertex that is drawn lies from where it should be. */
  public interface Heat {
    /**
     * @return metres at the vertices of the node's {@link RenderMesh}, primitive after primitive;
     *     {@code null} for a part without
     */
    float[] at(int nodeId);
  }

  private Picture(Map<Integer, Surface> surfaces, List<Part> parts) {
    this.surfaces = surfaces;
    this.parts.addAll(parts);
  }

  private Picture(Scene scene, Resources files, double seconds, Progress progress) {
    Scene whole = StraightCurves.of(Rebase.intoData(scene, Frame.Y_UP_METRE), mesh -> false);
    surfaces = Surface.all(whole, files);
    boolean moves = !whole.clips().isEmpty() && !Double.isNaN(seconds);
    Pose pose = moves ? Pose.at(whole, whole.clips().get(0), seconds) : Pose.rest(whole);
    boolean[] seen = whole.seen();
    Purpose[] purposes = whole.purposes();
    Map<Integer, PolygonMesh> meshes = whole.meshesById();
    for (int i = 0; i < seen.length; i++) {
      boolean shown = purposes[i] == Purpose.DEFAULT || purposes[i] == Purpose.RENDER;
      if (seen[i] && shown && whole.nodes().get(i).content() instanceof MeshContent content) {
        progress.checkCancelled();
        PolygonMesh mesh = meshes.get(content.meshId());
        Matrix4d own =
            new Matrix4d(pose.world()[i]).mul(whole.nodes().get(i).geometric().toMatrix());
        Matrix3d directions = own.normal(new Matrix3d());
        double[] points = Deform.world(whole, pose, i);
        parts.add(
            new Part(whole.nodes().get(i).id(), mesh, points, directions, slots(mesh, content)));
      }
    }
  }

  /** Materials that a node shows instead of those of its mesh. */
  private static Map<Integer, Integer> slots(PolygonMesh mesh, MeshContent content) {
    Map<Integer, Integer> own = new HashMap<>();
    int[] others = content.slotMaterials();
    for (int s = 0; others != null && s < others.length && s < mesh.materialIds().length; s++) {
      own.put(mesh.materialIds()[s], others[s]);
    }
    return own;
  }

  /**
   * @param files for the textures
   * @param seconds of the first clip; not a number for the scene at rest
   */
  public static Picture of(Scene scene, Resources files, double seconds, Progress progress) {
    return new Picture(scene, files, seconds, progress);
  }

  /** The same with one part alone. */
  public Picture of(int nodeId) {
    return new Picture(surfaces, parts.stream().filter(p -> p.nodeId == nodeId).toList());
  }

  /** At rest. */
  public static Picture of(Scene scene, Resources files) {
    return of(scene, files, Double.NaN, Progress.NONE);
  }

  /** Whether there is anything to see. */
  public boolean isEmpty() {
    return parts.isEmpty();
  }

  /**
   * Takes the picture, all of the scene in it; the background is transparent.
   *
   * @param width in pixels, up to {@link #LARGEST}
   */
  public Pixels taken(ViewFrom from, int width, int height, Progress progress) {
    return taken(from, width, height, null, 1, progress);
  }

  /**
   * The same in the colours of distances.
   *
   * @param most metres that have the strongest colour
   */
  public Pixels taken(
      ViewFrom from, int width, int height, Heat heat, double most, Progress progress) {
    if (width < 1 || height < 1 || width > LARGEST || height > LARGEST) {
      throw new IllegalArgumentException(
          "a picture has 1 to " + LARGEST + " pixels a side, not " + width + " × " + height);
    }
    Eye eye = Eye.on(points(), from, (double) width / height);
    Canvas canvas = new Canvas(width, height);
    List<Veil> veils = new ArrayList<>();
    for (Part part : parts) {
      progress.checkCancelled();
      float[] distances = heat == null ? null : heat.at(part.nodeId);
      faces(part, eye, canvas, veils, distances, most, progress);
      loose(part, eye, canvas);
    }
    // What is seen through comes last, the farthest first.
    veils.sort(Comparator.comparingDouble(Veil::depth));
    veils.forEach(v -> canvas.triangle(v.corners, v.paint, false));
    return canvas.pixels();
  }

  private record Veil(double depth, double[] corners, Canvas.Paint paint) {}

  private double[] points() {
    int length = parts.stream().mapToInt(p -> p.points.length).sum();
    double[] all = new double[length];
    int at = 0;
    for (Part part : parts) {
      System.arraycopy(part.points, 0, all, at, part.points.length);
      at += part.points.length;
    }
    return all;
  }

  private static void place(Eye eye, Canvas canvas, double[] points, int vertex, double[] into) {
    eye.place(points[3 * vertex], points[3 * vertex + 1], points[3 * vertex + 2], into);
    double half = Math.min(canvas.width, canvas.height) / 2.0;
    into[0] = canvas.width / 2.0 + half * into[0];
    into[1] = canvas.height / 2.0 - half * into[1];
  }

  private void faces(
      Part part,
      Eye eye,
      Canvas canvas,
      List<Veil> veils,
      float[] distances,
      double most,
      Progress progress) {
    double[] one = new double[3];
    int before = 0;
    for (RenderPrimitive primitive : RenderMesh.of(part.mesh, progress)) {
      int material = part.slots.getOrDefault(primitive.materialId(), primitive.materialId());
      Surface surface = surfaces.getOrDefault(material, plain);
      float[] normals = turned(primitive.normals(), part.directions);
      for (int t = 0; t < primitive.triangleCount(); t++) {
        double[] corners = new double[9];
        int[] at = new int[3];
        for (int k = 0; k < 3; k++) {
          at[k] = primitive.indices()[3 * t + k];
          place(eye, canvas, part.points, primitive.sourceVertex()[at[k]], one);
          System.arraycopy(one, 0, corners, 3 * k, 3);
        }
        Shade shade = new Shade(surface, primitive, at, normals, face(part, primitive, at), eye);
        if (distances != null) {
          float[] own = new float[3];
          for (int k = 0; k < 3; k++) {
            int vertex = before + at[k];
            own[k] = vertex < distances.length ? (float) (distances[vertex] / most) : 0;
          }
          canvas.triangle(corners, new HeatPaint(own, shade), true);
        } else if (surface.isSeenThrough()) {
          veils.add(new Veil(corners[2] + corners[5] + corners[8], corners, shade));
        } else {
          canvas.triangle(corners, shade, true);
        }
      }
      before += primitive.vertexCount();
    }
  }

  private static float[] turned(float[] normals, Matrix3d directions) {
    if (normals == null) {
      return null;
    }
    float[] turned = new float[normals.length];
    Vector3d n = new Vector3d();
    for (int i = 0; i + 2 < normals.length; i += 3) {
      directions.transform(n.set(normals[i], normals[i + 1], normals[i + 2])).normalize();
      turned[i] = (float) n.x;
      turned[i + 1] = (float) n.y;
      turned[i + 2] = (float) n.z;
    }
    return turned;
  }

  /** The direction in which a triangle looks. */
  private static Vector3d face(Part part, RenderPrimitive primitive, int[] at) {
    double[] p = part.points;
    int a = 3 * primitive.sourceVertex()[at[0]];
    int b = 3 * primitive.sourceVertex()[at[1]];
    int c = 3 * primitive.sourceVertex()[at[2]];
    Vector3d one = new Vector3d(p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]);
    return one.cross(p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]).normalize();
  }

  /** The light on a triangle, pixel by pixel. */
  static final class Shade implements Canvas.Paint {
    private final Surface surface;
    private final RenderPrimitive primitive;
    private final int[] at;
    private final float[] normals;
    private final Vector3d face;
    private final Eye eye;
    private final float[] uvs;

    Shade(
        Surface surface,
        RenderPrimitive primitive,
        int[] at,
        float[] normals,
        Vector3d face,
        Eye eye) {
      this.surface = surface;
      this.primitive = primitive;
      this.at = at;
      this.normals = normals;
      this.face = face;
      this.eye = eye;
      int set = surface.uvSet();
      uvs = set >= 0 && set < primitive.uvs().size() ? primitive.uvs().get(set) : null;
    }

    @Override
    public void at(float a, float b, float c, float[] into) {
      float u = 0;
      float v = 0;
      if (uvs != null) {
        u = a * uvs[2 * at[0]] + b * uvs[2 * at[1]] + c * uvs[2 * at[2]];
        v = a * uvs[2 * at[0] + 1] + b * uvs[2 * at[1] + 1] + c * uvs[2 * at[2] + 1];
      }
      surface.at(u, v, into);
      float[] colours = primitive.colours();
      if (colours != null) {
        int n = primitive.colourComponents();
        for (int k = 0; k < 3; k++) {
          into[k] *=
              a * colours[n * at[0] + k] + b * colours[n * at[1] + k] + c * colours[n * at[2] + k];
        }
      }
      float lit = Math.max(surface.emitted(), light(a, b, c));
      for (int k = 0; k < 3; k++) {
        into[k] *= lit;
      }
    }

    float light(float a, float b, float c) {
      double x = face.x;
      double y = face.y;
      double z = face.z;
      if (normals != null) {
        x = a * normals[3 * at[0]] + b * normals[3 * at[1]] + c * normals[3 * at[2]];
        y = a * normals[3 * at[0] + 1] + b * normals[3 * at[1] + 1] + c * normals[3 * at[2] + 1];
        z = a * normals[3 * at[0] + 2] + b * normals[3 * at[1] + 2] + c * normals[3 * at[2] + 2];
      }
      double length = Math.sqrt(x * x + y * y + z * z);
      if (!(length > 0)) {
        return AMBIENT + LIGHT / 2;
      }
      // Both sides are lit: what looks away is taken as its other side.
      double away = face.x * eye.back().x + face.y * eye.back().y + face.z * eye.back().z;
      double side = (away < 0 ? -1 : 1) / length;
      double across = side * (x * eye.right().x + y * eye.right().y + z * eye.right().z);
      double along = side * (x * eye.up().x + y * eye.up().y + z * eye.up().z);
      double towards = side * (x * eye.back().x + y * eye.back().y + z * eye.back().z);
      double key = Math.max(0, -0.45 * across + 0.6 * along + 0.66 * towards);
      return (float) (AMBIENT + 0.1 * (side * y + 1) / 2 + LIGHT * key);
    }
  }

  private static void loose(Part part, Eye eye, Canvas canvas) {
    LooseElements loose = part.mesh.loose();
    if (loose == null) {
      return;
    }
    double[] a = new double[3];
    double[] b = new double[3];
    int[] corners = loose.lineVertices();
    int[] offsets = loose.lineOffsets();
    for (int l = 0; l < loose.lineCount(); l++) {
      for (int i = offsets[l]; i + 1 < offsets[l + 1]; i++) {
        place(eye, canvas, part.points, corners[i], a);
        place(eye, canvas, part.points, corners[i + 1], b);
        canvas.line(a, b, LINES);
      }
    }
    for (int vertex : loose.points()) {
      place(eye, canvas, part.points, vertex, a);
      canvas.dot(a, LINES, 2 * Canvas.FINE);
    }
  }
}
