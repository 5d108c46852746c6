package ferry.stone.core.cargo;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.math.DoubleList;
import ferry.stone.core.motion.Caches;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.CacheMeshes;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.JoinedCache;
import ferry.stone.core.scene.time.JoinedSequence;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.scene.time.Samples;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Consumer;

/**
 * Numbered files that each hold a span of one motion, as exporters cut long caches: joined into one
 * scene, that of the first span, whose parts are found in the others by their paths.
 */
final class SpanRun {
  private static final double SAME = 1e-6;

  private final List<Scene> spans;
  private final Scene first;
  private final SceneBuilder scene;
  private final List<Map<String, Node>> nodes = new ArrayList<>();

  /** Where each span begins, in seconds. */
  private final double[] starts;

  private SpanRun(List<Scene> spans) {
    this.spans = spans;
    first = spans.get(0);
    scene = first.toBuilder();
    starts = spans.stream().mapToDouble(s -> span(s)[0]).toArray();
    for (Scene span : spans) {
      Map<String, Node> byPath = new LinkedHashMap<>();
      List<String> paths = span.paths();
      for (int i = 0; i < paths.size(); i++) {
        byPath.putIfAbsent(paths.get(i), span.nodes().get(i));
      }
      nodes.add(byPath);
    }
  }

  /** Whether a scene is a span of motion by itself. */
  static boolean is(Scene scene) {
    boolean sampled =
        scene.clips().size() == 1
            && scene.skins().isEmpty()
            && scene.clips().get(0).tracks().stream()
                .noneMatch(t -> t.interpolation() == Clip.Interpolation.CUBIC);
    boolean moves = !scene.caches().isEmpty() || !scene.sequences().isEmpty() || sampled;
    return moves && span(scene)[1] > span(scene)[0];
  }

  private static double[] span(Scene scene) {
    double start = Double.POSITIVE_INFINITY;
    double end = Double.NEGATIVE_INFINITY;
    for (Clip clip : Caches.timeline(scene)) {
      start = Math.min(start, clip.startSeconds());
      end = Math.max(end, clip.endSeconds());
    }
    return new double[] {start, end};
  }

  /**
   * @param scenes of the files, in the order of their numbers
   * @param paths of the files
   */
  static Scene join(List<Scene> scenes, List<String> paths, Findings findings) {
    List<Scene> spans = new ArrayList<>(scenes);
    spans.sort(Comparator.comparingDouble(s -> span(s)[0]));
    String where =
        CargoPath.name(paths.get(0)) + " … " + CargoPath.name(paths.get(paths.size() - 1));
    findings.add(
        Finding.of(
                "numbered-spans",
                Severity.NOTE,
                where,
                "These numbered files were read as spans of one motion, one after another.")
            .measured(paths.size() + " files")
            .offer(Offer.read("Read them as parts", ReadFields.RUNS, ReadFields.PARTS)));
    for (int i = 1; i < spans.size(); i++) {
      double[] before = span(spans.get(i - 1));
      double[] own = span(spans.get(i));
      if (own[0] < before[1] - SAME) {
        findings.add(
            Finding.of(
                    "spans-overlap",
                    Severity.LOOK,
                    where,
                    "Two spans lie over each other in time: up to the end of the earlier one it"
                        + " counts.")
                .measured(own[0] + " s is before " + before[1] + " s"));
      }
    }
    return new SpanRun(spans).joined();
  }

  private Scene joined() {
    List<PointCache> caches = new ArrayList<>();
    List<MeshSequence> sequences = new ArrayList<>();
    Set<Integer> done = new LinkedHashSet<>();
    nodes
        .get(0)
        .forEach(
            (path, node) -> {
              if (node.content() instanceof Node.Content.MeshContent content
                  && done.add(content.meshId())) {
                mesh(path, content.meshId(), caches, sequences);
              }
            });
    List<Clip> clips = clip();
    Set<String> further = new LinkedHashSet<>();
    nodes.forEach(n -> further.addAll(n.keySet()));
    further.removeAll(nodes.get(0).keySet());
    further.forEach(path -> scene.unread("The part " + path + " of later spans"));
    return scene.caches(caches).sequences(sequences).clips(clips).build();
  }

  private void mesh(
      String path, int meshId, List<PointCache> caches, List<MeshSequence> sequences) {
    PolygonMesh mesh = first.mesh(meshId).orElseThrow();
    List<PointCache> points = new ArrayList<>();
    List<MeshSequence> others = new ArrayList<>();
    boolean moves = false;
    boolean changes = false;
    for (int i = 0; i < spans.size(); i++) {
      Scene span = spans.get(i);
      Node node = nodes.get(i).get(path);
      if (node == null || !(node.content() instanceof Node.Content.MeshContent content)) {
        continue;
      }
      PolygonMesh own = span.mesh(content.meshId()).orElseThrow();
      PointCache cache = Caches.of(span, own.id());
      MeshSequence sequence =
          span.sequences().stream().filter(s -> s.meshId() == own.id()).findFirst().orElse(null);
      moves |= cache != null;
      changes |= sequence != null || !FrameRun.fits(mesh, own);
      moves |= i > 0 && !mesh.points().isSame(own.points());
      double start = starts[i];
      points.add(cache != null ? cache : new Still(own, start));
      others.add(
          sequence != null
              ? sequence
              : cache != null ? new CacheMeshes(cache, own) : new Resting(own, start));
    }
    if (changes) {
      sequences.add(JoinedSequence.of(scene.newId(), mesh.name(), meshId, others));
    } else if (moves) {
      caches.add(JoinedCache.of(scene.newId(), mesh.name(), meshId, points));
    }
  }

  /** What a track or a text moves, by what it is called in every span. */
  private record Moved(String target, String property) {}

  /** What the ids of a span's nodes, cameras, lights and materials are called in every span. */
  private Map<Integer, String> targets(int span) {
    Map<Integer, String> targets = new LinkedHashMap<>();
    nodes
        .get(span)
        .forEach(
            (path, node) -> {
              targets.putIfAbsent(node.id(), path);
              if (node.content() instanceof Node.Content.CameraContent camera) {
                targets.putIfAbsent(camera.cameraId(), "camera of " + path);
              } else if (node.content() instanceof Node.Content.LightContent light) {
                targets.putIfAbsent(light.lightId(), "light of " + path);
              }
            });
    spans.get(span).materials().forEach(m -> targets.putIfAbsent(m.id(), "material " + m.name()));
    return targets;
  }

  /** One clip over all spans: keys one after another. */
  private List<Clip> clip() {
    Map<String, Integer> ids = new LinkedHashMap<>();
    targets(0).forEach((id, target) -> ids.putIfAbsent(target, id));
    Map<Moved, Clip.Track[]> moved = new LinkedHashMap<>();
    Map<Moved, Clip.Words[]> said = new LinkedHashMap<>();
    double start = Double.POSITIVE_INFINITY;
    double end = Double.NEGATIVE_INFINITY;
    int count = spans.size();
    for (int i = 0; i < count; i++) {
      int span = i;
      Map<Integer, String> targets = targets(i);
      for (Clip clip : spans.get(i).clips()) {
        for (Clip.Track track : clip.tracks()) {
          Moved key = new Moved(targets.get(track.targetId()), track.property());
          take(key, ids, k -> moved.computeIfAbsent(k, n -> new Clip.Track[count])[span] = track);
        }
        for (Clip.Words words : clip.words()) {
          Moved key = new Moved(targets.get(words.targetId()), words.property());
          take(key, ids, k -> said.computeIfAbsent(k, n -> new Clip.Words[count])[span] = words);
        }
      }
      start = Math.min(start, starts[i]);
      end = Math.max(end, span(spans.get(i))[1]);
    }
    if (moved.isEmpty() && said.isEmpty()) {
      return List.of();
    }
    List<Clip.Track> tracks = new ArrayList<>();
    moved.forEach((key, parts) -> tracks.add(track(key, ids.get(key.target), parts)));
    List<Clip.Words> words = new ArrayList<>();
    said.forEach((key, parts) -> words.add(words(key, ids.get(key.target), parts)));
    String name = first.clips().isEmpty() ? first.name() : first.clips().get(0).name();
    return List.of(new Clip(scene.newId(), name, start, end, tracks, List.of(), words));
  }

  /** Takes what moves something that the first span has too; else tells that it does not land. */
  private void take(Moved key, Map<String, Integer> ids, Consumer<Moved> taken) {
    if (key.target != null && ids.containsKey(key.target)) {
      taken.accept(key);
    } else {
      String what = key.target == null ? "a value" : key.target;
      scene.unread("Motion (" + key.property + ") of " + what + " in later spans");
    }
  }

  /**
   * The keys of all spans; where a node rests in one, a key at its place there. Of other values the
   * one before holds.
   *
   * @param parts a span, {@code null} where nothing moves
   */
  private Clip.Track track(Moved key, int id, Clip.Track[] parts) {
    Clip.Track like = Arrays.stream(parts).filter(Objects::nonNull).findFirst().orElseThrow();
    int n = like.components();
    DoubleList times = new DoubleList(64);
    DoubleList values = new DoubleList(64 * n);
    double last = Double.NEGATIVE_INFINITY;
    for (int i = 0; i < parts.length; i++) {
      Node own = nodes.get(i).get(key.target);
      double[] rest = parts[i] == null && own != null ? rest(own, key.property) : null;
      double[] at = parts[i] != null ? parts[i].timesSeconds() : new double[] {starts[i]};
      double[] found = parts[i] != null ? parts[i].values() : rest;
      for (int k = 0; found != null && k < at.length; k++) {
        if (at[k] > last + SAME) {
          times.add(at[k]);
          last = at[k];
          for (int c = 0; c < n; c++) {
            values.add(found[n * k + c]);
          }
        }
      }
    }
    return new Clip.Track(
        id, key.property, like.interpolation(), n, times.toArray(), values.toArray(), null, null);
  }

  private static Clip.Words words(Moved key, int id, Clip.Words[] parts) {
    DoubleList times = new DoubleList(64);
    List<String> values = new ArrayList<>();
    double last = Double.NEGATIVE_INFINITY;
    for (Clip.Words part : parts) {
      for (int k = 0; part != null && k < part.timesSeconds().length; k++) {
        if (part.timesSeconds()[k] > last + SAME) {
          last = part.timesSeconds()[k];
          times.add(last);
          values.add(part.values().get(k));
        }
      }
    }
    return new Clip.Words(id, key.property, times.toArray(), values);
  }

  /** Where a node stands in a span in which it does not move; {@code null} for other values. */
  private static double[] rest(Node node, String property) {
    Trs trs = node.transform() instanceof Trs own ? own : Trs.nearest(node.transform().toMatrix());
    return switch (property) {
      case Clip.TRANSLATION ->
          new double[] {trs.translation().x(), trs.translation().y(), trs.translation().z()};
      case Clip.ROTATION ->
          new double[] {
            trs.rotation().x(), trs.rotation().y(), trs.rotation().z(), trs.rotation().w()
          };
      case Clip.SCALE -> new double[] {trs.scale().x(), trs.scale().y(), trs.scale().z()};
      default -> null;
    };
  }

  /** A mesh at one moment. */
  private interface Once extends Samples {
    PolygonMesh mesh();

    double seconds();

    @Override
    default int id() {
      return -1;
    }

    @Override
    default String name() {
      return mesh().name();
    }

    @Override
    default int meshId() {
      return mesh().id();
    }

    @Override
    default int sampleCount() {
      return 1;
    }

    @Override
    default double timeSeconds(int sample) {
      return seconds();
    }
  }

  /** Points that rest in a span. */
  private record Still(PolygonMesh mesh, double seconds) implements Once, PointCache {
    @Override
    public int pointCount() {
      return mesh.points().count();
    }

    @Override
    public void read(int sample, int from, int count, float[] target) {
      for (int i = 0; i < 3 * count; i++) {
        target[i] = (float) mesh.points().at(3 * from + i);
      }
    }
  }

  /** A mesh that rests in a span. */
  private record Resting(PolygonMesh mesh, double seconds) implements Once, MeshSequence {
    @Override
    public PolygonMesh mesh(int sample) {
      return mesh;
    }
  }
}
