package ferry.stone.core.format.usd.read;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.compose.UsdProperty;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.read.stage.Said;
import ferry.stone.core.format.usd.read.stage.UsdReading;
import ferry.stone.core.format.usd.read.stage.UsdValues;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.time.Clip;
import java.io.IOException;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/** The arrays of a point instancer: what stands where. */
final class Instancer {
  private static final int MOST = 100_000;

  private final UsdReading reading;
  private final UsdPrim prim;
  private final int[] prototypes;
  private final float[] positions;
  private final float[] turns;
  private final float[] scales;
  private final boolean[] seen;
  private final boolean[] active;

  private Instancer(UsdReading reading, UsdPrim prim) throws IOException, FormatException {
    this.reading = reading;
    this.prim = prim;
    prototypes = Said.ints(prim, "protoIndices");
    positions = Said.floats(prim, "positions");
    turns = Said.floats(prim, turning(prim));
    scales = Said.floats(prim, "scales");
    int count = prototypes.length;
    if (count > MOST) {
      throw new FormatException(
          Kind.TOO_LARGE,
          reading.report().resource(),
          prim.path(),
          count + " instances are more than the " + MOST + " that are read.");
    }
    boolean fits =
        positions.length == 3 * count
            && (turns.length == 0 || turns.length == 4 * count)
            && (scales.length == 0 || scales.length == 3 * count);
    if (!fits) {
      throw reading.report().broken(prim.path(), "its arrays are not of one length.");
    }
    long[] ids = longs(Said.value(prim, "ids"));
    seen = without(ids, longs(Said.value(prim, "invisibleIds")), count);
    long[] inactive =
        UsdValues.plain(prim.field("inactiveIds")) instanceof List<?> list
            ? list.stream().mapToLong(o -> ((Number) o).longValue()).toArray()
            : new long[0];
    active = without(ids, inactive, count);
  }

  static Instancer of(UsdReading reading, UsdPrim prim) throws IOException, FormatException {
    return new Instancer(reading, prim);
  }

  private static String turning(UsdPrim prim) throws IOException, FormatException {
    return Said.value(prim, "orientationsf") != null ? "orientationsf" : "orientations";
  }

  private static long[] longs(UsdValue value) {
    long[] all = new long[value == null ? 0 : value.length()];
    Arrays.setAll(all, i -> (long) value.number(i));
    return all;
  }

  /** All but those whose id is named; without ids, whose place is. */
  private static boolean[] without(long[] ids, long[] named, int count) {
    Set<Long> out = new HashSet<>();
    Arrays.stream(named).forEach(out::add);
    boolean[] all = new boolean[count];
    for (int i = 0; i < count; i++) {
      all[i] = !out.contains(ids.length == count ? ids[i] : i);
    }
    return all;
  }

  int count() {
    return prototypes.length;
  }

  int prototype(int instance) {
    return prototypes[instance];
  }

  boolean isSeen(int instance) {
    return seen[instance];
  }

  boolean isActive(int instance) {
    return active[instance];
  }

  /** Translation · rotation · scale, as the standard puts them together. */
  LocalTransform place(int i) {
    return Trs.of(
        new Vector3d(positions[3 * i], positions[3 * i + 1], positions[3 * i + 2]),
        turns.length == 0 ? new Quaterniond() : turn(turns, i),
        scales.length == 0
            ? new Vector3d(1)
            : new Vector3d(scales[3 * i], scales[3 * i + 1], scales[3 * i + 2]));
  }

  private static Quaterniond turn(float[] all, int i) {
    Quaterniond q = new Quaterniond(all[4 * i + 1], all[4 * i + 2], all[4 * i + 3], all[4 * i]);
    return q.lengthSquared() == 0 ? new Quaterniond() : q.normalize();
  }

  /**
   * Adds what moves the instances.
   *
   * @param nodeIds of the instances, 0 for those that are not there
   */
  void motion(int[] nodeIds) throws IOException, FormatException {
    reading.still(prim, "protoIndices", "invisibleIds", "ids");
    part("positions", nodeIds, Clip.TRANSLATION, 3);
    part(turning(prim), nodeIds, Clip.ROTATION, 4);
    part("scales", nodeIds, Clip.SCALE, 3);
  }

  private void part(String name, int[] nodeIds, String track, int width)
      throws IOException, FormatException {
    UsdProperty property = prim.property(name);
    if (!Said.moves(property)) {
      return;
    }
    UsdSamples samples = property.samples();
    double[] codes = samples.codes();
    int count = nodeIds.length;
    for (int s = 0; s < codes.length; s++) {
      if (samples.length(s) != width * count) {
        reading
            .report()
            .lost(
                "value-motion-not-read",
                prim.path(),
                "The number of its \"" + name + "\" changes over time: they are read as at first.");
        return;
      }
    }
    reading.report().claim(8L * width * count * codes.length, prim.path(), "its motion");
    double[][] values = new double[count][width * codes.length];
    double[] seconds = new double[codes.length];
    for (int s = 0; s < codes.length; s++) {
      seconds[s] = reading.seconds(codes[s]);
      float[] all = ((UsdValue) samples.value(s)).floats();
      for (int i = 0; i < count; i++) {
        for (int k = 0; k < width; k++) {
          // Files have the real part of a quaternion first.
          values[i][width * s + k] = all[width * i + (width == 4 ? (k + 1) % 4 : k)];
        }
      }
    }
    for (int i = 0; i < count; i++) {
      if (nodeIds[i] > 0 && isMoving(values[i], width)) {
        reading
            .tracks()
            .add(
                new Clip.Track(
                    nodeIds[i],
                    track,
                    Clip.Interpolation.LINEAR,
                    width,
                    seconds,
                    values[i],
                    null,
                    null));
      }
    }
  }

  private static boolean isMoving(double[] values, int width) {
    for (int i = width; i < values.length; i++) {
      if (values[i] != values[i % width]) {
        return true;
      }
    }
    return false;
  }
}
