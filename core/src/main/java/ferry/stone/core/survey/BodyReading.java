package ferry.stone.core.survey;

import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Skin;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * A body on two legs, found by the shape of its skeleton alone: two chains of about the same length
 * go down from one joint to the lowest ends, side by side, and one goes up to the highest. All
 * thresholds are common practice, no source.
 *
 * @param up from the feet to the head
 * @param stature from the lowest to the highest joint, in scene units
 * @param symmetry 0 to 1: how alike the two legs are
 */
record BodyReading(SignedAxis up, double stature, double symmetry) {
  private static final int FEWEST_JOINTS = 8;
  private static final int MOST_JOINTS = 3000;
  private static final double FOOT_BAND = 0.12;
  private static final double LEAST_HIP = 0.3;
  private static final double HIGHEST_HIP = 0.7;
  private static final double LEAST_SYMMETRY = 0.85;

  /** The clearest body, or {@code null}. */
  static BodyReading of(Scene scene) {
    Set<Integer> ids = new HashSet<>();
    for (Skin skin : scene.skins()) {
      for (int id : skin.jointNodeIds()) {
        ids.add(id);
      }
    }
    if (ids.size() < FEWEST_JOINTS || ids.size() > MOST_JOINTS) {
      return null;
    }
    Matrix4d[] world = scene.worldMatrices();
    Map<Integer, Integer> placeOf = scene.nodePlaces();
    List<Integer> places = ids.stream().map(placeOf::get).sorted().toList();
    Map<Integer, Integer> number = new HashMap<>();
    Vector3d[] at = new Vector3d[places.size()];
    int[] parent = new int[at.length];
    for (int i = 0; i < at.length; i++) {
      number.put(places.get(i), i);
      at[i] = world[places.get(i)].getTranslation(new Vector3d());
      parent[i] = -1;
      int above = scene.nodes().get(places.get(i)).parent();
      while (above >= 0 && parent[i] < 0) {
        parent[i] = number.getOrDefault(above, -1);
        above = scene.nodes().get(above).parent();
      }
    }
    BodyReading best = null;
    for (SignedAxis up : SignedAxis.values()) {
      BodyReading reading = standing(up, at, parent);
      if (reading != null && (best == null || reading.symmetry > best.symmetry)) {
        best = reading;
      }
    }
    return best;
  }

  private static BodyReading standing(SignedAxis up, Vector3d[] at, int[] parent) {
    double low = Double.POSITIVE_INFINITY;
    double high = Double.NEGATIVE_INFINITY;
    int top = 0;
    boolean[] leaf = new boolean[at.length];
    java.util.Arrays.fill(leaf, true);
    for (int i = 0; i < at.length; i++) {
      double h = height(at[i], up);
      low = Math.min(low, h);
      if (h > high) {
        high = h;
        top = i;
      }
      if (parent[i] >= 0) {
        leaf[parent[i]] = false;
      }
    }
    double stature = high - low;
    List<Integer> feet = new ArrayList<>();
    for (int i = 0; i < at.length; i++) {
      if (leaf[i] && height(at[i], up) <= low + FOOT_BAND * stature) {
        feet.add(i);
      }
    }
    double best = 0;
    for (int a = 0; a < feet.size() && feet.size() <= 24; a++) {
      for (int b = a + 1; b < feet.size(); b++) {
        int hip = meeting(feet.get(a), feet.get(b), parent);
        if (hip < 0 || !isAbove(hip, top, parent) && meeting(top, hip, parent) < 0) {
          continue;
        }
        double hipHeight = (height(at[hip], up) - low) / stature;
        double left = length(feet.get(a), hip, at, parent);
        double right = length(feet.get(b), hip, at, parent);
        double apart = side(at[feet.get(a)], at[feet.get(b)], up);
        boolean legs =
            hipHeight >= LEAST_HIP
                && hipHeight <= HIGHEST_HIP
                && apart > 0.02 * stature
                && apart < 0.8 * stature
                && left > 0.25 * stature;
        if (legs) {
          best = Math.max(best, Math.min(left, right) / Math.max(left, right));
        }
      }
    }
    return stature > 0 && best >= LEAST_SYMMETRY ? new BodyReading(up, stature, best) : null;
  }

  private static double height(Vector3d p, SignedAxis up) {
    return p.get(up.index()) * up.sign();
  }

  private static double side(Vector3d a, Vector3d b, SignedAxis up) {
    Vector3d d = new Vector3d(a).sub(b);
    d.setComponent(up.index(), 0);
    return d.length();
  }

  private static boolean isAbove(int joint, int below, int[] parent) {
    for (int at = below; at >= 0; at = parent[at]) {
      if (at == joint) {
        return true;
      }
    }
    return false;
  }

  /** The lowest joint above both, −1 for none. */
  private static int meeting(int a, int b, int[] parent) {
    for (int at = a; at >= 0; at = parent[at]) {
      if (isAbove(at, b, parent)) {
        return at;
      }
    }
    return -1;
  }

  private static double length(int from, int to, Vector3d[] at, int[] parent) {
    double sum = 0;
    for (int i = from; i != to && parent[i] >= 0; i = parent[i]) {
      sum += at[i].distance(at[parent[i]]);
    }
    return sum;
  }
}
