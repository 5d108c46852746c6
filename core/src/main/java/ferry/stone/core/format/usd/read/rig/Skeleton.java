package ferry.stone.core.format.usd.read.rig;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.read.stage.Said;
import ferry.stone.core.format.usd.read.stage.UsdReading;
import java.io.IOException;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import org.joml.Matrix4d;

/**
 * Joints of a skeleton as they are said.
 *
 * @param joints their paths inside of the skeleton
 * @param names of each, none where they are the ends of the paths
 * @param parents place of each one's parent, −1 for none
 * @param rest each in its parent at rest
 * @param bind each in the skeleton when it was bound
 */
public record Skeleton(
    String[] joints, String[] names, int[] parents, Matrix4d[] rest, Matrix4d[] bind) {
  private static final int OF_MATRIX = 16;

  static Skeleton of(UsdReading reading, UsdPrim prim) throws IOException, FormatException {
    String[] joints = Said.texts(prim, "joints");
    reading.report().claim(800L * joints.length, prim.path(), "its joints");
    Map<String, Integer> places = new HashMap<>();
    for (int j = 0; j < joints.length; j++) {
      if (places.putIfAbsent(joints[j], j) != null) {
        throw reading
            .report()
            .broken(prim.path(), "the joint \"" + joints[j] + "\" is there twice.");
      }
    }
    int[] parents = new int[joints.length];
    for (int j = 0; j < joints.length; j++) {
      parents[j] = -1;
      for (int slash = joints[j].lastIndexOf('/');
          slash > 0 && parents[j] < 0;
          slash = joints[j].lastIndexOf('/', slash - 1)) {
        parents[j] = places.getOrDefault(joints[j].substring(0, slash), -1);
      }
      if (parents[j] >= j) {
        throw reading
            .report()
            .broken(prim.path(), "the joint \"" + joints[j] + "\" stands before the one above it.");
      }
    }
    Matrix4d[] rest = matrices(prim, "restTransforms", joints.length);
    Matrix4d[] bind = matrices(prim, "bindTransforms", joints.length);
    if (rest == null || bind == null) {
      reading
          .report()
          .lost(
              "skeleton-incomplete",
              prim.path(),
              "It has no "
                  + (rest == null ? "rest" : "bind")
                  + " transform for each of its "
                  + joints.length
                  + " joints: "
                  + (rest == null && bind == null
                      ? "they stand at its origin."
                      : "those of the other kind stand for them."));
    }
    if (rest == null) {
      rest = bind == null ? identities(joints.length) : locals(bind, parents);
    }
    if (bind == null) {
      bind = worlds(rest, parents);
    }
    return new Skeleton(joints, Said.texts(prim, "jointNames"), parents, rest, bind);
  }

  private static Matrix4d[] matrices(UsdPrim prim, String name, int count)
      throws IOException, FormatException {
    UsdValue value = Said.value(prim, name);
    if (value == null || value.length() < OF_MATRIX * count || count == 0) {
      return count == 0 ? new Matrix4d[0] : null;
    }
    double[] numbers = value.doubles();
    Matrix4d[] all = new Matrix4d[count];
    for (int i = 0; i < count; i++) {
      all[i] = new Matrix4d().set(numbers, OF_MATRIX * i);
    }
    return all;
  }

  private static Matrix4d[] identities(int count) {
    Matrix4d[] all = new Matrix4d[count];
    Arrays.setAll(all, i -> new Matrix4d());
    return all;
  }

  private static Matrix4d[] locals(Matrix4d[] worlds, int[] parents) {
    Matrix4d[] all = new Matrix4d[worlds.length];
    for (int i = 0; i < all.length; i++) {
      all[i] =
          parents[i] < 0
              ? new Matrix4d(worlds[i])
              : new Matrix4d(worlds[parents[i]]).invert().mul(worlds[i]);
    }
    return all;
  }

  private static Matrix4d[] worlds(Matrix4d[] locals, int[] parents) {
    Matrix4d[] all = new Matrix4d[locals.length];
    for (int i = 0; i < all.length; i++) {
      all[i] = new Matrix4d(locals[i]);
      if (parents[i] >= 0) {
        all[i] = new Matrix4d(all[parents[i]]).mul(locals[i]);
      }
    }
    return all;
  }

  /** What a joint is called; the last part of its path where nothing else is said. */
  String name(int joint) {
    if (names.length == joints.length) {
      return names[joint];
    }
    return joints[joint].substring(joints[joint].lastIndexOf('/') + 1);
  }

  /** Place of each of some joints here, −1 for those that are not there. */
  int[] places(String[] wanted) {
    Map<String, Integer> places = new HashMap<>();
    for (int j = 0; j < joints.length; j++) {
      places.put(joints[j], j);
    }
    int[] all = new int[wanted.length];
    Arrays.setAll(all, i -> places.getOrDefault(wanted[i], -1));
    return all;
  }
}
