package ferry.stone.core.format.abc.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.motion.FileClip;
import ferry.stone.core.math.Figures;
import ferry.stone.core.motion.ClipPoses;
import ferry.stone.core.motion.Curves;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.scene.node.Visibility;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.SampledPlaces;
import ferry.stone.core.scene.time.Samples;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;

/** What one clip does to nodes and cameras, as samples; its points are the meshes' own matter. */
final class AbcMotion {
  private final Scene scene;
  private final AbcTimes times;
  private final Clip clip;
  private final Map<Integer, List<Clip.Track>> tracks = new HashMap<>();
  private final List<Clip.Track> moved = new ArrayList<>();
  private final Map<Integer, Double> angles = new HashMap<>();

  AbcMotion(Scene scene, AbcTimes times, Clip clip) {
    this.scene = scene;
    this.times = times;
    this.clip = clip;
    if (clip != null) {
      for (Clip.Track track : clip.tracks()) {
        tracks.computeIfAbsent(track.targetId(), k -> new ArrayList<>()).add(track);
      }
    }
  }

  /** What moves a node. */
  List<Clip.Track> of(Node node) {
    return tracks.getOrDefault(node.id(), List.of());
  }

  /** Whether a track has a place in the format. */
  static boolean carries(Clip.Track track) {
    return track.isTransform()
        || track.isMorph()
        || track.property().equals(Clip.VISIBLE)
        || track.property().equals(Clip.CAMERA_ANGLE)
        || track.property().startsWith(Clip.CUSTOM) && track.components() == 1;
  }

  /** Whether each node moves, by itself or with one above it. */
  boolean[] moving() {
    boolean[] found = new boolean[scene.nodes().size()];
    for (int i = 0; i < found.length; i++) {
      Node node = scene.nodes().get(i);
      boolean own = of(node).stream().anyMatch(Clip.Track::isTransform);
      found[i] = own || node.parent() >= 0 && found[node.parent()];
    }
    return found;
  }

  /** Takes what moves a node, and gives where it stands at the first sample. */
  LocalTransform placed(Node node) {
    List<Clip.Track> own = of(node).stream().filter(Clip.Track::isTransform).toList();
    if (own.isEmpty()) {
      return node.transform();
    }
    double[] at = times.of(clip, own);
    ClipPoses alone =
        ClipPoses.of(
            scene.toBuilder()
                .nodes(List.of(node.withParent(-1).withContent(Content.GROUP)))
                .placement(new Matrix4d())
                .build(),
            clip);
    return sampled(node, at, alone, 0);
  }

  /** The same for a part that stands at the top, whatever was above it. */
  LocalTransform inWorld(Node node, int place) {
    double[] at = times.frames(clip.startSeconds(), clip.endSeconds());
    return sampled(node, at, ClipPoses.of(scene, clip), place);
  }

  private LocalTransform sampled(Node node, double[] at, ClipPoses poses, int place) {
    SampledPlaces places = new SampledPlaces(at);
    Trs first = null;
    for (double t : at) {
      Trs trs = places.add(poses.at(t).world()[place]);
      first = first == null ? trs : first;
    }
    moved.addAll(places.tracks(node.id(), first));
    return first;
  }

  /** Whether what a node shows is there in the format; else it is a group. */
  private boolean hasPlace(Node node) {
    boolean flat =
        node.content() instanceof Content.CameraContent camera
            && isFlat(scene.camera(camera.cameraId()).orElseThrow());
    return !flat
        && !(node.content() instanceof Content.LightContent)
        && !(node.content() instanceof Content.DetailGroup);
  }

  /** Whether a camera has no perspective. */
  static boolean isFlat(Camera camera) {
    return !(camera.verticalAngleRadians() > 0);
  }

  /**
   * Takes what changes of a node and of its camera, apart from its place, and gives the node as it
   * is at the first sample.
   */
  Node values(Node bare) {
    Node node = hasPlace(bare) ? bare : bare.withContent(Content.GROUP);
    List<Clip.Track> all = new ArrayList<>(of(node));
    if (node.content() instanceof Content.CameraContent camera) {
      all.addAll(tracks.getOrDefault(camera.cameraId(), List.of()));
    }
    for (Clip.Track track : all) {
      if (!carries(track) || track.isTransform() || track.isMorph()) {
        continue;
      }
      // Between two numbers every reader goes straight: keys of lines are samples already.
      boolean own =
          track.interpolation() == Clip.Interpolation.STEP
              || times.asTheSource() && track.interpolation() == Clip.Interpolation.LINEAR;
      double[] at = own ? times.inside(track.timesSeconds()) : times.of(clip, List.of(track));
      Clip.Track sampled = sampled(track, at);
      node = atFirst(node, sampled);
      boolean changes = Arrays.stream(sampled.values()).anyMatch(v -> v != sampled.values()[0]);
      if (changes) {
        moved.add(sampled);
      }
    }
    return node;
  }

  private Node atFirst(Node node, Clip.Track track) {
    double first = track.values()[0];
    if (track.property().equals(Clip.VISIBLE)) {
      boolean hidden = first < 0.5;
      boolean known = node.visibility() == Visibility.SHOWN;
      return node.withVisibility(
          hidden ? Visibility.HIDDEN : known ? Visibility.SHOWN : Visibility.INHERITED);
    }
    if (track.property().equals(Clip.CAMERA_ANGLE)) {
      angles.put(track.targetId(), first);
      return node;
    }
    String name = track.property().substring(Clip.CUSTOM.length());
    Map<String, Object> values = new HashMap<>(node.properties());
    Object rest = values.get(name);
    boolean whole = rest instanceof Integer && first == Math.rint(first);
    values.put(name, whole ? (Object) (int) first : (Object) first);
    return node.withProperties(values);
  }

  private static Clip.Track sampled(Clip.Track track, double[] at) {
    int n = track.components();
    double[] values = new double[n * at.length];
    double[] one = new double[Math.max(4, n)];
    for (int s = 0; s < at.length; s++) {
      Curves.sample(track, at[s], one);
      System.arraycopy(one, 0, values, n * s, n);
    }
    boolean jumps = track.interpolation() == Clip.Interpolation.STEP;
    return new Clip.Track(
        track.targetId(),
        track.property(),
        jumps ? Clip.Interpolation.STEP : Clip.Interpolation.LINEAR,
        n,
        at,
        values,
        null,
        null);
  }

  Camera atFirst(Camera camera) {
    Double angle = angles.get(camera.id());
    return angle == null
        ? camera
        : new Camera(
            camera.id(),
            camera.name(),
            angle,
            camera.height(),
            camera.aspect(),
            camera.near(),
            camera.far(),
            camera.lens(),
            camera.properties());
  }

  /**
   * The clip of the file, {@code null} where nothing is to be told.
   *
   * @param samples of meshes, which are played with it
   */
  Clip clip(String stem, int id, List<Samples> samples) {
    List<Clip.Words> words = clip == null ? List.of() : clip.words();
    return FileClip.of(id, stem, moved, List.of(), words, samples, null);
  }

  /** What of the clips has no place, in words; the forecast counts it. */
  static List<Finding> notCarried(Scene scene) {
    Findings said = new Findings();
    for (Clip each : scene.clips()) {
      List<Clip.Track> lost = each.tracks().stream().filter(t -> !carries(t)).toList();
      if (!lost.isEmpty()) {
        said.add(
            Finding.of(
                    "track-not-carried",
                    Severity.FIX,
                    each.name() + ", " + lost.get(0).property(),
                    "The format has no motion of such a value: it is left out.")
                .measured(Figures.count(lost.size(), "track")));
      }
      if (lost.size() == each.tracks().size()) {
        said.add(
            Finding.of(
                "clip-not-written",
                Severity.NOTE,
                each.name(),
                "The clip moves nothing that the format knows: it is not there."));
      }
    }
    return said.list();
  }
}
