package ferry.stone.core.geometry.frame;

import ferry.stone.core.geometry.mesh.MeshMove;
import ferry.stone.core.geometry.triangle.GeometricFold;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
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
import java.util.function.Predicate;
import org.joml.Matrix3d;
import org.joml.Matrix4d;
import org.joml.Matrix4dc;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * Does away with transforms that are no translation · rotation · scale, for formats that hold
 * nothing else; nothing moves by it. With M such a transform and N what comes nearest, the rest
 * N⁻¹·M goes down into meshes that nobody else shows and that stand still. Elsewhere the node gets
 * a child of its own: by its singular values M = (T·U·Σ)·(Vᵀ), two plain transforms. Where a clip
 * moves such a node, the child is plain while the clip runs, as the node's own motion says.
 *
 * @param scene without shear
 * @param nodeIds nodes that had some
 * @param added how many children were made
 */
public record ShearSplit(Scene scene, List<Integer> nodeIds, int added) {
  /** Parts of a transform's own size that count as rounding. */
  private static final double TOLERANCE = 1e-7;

  /**
   * @param asked nodes whose transform has to be plain
   */
  public static ShearSplit of(Scene scene, Predicate<Node> asked) {
    Work work = new Work(scene, asked);
    return work.any() ? work.run() : new ShearSplit(scene, List.of(), 0);
  }

  /** Whether a matrix is a translation, rotation and scale. */
  public static boolean isPlain(Matrix4dc m) {
    Vector3d[] c = {
      m.getColumn(0, new org.joml.Vector4d()).xyz(new Vector3d()),
      m.getColumn(1, new org.joml.Vector4d()).xyz(new Vector3d()),
      m.getColumn(2, new org.joml.Vector4d()).xyz(new Vector3d())
    };
    for (int i = 0; i < 3; i++) {
      Vector3d a = c[i];
      Vector3d b = c[(i + 1) % 3];
      if (Math.abs(a.dot(b)) > TOLERANCE * a.length() * b.length()) {
        return false;
      }
    }
    return true;
  }

  private static final class Work {
    private final Scene scene;
    private final Predicate<Node> asked;
    private final Set<Integer> moving = new HashSet<>();
    private final Map<Integer, Integer> shownBy = new HashMap<>();
    private final boolean[] takes;
    private final List<Integer> found = new ArrayList<>();
    private final Map<Integer, Integer> childOf = new HashMap<>();
    private final Map<Integer, Matrix4d> intoMesh = new HashMap<>();

    Work(Scene scene, Predicate<Node> asked) {
      this.scene = scene;
      this.asked = asked;
      scene.clips().stream()
          .flatMap(c -> c.tracks().stream())
          .filter(Track::isTransform)
          .forEach(t -> moving.add(t.targetId()));
      for (Node node : scene.nodes()) {
        if (node.content() instanceof Node.Content.MeshContent content) {
          shownBy.merge(content.meshId(), 1, Integer::sum);
        }
      }
      takes = new boolean[scene.nodes().size()];
    }

    boolean any() {
      return scene.nodes().stream()
          .anyMatch(n -> asked.test(n) && !isPlain(n.transform().toMatrix()));
    }

    ShearSplit run() {
      whoTakes();
      SceneBuilder builder = scene.toBuilder();
      List<Node> nodes = new ArrayList<>();
      int count = scene.nodes().size();
      int[] below = new int[count];
      Matrix4d[] rest = new Matrix4d[count];
      for (int i = 0; i < count; i++) {
        Node node = scene.nodes().get(i);
        int parent = node.parent() < 0 ? -1 : below[node.parent()];
        Matrix4d above = node.parent() < 0 ? null : rest[node.parent()];
        Node placed = node.withParent(parent);
        below[i] = nodes.size();
        if (above == null && (!asked.test(node) || isPlain(node.transform().toMatrix()))) {
          nodes.add(placed);
          continue;
        }
        Matrix4d m = node.transform().toMatrix();
        m = above == null ? m : new Matrix4d(above).mul(m);
        if (above == null) {
          found.add(node.id());
        }
        if (takes[i]) {
          Trs near = Trs.nearest(m);
          nodes.add(placed.withTransform(near));
          rest[i] = near.toMatrix().invert().mul(m);
          if (node.content() instanceof Node.Content.MeshContent content) {
            intoMesh.put(content.meshId(), rest[i]);
          }
        } else {
          split(builder, nodes, placed, m);
          below[i] = nodes.size() - 1;
        }
      }
      List<PolygonMesh> meshes = new ArrayList<>();
      for (PolygonMesh mesh : scene.meshes()) {
        Matrix4d bake = intoMesh.get(mesh.id());
        meshes.add(bake == null ? mesh : MeshMove.by(mesh, bake));
      }
      List<Clip> clips = scene.clips().stream().map(this::clip).toList();
      Scene split = builder.nodes(nodes).meshes(meshes).clips(clips).build();
      return new ShearSplit(split, found, childOf.size());
    }

    /** Nodes that can take a rest from above, with all that hangs on them. */
    private void whoTakes() {
      Map<Integer, PolygonMesh> meshes = scene.meshesById();
      for (int i = takes.length - 1; i >= 0; i--) {
        Node node = scene.nodes().get(i);
        boolean plain =
            node.content() instanceof Node.Content.Group
                || node.content() instanceof Node.Content.DetailGroup;
        boolean mesh =
            node.content() instanceof Node.Content.MeshContent content
                && meshes.containsKey(content.meshId())
                && shownBy.get(content.meshId()) == 1
                && scene.skin(content.skinId()).isEmpty();
        takes[i] = (plain || mesh) && !moving.contains(node.id());
      }
      for (int i = takes.length - 1; i >= 0; i--) {
        int parent = scene.nodes().get(i).parent();
        if (!takes[i] && parent >= 0) {
          takes[parent] = false;
        }
      }
    }

    private void split(SceneBuilder builder, List<Node> nodes, Node node, Matrix4d m) {
      SingularValues parts = SingularValues.of(m.get3x3(new Matrix3d()));
      Trs outer =
          Trs.of(
              m.getTranslation(new Vector3d()),
              new Quaterniond().setFromNormalized(parts.u()),
              parts.scale());
      Trs inner =
          Trs.of(
              new Vector3d(),
              new Quaterniond().setFromNormalized(parts.v().transpose(new Matrix3d())),
              new Vector3d(1));
      boolean joint = node.content() instanceof Node.Content.Joint;
      nodes.add(
          node.withTransform(outer)
              .withContent(Node.Content.GROUP)
              .withGeometric(LocalTransform.IDENTITY));
      int id = builder.newId();
      childOf.put(node.id(), id);
      // A skin names its joint by id: the joint itself must stand where it stood, so it is the
      // child that gets the id, and the node above a new one.
      Node child =
          Node.of(id, node.name() + GeometricFold.SHAPE, nodes.size() - 1, node.content())
              .withTransform(inner)
              .withGeometric(node.geometric());
      if (joint) {
        nodes.set(nodes.size() - 1, nodes.get(nodes.size() - 1).withId(id));
        child = child.withId(node.id());
      }
      nodes.add(child);
    }

    private Clip clip(Clip clip) {
      Set<Integer> moved = new HashSet<>();
      List<Track> tracks = new ArrayList<>();
      for (Track track : clip.tracks()) {
        Integer child = childOf.get(track.targetId());
        boolean joint = child != null && isJoint(track.targetId());
        if (child != null && track.isTransform()) {
          moved.add(track.targetId());
          tracks.add(joint ? track.withTarget(child) : track);
        } else {
          tracks.add(child != null && track.isMorph() ? track.withTarget(child) : track);
        }
      }
      for (int id : moved) {
        boolean joint = isJoint(id);
        int outer = joint ? childOf.get(id) : id;
        int inner = joint ? id : childOf.get(id);
        complete(clip, id, outer, tracks);
        tracks.add(held(clip, inner, Clip.ROTATION, 0, 0, 0, 1));
      }
      return clip.withTracks(tracks).withKeys(clip.keys());
    }

    private boolean isJoint(int nodeId) {
      return scene.nodes().stream()
          .anyMatch(n -> n.id() == nodeId && n.content() instanceof Node.Content.Joint);
    }

    /** What the clip does not move stands as it would without the split. */
    private void complete(Clip clip, int id, int outer, List<Track> tracks) {
      Node node = scene.nodes().stream().filter(n -> n.id() == id).findFirst().orElseThrow();
      Trs rest = Trs.nearest(node.transform().toMatrix());
      Set<String> there = new HashSet<>();
      clip.tracks().stream().filter(t -> t.targetId() == id).forEach(t -> there.add(t.property()));
      var t = rest.translation();
      var r = rest.rotation();
      var s = rest.scale();
      if (!there.contains(Clip.TRANSLATION)) {
        tracks.add(held(clip, outer, Clip.TRANSLATION, t.x(), t.y(), t.z()));
      }
      if (!there.contains(Clip.ROTATION)) {
        tracks.add(held(clip, outer, Clip.ROTATION, r.x(), r.y(), r.z(), r.w()));
      }
      if (!there.contains(Clip.SCALE)) {
        tracks.add(held(clip, outer, Clip.SCALE, s.x(), s.y(), s.z()));
      }
    }

    private static Track held(Clip clip, int target, String property, double... value) {
      double[] times = {clip.startSeconds(), clip.endSeconds()};
      boolean one = !(times[1] > times[0]);
      double[] values = new double[value.length * (one ? 1 : 2)];
      for (int i = 0; i < values.length; i++) {
        values[i] = value[i % value.length];
      }
      return new Track(
          target,
          property,
          Interpolation.STEP,
          value.length,
          one ? new double[] {times[0]} : times,
          values,
          null,
          null);
    }
  }
}
