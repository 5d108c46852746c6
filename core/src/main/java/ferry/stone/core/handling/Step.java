package ferry.stone.core.handling;

import java.util.List;
import java.util.Map;

/**
 * One step of a handling, as it is stored.
 *
 * @param id unique in its handling
 * @param kind see {@link StepKind#kind()}
 * @param params by field name
 * @param enabled whether it is in effect
 * @param nodeIds chosen nodes, empty for all
 */
public record Step(
    String id, String kind, Map<String, Object> params, boolean enabled, List<Integer> nodeIds) {
  public Step {
    params = params == null ? Map.of() : Map.copyOf(params);
    nodeIds = nodeIds == null ? List.of() : List.copyOf(nodeIds);
  }
}
