package ferry.stone.core.format.usd.read.rig;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.compose.UsdProperty;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.read.stage.Said;
import ferry.stone.core.format.usd.read.stage.UsdReading;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.time.Clip;
import java.io.IOException;
import java.util.List;
import java.util.function.IntFunction;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * What moves the joints of a skeleton and the weights of blend shapes. All of translations,
 * rotations and scales have to be there, one for each joint that the animation names.
 */
public final class SkelAnimation {
  private static final String[] PARTS = {"translations", "rotations", "scales"};
  private static final String[] TRACKS = {Clip.TRANSLATION, Clip.ROTATION, Clip.SCALE};
  private static final int[] WIDTHS = {3, 4, 3};
  private static final double SAME = 1e-7;

  private final UsdReading reading;
  private final UsdPrim prim;
  private final String[] joints;
  private final String[] shapes;
  private final boolean whole;

  private SkelAnimation(UsdReading reading, UsdPrim prim, String[] joints, String[] shapes)
      throws IOException, FormatException {
    this.reading = reading;
    this.prim = prim;
    this.joints = joints;
    this.shapes = shapes;
    whole = isWhole();
  }

  static SkelAnimation of(UsdReading reading, UsdPrim prim) throws IOException, FormatException {
    return new SkelAnimation(
        reading, prim, Said.texts(prim, "joints"), Said.texts(prim, "blendShapes"));
  }

  private boolean isWhole() throws IOException, FormatException {
    boolean all = joints.length > 0;
    for (int part = 0; part < PARTS.length && joints.length > 0; part++) {
      UsdValue value = Said.value(prim, PARTS[part]);
      all &= value != null && value.length() >= WIDTHS[part] * joints.length;
    }
    if (joints.length > 0 && !all) {
      reading
          .report()
          .lost(
              "motion-broken",
              prim.path(),
              "It needs a translation, a rotation and a scale for each of its "
                  + joints.length
                  + " joints: it moves none.");
    }
    return all;
  }

  /**
   * The joints in their parents where nothing changes over time; {@code null} where it says none.
   */
  Trs still(Skeleton skeleton, int joint) throws IOException, FormatException {
    int[] places = skeleton.places(joints);
    for (int j = 0; j < joints.length && whole; j++) {
      boolean moves = false;
      for (String part : PARTS) {
        moves |= Said.moves(prim, part);
      }
      if (places[j] == joint && !moves) {
        double[] t = numbers(Said.value(prim, PARTS[0]), 0, j);
        double[] r = numbers(Said.value(prim, PARTS[1]), 1, j);
        double[] s = numbers(Said.value(prim, PARTS[2]), 2, j);
        return Trs.of(
            new Vector3d(t[0], t[1], t[2]),
            new Quaterniond(r[0], r[1], r[2], r[3]).normalize(),
            new Vector3d(s[0], s[1], s[2]));
      }
    }
    return null;
  }

  /** The numbers of a joint; a rotation as x, y, z, w. */
  private static double[] numbers(UsdValue value, int part, int joint) {
    int width = WIDTHS[part];
    double[] v = new double[width];
    for (int i = 0; i < width; i++) {
      // Files have the real part of a quaternion first.
      v[i] = value.number(width * joint + (part == 1 ? (i + 1) % width : i));
    }
    return v;
  }

  /**
   * Adds the motion of joints.
   *
   * @param nodeIds of the joints of the skeleton
   * @param rest of each of them
   */
  void joints(Skeleton skeleton, int[] nodeIds, IntFunction<Trs> rest)
      throws IOException, FormatException {
    int[] places = skeleton.places(joints);
    for (int part = 0; part < PARTS.length && whole; part++) {
      UsdProperty property = prim.property(PARTS[part]);
      boolean moves = false;
      for (String each : PARTS) {
        moves |= Said.moves(prim, each);
      }
      if (moves) {
        part(part, property, places, nodeIds, rest);
      }
    }
  }

  private void part(
      int part, UsdProperty property, int[] places, int[] nodeIds, IntFunction<Trs> rest)
      throws IOException, FormatException {
    UsdSamples samples = property.samples();
    int width = WIDTHS[part];
    int count = samples == null ? 1 : samples.codes().length;
    reading
        .report()
        .claim(8L * (width * (long) joints.length + 1) * count, prim.path(), "its motion");
    double[][] values = new double[joints.length][width * count];
    double[] seconds = new double[count];
    int kept = 0;
    for (int s = 0; s < count; s++) {
      Object at = samples == null ? Said.value(property) : samples.value(s);
      if (at instanceof UsdValue value && value.length() >= width * joints.length) {
        seconds[kept] = samples == null ? 0 : reading.seconds(samples.codes()[s]);
        for (int j = 0; j < joints.length; j++) {
          System.arraycopy(numbers(value, part, j), 0, values[j], width * kept, width);
        }
        kept++;
      }
    }
    if (kept < count) {
      reading
          .report()
          .lost(
              "motion-broken",
              prim.path(),
              (count - kept)
                  + " samples of its "
                  + PARTS[part]
                  + " have too few joints: left out.");
    }
    double[] times = java.util.Arrays.copyOf(seconds, kept);
    for (int j = 0; j < joints.length && kept > 0; j++) {
      if (places[j] >= 0) {
        double[] own = java.util.Arrays.copyOf(values[j], width * kept);
        double[] still = parts(rest.apply(places[j]), part);
        if (isUnlike(own, still, part)) {
          reading
              .tracks()
              .add(
                  new Clip.Track(
                      nodeIds[places[j]],
                      TRACKS[part],
                      Clip.Interpolation.LINEAR,
                      width,
                      times,
                      own,
                      null,
                      null));
        }
      }
    }
  }

  private static double[] parts(Trs rest, int part) {
    return switch (part) {
      case 0 ->
          new double[] {rest.translation().x(), rest.translation().y(), rest.translation().z()};
      case 1 ->
          new double[] {
            rest.rotation().x(), rest.rotation().y(), rest.rotation().z(), rest.rotation().w()
          };
      default -> new double[] {rest.scale().x(), rest.scale().y(), rest.scale().z()};
    };
  }

  private static boolean isUnlike(double[] values, double[] still, int part) {
    int width = still.length;
    for (int at = 0; at < values.length; at += width) {
      double dot = 0;
      double most = 0;
      for (int i = 0; i < width; i++) {
        dot += values[at + i] * still[i];
        most =
            Math.max(most, Math.abs(values[at + i] - still[i]) / Math.max(1, Math.abs(still[i])));
      }
      if (part == 1 ? !(1 - Math.abs(dot) <= SAME * SAME) : !(most <= SAME)) {
        return true;
      }
    }
    return false;
  }

  /**
   * Adds the motion of the weights of a mesh's shapes.
   *
   * @param names of the shapes as the mesh has them
   * @param keys of their tracks
   * @return weights at rest by the mesh's order; {@code null} where all are 0
   */
  double[] weights(int nodeId, List<String> names, List<String> keys)
      throws IOException, FormatException {
    UsdProperty property = prim.property("blendShapeWeights");
    UsdValue rest = Said.value(property);
    if (rest == null || shapes.length == 0) {
      return null;
    }
    double[] still = new double[names.size()];
    boolean any = false;
    for (int i = 0; i < shapes.length; i++) {
      int place = names.indexOf(shapes[i]);
      if (place < 0) {
        continue;
      }
      int shape = i;
      if (Said.moves(property)) {
        reading.track(
            nodeId,
            Clip.MORPH + keys.get(place),
            property,
            Clip.Interpolation.LINEAR,
            1,
            v -> shape < v.length() ? new double[] {v.number(shape)} : null);
      }
      UsdValue own =
          !Said.moves(property) ? rest : property.value() instanceof UsdValue said ? said : null;
      if (own != null && shape < own.length()) {
        still[place] = own.number(shape);
        any |= still[place] != 0;
      }
    }
    return any ? still : null;
  }
}
