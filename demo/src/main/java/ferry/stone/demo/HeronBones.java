package ferry.stone.demo;

import java.util.ArrayList;
import java.util.List;

/**
 * The heron's skeleton in centimetres, Z up, looking to −Y; right is −X. Each bone runs from its
 * joint to a tip, as thick as two radii.
 */
final class HeronBones {
  /** A bone: its joint, its tip and the radius of the body at both. */
  record Bone(
      String name, int parent, double[] from, double[] to, double fromRadius, double toRadius) {}

  private final List<Bone> bones = new ArrayList<>();

  private HeronBones() {}

  static List<Bone> all() {
    HeronBones b = new HeronBones();
    int hips = b.add("hips", -1, 0, 8, 92, 0, -2, 96, 10, 13);
    int chest = b.add("chest", hips, 0, -2, 96, 0, -20, 104, 13, 9);
    int tail = b.add("tail", hips, 0, 10, 93, 0, 36, 84, 9, 2);
    b.add("tail_tip", tail, 0, 36, 84, 0, 52, 80, 2, 1);
    int n1 = b.add("neck_1", chest, 0, -20, 104, 0, -32, 118, 7, 4.5);
    int n2 = b.add("neck_2", n1, 0, -32, 118, 0, -30, 136, 4.5, 3.6);
    int n3 = b.add("neck_3", n2, 0, -30, 136, 0, -24, 152, 3.6, 3.2);
    int head = b.add("head", n3, 0, -24, 152, 0, -36, 158, 4.6, 4);
    b.add("beak_upper", head, 0, -38, 159, 0, -62, 156, 2.2, 0.4);
    b.add("beak_lower", head, 0, -38, 156, 0, -60, 154, 1.8, 0.4);
    for (int side = -1; side <= 1; side += 2) {
      String s = side < 0 ? "_r" : "_l";
      // The wings hang at 45°: an A-pose.
      int wing = b.add("wing" + s, chest, side * 11, -12, 106, side * 34, -10, 84, 5, 4);
      int fore = b.add("wing_fore" + s, wing, side * 34, -10, 84, side * 56, -6, 62, 4, 3);
      b.add("wing_tip" + s, fore, side * 56, -6, 62, side * 72, 2, 44, 3, 1);
      int thigh = b.add("thigh" + s, hips, side * 8, 6, 88, side * 9, -2, 62, 6, 3.4);
      int shin = b.add("shin" + s, thigh, side * 9, -2, 62, side * 9, 8, 32, 3, 1.8);
      int shank = b.add("shank" + s, shin, side * 9, 8, 32, side * 9, 0, 5, 1.8, 1.8);
      b.add("foot" + s, shank, side * 9, 0, 5, side * 9, -18, 2, 2.4, 1.2);
    }
    return b.bones;
  }

  private int add(String name, int parent, double... v) {
    bones.add(
        new Bone(
            name,
            parent,
            new double[] {v[0], v[1], v[2]},
            new double[] {v[3], v[4], v[5]},
            v[6],
            v[7]));
    return bones.size() - 1;
  }
}
