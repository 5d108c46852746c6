package ferry.stone.core.landing;

import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.landing.PartFiles.Origin;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneMap;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * A scene of one part alone: what hangs on it, the joints that move it, and what these hang on. Its
 * pivot or base can be put on the origin; where nothing else moves it, it then stands by itself
 * without the groups that it hung on.
 */
final class PartScene {
  private static final double SHEAR = 1e-9;

  private PartScene() {}

  static Scene of(Scene scene, int part, Origin origin) {
    boolean[] below = below(scene, part);
    boolean[] kept = kept(scene, below);
    boolean moves = origin != Origin.PLACE;
    boolean alone = moves && isAlone(scene, part, below);
    Vector3d point = point(scene, part, below, origin);
    Scene whole = alone ? onItsOwn(scene, part, point) : scene;
    boolean[] stays = alone ? below : kept;
    List<Integer> gone = new ArrayList<>();
    for (int i = 0; i < stays.length; i++) {
      // A part that stands by itself hangs on nothing any more; else what stays has its parents.
      int parent = i == part && alone ? -1 : scene.nodes().get(i).parent();
      if (!stays[i] && (parent < 0 || stays[parent])) {
        gone.add(scene.nodes().get(i).id());
      }
    }
    List<Step> steps = new ArrayList<>();
    if (!gone.isEmpty()) {
      steps.add(new Step("others", "remove", Map.of("what", "parts"), true, gone));
    }
    steps.add(new Step("materials", "remove", Map.of("what", "unusedMaterials"), true, List.of()));
    var stages = Handling.run(whole, steps, Progress.NONE);
    Scene result = withoutOthers(Handling.result(whole, stages));
    return moves && !alone
        ? result.toBuilder()
            .placement(new Matrix4d().translation(point.negate()).mul(result.placement()))
            .build()
        : result;
  }

  private static boolean[] below(Scene scene, int part) {
    boolean[] below = new boolean[scene.nodes().size()];
    for (int i = part; i < below.length; i++) {
      int parent = scene.nodes().get(i).parent();
      below[i] = i == part || parent >= 0 && below[parent];
    }
    return below;
  }

  private static boolean[] kept(Scene scene, boolean[] below) {
    boolean[] kept = below.clone();
    Set<Integer> skins = skins(scene, below);
    Map<Integer, Integer> places = scene.nodePlaces();
    for (Skin skin : scene.skins()) {
      for (int joint : skins.contains(skin.id()) ? skin.jointNodeIds() : new int[0]) {
        kept[places.get(joint)] = true;
      }
    }
    for (int i = kept.length - 1; i >= 0; i--) {
      int parent = scene.nodes().get(i).parent();
      if (kept[i] && parent >= 0) {
        kept[parent] = true;
      }
    }
    return kept;
  }

  private static Set<Integer> skins(Scene scene, boolean[] below) {
    Set<Integer> skins = new HashSet<>();
    for (int i = 0; i < below.length; i++) {
      if (below[i]
          && scene.nodes().get(i).content() instanceof Node.Content.MeshContent content
          && content.skinId() >= 0) {
        skins.add(content.skinId());
      }
    }
    return skins;
  }

  /** Whether neither joints nor clips on it or above it move the part. */
  private static boolean isAlone(Scene scene, int part, boolean[] below) {
    if (!skins(scene, below).isEmpty()) {
      return false;
    }
    Set<Integer> above = new HashSet<>();
    for (int at = part; at >= 0; at = scene.nodes().get(at).parent()) {
      above.add(scene.nodes().get(at).id());
    }
    for (Clip clip : scene.clips()) {
      for (Clip.Track track : clip.tracks()) {
        if (above.contains(track.targetId())) {
          return false;
        }
      }
    }
    return true;
  }

  /** What goes to the origin. */
  private static Vector3d point(Scene scene, int part, boolean[] below, Origin origin) {
    Vector3d pivot = scene.worldMatrices()[part].getTranslation(new Vector3d());
    if (origin != Origin.BASE) {
      return pivot;
    }
    Bounds bounds = Bounds.EMPTY;
    Map<Integer, Integer> places = scene.nodePlaces();
    for (Scene.ShownMesh shown : scene.shownMeshes()) {
      if (below[places.get(shown.node().id())]) {
        bounds = bounds.union(shown.mesh().points().bounds(shown.world()));
      }
    }
    if (bounds.isEmpty()) {
      return pivot;
    }
    SignedAxis up = scene.frame().up();
    Vector3d base = bounds.centre();
    base.setComponent(up.index(), up.sign() > 0 ? bounds.min(up.index()) : bounds.max(up.index()));
    return base;
  }

  /** The part at the top, turned and scaled as it was, with a point of it on the origin. */
  private static Scene onItsOwn(Scene scene, int part, Vector3d point) {
    Matrix4d world = new Matrix4d().translation(-point.x, -point.y, -point.z);
    world.mul(scene.worldMatrices()[part]);
    Trs plain = Trs.nearest(world);
    LocalTransform own =
        plain.toMatrix().equals(world, SHEAR)
            ? plain
            : new LocalTransform.MatrixTransform(new Matrix4d(world));
    List<Node> nodes = new ArrayList<>();
    for (int i = 0; i < scene.nodes().size(); i++) {
      Node node = scene.nodes().get(i);
      nodes.add(i == part ? node.withParent(-1).withTransform(own) : node);
    }
    return scene.toBuilder().nodes(nodes).placement(new Matrix4d()).build();
  }

  /** Without clips and sets that have nothing to do with what is left. */
  private static Scene withoutOthers(Scene scene) {
    Scene left = SceneMap.same(scene).apply(scene);
    return left.toBuilder()
        .clips(left.clips().stream().filter(c -> !c.tracks().isEmpty()).toList())
        .sets(left.sets().stream().filter(s -> s.nodeIds().length > 0).toList())
        .build();
  }
}
