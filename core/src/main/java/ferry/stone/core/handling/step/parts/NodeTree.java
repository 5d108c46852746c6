package ferry.stone.core.handling.step.parts;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.SceneMap;
import ferry.stone.core.scene.node.Node;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** The hierarchy of a scene while it is changed: nodes by id, parents by id, order kept. */
public final class NodeTree {
  private static final int NONE = -1;
  private final Map<Integer, Node> nodes = new LinkedHashMap<>();
  private final Map<Integer, Integer> parents = new HashMap<>();

  public NodeTree(Scene scene) {
    for (Node node : scene.nodes()) {
      nodes.put(node.id(), node);
      parents.put(node.id(), node.parent() < 0 ? NONE : scene.nodes().get(node.parent()).id());
    }
  }

  Node get(int id) {
    return nodes.get(id);
  }

  /** Id of the parent, −1 for a root. */
  public int parent(int id) {
    return parents.get(id);
  }

  List<Integer> children(int id) {
    return nodes.keySet().stream().filter(n -> parents.get(n) == id).toList();
  }

  void put(Node node) {
    nodes.put(node.id(), node);
  }

  /** Adds a node as the last. */
  public void add(Node node, int parentId) {
    nodes.put(node.id(), node);
    parents.put(node.id(), parentId);
  }

  void setParent(int id, int parentId) {
    parents.put(id, parentId);
  }

  /** Whether a node is another or stands below it. */
  boolean isWithin(int id, int above) {
    for (int at = id; at != NONE; at = parents.get(at)) {
      if (at == above) {
        return true;
      }
    }
    return false;
  }

  /** Takes nodes away with all that hangs on them. */
  void remove(Set<Integer> ids) {
    Set<Integer> gone = new HashSet<>(ids);
    for (Node node : ordered()) {
      if (gone.contains(parents.get(node.id()))) {
        gone.add(node.id());
      }
    }
    nodes.keySet().removeAll(gone);
  }

  /** Moves children to another place in the order: behind each other, in the order given. */
  void inOrder(List<Integer> ids) {
    for (int id : ids) {
      Node node = nodes.remove(id);
      nodes.put(id, node);
    }
  }

  private List<Node> ordered() {
    List<Node> result = new ArrayList<>();
    Map<Integer, Integer> places = new HashMap<>();
    for (int id : nodes.keySet()) {
      emit(id, result, places);
    }
    return result;
  }

  /** Parents first, without recursion: chains of thousands of joints are met. */
  private void emit(int id, List<Node> result, Map<Integer, Integer> places) {
    List<Integer> chain = new ArrayList<>();
    for (int at = id; at != NONE && !places.containsKey(at); at = parents.get(at)) {
      chain.add(at);
    }
    for (int i = chain.size() - 1; i >= 0; i--) {
      int at = chain.get(i);
      int parent = parents.get(at);
      places.put(at, result.size());
      result.add(nodes.get(at).withParent(parent == NONE ? NONE : places.get(parent)));
    }
  }

  /** The scene with these nodes; tracks, skins and sets lose what is no longer there. */
  public SceneBuilder into(SceneBuilder builder) {
    Scene changed = builder.nodes(ordered()).build();
    return SceneMap.same(changed).apply(changed).toBuilder();
  }
}
