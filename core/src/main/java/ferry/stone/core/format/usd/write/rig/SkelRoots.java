package ferry.stone.core.format.usd.write.rig;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Which groups hold a skeleton together with all that it moves: nothing else is moved by it. */
public final class SkelRoots {
  private SkelRoots() {}

  /** Whether a part has to be added that can be one. */
  public static boolean needed(Scene scene) {
    return of(scene, new Rig(scene)).contains(-1);
  }

  /** Places of the groups; −1 among them where there is none for something. */
  public static Set<Integer> of(Scene scene, Rig rig) {
    List<Set<Integer>> together = new ArrayList<>();
    Map<Integer, PolygonMesh> meshes = scene.meshesById();
    for (int key : rig.skeletons().keySet()) {
      Set<Integer> members = new HashSet<>();
      int holder = rig.holder(key);
      boolean bound = false;
      for (int i = 0; i < scene.nodes().size(); i++) {
        if (scene.nodes().get(i).content() instanceof Content.MeshContent content
            && content.skinId() >= 0
            && rig.ofSkin(content.skinId()) == key) {
          members.add(above(scene, rig, i));
          bound = true;
        }
      }
      if (bound || holder < 0) {
        members.add(holder);
        together.add(members);
      }
    }
    for (int i = 0; i < scene.nodes().size(); i++) {
      if (scene.nodes().get(i).content() instanceof Content.MeshContent content
          && content.skinId() < 0
          && !meshes.get(content.meshId()).morphs().isEmpty()) {
        together.add(Set.of(above(scene, rig, i)));
      }
    }
    Set<Integer> roots = new HashSet<>();
    for (Set<Integer> members : together) {
      int common = members.iterator().next();
      for (int member : members) {
        common = common(scene, common, member);
      }
      while (common >= 0 && !isGroup(scene, rig, common)) {
        common = scene.nodes().get(common).parent();
      }
      roots.add(common);
    }
    // One inside of another is not one by itself.
    Set<Integer> outer = new HashSet<>();
    for (int root : roots) {
      boolean inside = false;
      for (int at = root < 0 ? -1 : scene.nodes().get(root).parent();
          at >= 0;
          at = scene.nodes().get(at).parent()) {
        inside |= roots.contains(at);
      }
      if (!inside) {
        outer.add(root);
      }
    }
    return outer;
  }

  private static boolean isGroup(Scene scene, Rig rig, int place) {
    Content content = scene.nodes().get(place).content();
    boolean group = content instanceof Content.Group || content instanceof Content.DetailGroup;
    return group && !rig.isJoint(place);
  }

  /** What a mesh stands in once what hangs on joints stands beside them. */
  private static int above(Scene scene, Rig rig, int place) {
    int parent = scene.nodes().get(place).parent();
    return parent >= 0 && rig.isJoint(parent) ? rig.holder(rig.skeleton(parent)) : parent;
  }

  private static int common(Scene scene, int a, int b) {
    Set<Integer> above = new HashSet<>();
    for (int at = a; at >= 0; at = scene.nodes().get(at).parent()) {
      above.add(at);
    }
    for (int at = b; at >= 0; at = scene.nodes().get(at).parent()) {
      if (above.contains(at)) {
        return at;
      }
    }
    return -1;
  }

  /** The root that a node stands in, −1 for none. */
  public static int over(List<Node> nodes, Set<Integer> roots, int place) {
    for (int at = place; at >= 0; at = nodes.get(at).parent()) {
      if (roots.contains(at)) {
        return at;
      }
    }
    return -1;
  }
}
