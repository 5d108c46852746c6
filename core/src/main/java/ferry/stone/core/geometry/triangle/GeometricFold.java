package ferry.stone.core.geometry.triangle;

import ferry.stone.core.geometry.mesh.MeshMove;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Track;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Quaterniondc;
import org.joml.Vector3d;

/**
 * Does away with geometric transforms, for formats that have none. The origins of nodes stay where
 * they are. A mesh takes the transform into its numbers when all who show it have the same; the
 * turn of a camera or light that nothing hangs on goes into its node and its motion; elsewhere what
 * the node shows moves to a child of its own. What a skin moves does not ask where its node stands.
 */
public final class GeometricFold {
  private static final double SAME = 1e-12;

  /** Ends the name of a child that was made for what its parent showed. */
  public static final String SHAPE = "_shape";

  private final Scene scene;
  private final Set<Integer> parents = new HashSet<>();
  private final Map<Integer, Quaterniondc> turns = new HashMap<>();
  private final Map<Integer, Integer> movedTo = new HashMap<>();

  private GeometricFold(Scene scene) {
    this.scene = scene;
    scene.nodes().forEach(n -> parents.add(n.parent()));
  }

  public static Scene fold(Scene scene) {
    boolean any = scene.nodes().stream().anyMatch(n -> n.geometric() != LocalTransform.IDENTITY);
    return any ? new GeometricFold(scene).folded() : scene;
  }

  private Scene folded() {
    SceneBuilder builder = scene.toBuilder();
    List<Node> nodes = new ArrayList<>();
    int[] newPlace = new int[scene.nodes().size()];
    Map<Integer, Matrix4d> bakes = bakes();
    for (int i = 0; i < newPlace.length; i++) {
      Node node = scene.nodes().get(i);
      int parent = node.parent() < 0 ? -1 : newPlace[node.parent()];
      Node placed = node.withParent(parent).withGeometric(LocalTransform.IDENTITY);
      newPlace[i] = nodes.size();
      boolean mesh = node.content() instanceof Node.Content.MeshContent;
      if (node.content() instanceof Node.Content.KeptShape) {
        nodes.add(node.withParent(parent));
      } else if (node.geometric() == LocalTransform.IDENTITY
          || node.content() instanceof Node.Content.Group
          || mesh && (isSkinned(node) || bakes.containsKey(meshId(node)))) {
        nodes.add(placed);
      } else if (!mesh && canTurn(node, i)) {
        nodes.add(placed.withTransform(turned(node)));
      } else {
        nodes.add(placed.withContent(Node.Content.GROUP));
        int id = builder.newId();
        movedTo.put(node.id(), id);
        nodes.add(
            Node.of(id, node.name() + SHAPE, newPlace[i], node.content())
                .withTransform(node.geometric()));
      }
    }
    List<PolygonMesh> meshes = new ArrayList<>();
    for (PolygonMesh m : scene.meshes()) {
      meshes.add(bakes.containsKey(m.id()) ? MeshMove.by(m, bakes.get(m.id())) : m);
    }
    return builder
        .nodes(nodes)
        .meshes(meshes)
        .clips(scene.clips().stream().map(this::clip).toList())
        .build();
  }

  /** The transform that all who show a mesh have in common, by the mesh. */
  private Map<Integer, Matrix4d> bakes() {
    Map<Integer, Matrix4d> common = new HashMap<>();
    Set<Integer> differ = new HashSet<>();
    for (Node node : scene.nodes()) {
      if (node.content() instanceof Node.Content.MeshContent) {
        Matrix4d own = node.geometric().toMatrix();
        Matrix4d other = common.putIfAbsent(meshId(node), own);
        if (isSkinned(node) || other != null && !other.equals(own, SAME)) {
          differ.add(meshId(node));
        }
      }
    }
    common.keySet().removeAll(differ);
    common.values().removeIf(m -> m.equals(new Matrix4d(), 0));
    return common;
  }

  private static int meshId(Node node) {
    return ((Node.Content.MeshContent) node.content()).meshId();
  }

  private boolean isSkinned(Node node) {
    return node.content() instanceof Node.Content.MeshContent content
        && scene.skin(content.skinId()).isPresent();
  }

  /** Whether a turn of what the node shows can be a turn of the node, still or moving. */
  private boolean canTurn(Node node, int place) {
    if (parents.contains(place)
        || node.content() instanceof Node.Content.Joint
        || !isTurn(node.geometric())
        || !isUniform(node.transform())) {
      return false;
    }
    boolean scaled =
        scene.clips().stream()
            .flatMap(c -> c.tracks().stream())
            .anyMatch(t -> t.targetId() == node.id() && t.property().equals(Clip.SCALE));
    if (scaled) {
      return false;
    }
    turns.put(node.id(), ((Trs) node.geometric()).rotation());
    return true;
  }

  private static boolean isTurn(LocalTransform transform) {
    return transform instanceof Trs trs
        && trs.translation().lengthSquared() == 0
        && trs.scale().equals(1, 1, 1);
  }

  private static boolean isUniform(LocalTransform transform) {
    Trs trs = plain(transform);
    double even = SAME * Math.abs(trs.scale().x());
    return trs.toMatrix().equals(transform.toMatrix(), SAME)
        && Math.abs(trs.scale().x() - trs.scale().y()) <= even
        && Math.abs(trs.scale().y() - trs.scale().z()) <= even;
  }

  private static Trs plain(LocalTransform transform) {
    return transform instanceof Trs trs ? trs : Trs.nearest(transform.toMatrix());
  }

  private static LocalTransform turned(Node node) {
    Trs own = plain(node.transform());
    return Trs.of(
        new Vector3d(own.translation()),
        new Quaterniond(own.rotation()).mul(((Trs) node.geometric()).rotation()),
        new Vector3d(own.scale()));
  }

  private Clip clip(Clip clip) {
    List<Track> tracks = new ArrayList<>();
    for (Track track : clip.tracks()) {
      Quaterniondc turn = turns.get(track.targetId());
      if (turn != null && track.property().equals(Clip.ROTATION)) {
        tracks.add(
            track.withValues(
                turned(track.values(), turn),
                turned(track.inSlopes(), turn),
                turned(track.outSlopes(), turn)));
      } else if (track.isMorph() && movedTo.containsKey(track.targetId())) {
        tracks.add(track.withTarget(movedTo.get(track.targetId())));
      } else {
        tracks.add(track);
      }
    }
    return clip.withTracks(tracks);
  }

  private static double[] turned(double[] quaternions, Quaterniondc turn) {
    if (quaternions == null) {
      return null;
    }
    double[] result = new double[quaternions.length];
    Quaterniond q = new Quaterniond();
    for (int i = 0; i < result.length; i += 4) {
      q.set(quaternions[i], quaternions[i + 1], quaternions[i + 2], quaternions[i + 3]).mul(turn);
      result[i] = q.x;
      result[i + 1] = q.y;
      result[i + 2] = q.z;
      result[i + 3] = q.w;
    }
    return result;
  }
}
