package ferry.stone.core.survey;

import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.motion.ClipPoses;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import org.joml.Vector3d;

/**
 * What falls tells where down is and how long a unit is: bodies in free fall gain 9.80665 m/s every
 * second (standard gravity, ISO 80000-3). Second differences of the places of moving parts are
 * sampled over the clips; they count when many agree in direction and size.
 *
 * @param up against the fall
 * @param acceleration in scene units per second squared
 * @param parts how many parts were seen falling
 */
record FallReading(SignedAxis up, double acceleration, int parts) {
  static final double GRAVITY = 9.80665;

  private static final int MOST_PARTS = 200;
  private static final int MOMENTS = 120;
  private static final int FEWEST_PARTS = 3;
  private static final double STRAIGHT = 0.985;
  private static final double AGREE = 0.08;
  private static final double AGREEING_PART = 0.5;

  /** The strongest reading over all clips, or {@code null} when nothing falls. */
  static FallReading of(Scene scene) {
    FallReading best = null;
    for (Clip clip : scene.clips()) {
      FallReading reading = of(scene, clip);
      if (reading != null && (best == null || reading.parts > best.parts)) {
        best = reading;
      }
    }
    return best;
  }

  private static FallReading of(Scene scene, Clip clip) {
    List<Integer> places = moving(scene, clip);
    double span = clip.endSeconds() - clip.startSeconds();
    if (places.size() < FEWEST_PARTS || !(span > 0)) {
      return null;
    }
    double rate = scene.framesPerSecond() > 0 ? scene.framesPerSecond() : 30;
    int moments = (int) Math.min(MOMENTS, Math.max(4, span * rate));
    double step = span / moments;
    Vector3d[][] path = new Vector3d[places.size()][moments + 1];
    ClipPoses poses = ClipPoses.of(scene, clip);
    for (int t = 0; t <= moments; t++) {
      Pose pose = poses.at(clip.startSeconds() + t * step);
      for (int i = 0; i < path.length; i++) {
        path[i][t] = pose.world()[places.get(i)].getTranslation(new Vector3d());
      }
    }
    return strongest(path, step);
  }

  private static List<Integer> moving(Scene scene, Clip clip) {
    Map<Integer, Integer> at = scene.nodePlaces();
    List<Integer> places = new ArrayList<>();
    for (Clip.Track track : clip.tracks()) {
      Integer place = at.get(track.targetId());
      if (place != null
          && track.property().equals(Clip.TRANSLATION)
          && !(scene.nodes().get(place).content() instanceof Node.Content.Joint)
          && places.size() < MOST_PARTS) {
        places.add(place);
      }
    }
    return places;
  }

  private static FallReading strongest(Vector3d[][] path, double step) {
    FallReading best = null;
    Vector3d a = new Vector3d();
    for (SignedAxis down : SignedAxis.values()) {
      List<Double> all = new ArrayList<>();
      List<List<Double>> ofPart = new ArrayList<>();
      for (Vector3d[] points : path) {
        List<Double> own = new ArrayList<>();
        for (int t = 1; t + 1 < points.length; t++) {
          a.set(points[t + 1]).sub(points[t]).sub(points[t]).add(points[t - 1]);
          a.div(step * step);
          double along = a.get(down.index()) * down.sign();
          if (along > 0 && along >= STRAIGHT * a.length()) {
            own.add(along);
            all.add(along);
          }
        }
        ofPart.add(own);
      }
      FallReading reading = agreeing(all, ofPart, down);
      if (reading != null && (best == null || reading.parts > best.parts)) {
        best = reading;
      }
    }
    return best;
  }

  private static FallReading agreeing(
      List<Double> all, List<List<Double>> ofPart, SignedAxis down) {
    if (all.size() < 2 * FEWEST_PARTS) {
      return null;
    }
    Collections.sort(all);
    double median = all.get(all.size() / 2);
    long near = all.stream().filter(v -> Math.abs(v - median) <= AGREE * median).count();
    int parts = 0;
    for (List<Double> own : ofPart) {
      long agree = own.stream().filter(v -> Math.abs(v - median) <= AGREE * median).count();
      parts += agree >= 2 ? 1 : 0;
    }
    return median > 0 && near >= AGREEING_PART * all.size() && parts >= FEWEST_PARTS
        ? new FallReading(down.opposite(), median, parts)
        : null;
  }
}
