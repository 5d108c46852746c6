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
import java.util.List;
import java.util.TreeSet;
import org.joml.Quaterniondc;
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
    Spec.set(prim, "extent", Spec.value("float3", true, extent()));
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
      Clip.Track track = times.track(places.get(i).id(), property);
      for (int k = 0; track != null && k < track.timesSeconds().length; k++) {
        moments.add(track.timesSeconds()[k]);
      }
    }
    PropertySpec array = Spec.set(prim, name, Spec.value(type, true, rest));
    if (!moments.isEmpty()) {
      samples(array, type, property, rest, moments);
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

  private float[] extent() {
    Bounds all = Bounds.EMPTY;
    for (int i = 0; i < places.size(); i++) {
      Bounds box = boxes.get(kinds[i]);
      all = box.isEmpty() ? all : all.union(box.transform(still(places.get(i)).toMatrix()));
    }
    if (all.isEmpty() || !Double.isFinite(all.diagonal())) {
      return new float[6];
    }
    return new float[] {
      (float) all.minX(),
      (float) all.minY(),
      (float) all.minZ(),
      (float) all.maxX(),
      (float) all.maxY(),
      (float) all.maxZ()
    };
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
