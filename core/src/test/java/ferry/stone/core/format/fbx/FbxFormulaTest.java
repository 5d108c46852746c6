package ferry.stone.core.format.fbx;

import static ferry.stone.core.format.fbx.FbxEncoder.record;
import static org.junit.jupiter.api.Assertions.assertEquals;

import ferry.stone.core.TestFiles;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.fbx.raw.FbxBuild;
import ferry.stone.core.format.fbx.raw.FbxRecord;
import ferry.stone.core.format.fbx.read.FbxReader;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.LocalTransform.EulerOrder;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/**
 * Chains of models with every pivot, order and way of inheriting scale, against the formula worked
 * out here once more with plain arrays: {@code T·Roff·Rp·Rpre·R·Rpost⁻¹·Rp⁻¹·Soff·Sp·S·Sp⁻¹}.
 */
class FbxFormulaTest {
  private static final String[] ORDERS = {"XYZ", "XZY", "YZX", "YXZ", "ZXY", "ZYX"};

  private record Model(
      double[] t,
      double[] roff,
      double[] rp,
      double[] pre,
      double[] r,
      double[] post,
      double[] soff,
      double[] sp,
      double[] s,
      int order,
      int inherit) {}

  private static double[] vector(Random random, double size, double around) {
    double[] v = new double[3];
    for (int k = 0; k < 3; k++) {
      v[k] = around + size * (random.nextDouble() - 0.5);
    }
    return v;
  }

  private static Model model(Random random, int order, int inherit) {
    return new Model(
        vector(random, 6, 0),
        vector(random, 2, 0),
        vector(random, 2, 0),
        vector(random, 360, 0),
        vector(random, 360, 0),
        vector(random, 360, 0),
        vector(random, 2, 0),
        vector(random, 2, 0),
        vector(random, 1.2, 1.1),
        order,
        inherit);
  }

  // Row-major 4 × 4 matrices in plain arrays, so that nothing is shared with the code under test.
  private static double[] mul(double[] a, double[] b) {
    double[] c = new double[16];
    for (int i = 0; i < 4; i++) {
      for (int j = 0; j < 4; j++) {
        for (int k = 0; k < 4; k++) {
          c[4 * i + j] += a[4 * i + k] * b[4 * k + j];
        }
      }
    }
    return c;
  }

  private static double[] all(double[]... list) {
    double[] m = {1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1};
    for (double[] next : list) {
      m = mul(m, next);
    }
    return m;
  }

  private static double[] move(double[] v, double sign) {
    return new double[] {
      1, 0, 0, sign * v[0], 0, 1, 0, sign * v[1], 0, 0, 1, sign * v[2], 0, 0, 0, 1
    };
  }

  private static double[] scale(double[] v) {
    return new double[] {v[0], 0, 0, 0, 0, v[1], 0, 0, 0, 0, v[2], 0, 0, 0, 0, 1};
  }

  private static double[] turn(int axis, double degrees) {
    double c = Math.cos(Math.toRadians(degrees));
    double s = Math.sin(Math.toRadians(degrees));
    return switch (axis) {
      case 0 -> new double[] {1, 0, 0, 0, 0, c, -s, 0, 0, s, c, 0, 0, 0, 0, 1};
      case 1 -> new double[] {c, 0, s, 0, 0, 1, 0, 0, -s, 0, c, 0, 0, 0, 0, 1};
      default -> new double[] {c, -s, 0, 0, s, c, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1};
    };
  }

  /** The first letter turns a point first, so it stands last. */
  private static double[] turn(double[] degrees, String order) {
    double[][] parts = new double[3][];
    for (int i = 0; i < 3; i++) {
      int axis = order.charAt(i) - 'X';
      parts[2 - i] = turn(axis, degrees[axis]);
    }
    return all(parts);
  }

  private static double[] transposed(double[] m) {
    double[] t = new double[16];
    for (int i = 0; i < 16; i++) {
      t[i] = m[4 * (i % 4) + i / 4];
    }
    return t;
  }

  private static double[] rotation(Model m) {
    return all(turn(m.pre, "XYZ"), turn(m.r, ORDERS[m.order]), transposed(turn(m.post, "XYZ")));
  }

  private static double[] local(Model m) {
    return all(
        move(m.t, 1),
        move(m.roff, 1),
        move(m.rp, 1),
        rotation(m),
        move(m.rp, -1),
        move(m.soff, 1),
        move(m.sp, 1),
        scale(m.s),
        move(m.sp, -1));
  }

  /** World matrices along a chain; rotation and scale of the world are kept apart. */
  private static List<double[]> worlds(List<Model> chain) {
    List<double[]> worlds = new ArrayList<>();
    double[] world = all();
    double[] worldTurn = all();
    double[] worldScale = all();
    double[] ownScale = {1, 1, 1};
    for (Model m : chain) {
      double[] local = local(m);
      double[] place = {mul(world, local)[3], mul(world, local)[7], mul(world, local)[11]};
      double[] up = {1 / ownScale[0], 1 / ownScale[1], 1 / ownScale[2]};
      double[] linear =
          switch (m.inherit) {
            case 0 -> all(worldTurn, rotation(m), worldScale, scale(m.s));
            case 1 -> all(worldTurn, worldScale, rotation(m), scale(m.s));
            default -> all(worldTurn, rotation(m), worldScale, scale(up), scale(m.s));
          };
      world = linear.clone();
      world[3] = place[0];
      world[7] = place[1];
      world[11] = place[2];
      worldTurn = all(worldTurn, rotation(m));
      worldScale = all(transposed(worldTurn), linear);
      ownScale = m.s;
      worlds.add(world);
    }
    return worlds;
  }

  private static FbxRecord file(List<Model> chain) {
    FbxRecord objects = record("Objects");
    FbxRecord connections = record("Connections");
    for (int i = 0; i < chain.size(); i++) {
      Model m = chain.get(i);
      FbxRecord p = record("Properties70");
      p.children().add(FbxBuild.flag("RotationActive", true));
      p.children().add(FbxBuild.choice("RotationOrder", m.order));
      p.children().add(FbxBuild.choice("InheritType", m.inherit));
      Object[][] vectors = {
        {"Lcl Translation", m.t},
        {"Lcl Rotation", m.r},
        {"Lcl Scaling", m.s},
        {"RotationOffset", m.roff},
        {"RotationPivot", m.rp},
        {"PreRotation", m.pre},
        {"PostRotation", m.post},
        {"ScalingOffset", m.soff},
        {"ScalingPivot", m.sp}
      };
      for (Object[] v : vectors) {
        double[] d = (double[]) v[1];
        p.children().add(FbxBuild.vector((String) v[0], d[0], d[1], d[2]));
      }
      FbxRecord model = record("Model", 100L + i, "Model::m" + i, "Null");
      model.children().add(p);
      objects.children().add(model);
      connections.children().add(record("C", "OO", 100L + i, i == 0 ? 0L : 99L + i));
    }
    FbxRecord root = record("");
    root.children().add(objects);
    root.children().add(connections);
    return root;
  }

  @Test
  void everyPivotOrderAndInheritanceStandsWhereTheFormulaPutsIt() throws Exception {
    Random random = new Random(12);
    for (int trial = 0; trial < 162; trial++) {
      List<Model> chain =
          List.of(
              model(random, trial % 6, trial % 3),
              model(random, trial / 3 % 6, trial / 9 % 3),
              model(random, trial / 6 % 6, trial / 27 % 3));
      byte[] bytes = FbxEncoder.binary(file(chain), 7400, false);
      Scene scene = FbxReader.read("a.fbx", ReadContext.of(new TestFiles().with("a.fbx", bytes)));
      List<double[]> wanted = worlds(chain);
      for (int i = 0; i < chain.size(); i++) {
        double[] found = scene.worldMatrices()[i].get(new double[16]);
        double[] rows = transposed(wanted.get(i));
        double size = 0;
        for (double v : rows) {
          size = Math.max(size, Math.abs(v));
        }
        for (int k = 0; k < 16; k++) {
          assertEquals(rows[k], found[k], 1e-9 * size, "trial " + trial + ", model " + i);
        }
      }
    }
  }

  @Test
  void anglesOfARotationMakeIt() {
    Random random = new Random(4);
    for (EulerOrder order : EulerOrder.values()) {
      for (int i = 0; i < 60; i++) {
        Vector3d angles =
            new Vector3d(
                300 * random.nextDouble(), 300 * random.nextDouble(), 300 * random.nextDouble());
        if (i % 6 == 0) {
          // The middle angle at its end: the other two turn about one axis.
          angles.setComponent(order.name().charAt(1) - 'X', i % 12 == 0 ? 90 : -90);
        }
        Quaterniond q = order.quaternion(angles);
        Quaterniond back = order.quaternion(order.degrees(q));
        assertEquals(1, Math.abs(q.dot(back)), 1e-12, order + " " + angles);
      }
    }
  }
}
