package ferry.stone.core.landing;

import ferry.stone.core.scene.node.Skin;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** A skin with its strongest joints alone, the plain way. */
final class StrongestJoints {
  private StrongestJoints() {}

  static Skin of(Skin skin, int most) {
    List<Integer> joints = new ArrayList<>();
    List<Float> weights = new ArrayList<>();
    int[] offsets = new int[skin.offsets().length];
    for (int v = 0; v + 1 < offsets.length; v++) {
      List<Integer> own = new ArrayList<>();
      for (int i = skin.offsets()[v]; i < skin.offsets()[v + 1]; i++) {
        own.add(i);
      }
      own.sort(Comparator.comparing(i -> -skin.weights()[i]));
      for (int i : own.subList(0, Math.min(most, own.size()))) {
        joints.add(skin.joints()[i]);
        weights.add(skin.weights()[i]);
      }
      offsets[v + 1] = joints.size();
    }
    float[] w = new float[weights.size()];
    for (int i = 0; i < w.length; i++) {
      w[i] = weights.get(i);
    }
    return new Skin(
        skin.id(),
        skin.name(),
        skin.meshId(),
        skin.jointNodeIds(),
        skin.inverseBind(),
        offsets,
        joints.stream().mapToInt(Integer::intValue).toArray(),
        w,
        skin.method());
  }
}
