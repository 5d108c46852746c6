package ferry.stone.core.view;

import ferry.stone.core.motion.Caches;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.scene.time.Samples;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;

/**
 * What moves in a clip, part by part, for a time line: keys of its tracks, samples of caches and of
 * changing meshes that play with it.
 *
 * @param rows in the order of the parts
 * @param left how many more there are
 */
public record PreviewTracks(List<Row> rows, int left) {
  private static final int MOST_ROWS = 400;

  /** Marks of a row that can be told apart on a screen. */
  private static final int MOST_MARKS = 300;

  /**
   * Motion of one part.
   *
   * @param what moves it: {@code keys}, {@code points} of a cache, {@code faces} of a changing mesh
   * @param detail what the keys move, or the name of the cache
   * @param count of keys or samples
   * @param rate samples a second, 0 for keys
   * @param marks moments of keys or samples, spread where there are very many
   */
  public record Row(
      int nodeId,
      String name,
      String what,
      String detail,
      double start,
      double end,
      int count,
      double rate,
      double[] marks) {}

  public static PreviewTracks of(Scene scene, Clip clip) {
    Map<Integer, List<Clip.Track>> tracks = new HashMap<>();
    clip.tracks().forEach(t -> tracks.computeIfAbsent(t.targetId(), k -> new ArrayList<>()).add(t));
    Map<Integer, MeshSequence> sequences = new HashMap<>();
    scene.sequences().forEach(s -> sequences.putIfAbsent(s.meshId(), s));
    List<Row> rows = new ArrayList<>();
    int left = 0;
    for (Node node : scene.nodes()) {
      List<Row> own = new ArrayList<>();
      if (tracks.containsKey(node.id())) {
        own.add(keys(node, tracks.get(node.id())));
      }
      if (node.content() instanceof Node.Content.MeshContent content) {
        PointCache cache = Caches.of(scene, content.meshId());
        MeshSequence sequence = sequences.get(content.meshId());
        if (cache != null) {
          own.add(samples(node, "points", cache));
        }
        if (sequence != null) {
          own.add(samples(node, "faces", sequence));
        }
      }
      for (Row row : own) {
        if (rows.size() < MOST_ROWS) {
          rows.add(row);
        } else {
          left++;
        }
      }
    }
    return new PreviewTracks(rows, left);
  }

  private static Row keys(Node node, List<Clip.Track> tracks) {
    TreeSet<Double> moments = new TreeSet<>();
    Map<String, Integer> kinds = new LinkedHashMap<>();
    for (Clip.Track track : tracks) {
      for (double t : track.timesSeconds()) {
        moments.add(t);
      }
      kinds.merge(kind(track), 1, Integer::sum);
    }
    List<String> words = new ArrayList<>();
    kinds.forEach((kind, count) -> words.add(kind.equals("morphs") ? count + " morphs" : kind));
    double[] all = moments.stream().mapToDouble(Double::doubleValue).toArray();
    return new Row(
        node.id(),
        node.name(),
        "keys",
        String.join(", ", words),
        all.length == 0 ? 0 : all[0],
        all.length == 0 ? 0 : all[all.length - 1],
        all.length,
        0,
        spread(all));
  }

  private static String kind(Clip.Track track) {
    return switch (track.property()) {
      case Clip.TRANSLATION -> "place";
      case Clip.ROTATION -> "turn";
      case Clip.SCALE -> "size";
      default -> track.isMorph() ? "morphs" : track.property();
    };
  }

  private static Row samples(Node node, String what, Samples samples) {
    double[] all = samples.allSeconds();
    double length = samples.endSeconds() - samples.startSeconds();
    return new Row(
        node.id(),
        node.name(),
        what,
        samples.name(),
        samples.startSeconds(),
        samples.endSeconds(),
        all.length,
        length > 0 ? (all.length - 1) / length : 0,
        spread(all));
  }

  private static double[] spread(double[] all) {
    if (all.length <= MOST_MARKS) {
      return all;
    }
    double[] some = new double[MOST_MARKS];
    for (int i = 0; i < MOST_MARKS; i++) {
      some[i] = all[(int) ((long) i * (all.length - 1) / (MOST_MARKS - 1))];
    }
    return some;
  }
}
