package ferry.stone.core.motion;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Interpolation;
import ferry.stone.core.scene.time.Clip.Track;
import java.util.Arrays;
import java.util.List;
import java.util.TreeSet;

/** Joins the tracks of a node's morph weights into one, for formats that key them together. */
public final class MorphTracks {
  private MorphTracks() {}

  /** Whether a morph weight's track moves a target that its node's mesh has. */
  public static boolean hasTarget(Scene scene, Track track) {
    for (Node node : scene.nodes()) {
      if (node.id() == track.targetId()
          && node.content() instanceof Node.Content.MeshContent content) {
        return scene
            .mesh(content.meshId())
            .map(m -> MorphTarget.keys(m.morphs()))
            .filter(keys -> keys.contains(track.property().substring(Clip.MORPH.length())))
            .isPresent();
      }
    }
    return false;
  }

  /**
   * One track {@code weights} with a component for each target of the mesh. Targets that no track
   * moves keep their rest weight. Keys at different times become the union of the times: exact for
   * steps, lines and cubics among themselves and for lines beside cubics; steps beside others
   * become pairs of keys with the shortest line between.
   */
  public static Track join(Node node, PolygonMesh mesh, List<Track> tracks) {
    List<String> keys = MorphTarget.keys(mesh.morphs());
    Track[] byTarget = new Track[keys.size()];
    for (Track track : tracks) {
      int target = keys.indexOf(track.property().substring(Clip.MORPH.length()));
      if (target >= 0) {
        byTarget[target] = track;
      }
    }
    Interpolation interpolation = common(tracks);
    double[] times = times(tracks, interpolation);
    int n = keys.size();
    double[] values = new double[n * times.length];
    boolean cubic = interpolation == Interpolation.CUBIC;
    double[] in = cubic ? new double[values.length] : null;
    double[] out = cubic ? new double[values.length] : null;
    double[] rest = rest(node, mesh);
    double[] value = new double[1];
    for (int m = 0; m < n; m++) {
      for (int k = 0; k < times.length; k++) {
        int at = n * k + m;
        if (byTarget[m] == null) {
          values[at] = rest[m];
          continue;
        }
        Curves.sample(byTarget[m], times[k], value);
        values[at] = value[0];
        if (cubic) {
          in[at] = Curves.slope(byTarget[m], times[k], true);
          out[at] = Curves.slope(byTarget[m], times[k], false);
        }
      }
    }
    return new Track(node.id(), "weights", interpolation, n, times, values, in, out);
  }

  private static double[] rest(Node node, PolygonMesh mesh) {
    double[] own =
        node.content() instanceof Node.Content.MeshContent content ? content.morphWeights() : null;
    return own != null && own.length == mesh.morphs().size()
        ? own
        : mesh.morphs().stream().mapToDouble(MorphTarget::weight).toArray();
  }

  private static Interpolation common(List<Track> tracks) {
    boolean step = tracks.stream().anyMatch(t -> t.interpolation() == Interpolation.STEP);
    boolean line = tracks.stream().anyMatch(t -> t.interpolation() == Interpolation.LINEAR);
    boolean cubic = tracks.stream().anyMatch(t -> t.interpolation() == Interpolation.CUBIC);
    if (step && !line && !cubic) {
      return Interpolation.STEP;
    }
    return cubic ? Interpolation.CUBIC : Interpolation.LINEAR;
  }

  private static double[] times(List<Track> tracks, Interpolation interpolation) {
    TreeSet<Double> all = new TreeSet<>();
    for (Track track : tracks) {
      Arrays.stream(track.timesSeconds()).forEach(all::add);
      if (track.interpolation() == Interpolation.STEP && interpolation != Interpolation.STEP) {
        // The value before a step is held until just before it.
        Arrays.stream(track.timesSeconds())
            .skip(1)
            .forEach(t -> all.add((double) Math.nextDown((float) t)));
      }
    }
    return all.stream().mapToDouble(Double::doubleValue).toArray();
  }
}
