package ferry.stone.core.motion;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Visibility;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Which nodes are seen at the moments of a clip, with what the nodes above them say. */
public final class SeenOver {
  private static final double HALF = 0.5;

  private final Scene scene;
  private final Map<Integer, Clip.Track> tracks = new HashMap<>();
  private final List<Integer> places = new ArrayList<>();

  private SeenOver(Scene scene) {
    this.scene = scene;
  }

  public static SeenOver of(Scene scene, Clip clip) {
    SeenOver seen = new SeenOver(scene);
    for (Clip.Track track : clip.tracks()) {
      if (track.property().equals(Clip.VISIBLE)) {
        seen.tracks.put(track.targetId(), track);
      }
    }
    boolean[] touched = new boolean[scene.nodes().size()];
    for (int i = 0; i < touched.length && !seen.tracks.isEmpty(); i++) {
      Node node = scene.nodes().get(i);
      touched[i] =
          seen.tracks.containsKey(node.id()) || (node.parent() >= 0 && touched[node.parent()]);
      if (touched[i]) {
        seen.places.add(i);
      }
    }
    return seen;
  }

  /** Places of the nodes that may come and go: those with a track, and all below them. */
  public List<Integer> places() {
    return List.copyOf(places);
  }

  /** Whether each node is seen at a moment, by its place in the list. */
  public boolean[] at(double seconds) {
    boolean[] seen = new boolean[scene.nodes().size()];
    double[] value = new double[1];
    for (int i = 0; i < seen.length; i++) {
      Node node = scene.nodes().get(i);
      Visibility own = node.visibility();
      Clip.Track track = tracks.get(node.id());
      if (track != null) {
        Curves.sample(track, seconds, value);
        // A node that comes shows itself as far as those above it do, unless it says more.
        own =
            value[0] < HALF
                ? Visibility.HIDDEN
                : own == Visibility.SHOWN ? own : Visibility.INHERITED;
      }
      seen[i] =
          switch (own) {
            case HIDDEN -> false;
            case SHOWN -> true;
            case INHERITED -> node.parent() < 0 || seen[node.parent()];
          };
    }
    return seen;
  }
}
