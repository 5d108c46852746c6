package ferry.stone.core.motion;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.MorphTarget.Shape;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Interpolation;
import ferry.stone.core.scene.time.Clip.Track;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * Makes targets of their own from the shapes between off and fully on, for formats that have only
 * whole targets. Nothing moves otherwise: where a weight ran through the shapes of one target, the
 * weights of its targets now rise and fall so that the sum is the same.
 *
 * <p>Exact for steps and lines, which get keys where the weight passes a shape. Cubic motion of
 * such a target is sampled at {@link #RATE} and becomes lines.
 */
public final class InBetweens {
  /** Samples of cubic motion per second. */
  public static final double RATE = 60;

  private final Scene scene;
  private final Map<Integer, PolygonMesh> meshes;

  private InBetweens(Scene scene) {
    this.scene = scene;
    meshes = scene.meshesById();
  }

  public static Scene asTargets(Scene scene) {
    boolean any = scene.meshes().stream().anyMatch(InBetweens::has);
    return any ? new InBetweens(scene).split() : scene;
  }

  private static boolean has(PolygonMesh mesh) {
    return mesh.morphs().stream()
        .anyMatch(m -> m.shapes().size() > 1 || m.full().fullWeight() != 1);
  }

  private Scene split() {
    List<PolygonMesh> newMeshes = new ArrayList<>();
    for (PolygonMesh mesh : scene.meshes()) {
      newMeshes.add(has(mesh) ? mesh.toBuilder().morphs(targets(mesh)).build() : mesh);
    }
    List<Node> nodes = new ArrayList<>();
    Map<Integer, PolygonMesh> shownBy = new HashMap<>();
    for (Node node : scene.nodes()) {
      if (node.content() instanceof Node.Content.MeshContent content
          && meshes.containsKey(content.meshId())
          && has(meshes.get(content.meshId()))) {
        PolygonMesh mesh = meshes.get(content.meshId());
        shownBy.put(node.id(), mesh);
        double[] weights = content.morphWeights();
        nodes.add(
            weights == null || weights.length != mesh.morphs().size()
                ? node
                : node.withContent(content.withMorphWeights(weights(mesh, weights))));
      } else {
        nodes.add(node);
      }
    }
    List<Clip> clips = new ArrayList<>();
    for (Clip clip : scene.clips()) {
      List<Track> tracks = new ArrayList<>();
      for (Track track : clip.tracks()) {
        PolygonMesh mesh = track.isMorph() ? shownBy.get(track.targetId()) : null;
        if (mesh == null) {
          tracks.add(track);
        } else {
          tracks(mesh, track, tracks);
        }
      }
      clips.add(clip.withTracks(tracks));
    }
    return scene.toBuilder().meshes(newMeshes).nodes(nodes).clips(clips).build();
  }

  /** Whole targets keep their names; an in-between adds its weight in percent. */
  private static List<MorphTarget> targets(PolygonMesh mesh) {
    Set<String> taken = new HashSet<>(MorphTarget.keys(mesh.morphs()));
    List<MorphTarget> result = new ArrayList<>();
    for (MorphTarget morph : mesh.morphs()) {
      List<Shape> shapes = morph.shapes();
      for (int s = 0; s < shapes.size(); s++) {
        Shape shape = shapes.get(s);
        String name = morph.name();
        if (s < shapes.size() - 1) {
          name += "_" + Math.round(100 * shape.fullWeight() / morph.full().fullWeight());
          for (int n = 2; !taken.add(name); n++) {
            name = morph.name() + "_between_" + n;
          }
        }
        Shape whole = new Shape(1, shape.vertices(), shape.deltas(), shape.normalDeltas());
        result.add(new MorphTarget(name, part(shapes, s, morph.weight()), List.of(whole)));
      }
    }
    return result;
  }

  private static double[] weights(PolygonMesh mesh, double[] weights) {
    List<Double> result = new ArrayList<>();
    for (int m = 0; m < weights.length; m++) {
      List<Shape> shapes = mesh.morphs().get(m).shapes();
      for (int s = 0; s < shapes.size(); s++) {
        result.add(part(shapes, s, weights[m]));
      }
    }
    return result.stream().mapToDouble(Double::doubleValue).toArray();
  }

  /** How much of one shape counts at a weight of the target: as {@link Deform#morphed} has it. */
  static double part(List<Shape> shapes, int shape, double weight) {
    int above = 0;
    while (above < shapes.size() - 1 && weight > shapes.get(above).fullWeight()) {
      above++;
    }
    double from = above == 0 ? 0 : shapes.get(above - 1).fullWeight();
    double t = (weight - from) / (shapes.get(above).fullWeight() - from);
    return shape == above ? t : shape == above - 1 ? 1 - t : 0;
  }

  private void tracks(PolygonMesh mesh, Track track, List<Track> result) {
    List<String> keys = MorphTarget.keys(mesh.morphs());
    int target = keys.indexOf(track.property().substring(Clip.MORPH.length()));
    if (target < 0) {
      result.add(track);
      return;
    }
    List<Shape> shapes = mesh.morphs().get(target).shapes();
    List<String> newKeys = MorphTarget.keys(targets(mesh));
    int first = 0;
    for (int m = 0; m < target; m++) {
      first += mesh.morphs().get(m).shapes().size();
    }
    boolean bent = shapes.size() > 1 && track.interpolation() == Interpolation.CUBIC;
    double[] times = shapes.size() == 1 ? track.timesSeconds() : times(track, shapes);
    for (int s = 0; s < shapes.size(); s++) {
      String property = Clip.MORPH + newKeys.get(first + s);
      if (shapes.size() == 1) {
        Track whole = track.scaled(1 / shapes.get(0).fullWeight());
        result.add(
            new Track(
                track.targetId(),
                property,
                track.interpolation(),
                1,
                times,
                whole.values(),
                whole.inSlopes(),
                whole.outSlopes()));
        continue;
      }
      double[] values = new double[times.length];
      double[] value = new double[1];
      for (int k = 0; k < times.length; k++) {
        Curves.sample(track, times[k], value);
        values[k] = part(shapes, s, value[0]);
      }
      result.add(
          new Track(
              track.targetId(),
              property,
              bent ? Interpolation.LINEAR : track.interpolation(),
              1,
              times,
              values,
              null,
              null));
    }
  }

  /** The track's keys, and the moments at which a line passes a shape, or samples of a cubic. */
  private static double[] times(Track track, List<Shape> shapes) {
    double[] keys = track.timesSeconds();
    TreeSet<Double> times = new TreeSet<>();
    for (int k = 0; k < keys.length; k++) {
      times.add(keys[k]);
      if (k + 1 == keys.length || track.interpolation() == Interpolation.STEP) {
        continue;
      }
      double span = keys[k + 1] - keys[k];
      if (track.interpolation() == Interpolation.CUBIC) {
        int samples = (int) Math.min(100_000, Math.ceil(span * RATE));
        for (int i = 1; i < samples; i++) {
          times.add(keys[k] + span * i / samples);
        }
        continue;
      }
      double a = track.values()[k];
      double b = track.values()[k + 1];
      for (int s = 0; s < shapes.size() - 1; s++) {
        double at = (shapes.get(s).fullWeight() - a) / (b - a);
        if (at > 0 && at < 1) {
          times.add(keys[k] + span * at);
        }
      }
    }
    return times.stream().mapToDouble(Double::doubleValue).toArray();
  }
}
