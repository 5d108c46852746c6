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
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Numbered files that each hold a span of one motion, as exporters cut long caches: joined into one
 * scene, that of the first span, whose parts are found in the others by their paths.
 */
final class SpanRun {
  private final List<Scene> spans;
  private final Scene first;
  private final SceneBuilder scene;
  private final List<Map<String, Node>> nodes = new ArrayList<>();

  private SpanRun(List<Scene> spans) {
    this.spans = spans;
    first = spans.get(0);
    scene = first.toBuilder();
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
      if (own[0] < before[1] - 1e-6) {
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
      moves |= i > 0 && !samePoints(mesh, own);
      double start = span(span)[0];
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

  private static boolean samePoints(PolygonMesh a, PolygonMesh b) {
    boolean same = a.points().count() == b.points().count();
    for (int i = 0; same && i < 3 * a.points().count(); i++) {
      same = a.points().at(i) == b.points().at(i);
    }
    return same;
  }

  /** One clip over all spans: keys one after another. */
  private List<Clip> clip() {
    Map<List<String>, List<Clip.Track>> byTarget = new LinkedHashMap<>();
    List<Clip.Words> words = new ArrayList<>();
    double start = Double.POSITIVE_INFINITY;
    double end = Double.NEGATIVE_INFINITY;
    for (int i = 0; i < spans.size(); i++) {
      Map<Integer, String> paths = new LinkedHashMap<>();
      nodes.get(i).forEach((path, node) -> paths.putIfAbsent(node.id(), path));
      for (Clip clip : spans.get(i).clips()) {
        for (Clip.Track track : clip.tracks()) {
          String path = paths.get(track.targetId());
          if (path != null && nodes.get(0).containsKey(path)) {
            byTarget
                .computeIfAbsent(List.of(path, track.property()), k -> new ArrayList<>())
                .add(track);
          } else if (i == 0) {
            byTarget
                .computeIfAbsent(List.of("", track.property()), k -> new ArrayList<>())
                .add(track);
          }
        }
        words.addAll(i == 0 ? clip.words() : List.of());
      }
      start = Math.min(start, span(spans.get(i))[0]);
      end = Math.max(end, span(spans.get(i))[1]);
    }
    if (byTarget.isEmpty() && words.isEmpty()) {
      return List.of();
    }
    List<Clip.Track> tracks = new ArrayList<>();
    byTarget.forEach(
        (key, parts) -> {
          Node node = nodes.get(0).get(key.get(0));
          if (node == null) {
            tracks.addAll(parts);
          } else {
            tracks.add(joined(node, key.get(0), key.get(1), parts));
          }
        });
    String name = first.clips().isEmpty() ? first.name() : first.clips().get(0).name();
    return List.of(new Clip(scene.newId(), name, start, end, tracks, List.of(), words));
  }

  private Clip.Track joined(Node node, String path, String property, List<Clip.Track> parts) {
    Clip.Track like = parts.get(0);
    int n = like.components();
    DoubleList times = new DoubleList(64);
    DoubleList values = new DoubleList(64 * n);
    double last = Double.NEGATIVE_INFINITY;
    for (int i = 0; i < spans.size(); i++) {
      Node own = nodes.get(i).get(path);
      Clip.Track track = own == null ? null : track(spans.get(i), own, property);
      double[] at = track == null ? new double[] {span(spans.get(i))[0]} : track.timesSeconds();
      double[] rest = track == null && own != null ? rest(own, property) : null;
      for (int k = 0; k < at.length && (track != null || rest != null); k++) {
        if (at[k] > last + 1e-6) {
          times.add(at[k]);
          last = at[k];
          for (int c = 0; c < n; c++) {
            values.add(track != null ? track.values()[n * k + c] : rest[c]);
          }
        }
      }
    }
    return new Clip.Track(
        node.id(),
        property,
        like.interpolation(),
        n,
        times.toArray(),
        values.toArray(),
        null,
        null);
  }

  private static Clip.Track track(Scene span, Node node, String property) {
    for (Clip clip : span.clips()) {
      for (Clip.Track track : clip.tracks()) {
        if (track.targetId() == node.id() && track.property().equals(property)) {
          return track;
        }
      }
    }
    return null;
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
