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
 * @param nodeIds picked nodes by the ids that they have now; see {@link Selection}. They are not
 *     stored: {@link PartNaming} turns them into names
 * @param pattern of names of parts it works on; empty for any
 * @param ofKind kind of parts it works on; empty for any
 * @param parts picked parts by their names; with no part and no id all are meant
 * @param paramParts parts that parameters hold, by field name
 */
public record Step(
    String id,
    String kind,
    Map<String, Object> params,
    boolean enabled,
    List<Integer> nodeIds,
    String pattern,
    String ofKind,
    List<PartRef> parts,
    Map<String, PartRef> paramParts) {
  public Step {
    params = params == null ? Map.of() : Map.copyOf(params);
    nodeIds = nodeIds == null ? List.of() : List.copyOf(nodeIds);
    pattern = pattern == null ? "" : pattern;
    ofKind = ofKind == null ? "" : ofKind;
    parts = parts == null ? List.of() : List.copyOf(parts);
    paramParts = paramParts == null ? Map.of() : Map.copyOf(paramParts);
  }

  /** A step on picked parts, or on all. */
  public Step(
      String id, String kind, Map<String, Object> params, boolean enabled, List<Integer> nodeIds) {
    this(id, kind, params, enabled, nodeIds, "", "");
  }

  /** A step on picked parts, parts of a name and parts of a kind. */
  public Step(
      String id,
      String kind,
      Map<String, Object> params,
      boolean enabled,
      List<Integer> nodeIds,
      String pattern,
      String ofKind) {
    this(id, kind, params, enabled, nodeIds, pattern, ofKind, List.of(), Map.of());
  }

  public Selection selection() {
    return new Selection(nodeIds, pattern, ofKind);
  }

  /** The same told otherwise, with its parts as they are named. */
  public Step withParams(Map<String, Object> newParams) {
    return with(nodeIds, newParams);
  }

  /** The same with ids for its parts. */
  Step with(List<Integer> newNodeIds, Map<String, Object> newParams) {
    return new Step(id, kind, newParams, enabled, newNodeIds, pattern, ofKind, parts, paramParts);
  }

  /** The same with names for its parts, and no ids. */
  Step named(List<PartRef> newParts, Map<String, PartRef> newParamParts) {
    return new Step(id, kind, params, enabled, List.of(), pattern, ofKind, newParts, newParamParts);
  }
}
