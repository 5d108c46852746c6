package ferry.stone.core.motion;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;

/** Positions of a mesh's vertices after its morph targets and its skin. */
public final class Deform {
  private Deform() {}

  /**
   * World positions of a node's mesh in a pose: {@code double[3*v]}.
   *
   * <p>Skinned after glTF 2.0 section 3.7.3.3: each vertex is moved by the weighted sum of world
   * matrix times inverse bind matrix of its joints, and the node's own transform does not count. A
   * vertex that no joint moves stands where the node stands. Where a point cache says where the
   * vertices stand, neither targets nor joints count.
   */
  public static double[] world(Scene scene, Pose pose, int nodePlace) {
    Node node = scene.nodes().get(nodePlace);
    if (!(node.content() instanceof Node.Content.MeshContent content)) {
      return new double[0];
    }
    PolygonMesh mesh = scene.mesh(content.meshId()).orElseThrow();
    double[] cached = Caches.points(scene, mesh, pose.seconds());
    double[] points = cached != null ? cached : morphed(mesh, pose.morphWeights()[nodePlace]);
    Matrix4d own = new Matrix4d(pose.world()[nodePlace]).mul(node.geometric().toMatrix());
    Skin skin = scene.skin(content.skinId()).orElse(null);
    if (skin == null || cached != null) {
      transform(points, own);
    } else {
      skinned(points, skin, jointMatrices(skin, pose, scene.nodePlaces()), own);
    }
    return points;
  }

  /**
   * World matrix times inverse bind matrix of each joint, {@code double[16*j]}, column by column.
   */
  public static double[] jointMatrices(Skin skin, Pose pose, Map<Integer, Integer> nodePlaces) {
    int count = skin.jointNodeIds().length;
    double[] result = new double[16 * count];
    Matrix4d m = new Matrix4d();
    for (int j = 0; j < count; j++) {
      pose.world()[nodePlaces.get(skin.jointNodeIds()[j])].mul(
          new Matrix4d().set(skin.inverseBind(), 16 * j), m);
      m.get(result, 16 * j);
    }
    return result;
  }

  /**
   * Positions with morph targets: {@code double[3*v]}. Between the shapes of one target the deltas
   * run linearly by the weight, and on past the last.
   *
   * @param weights of the targets, {@code null} for none
   */
  public static double[] morphed(PolygonMesh mesh, double[] weights) {
    Coordinates rest = mesh.points();
    double[] points = new double[3 * rest.count()];
    for (int i = 0; i < points.length; i++) {
      points[i] = rest.at(i);
    }
    for (int m = 0; weights != null && m < weights.length; m++) {
      if (weights[m] != 0) {
        add(mesh.morphs().get(m).shapes(), weights[m], points);
      }
    }
    return points;
  }

  private static void add(List<MorphTarget.Shape> shapes, double weight, double[] points) {
    int above = 0;
    while (above < shapes.size() - 1 && weight > shapes.get(above).fullWeight()) {
      above++;
    }
    MorphTarget.Shape upper = shapes.get(above);
    double from = above == 0 ? 0 : shapes.get(above - 1).fullWeight();
    double part = (weight - from) / (upper.fullWeight() - from);
    add(upper, part, points);
    if (above > 0) {
      add(shapes.get(above - 1), 1 - part, points);
    }
  }

  private static void add(MorphTarget.Shape shape, double factor, double[] points) {
    float[] deltas = shape.deltas();
    int count = deltas.length / 3;
    for (int i = 0; i < count; i++) {
      int v = shape.vertices() == null ? i : shape.vertices()[i];
      points[3 * v] += factor * deltas[3 * i];
      points[3 * v + 1] += factor * deltas[3 * i + 1];
      points[3 * v + 2] += factor * deltas[3 * i + 2];
    }
  }

  private static void skinned(double[] points, Skin skin, double[] joints, Matrix4d unweighted) {
    double[] own = unweighted.get(new double[16]);
    double[] m = new double[16];
    for (int v = 0; 3 * v < points.length; v++) {
      int from = skin.offsets()[v];
      int to = skin.offsets()[v + 1];
      double sum = 0;
      Arrays.fill(m, 0);
      for (int i = from; i < to; i++) {
        double weight = skin.weights()[i];
        int at = 16 * skin.joints()[i];
        sum += weight;
        for (int k = 0; k < 16; k++) {
          m[k] += weight * joints[at + k];
        }
      }
      if (sum == 0) {
        transform(points, v, own);
      } else {
        for (int k = 0; k < 16; k++) {
          m[k] /= sum;
        }
        transform(points, v, m);
      }
    }
  }

  static void transform(double[] points, Matrix4d matrix) {
    double[] m = matrix.get(new double[16]);
    for (int v = 0; 3 * v < points.length; v++) {
      transform(points, v, m);
    }
  }

  private static void transform(double[] points, int vertex, double[] m) {
    double x = points[3 * vertex];
    double y = points[3 * vertex + 1];
    double z = points[3 * vertex + 2];
    points[3 * vertex] = m[0] * x + m[4] * y + m[8] * z + m[12];
    points[3 * vertex + 1] = m[1] * x + m[5] * y + m[9] * z + m[13];
    points[3 * vertex + 2] = m[2] * x + m[6] * y + m[10] * z + m[14];
  }
}
