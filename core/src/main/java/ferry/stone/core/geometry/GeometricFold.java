package ferry.stone.core.geometry;

import ferry.stone.core.scene.Clip;
import ferry.stone.core.scene.Clip.Track;
import ferry.stone.core.scene.LocalTransform;
import ferry.stone.core.scene.LocalTransform.Trs;
import ferry.stone.core.scene.Node;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.joml.Quaterniond;
import org.joml.Quaterniondc;
import org.joml.Vector3d;

/**
 * Does away with geometric transforms, for formats that have none. In a node that nothing hangs on
 * they go into the node's own transform and its motion; elsewhere what the node shows moves to a
 * child of its own.
 */
public final class GeometricFold {
  private static final double SAME = 1e-12;

  /** Ends the name of a child that was made for what its parent showed. */
  public static final String SHAPE = "_shape";

  private final Scene scene;
  private final Set<Integer> parents = new HashSet<>();
  private final Set<Integer> moving = new HashSet<>();
  private final Map<Integer, Quaterniondc> turns = new HashMap<>();
  private final Map<Integer, Integer> movedTo = new HashMap<>();

  private GeometricFold(Scene scene) {
    this.scene = scene;
    scene.nodes().forEach(n -> parents.add(n.parent()));
    scene.clips().stream()
        .flatMap(c -> c.tracks().stream())
        .filter(Track::isTransform)
        .forEach(t -> moving.add(t.targetId()));
  }

  public static Scene fold(Scene scene) {
    boolean any = scene.nodes().stream().anyMatch(n -> n.geometric() != LocalTransform.IDENTITY);
    return any ? new GeometricFold(scene).folded() : scene;
  }

  private Scene folded() {
    SceneBuilder builder = scene.toBuilder();
    List<Node> nodes = new ArrayList<>();
    int[] newPlace = new int[scene.nodes().size()];
    for (int i = 0; i < newPlace.length; i++) {
      Node node = scene.nodes().get(i);
      int parent = node.parent() < 0 ? -1 : newPlace[node.parent()];
      Node placed = node.withParent(parent).withGeometric(LocalTransform.IDENTITY);
      newPlace[i] = nodes.size();
      if (node.geometric() == LocalTransform.IDENTITY) {
        nodes.add(placed);
      } else if (canTake(node, i)) {
        nodes.add(placed.withTransform(product(node)));
      } else {
        nodes.add(placed.withContent(Node.Content.GROUP));
        int id = builder.newId();
        movedTo.put(node.id(), id);
        nodes.add(
            Node.of(id, node.name() + SHAPE, newPlace[i], node.content())
                .withTransform(node.geometric())
                .withVisible(node.visible()));
      }
    }
    return builder.nodes(nodes).clips(scene.clips().stream().map(this::clip).toList()).build();
  }

  private boolean canTake(Node node, int place) {
    if (parents.contains(place) || node.content() instanceof Node.Content.Joint) {
      return false;
    }
    if (!moving.contains(node.id())) {
      return true;
    }
    boolean turnsOnly = isTurn(node.geometric()) && isUniform(node.transform());
    boolean scaled =
        scene.clips().stream()
            .flatMap(c -> c.tracks().stream())
            .anyMatch(t -> t.targetId() == node.id() && t.property().equals(Clip.SCALE));
    if (turnsOnly && !scaled) {
      turns.put(node.id(), ((Trs) node.geometric()).rotation());
      return true;
    }
    return false;
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

  private static LocalTransform product(Node node) {
    if (isTurn(node.geometric()) && isUniform(node.transform())) {
      Trs own = plain(node.transform());
      return Trs.of(
          new Vector3d(own.translation()),
          new Quaterniond(own.rotation()).mul(((Trs) node.geometric()).rotation()),
          new Vector3d(own.scale()));
    }
    return new LocalTransform.MatrixTransform(
        node.transform().toMatrix().mul(node.geometric().toMatrix()));
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
