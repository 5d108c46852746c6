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
 * @param nodeIds picked nodes, empty for all; see {@link Selection}
 * @param pattern of names of parts it works on; empty for any
 * @param ofKind kind of parts it works on; empty for any
 */
public record Step(
    String id,
    String kind,
    Map<String, Object> params,
    boolean enabled,
    List<Integer> nodeIds,
    String pattern,
    String ofKind) {
  public Step {
    params = params == null ? Map.of() : Map.copyOf(params);
    nodeIds = nodeIds == null ? List.of() : List.copyOf(nodeIds);
    pattern = pattern == null ? "" : pattern;
    ofKind = ofKind == null ? "" : ofKind;
  }

  /** A step on picked parts, or on all. */
  public Step(
      String id, String kind, Map<String, Object> params, boolean enabled, List<Integer> nodeIds) {
    this(id, kind, params, enabled, nodeIds, "", "");
  }

  public Selection selection() {
    return new Selection(nodeIds, pattern, ofKind);
  }
}
