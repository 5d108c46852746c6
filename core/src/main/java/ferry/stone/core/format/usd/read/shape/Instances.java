package ferry.stone.core.format.usd.read.shape;

import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.node.CopySet;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Which prims are instances of one another: what is below them is the same, and read once. */
public final class Instances {
  private final Map<String, String> firstOf = new HashMap<>();
  private final Map<String, String> roots = new HashMap<>();
  private final Map<String, List<Integer>> nodes = new LinkedHashMap<>();

  /** Takes a prim that is an instance by itself, with the id of its node. */
  public void add(UsdPrim prim, String prototype, int nodeId) {
    String own = path(prim.path());
    String first = firstOf.putIfAbsent(prototype, own);
    roots.put(prim.path(), first == null ? own : first);
    nodes.computeIfAbsent(prototype, k -> new ArrayList<>()).add(nodeId);
  }

  /** A path as the first of all instances has it. */
  public String path(String path) {
    for (int slash = path.length(); slash > 0; slash = path.lastIndexOf('/', slash - 1)) {
      String first = roots.get(path.substring(0, slash));
      if (first != null) {
        return first + path.substring(slash);
      }
    }
    return path;
  }

  /** Tells the scene which of its parts are copies. */
  public void tell(SceneBuilder scene) {
    for (List<Integer> ids : nodes.values()) {
      if (ids.size() > 1) {
        int[] all = ids.stream().mapToInt(Integer::intValue).toArray();
        scene.add(new CopySet(CopySet.Kind.BRANCHES, -1, all));
      }
    }
  }
}
