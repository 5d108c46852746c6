package ferry.stone.core.format.usd.write.rig;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.scene.node.Skin;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * Which nodes are joints of which skeleton. Joints that one skin has, and those below one another,
 * are of one skeleton; what stands between them is a joint too.
 */
public final class Rig {
  private final List<Node> nodes;
  private final int[] group;
  private final TreeMap<Integer, TreeSet<Integer>> skeletons = new TreeMap<>();
  private final Map<Integer, Integer> ofSkin = new HashMap<>();

  public Rig(Scene scene) {
    nodes = scene.nodes();
    group = new int[nodes.size()];
    Map<Integer, Integer> places = scene.nodePlaces();
    for (int i = 0; i < group.length; i++) {
      group[i] = nodes.get(i).content() instanceof Content.Joint ? i : -1;
    }
    for (Skin skin : scene.skins()) {
      int first = -1;
      for (int id : skin.jointNodeIds()) {
        int place = places.getOrDefault(id, -1);
        if (place >= 0) {
          group[place] = group[place] < 0 ? place : group[place];
          first = first < 0 ? place : first;
          unite(first, place);
        }
      }
    }
    boolean more = true;
    while (more) {
      more = fill();
    }
    for (int i = 0; i < group.length; i++) {
      if (group[i] >= 0) {
        skeletons.computeIfAbsent(root(i), k -> new TreeSet<>()).add(i);
      }
    }
    for (Skin skin : scene.skins()) {
      for (int id : skin.jointNodeIds()) {
        int place = places.getOrDefault(id, -1);
        if (place >= 0) {
          ofSkin.putIfAbsent(skin.id(), root(place));
        }
      }
    }
  }

  private int root(int place) {
    int at = place;
    while (group[at] != at) {
      group[at] = group[group[at]];
      at = group[at];
    }
    return at;
  }

  private void unite(int a, int b) {
    int ra = root(a);
    int rb = root(b);
    group[Math.max(ra, rb)] = Math.min(ra, rb);
  }

  /**
   * Joins joints below one another, and makes joints of what stands between; whether any changed.
   */
  private boolean fill() {
    boolean changed = false;
    Map<Integer, List<Integer>> tops = new HashMap<>();
    for (int i = 0; i < group.length; i++) {
      int parent = nodes.get(i).parent();
      if (group[i] < 0) {
        continue;
      }
      if (parent >= 0 && group[parent] >= 0) {
        if (root(parent) != root(i)) {
          unite(parent, i);
          changed = true;
        }
      } else {
        tops.computeIfAbsent(root(i), k -> new ArrayList<>()).add(i);
      }
    }
    for (List<Integer> several : tops.values()) {
      int above = nodes.get(several.get(0)).parent();
      for (int top : several) {
        above = common(above, nodes.get(top).parent());
      }
      for (int top : several) {
        for (int at = nodes.get(top).parent();
            at >= 0 && at != above;
            at = nodes.get(at).parent()) {
          if (group[at] < 0) {
            group[at] = at;
            unite(at, top);
            changed = true;
          }
        }
      }
    }
    return changed;
  }

  /** The lowest node above both, or one of them; −1 for none. */
  private int common(int a, int b) {
    TreeSet<Integer> above = new TreeSet<>();
    for (int at = a; at >= 0; at = nodes.get(at).parent()) {
      above.add(at);
    }
    for (int at = b; at >= 0; at = nodes.get(at).parent()) {
      if (above.contains(at)) {
        return at;
      }
    }
    return -1;
  }

  public boolean isJoint(int place) {
    return group[place] >= 0;
  }

  /** The skeleton of a joint, by one of its joints. */
  public int skeleton(int place) {
    return root(place);
  }

  /** The skeleton of a skin, −1 for one without joints. */
  int ofSkin(int skinId) {
    return ofSkin.getOrDefault(skinId, -1);
  }

  /** Places of the joints of each skeleton, parents first. */
  public Map<Integer, TreeSet<Integer>> skeletons() {
    return skeletons;
  }

  /** The node that a skeleton stands in, −1 for the top. */
  public int holder(int skeleton) {
    return nodes.get(skeletons.get(skeleton).first()).parent();
  }
}
