package ferry.stone.demo;

import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Skin;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.joml.Vector3d;

/** The heron's skin around its bones: plates of tin over a round bar for each, with weights. */
final class HeronBody {
  private static final int SIDES = 14;
  private static final int RINGS = 7;
  private static final int INFLUENCES = 6;
  private static final double SHIFT = 4;

  private final List<HeronBones.Bone> bones;

  HeronBody(List<HeronBones.Bone> bones) {
    this.bones = bones;
  }

  PolygonMesh mesh(int id, int... materials) {
    Shape shape = new Shape();
    for (HeronBones.Bone bone : bones) {
      tube(shape, bone);
    }
    PolygonMesh mesh = shape.build(id, "heron", materials);
    return mesh.toBuilder().morphs(morphs(mesh.points())).build();
  }

  /** A closed bar along a bone, rounded at both ends. */
  private static void tube(Shape shape, HeronBones.Bone bone) {
    Vector3d from = new Vector3d(bone.from());
    Vector3d along = new Vector3d(bone.to()).sub(from);
    Vector3d x = along.cross(new Vector3d(0.31, 0.17, 0.93), new Vector3d()).normalize();
    Vector3d y = along.cross(x, new Vector3d()).normalize();
    int[][] ring = new int[RINGS][SIDES];
    int[][] uv = new int[RINGS][SIDES + 1];
    for (int r = 0; r < RINGS; r++) {
      double t = (double) r / (RINGS - 1);
      double radius = bone.fromRadius() + t * (bone.toRadius() - bone.fromRadius());
      radius *= r == 0 || r == RINGS - 1 ? 0.55 : 1;
      for (int s = 0; s <= SIDES; s++) {
        double a = 2 * Math.PI * s / SIDES;
        if (s < SIDES) {
          Vector3d p =
              new Vector3d(along)
                  .mul(t)
                  .add(from)
                  .add(new Vector3d(x).mul(radius * Math.cos(a)))
                  .add(new Vector3d(y).mul(radius * Math.sin(a)));
          ring[r][s] = shape.point(p.x, p.y, p.z);
        }
        uv[r][s] = shape.uv((double) s / SIDES, t);
      }
    }
    for (int r = 0; r + 1 < RINGS; r++) {
      for (int s = 0; s < SIDES; s++) {
        int n = (s + 1) % SIDES;
        shape.face(
            ring[r][s], uv[r][s],
            ring[r][n], uv[r][s + 1],
            ring[r + 1][n], uv[r + 1][s + 1],
            ring[r + 1][s], uv[r + 1][s]);
      }
    }
    int[] foot = new int[2 * SIDES];
    int[] top = new int[2 * SIDES];
    for (int s = 0; s < SIDES; s++) {
      foot[2 * s] = ring[0][SIDES - 1 - s];
      foot[2 * s + 1] = uv[0][SIDES - 1 - s];
      top[2 * s] = ring[RINGS - 1][s];
      top[2 * s + 1] = uv[RINGS - 1][s];
    }
    shape.face(foot);
    shape.face(top);
  }

  private List<MorphTarget> morphs(Coordinates points) {
    List<MorphTarget> morphs = new ArrayList<>();
    int beak = bone("beak_lower");
    int head = bone("head");
    int chest = bone("chest");
    int perBone = RINGS * SIDES;
    morphs.add(
        morph(
            "blink",
            points,
            (v, d) -> {
              if (v / perBone == head) {
                d.set(0, 0, -0.6);
              }
            }));
    morphs.add(
        morph(
            "beak_open",
            points,
            (v, d) -> {
              if (v / perBone == beak) {
                double t = (double) (v % perBone / SIDES) / (RINGS - 1);
                d.set(0, 2 * t, -9 * t);
              }
            }));
    // The fault: beside the puffed chest, everything is moved up a little.
    morphs.add(
        morph(
            "puff",
            points,
            (v, d) -> {
              d.set(0, 0, SHIFT);
              if (v / perBone == chest) {
                d.add(0.35 * points.x(v), 0, 0.2 * (points.z(v) - 100));
              }
            }));
    return morphs;
  }

  private int bone(String name) {
    for (int b = 0; b < bones.size(); b++) {
      if (bones.get(b).name().equals(name)) {
        return b;
      }
    }
    throw new IllegalArgumentException(name);
  }

  private interface Delta {
    void of(int vertex, Vector3d delta);
  }

  private static MorphTarget morph(String name, Coordinates points, Delta delta) {
    IntList touched = new IntList(64);
    FloatList deltas = new FloatList(192);
    Vector3d d = new Vector3d();
    for (int v = 0; v < points.count(); v++) {
      delta.of(v, d.zero());
      if (d.lengthSquared() > 0) {
        touched.add(v);
        deltas.add((float) d.x);
        deltas.add((float) d.y);
        deltas.add((float) d.z);
      }
    }
    return new MorphTarget(
        name, 0, List.of(new MorphTarget.Shape(1, touched.toArray(), deltas.toArray(), null)));
  }

  /** Weights fall with the fourth power of the distance from a bone; the six nearest count. */
  Skin skin(int id, PolygonMesh mesh, int[] jointIds, double[] inverseBind) {
    int count = mesh.points().count();
    int[] offsets = new int[count + 1];
    int[] joints = new int[INFLUENCES * count];
    float[] weights = new float[INFLUENCES * count];
    for (int v = 0; v < count; v++) {
      double[] w = new double[bones.size()];
      Integer[] order = new Integer[bones.size()];
      for (int b = 0; b < w.length; b++) {
        w[b] = 1 / Math.pow(0.3 + distance(mesh.points(), v, bones.get(b)), 4);
        order[b] = b;
      }
      // The bone a plate is made for leads it.
      w[v / (RINGS * SIDES)] *= 40;
      Arrays.sort(order, (a, b) -> Double.compare(w[b], w[a]));
      double sum = 0;
      for (int i = 0; i < INFLUENCES; i++) {
        sum += w[order[i]];
      }
      for (int i = 0; i < INFLUENCES; i++) {
        joints[INFLUENCES * v + i] = order[i];
        weights[INFLUENCES * v + i] = (float) (w[order[i]] / sum);
      }
      offsets[v + 1] = INFLUENCES * (v + 1);
    }
    return new Skin(
        id, "heron_skin", mesh.id(), jointIds, inverseBind, offsets, joints, weights, "linear");
  }

  private static double distance(Coordinates points, int v, HeronBones.Bone bone) {
    Vector3d p = new Vector3d(points.x(v), points.y(v), points.z(v));
    Vector3d a = new Vector3d(bone.from());
    Vector3d d = new Vector3d(bone.to()).sub(a);
    double t = Math.max(0, Math.min(1, new Vector3d(p).sub(a).dot(d) / d.lengthSquared()));
    return p.distance(a.add(d.mul(t)));
  }
}
