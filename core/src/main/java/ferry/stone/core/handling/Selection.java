package ferry.stone.core.handling;

import ferry.stone.core.scene.Node;
import java.util.List;

/**
 * What a step works on.
 *
 * @param nodeIds chosen nodes; empty for all
 */
public record Selection(List<Integer> nodeIds) {
  public static final Selection ALL = new Selection(List.of());

  public Selection {
    nodeIds = nodeIds == null ? List.of() : List.copyOf(nodeIds);
  }

  public boolean holds(Node node) {
    return nodeIds.isEmpty() || nodeIds.contains(node.id());
  }
}
