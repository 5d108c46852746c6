package ferry.stone.core.scene;

import ferry.stone.core.scene.node.CopySet;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.scene.node.Purpose;
import ferry.stone.core.scene.time.Clip;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Places at which a node shows branches, one of several: groups that are nothing but a place for
 * the one branch below them. By places in the scene's list of nodes.
 *
 * @param holder that lists them
 * @param groups the places in their order
 * @param kinds which branch each shows, from 0
 */
public record BranchList(int holder, int[] groups, int[] kinds) {

  /** How many branches there are to show. */
  public int kindCount() {
    return Arrays.stream(kinds).max().orElse(-1) + 1;
  }

  /** The first place that shows a branch. */
  public int first(int kind) {
    for (int i = 0; i < kinds.length; i++) {
      if (kinds[i] == kind) {
        return groups[i];
      }
    }
    throw new IllegalArgumentException("no branch " + kind);
  }

  /** Those of a scene that are still nothing but that. */
  public static List<BranchList> of(Scene scene) {
    Map<Integer, List<CopySet>> byHolder = new LinkedHashMap<>();
    Map<Integer, Integer> places = scene.nodePlaces();
    for (CopySet set : Copies.branches(scene)) {
      Integer holder = places.get(set.holderId());
      if (holder != null) {
        byHolder.computeIfAbsent(holder, k -> new ArrayList<>()).add(set);
      }
    }
    if (byHolder.isEmpty()) {
      return List.of();
    }
    List<List<Integer>> children = children(scene);
    Set<Integer> others = otherwise(scene);
    List<BranchList> lists = new ArrayList<>();
    byHolder.forEach(
        (holder, sets) -> {
          Map<Integer, Integer> kinds = new HashMap<>();
          for (int k = 0; k < sets.size(); k++) {
            for (int id : sets.get(k).nodeIds()) {
              kinds.put(places.get(id), k);
            }
          }
          BranchList list = list(scene, holder, children, kinds, sets.size());
          boolean plain =
              list != null
                  && Arrays.stream(list.groups)
                      .noneMatch(g -> others.contains(scene.nodes().get(g).id()));
          if (plain) {
            lists.add(list);
          }
        });
    return lists;
  }

  private static List<List<Integer>> children(Scene scene) {
    List<List<Integer>> children = new ArrayList<>();
    for (int i = 0; i < scene.nodes().size(); i++) {
      children.add(new ArrayList<>(0));
      int parent = scene.nodes().get(i).parent();
      if (parent >= 0) {
        children.get(parent).add(i);
      }
    }
    return children;
  }

  /** What moves otherwise than by its place, or not on straight lines between keys. */
  private static Set<Integer> otherwise(Scene scene) {
    Set<Integer> ids = new HashSet<>();
    for (Clip clip : scene.clips()) {
      for (Clip.Track track : clip.tracks()) {
        if (!track.isTransform() || track.interpolation() == Clip.Interpolation.STEP) {
          ids.add(track.targetId());
        }
      }
    }
    return ids;
  }

  private static BranchList list(
      Scene scene,
      int holder,
      List<List<Integer>> children,
      Map<Integer, Integer> kinds,
      int sets) {
    Node own = scene.nodes().get(holder);
    List<Integer> groups = children.get(holder);
    int[] kind = new int[groups.size()];
    int next = sets;
    for (int i = 0; i < kind.length; i++) {
      int group = groups.get(i);
      Node node = scene.nodes().get(group);
      boolean place =
          node.content() instanceof Content.Group
              && node.name().equals(Copies.name(own.name(), i))
              && node.visible()
              && node.purpose() == Purpose.DEFAULT
              && node.properties().isEmpty()
              && node.geometric() == LocalTransform.IDENTITY
              && (node.transform() instanceof Trs || node.transform() == LocalTransform.IDENTITY)
              && children.get(group).size() == 1;
      if (!place) {
        return null;
      }
      Integer known = kinds.get(group);
      kind[i] = known == null ? next++ : known;
    }
    boolean holds = own.content() instanceof Content.Group && kind.length > 0;
    return holds
        ? new BranchList(holder, groups.stream().mapToInt(Integer::intValue).toArray(), kind)
        : null;
  }
}
