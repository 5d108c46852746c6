package ferry.stone.core.format.usd.write;

import ferry.stone.core.format.usd.write.look.Preview;
import ferry.stone.core.motion.Curves;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.joml.Quaterniondc;
import org.joml.Vector3dc;

/** What the one clip of a stage moves, as samples between which every reader goes straight. */
final class HeldMotion {
  private final Scene scene;
  private final Clip clip;
  private final double rate;
  private final Map<Integer, Integer> places;
  private final List<Clip.Track> moved = new ArrayList<>();

  /**
   * @param clip {@code null} for none
   * @param rate time codes a second
   */
  HeldMotion(Scene scene, Clip clip, double rate) {
    this.scene = scene;
    this.clip = clip;
    this.rate = rate;
    places = scene.nodePlaces();
  }

  /** What is moved so far; to be added to. */
  List<Clip.Track> moved() {
    return moved;
  }

  /** Moments of the clip at its rate, both ends among them. */
  double[] frames() {
    double start = clip.startSeconds();
    double end = clip.endSeconds();
    int count = (int) Math.max(1, Math.min(100_000, Math.ceil((end - start) * rate - 1e-6)));
    double[] at = new double[count + 1];
    for (int i = 0; i <= count; i++) {
      at[i] = Math.min(end, start + i / rate);
    }
    at[count] = end;
    return end > start ? at : new double[] {start};
  }

  /** Whether a track has a place in the format. */
  static boolean carries(Clip.Track track) {
    String property = track.property();
    if (property.startsWith(Clip.MATERIAL)) {
      return Preview.INPUTS.keySet().stream()
          .anyMatch(channel -> property.equals(Clip.MATERIAL + channel));
    }
    return track.isTransform()
        || track.isMorph()
        || property.equals(Clip.VISIBLE)
        || property.equals(Clip.CAMERA_ANGLE)
        || property.equals(Clip.CAMERA_HEIGHT)
        || property.equals(Clip.LIGHT_COLOUR)
        || property.equals(Clip.LIGHT_INTENSITY)
        || property.startsWith(Clip.CUSTOM);
  }

  /** Whether a transform is ever another one than at rest; other values need not rest anywhere. */
  private boolean moves(Clip.Track track) {
    if (!track.isTransform() || track.interpolation() == Clip.Interpolation.CUBIC) {
      return true;
    }
    Node node = scene.nodes().get(places.get(track.targetId()));
    Trs rest = Trs.nearest(node.transform().toMatrix());
    double[] still =
        switch (track.property()) {
          case Clip.TRANSLATION -> numbers(rest.translation());
          case Clip.SCALE -> numbers(rest.scale());
          default -> {
            Quaterniondc q = rest.rotation();
            yield new double[] {q.x(), q.y(), q.z(), q.w()};
          }
        };
    for (int i = 0; i < track.values().length; i++) {
      if (Math.abs(track.values()[i] - still[i % still.length]) > 1e-9) {
        return true;
      }
    }
    return false;
  }

  private static double[] numbers(Vector3dc v) {
    return new double[] {v.x(), v.y(), v.z()};
  }

  /** Curves become samples at the rate, since every reader goes straight between two. */
  void take(Clip.Track track) {
    if (!carries(track) || !moves(track)) {
      return;
    }
    if (track.interpolation() != Clip.Interpolation.CUBIC) {
      moved.add(track);
      return;
    }
    TreeSet<Double> at = new TreeSet<>();
    double first = track.timesSeconds()[0];
    double last = track.timesSeconds()[track.timesSeconds().length - 1];
    for (double time : track.timesSeconds()) {
      at.add(time);
    }
    for (double time : frames()) {
      if (time > first && time < last) {
        at.add(time);
      }
    }
    int n = track.components();
    double[] values = new double[n * at.size()];
    double[] one = new double[Math.max(4, n)];
    int k = 0;
    for (double time : at) {
      Curves.sample(track, time, one);
      System.arraycopy(one, 0, values, n * k++, n);
    }
    moved.add(
        new Clip.Track(
            track.targetId(),
            track.property(),
            Clip.Interpolation.LINEAR,
            n,
            at.stream().mapToDouble(Double::doubleValue).toArray(),
            values,
            null,
            null));
  }

  /** Takes what moves a node. */
  void node(Node node) {
    if (clip == null) {
      return;
    }
    for (Clip.Track track : clip.tracks()) {
      if (track.targetId() == node.id()) {
        take(track);
      }
    }
  }

  /** Those of cameras, lights and materials. */
  void others() {
    Set<Integer> nodes = new HashSet<>();
    scene.nodes().forEach(n -> nodes.add(n.id()));
    for (Clip.Track track : clip.tracks()) {
      if (!nodes.contains(track.targetId())) {
        take(track);
      }
    }
  }

  /** Custom values that are said over time alone have their first one at rest. */
  Node withMovingValues(Node node) {
    Map<String, Object> values = new HashMap<>(node.properties());
    for (Clip.Track track : clip == null ? List.<Clip.Track>of() : clip.tracks()) {
      if (track.targetId() == node.id()
          && track.property().startsWith(Clip.CUSTOM)
          && track.components() == 1) {
        values.putIfAbsent(track.property().substring(Clip.CUSTOM.length()), track.values()[0]);
      }
    }
    for (Clip.Words words : clip == null ? List.<Clip.Words>of() : clip.words()) {
      if (words.targetId() == node.id()) {
        String name = words.property().substring(Clip.CUSTOM.length());
        values.putIfAbsent(name, words.values().get(0));
      }
    }
    return values.size() == node.properties().size() ? node : node.withProperties(values);
  }
}
