package ferry.stone.core.survey.motion;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Figures;
import ferry.stone.core.motion.Caches;
import ferry.stone.core.motion.ClipPoses;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Cancel;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * Props that touch a bending surface at rest and leave it when it moves: they hang on the mesh, or
 * on a control that did not travel, and not on the joint that moves the surface there.
 */
public final class PropChecks {
  /** Moments of a clip that are looked at. */
  private static final int MOMENTS = 9;

  /** A prop is smaller than this part of the surface that it hangs on. */
  private static final double SMALL = 0.5;

  /** It touches within this part of the surface's size. */
  private static final double TOUCHES = 0.03;

  /** It leaves when its gap grows by this part of the surface's size. */
  private static final double LEAVES = 0.05;

  /** On the joint the gap must grow by this part at most of what it grows now. */
  private static final double HELD = 0.3;

  private static final int MOST_PROPS = 200;
  private static final int MOST_POINTS = 20_000;
  private static final int PROP_POINTS = 100;

  private final Scene scene;
  private final double metres;
  private final Findings findings;
  private final Map<Integer, PolygonMesh> meshes;
  private final Map<Integer, Skin> skins = new HashMap<>();
  private final Set<Integer> joints = new HashSet<>();
  private final List<Integer> props = new ArrayList<>();
  private final List<Surface> surfaces = new ArrayList<>();

  /**
   * A surface that bends.
   *
   * @param step every how many-th vertex is looked at
   * @param box around it at rest
   */
  private record Surface(int place, Skin skin, int step, double[] rest, Bounds box) {
    double size() {
      return box.diagonal();
    }
  }

  /**
   * What a prop touches.
   *
   * @param point where, in the world at rest
   * @param vertex of the surface
   */
  private record Touch(Surface surface, Vector3d point, int vertex, double gap) {}

  /**
   * @param metres of a unit of the scene, as it is likeliest read
   */
  public PropChecks(Scene scene, double metres, Findings findings) {
    this.scene = scene;
    this.metres = metres;
    this.findings = findings;
    meshes = scene.meshesById();
    for (Skin skin : scene.skins()) {
      skins.put(skin.id(), skin);
      for (int joint : skin.jointNodeIds()) {
        joints.add(joint);
      }
    }
  }

  public void run() {
    List<Clip> clips = Caches.timeline(scene);
    if (clips.isEmpty() || scene.skins().isEmpty() && scene.caches().isEmpty()) {
      return;
    }
    sort();
    if (props.isEmpty() || surfaces.isEmpty() || props.size() > MOST_PROPS) {
      return;
    }
    Pose rest = Pose.rest(scene);
    Map<Integer, Touch> touches = new HashMap<>();
    for (int prop : props) {
      Cancel.point();
      Touch touch = touch(prop, rest);
      if (touch != null) {
        touches.put(prop, touch);
      }
    }
    if (!touches.isEmpty()) {
      for (Clip clip : clips) {
        follow(clip, rest, touches);
      }
    }
  }

  /** Stiff meshes that hang on no joint, and surfaces that joints or caches bend. */
  private void sort() {
    boolean[] carried = new boolean[scene.nodes().size()];
    for (int i = 0; i < carried.length; i++) {
      Node node = scene.nodes().get(i);
      int parent = node.parent();
      carried[i] = joints.contains(node.id()) || parent >= 0 && carried[parent];
      if (!(node.content() instanceof Node.Content.MeshContent content)) {
        continue;
      }
      PolygonMesh mesh = meshes.get(content.meshId());
      Skin skin = skins.get(content.skinId());
      boolean cached = Caches.of(scene, mesh.id()) != null;
      if (skin != null || cached) {
        surface(i, mesh, cached ? null : skin);
      } else if (!carried[i]
          && parent >= 0
          && mesh.points().count() > 0
          && mesh.morphs().isEmpty()) {
        props.add(i);
      }
    }
  }

  private void surface(int place, PolygonMesh mesh, Skin skin) {
    double[] points = Deform.world(scene, Pose.rest(scene), place);
    Bounds box = Bounds.of(points);
    if (!box.isEmpty()) {
      int step = Math.max(1, mesh.points().count() / MOST_POINTS);
      surfaces.add(new Surface(place, skin, step, points, box));
    }
  }

  /** The nearest vertices of a prop and a surface at rest; {@code null} where it touches none. */
  private Touch touch(int prop, Pose rest) {
    double[] own = Deform.world(scene, rest, prop);
    Bounds box = Bounds.of(own);
    int stride = 3 * Math.max(1, own.length / 3 / PROP_POINTS);
    Touch best = null;
    for (Surface surface : surfaces) {
      boolean far = apart(box, surface.box()) > TOUCHES * surface.size();
      if (far || !(box.diagonal() < SMALL * surface.size()) || isAbove(prop, surface.place())) {
        continue;
      }
      for (int v = 0; v + 2 < own.length; v += stride) {
        int nearest = nearest(surface.rest(), surface.step(), own[v], own[v + 1], own[v + 2]);
        double gap = gap(surface.rest(), nearest, own[v], own[v + 1], own[v + 2]);
        boolean touches = gap < TOUCHES * surface.size();
        if (touches && (best == null || gap < best.gap())) {
          Vector3d point = new Vector3d(own[v], own[v + 1], own[v + 2]);
          best = new Touch(surface, point, nearest, gap);
        }
      }
    }
    return best;
  }

  /** How far two boxes are from each other along the axis where that is most. */
  private static double apart(Bounds a, Bounds b) {
    double most = 0;
    for (int axis = 0; axis < 3; axis++) {
      most = Math.max(most, Math.max(a.min(axis) - b.max(axis), b.min(axis) - a.max(axis)));
    }
    return most;
  }

  private boolean isAbove(int place, int below) {
    for (int at = below; at >= 0; at = scene.nodes().get(at).parent()) {
      if (at == place) {
        return true;
      }
    }
    return false;
  }

  private static int nearest(double[] points, int step, double x, double y, double z) {
    int best = 0;
    double least = Double.POSITIVE_INFINITY;
    for (int v = 0; v + 2 < points.length; v += 3 * step) {
      double dx = points[v] - x;
      double dy = points[v + 1] - y;
      double dz = points[v + 2] - z;
      double square = dx * dx + dy * dy + dz * dz;
      if (square < least) {
        least = square;
        best = v / 3;
      }
    }
    return best;
  }

  private static double gap(double[] points, int v, double x, double y, double z) {
    return Vector3d.distance(points[3 * v], points[3 * v + 1], points[3 * v + 2], x, y, z);
  }

  /** Gaps of each prop over a clip; those that leave are told once and looked at no more. */
  private void follow(Clip clip, Pose rest, Map<Integer, Touch> touches) {
    ClipPoses poses = ClipPoses.of(scene, clip);
    Map<Integer, double[]> farthest = new HashMap<>();
    Map<Integer, Integer> places = scene.nodePlaces();
    for (int m = 0; m < MOMENTS; m++) {
      Cancel.point();
      double part = (double) m / (MOMENTS - 1);
      double t = clip.startSeconds() + part * (clip.endSeconds() - clip.startSeconds());
      Pose pose = poses.at(t);
      Map<Surface, double[]> bent = new HashMap<>();
      for (var entry : touches.entrySet()) {
        Touch touch = entry.getValue();
        Surface surface = touch.surface();
        double[] points = bent.computeIfAbsent(surface, s -> Deform.world(scene, pose, s.place()));
        double now = gap(points, surface, touch.point(), carry(rest, pose, entry.getKey()));
        int joint = strongest(surface.skin(), touch.vertex());
        double held =
            joint < 0
                ? Double.POSITIVE_INFINITY
                : gap(points, surface, touch.point(), carry(rest, pose, places.get(joint)));
        double[] most = farthest.computeIfAbsent(entry.getKey(), k -> new double[3]);
        if (now > most[0]) {
          most[0] = now;
          most[2] = t;
        }
        most[1] = Math.max(most[1], held);
      }
    }
    farthest.forEach(
        (prop, most) -> {
          Touch touch = touches.get(prop);
          double grows = most[0] - touch.gap();
          if (grows > LEAVES * touch.surface().size()) {
            told(prop, touch, most, clip, most[1] - touch.gap() < HELD * grows);
            touches.remove(prop);
          }
        });
  }

  /** What carries the world at rest to a pose, as a node goes. */
  private static Matrix4d carry(Pose rest, Pose pose, int place) {
    return new Matrix4d(pose.world()[place]).mul(new Matrix4d(rest.world()[place]).invert());
  }

  private static double gap(double[] points, Surface surface, Vector3d touch, Matrix4d carry) {
    Vector3d p = carry.transformPosition(new Vector3d(touch));
    return gap(points, nearest(points, surface.step(), p.x, p.y, p.z), p.x, p.y, p.z);
  }

  /** Node id of the joint that moves a vertex most, −1 for none. */
  private static int strongest(Skin skin, int vertex) {
    int best = -1;
    for (int i = skin == null ? 0 : skin.offsets()[vertex];
        skin != null && i < skin.offsets()[vertex + 1];
        i++) {
      best = best < 0 || skin.weights()[i] > skin.weights()[best] ? i : best;
    }
    return best < 0 ? -1 : skin.jointNodeIds()[skin.joints()[best]];
  }

  private void told(int prop, Touch touch, double[] most, Clip clip, boolean holds) {
    Node node = scene.nodes().get(prop);
    Node on = scene.nodes().get(touch.surface().place());
    int joint = holds ? strongest(touch.surface().skin(), touch.vertex()) : -1;
    String jointName = joint < 0 ? "" : scene.nodes().get(scene.nodePlaces().get(joint)).name();
    Finding finding =
        Finding.of(
                "prop-leaves-surface",
                Severity.LOOK,
                node.name(),
                "It touches "
                    + on.name()
                    + " at rest and leaves it when that moves"
                    + (joint < 0
                        ? ": hang it on what moves the surface there."
                        : ": hang it on the joint " + jointName + "."))
            .measured(Figures.length(most[0] * metres) + " apart")
            .evidence(
                Figures.length(touch.gap() * metres)
                    + " at rest; farthest at "
                    + String.format(java.util.Locale.ROOT, "%.2f s of %s", most[2], clip.name()))
            .nodes(List.of(node.id()));
    findings.add(
        joint < 0
            ? finding
            : finding.offer(
                Offer.step("Hang it on " + jointName, "parent", Map.of("parent", joint))
                    .on(List.of(node.id()))));
  }
}
