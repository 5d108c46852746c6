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
    try {
      return new Work(scene, params, progress).run(ChosenCaches.meshes(scene, selection));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static final class Work {
    private final Scene scene;
    private final double most;
    private final Progress progress;
    private final SceneBuilder builder;
    private final Clip clip;
    private final ClipPoses poses;
    private final List<Clip.Track> tracks = new ArrayList<>();
    private final List<Finding> findings = new ArrayList<>();
    private final Map<Integer, PolygonMesh> meshes = new HashMap<>();
    private final Map<Integer, Node> nodes = new HashMap<>();
    private final boolean[] parents;
    private double farthest;
    private double start = Double.POSITIVE_INFINITY;
    private double end = Double.NEGATIVE_INFINITY;

    Work(Scene scene, Params params, Progress progress) {
      this.scene = scene;
      this.progress = progress;
      most = params.tolerance() / 1000 / scene.frame().metresPerUnit();
      builder = scene.toBuilder();
      clip = scene.clips().size() == 1 ? scene.clips().get(0) : null;
      poses = ClipPoses.of(scene, clip);
      parents = new boolean[scene.nodes().size()];
      for (Node node : scene.nodes()) {
        if (node.parent() >= 0) {
          parents[node.parent()] = true;
        }
      }
    }

    StepResult run(Set<Integer> chosen) throws IOException {
      List<PointCache> left = new ArrayList<>();
      Map<Integer, PolygonMesh> byId = scene.meshesById();
      int done = 0;
      for (PointCache cache : scene.caches()) {
        progress.checkCancelled();
        PolygonMesh mesh = byId.get(cache.meshId());
        boolean meant =
            mesh != null
                && chosen.contains(mesh.id())
                && mesh.points().count() == cache.pointCount();
        RigidFit fit = meant ? RigidFit.of(cache, mesh.points(), most) : null;
        if (fit == null) {
          left.add(cache);
          if (meant) {
            findings.add(
                Finding.of(
                    "cache-bends",
                    Severity.NOTE,
                    cache.name(),
                    "Its points do not move as one stiff thing: it stays a cache."));
          }
          continue;
        }
        moved(cache, mesh, fit);
        done++;
      }
      if (done == 0) {
        return new StepResult(scene, findings, "nothing is stiff");
      }
      Scene result =
          builder
              .caches(left)
              .meshes(scene.meshes().stream().map(m -> meshes.getOrDefault(m.id(), m)).toList())
              .nodes(scene.nodes().stream().map(n -> nodes.getOrDefault(n.id(), n)).toList())
              .clips(MotionClip.joined(scene, builder.newId(), tracks, nodes.keySet(), start, end))
              .build();
      String off = String.format(Locale.ROOT, "%.3f mm", 1000 * farthest * unit());
      return new StepResult(
          result, findings, Figures.count(done, "cache") + " · up to " + off + " off");
    }

    private double unit() {
      return scene.frame().metresPerUnit();
    }

    private void moved(PointCache cache, PolygonMesh mesh, RigidFit fit) {
      farthest = Math.max(farthest, fit.farthest());
      double[] seconds = cache.allSeconds();
      start = Math.min(start, seconds[0]);
      end = Math.max(end, seconds[seconds.length - 1]);
      // A part with others below it keeps its origin, which is theirs.
      boolean alone = true;
      for (int i = 0; i < parents.length; i++) {
        alone &= !shows(i, mesh) || !parents[i];
      }
      Vector3d centre = alone ? fit.centre() : new Vector3d();
      Matrix4d toCentre = new Matrix4d().translation(centre);
      if (alone) {
        Matrix4d back = new Matrix4d().translation(new Vector3d(centre).negate());
        meshes.put(mesh.id(), mesh.withPoints(mesh.points().transform(back)));
      }
      for (int i = 0; i < parents.length; i++) {
        if (shows(i, mesh)) {
          node(i, fit, seconds, toCentre);
        }
      }
    }

    private boolean shows(int place, PolygonMesh mesh) {
      return scene.nodes().get(place).content() instanceof Node.Content.MeshContent content
          && content.meshId() == mesh.id();
    }

    private void node(int place, RigidFit fit, double[] seconds, Matrix4d toCentre) {
      Node node = scene.nodes().get(place);
      SampledPlaces places = new SampledPlaces(seconds);
      Trs first = null;
      for (int s = 0; s < seconds.length; s++) {
        Matrix4d local = local(poses.at(seconds[s]), place);
        Trs trs = places.add(local.mul(fit.places()[s]).mul(toCentre));
        first = first == null ? trs : first;
      }
      tracks.removeIf(t -> t.targetId() == node.id());
      tracks.addAll(places.tracks(node.id(), first));
      nodes.put(node.id(), node.withTransform(first));
    }

    private Matrix4d local(Pose pose, int place) {
      int parent = scene.nodes().get(place).parent();
      Matrix4d above =
          parent < 0 ? new Matrix4d(scene.placement()) : new Matrix4d(pose.world()[parent]);
      return above.invert().mul(pose.world()[place]);
    }
  }
}
