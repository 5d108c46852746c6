package ferry.stone.core.format.usd.write.shape;

import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.write.spec.Spec;
import ferry.stone.core.format.usd.write.spec.TimeCodes;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.motion.Curves;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.TreeSet;
import org.joml.Quaterniond;
import org.joml.Quaterniondc;
import org.joml.Vector3d;
import org.joml.Vector3dc;

/**
 * Shapes or branches at many places as a point instancer: arrays of positions, turns and sizes,
 * also over time. Turns stand twice, since older readers know those of 16 bits alone.
 */
public final class PlacesOut {
  private final TimeCodes times;
  private final List<Node> places;
  private final int[] kinds;
  private final List<Bounds> boxes;

  /**
   * @param kinds which of the prototypes each place shows
   * @param boxes of the prototypes
   */
  public PlacesOut(TimeCodes times, List<Node> places, int[] kinds, List<Bounds> boxes) {
    this.times = times;
    this.places = places;
    this.kinds = kinds;
    this.boxes = boxes;
  }

  /**
   * @param prim that lists the places
   * @param prototypes paths of the prims that are shown
   */
  public void write(PrimSpec prim, List<String> prototypes) {
    prim.typeName("PointInstancer");
    Spec.set(prim, "protoIndices", Spec.value("int", true, kinds));
    part(prim, "positions", "point3f", Clip.TRANSLATION, 3);
    part(prim, "orientations", "quath", Clip.ROTATION, 4);
    part(prim, "orientationsf", "quatf", Clip.ROTATION, 4);
    part(prim, "scales", "float3", Clip.SCALE, 3);
    PropertySpec extent = Spec.set(prim, "extent", extent(Double.NaN));
    TreeSet<Double> moments = new TreeSet<>();
    for (String property : List.of(Clip.TRANSLATION, Clip.ROTATION, Clip.SCALE)) {
      places.forEach(place -> moments(place, property, moments));
    }
    if (!moments.isEmpty()) {
      double[] seconds = moments.stream().mapToDouble(Double::doubleValue).toArray();
      List<UsdValue> boxes = Arrays.stream(seconds).mapToObj(this::extent).toList();
      extent.samples(Spec.samples(times.codes(seconds), boxes));
    }
    Spec.target(prim, "prototypes", prototypes.toArray(String[]::new)).uniform(false);
  }

  private static Trs still(Node node) {
    return node.transform() instanceof Trs own ? own : Trs.nearest(node.transform().toMatrix());
  }

  /** One array, and its samples where any of the places moves. */
  private void part(PrimSpec prim, String name, String type, String property, int width) {
    float[] rest = new float[width * places.size()];
    TreeSet<Double> moments = new TreeSet<>();
    for (int i = 0; i < places.size(); i++) {
      Trs trs = still(places.get(i));
      switch (property) {
        case Clip.TRANSLATION -> three(rest, i, trs.translation());
        case Clip.SCALE -> three(rest, i, trs.scale());
        default -> turn(rest, i, trs.rotation());
      }
      moments(places.get(i), property, moments);
    }
    PropertySpec array = Spec.set(prim, name, Spec.value(type, true, rest));
    if (!moments.isEmpty()) {
      samples(array, type, property, rest, moments);
    }
  }

  private void moments(Node place, String property, TreeSet<Double> moments) {
    Clip.Track track = times.track(place.id(), property);
    for (int k = 0; track != null && k < track.timesSeconds().length; k++) {
      moments.add(track.timesSeconds()[k]);
    }
  }

  private void samples(
      PropertySpec array, String type, String property, float[] rest, TreeSet<Double> moments) {
    int width = rest.length / Math.max(1, places.size());
    double[] seconds = moments.stream().mapToDouble(Double::doubleValue).toArray();
    List<UsdValue> values = new ArrayList<>();
    double[] one = new double[4];
    for (double second : seconds) {
      float[] all = rest.clone();
      for (int i = 0; i < places.size(); i++) {
        Clip.Track track = times.track(places.get(i).id(), property);
        if (track != null) {
          Curves.sample(track, second, one);
          for (int k = 0; k < width; k++) {
            // Files have the real part of a quaternion first.
            all[width * i + k] = (float) one[width == 4 ? (k + 3) % 4 : k];
          }
        }
      }
      values.add(Spec.value(type, true, all));
    }
    array.samples(Spec.samples(times.codes(seconds), values));
  }

  /** The box around all of them; at rest where the moment is none. */
  private UsdValue extent(double second) {
    Bounds all = Bounds.EMPTY;
    for (int i = 0; i < places.size(); i++) {
      Bounds box = boxes.get(kinds[i]);
      all = box.isEmpty() ? all : all.union(box.transform(at(places.get(i), second).toMatrix()));
    }
    boolean none = all.isEmpty() || !Double.isFinite(all.diagonal());
    float[] numbers =
        none
            ? new float[6]
            : new float[] {
              (float) all.minX(),
              (float) all.minY(),
              (float) all.minZ(),
              (float) all.maxX(),
              (float) all.maxY(),
              (float) all.maxZ()
            };
    return Spec.value("float3", true, numbers);
  }

  private Trs at(Node place, double second) {
    Trs rest = still(place);
    Clip.Track t = Double.isNaN(second) ? null : times.track(place.id(), Clip.TRANSLATION);
    Clip.Track r = Double.isNaN(second) ? null : times.track(place.id(), Clip.ROTATION);
    Clip.Track s = Double.isNaN(second) ? null : times.track(place.id(), Clip.SCALE);
    double[] v = new double[4];
    Vector3d where = new Vector3d(rest.translation());
    Quaterniond turn = new Quaterniond(rest.rotation());
    Vector3d size = new Vector3d(rest.scale());
    if (t != null) {
      Curves.sample(t, second, v);
      where.set(v[0], v[1], v[2]);
    }
    if (r != null) {
      Curves.sample(r, second, v);
      turn.set(v[0], v[1], v[2], v[3]).normalize();
    }
    if (s != null) {
      Curves.sample(s, second, v);
      size.set(v[0], v[1], v[2]);
    }
    return Trs.of(where, turn, size);
  }

  private static void three(float[] all, int i, Vector3dc v) {
    all[3 * i] = (float) v.x();
    all[3 * i + 1] = (float) v.y();
    all[3 * i + 2] = (float) v.z();
  }

  private static void turn(float[] all, int i, Quaterniondc q) {
    all[4 * i] = (float) q.w();
    all[4 * i + 1] = (float) q.x();
    all[4 * i + 2] = (float) q.y();
    all[4 * i + 3] = (float) q.z();
  }
}
