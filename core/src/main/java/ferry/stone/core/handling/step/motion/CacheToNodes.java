package ferry.stone.core.handling.step.motion;

import ferry.stone.core.field.Field;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.geometry.cache.RigidFit;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Figures;
import ferry.stone.core.motion.ClipPoses;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.scene.time.SampledPlaces;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * Lets parts move as wholes where caches only move and turn their points: what every format of
 * scenes carries, at a small part of the size. Each part turns about its middle.
 */
public final class CacheToNodes extends BasicStep<CacheToNodes.Params> {
  private static final double MOST = 1000;

  /**
   * @param tolerance millimetres that a point may be off in any sample
   */
  public record Params(double tolerance) {
    public Params {
      Field.within("tolerance", tolerance, 0, MOST);
    }
  }

  public CacheToNodes() {
    super(
        Group.MOTION,
        "cacheToNodes",
        "Stiff caches as moving parts",
        "Where the points of a cache move and turn as one stiff thing, the part itself moves and"
            + " the cache goes. What bends keeps its cache, and is told.",
        Params.class,
        true,
        Field.number(
            "tolerance", "Points may be off", "mm", 0, MOST, 0.5, "In any sample; more bends."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    List<Finding> findings = new ArrayList<>();
    Map<PointCache, RigidFit> fits = new LinkedHashMap<>();
    Set<Integer> meshes = new HashSet<>();
    double most = params.tolerance() / 1000 / scene.frame().metresPerUnit();
    try {
      for (var entry : ChosenCaches.fitting(scene, selection).entrySet()) {
        progress.checkCancelled();
        PointCache cache = entry.getKey();
        RigidFit fit = RigidFit.of(cache, entry.getValue().points(), most);
        if (fit == null) {
          findings.add(
              Finding.of(
                  "cache-bends",
                  Severity.NOTE,
                  cache.name(),
                  "Its points do not move as one stiff thing: it stays a cache."));
        } else {
          fits.put(cache, fit);
          meshes.add(cache.meshId());
        }
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    if (fits.isEmpty()) {
      return new StepResult(scene, findings, "nothing is stiff");
    }
    Unrigged unrigged = new Unrigged(scene, meshes);
    findings.addAll(unrigged.findings());
    Scene result = new Work(unrigged.scene()).run(fits);
    double off = fits.values().stream().mapToDouble(RigidFit::farthest).max().orElseThrow();
    double millimetres = 1000 * off * scene.frame().metresPerUnit();
    String figure = String.format(Locale.ROOT, "up to %.3f mm off", millimetres);
    return new StepResult(result, findings, Figures.count(fits.size(), "cache") + " · " + figure);
  }

  private static final class Work {
    private final Scene scene;
    private final SceneBuilder builder;
    private final ClipPoses poses;
    private final List<Clip.Track> tracks = new ArrayList<>();
    private final Map<Integer, PolygonMesh> meshes = new HashMap<>();
    private final List<Node> nodes;
    private final Set<Integer> placed = new HashSet<>();
    private final boolean[] parents;

    Work(Scene scene) {
      this.scene = scene;
      builder = scene.toBuilder();
      nodes = new ArrayList<>(scene.nodes());
      poses = ClipPoses.of(scene, scene.clips().size() == 1 ? scene.clips().get(0) : null);
      parents = new boolean[nodes.size()];
      for (Node node : nodes) {
        if (node.parent() >= 0) {
          parents[node.parent()] = true;
        }
      }
    }

    Scene run(Map<PointCache, RigidFit> fits) {
      fits.forEach(this::moved);
      return builder
          .caches(scene.caches().stream().filter(c -> !fits.containsKey(c)).toList())
          .meshes(scene.meshes().stream().map(m -> meshes.getOrDefault(m.id(), m)).toList())
          .nodes(nodes)
          .clips(MotionClip.joined(scene, builder.newId(), tracks, placed, fits.keySet()))
          .build();
    }

    private void moved(PointCache cache, RigidFit fit) {
      PolygonMesh mesh = scene.mesh(cache.meshId()).orElseThrow();
      Matrix4d back = new Matrix4d().translation(new Vector3d(fit.centre()).negate());
      meshes.put(mesh.id(), mesh.withPoints(mesh.points().transform(back)));
      for (int i = 0; i < parents.length; i++) {
        if (scene.nodes().get(i).content() instanceof Node.Content.MeshContent content
            && content.meshId() == mesh.id()) {
          node(i, fit, cache.allSeconds());
        }
      }
    }

    private void node(int place, RigidFit fit, double[] seconds) {
      Node node = scene.nodes().get(place);
      Matrix4d shown = node.geometric().toMatrix();
      Matrix4d after = new Matrix4d(shown).invert();
      SampledPlaces places = new SampledPlaces(seconds);
      Trs first = null;
      for (int s = 0; s < seconds.length; s++) {
        Matrix4d local = parents[place] ? new Matrix4d() : local(poses.at(seconds[s]), place);
        // The mesh turns about its middle, where its origin is now.
        Matrix4d moved = local.mul(shown).mul(fit.places()[s]).translate(fit.centre()).mul(after);
        Trs trs = places.add(moved);
        first = first == null ? trs : first;
      }
      Node mover = node;
      if (parents[place]) {
        // What is below it does not move with the mesh: that gets a part of its own.
        mover =
            Node.of(builder.newId(), node.name() + "_moving", place, node.content())
                .withGeometric(node.geometric());
        nodes.set(
            place, node.withContent(Node.Content.GROUP).withGeometric(LocalTransform.IDENTITY));
        nodes.add(mover.withTransform(first));
      } else {
        nodes.set(place, node.withTransform(first));
      }
      placed.add(mover.id());
      tracks.addAll(places.tracks(mover.id(), first));
    }

    private Matrix4d local(Pose pose, int place) {
      int parent = scene.nodes().get(place).parent();
      Matrix4d above =
          parent < 0 ? new Matrix4d(scene.placement()) : new Matrix4d(pose.world()[parent]);
      return above.invert().mul(pose.world()[place]);
    }
  }
}
