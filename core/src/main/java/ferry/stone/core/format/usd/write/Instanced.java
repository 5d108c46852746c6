package ferry.stone.core.format.usd.write;

import ferry.stone.core.format.usd.write.rig.Rig;
import ferry.stone.core.scene.BranchList;
import ferry.stone.core.scene.Copies;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.CopySet;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Branches that are alike and can be instances: groups with nothing below them that joints or
 * shapes move, and no copies inside of copies. What is below the first of them stands in a class.
 * And places of one shape that a node lists.
 */
final class Instanced {
  private final List<CopySet> sets = new ArrayList<>();
  private final int[] setOf;
  private final boolean[] below;
  private final boolean[] again;
  private final Map<Integer, int[]> lists = new HashMap<>();
  private final boolean[] place;
  private final List<BranchList> branches = new ArrayList<>();
  private final boolean[] group;
  private boolean others;
  private boolean moves;

  Instanced(Scene scene, Rig rig) {
    List<Node> nodes = scene.nodes();
    Map<Integer, Integer> places = scene.nodePlaces();
    Map<Integer, PolygonMesh> meshes = scene.meshesById();
    setOf = new int[nodes.size()];
    below = new boolean[nodes.size()];
    again = new boolean[nodes.size()];
    place = new boolean[nodes.size()];
    group = new boolean[nodes.size()];
    Arrays.fill(setOf, -1);
    boolean[] bends = bends(nodes, meshes, rig);
    List<CopySet> all = Copies.branches(scene);
    for (BranchList list : BranchList.of(scene)) {
      if (!bends[list.holder()] && isAlone(scene, list, places)) {
        add(nodes, list);
      }
    }
    for (CopySet set : all) {
      if (isListed(set, places)) {
        sets.add(set);
        continue;
      }
      int[] tops = Arrays.stream(set.nodeIds()).map(places::get).toArray();
      boolean fits =
          Arrays.stream(tops)
              .allMatch(
                  top ->
                      !bends[top]
                          && !isInList(nodes, top)
                          && !isUnder(nodes, top)
                          && nodes.get(top).content() instanceof Content.Group);
      if (!fits) {
        others = true;
        continue;
      }
      for (int k = 0; k < tops.length; k++) {
        setOf[tops[k]] = sets.size();
        mark(nodes, tops[k], k > 0);
      }
      sets.add(set);
    }
    List<CopySet> standing = Copies.listed(scene);
    for (CopySet set : Copies.listedAndMoving(scene)) {
      int holder = places.get(set.holderId());
      int[] listed = Arrays.stream(set.nodeIds()).map(places::get).toArray();
      boolean inList = isInList(nodes, holder);
      if (!inList && !rig.isJoint(holder) && Arrays.stream(listed).noneMatch(rig::isJoint)) {
        lists.put(holder, listed);
        moves |= standing.stream().noneMatch(s -> s.holderId() == set.holderId());
        sets.add(set);
        for (int at : listed) {
          place[at] = true;
        }
      }
    }
  }

  private void add(List<Node> nodes, BranchList list) {
    branches.add(list);
    boolean[] seen = new boolean[list.kindCount()];
    for (int i = 0; i < list.groups().length; i++) {
      int top = list.groups()[i];
      group[top] = true;
      mark(nodes, top, seen[list.kinds()[i]]);
      seen[list.kinds()[i]] = true;
    }
  }

  /** Whether no other copies are inside of a list, and it in none. */
  private static boolean isAlone(Scene scene, BranchList list, Map<Integer, Integer> places) {
    List<Node> nodes = scene.nodes();
    boolean[] inside = new boolean[nodes.size()];
    inside[list.holder()] = true;
    boolean[] tops = new boolean[nodes.size()];
    for (int i = list.holder() + 1; i < inside.length; i++) {
      inside[i] = nodes.get(i).parent() >= 0 && inside[nodes.get(i).parent()];
    }
    int holderId = nodes.get(list.holder()).id();
    for (CopySet set : scene.copies()) {
      for (int id : set.holderId() == holderId ? new int[0] : set.nodeIds()) {
        Integer at = places.get(id);
        tops[at == null ? 0 : at] |= at != null;
        if (at != null && inside[at]) {
          return false;
        }
      }
    }
    for (int at = list.holder(); at >= 0; at = nodes.get(at).parent()) {
      if (tops[at]) {
        return false;
      }
    }
    return true;
  }

  /** Whether the copies of a set are places of a list. */
  private boolean isListed(CopySet set, Map<Integer, Integer> places) {
    return branches.stream().anyMatch(b -> places.getOrDefault(set.holderId(), -1) == b.holder());
  }

  private boolean isInList(List<Node> nodes, int place) {
    for (int at = place; at >= 0; at = nodes.get(at).parent()) {
      if (group[at]) {
        return true;
      }
    }
    return false;
  }

  /** Which nodes are joints, or hold what joints or shapes move. */
  private static boolean[] bends(List<Node> nodes, Map<Integer, PolygonMesh> meshes, Rig rig) {
    boolean[] bends = new boolean[nodes.size()];
    for (int i = nodes.size() - 1; i >= 0; i--) {
      Node node = nodes.get(i);
      bends[i] |=
          rig.isJoint(i)
              || node.content() instanceof Content.MeshContent content
                  && (content.skinId() >= 0 || !meshes.get(content.meshId()).morphs().isEmpty());
      if (bends[i] && node.parent() >= 0) {
        bends[node.parent()] = true;
      }
    }
    return bends;
  }

  /** Whether a node stands below a copy, or holds one. */
  private boolean isUnder(List<Node> nodes, int place) {
    for (int at = place; at >= 0; at = nodes.get(at).parent()) {
      if (setOf[at] >= 0) {
        return true;
      }
    }
    for (int i = place + 1; i < nodes.size(); i++) {
      for (int at = i; setOf[i] >= 0 && at >= 0; at = nodes.get(at).parent()) {
        if (at == place) {
          return true;
        }
      }
    }
    return false;
  }

  private void mark(List<Node> nodes, int top, boolean isAgain) {
    boolean[] inside = new boolean[nodes.size()];
    inside[top] = true;
    for (int i = top + 1; i < nodes.size(); i++) {
      int parent = nodes.get(i).parent();
      inside[i] = parent >= 0 && inside[parent];
      below[i] |= inside[i];
      again[i] |= inside[i] && isAgain;
    }
  }

  /** The sets that are instances. */
  List<CopySet> sets() {
    return sets;
  }

  /** Whether some copies are parts of their own. */
  boolean hasOthers() {
    return others;
  }

  /** The set whose copy a node is, −1 for none. */
  int set(int place) {
    return setOf[place];
  }

  /** The places that a node lists at which one shape is shown; {@code null} for none. */
  int[] list(int holder) {
    return lists.get(holder);
  }

  /** The places at which a node shows branches; {@code null} for none. */
  BranchList branches(int holder) {
    return branches.stream().filter(b -> b.holder() == holder).findFirst().orElse(null);
  }

  /** Whether a node is a place of a branch in a list: the list says all of it. */
  boolean isGroup(int node) {
    return group[node];
  }

  /** Whether lists say more than places of one shape that stand still. */
  boolean listsMore() {
    return moves || !branches.isEmpty();
  }

  /** Whether a node is a place in a list, and nothing else. */
  boolean isPlace(int node) {
    return place[node];
  }

  /** Whether a node stands below a copy that was written already. */
  boolean isAgain(int place) {
    return again[place];
  }

  /** Whether a node stands below a copy. */
  boolean isBelow(int place) {
    return below[place];
  }
}
