package ferry.stone.core.handling.step.parts;

import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Skin;
import java.util.LinkedHashMap;
import java.util.Map;
import org.joml.Matrix4d;

/** One skin from those of several parts whose meshes become one. Vertices follow each other. */
final class SkinMerge {
  /** Inverse bind matrices are the same when no number differs by more than this part of it. */
  private static final double SAME = 1e-4;

  private final Scene scene;
  private final Map<Integer, Integer> joints = new LinkedHashMap<>();
  private final Map<Integer, Matrix4d> binds = new LinkedHashMap<>();
  private final IntList offsets = new IntList(64);
  private final IntList influences = new IntList(64);
  private final FloatList weights = new FloatList(64);
  private Skin first;

  SkinMerge(Scene scene) {
    this.scene = scene;
    offsets.add(0);
  }

  private int joint(int nodeId, Matrix4d bind) {
    Matrix4d known = binds.putIfAbsent(nodeId, bind);
    double size = Math.max(1, Math.abs(bind.m30()) + Math.abs(bind.m31()) + Math.abs(bind.m32()));
    if (known != null && !known.equals(bind, SAME * size)) {
      String name = scene.nodes().get(scene.nodePlaces().get(nodeId)).name();
      throw new IllegalArgumentException(
          "The joint \""
              + name
              + "\" holds the chosen parts in different bind poses, so one skin cannot. Leave one"
              + " of them out");
    }
    return joints.computeIfAbsent(nodeId, k -> joints.size());
  }

  /**
   * @param back merged mesh points to the part's own
   */
  void add(Skin skin, Matrix4d back) {
    first = first == null ? skin : first;
    int[] merged = new int[skin.jointNodeIds().length];
    for (int j = 0; j < merged.length; j++) {
      Matrix4d bind = new Matrix4d().set(skin.inverseBind(), 16 * j).mul(back);
      merged[j] = joint(skin.jointNodeIds()[j], bind);
    }
    for (int v = 0; v + 1 < skin.offsets().length; v++) {
      for (int i = skin.offsets()[v]; i < skin.offsets()[v + 1]; i++) {
        influences.add(merged[skin.joints()[i]]);
        weights.add(skin.weights()[i]);
      }
      offsets.add(influences.size());
    }
  }

  void addRigid(int jointId, Matrix4d bind, int vertices, Map<Integer, Integer> places) {
    int joint = joint(jointId, bind);
    for (int v = 0; v < vertices; v++) {
      influences.add(joint);
      weights.add(1f);
      offsets.add(influences.size());
    }
  }

  Skin build(int id, int meshId, String name) {
    int[] ids = joints.keySet().stream().mapToInt(Integer::intValue).toArray();
    double[] inverse = new double[16 * ids.length];
    for (int j = 0; j < ids.length; j++) {
      binds.get(ids[j]).get(inverse, 16 * j);
    }
    return new Skin(
        id,
        name,
        meshId,
        ids,
        inverse,
        offsets.toArray(),
        influences.toArray(),
        weights.toArray(),
        first == null ? "linear" : first.method());
  }
}
