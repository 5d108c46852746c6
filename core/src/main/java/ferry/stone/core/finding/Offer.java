package ferry.stone.core.finding;

import java.util.List;
import java.util.Map;

/**
 * A way to put a finding right with one click.
 *
 * @param label what the button says
 * @param action {@code step}: add or set a handling step; {@code bind}: use a file for a reference;
 *     {@code read}: read the cargo otherwise; {@code option}: choose otherwise at the landing
 * @param kind the step's kind, the written reference, or the name of the choice
 * @param params the step's parameters, {@code file}, or the choice's {@code value}
 * @param nodeIds parts that the step works on; empty for all
 * @param asks whether it takes something away or guesses what is meant, so that it must be accepted
 *     by itself and not with others
 * @param first what must be accepted before it, for lengths that were measured in a unit which the
 *     file does not state
 */
public record Offer(
    String label,
    String action,
    String kind,
    Map<String, Object> params,
    List<Integer> nodeIds,
    boolean asks,
    List<Offer> first) {
  public Offer {
    params = Map.copyOf(params);
    nodeIds = List.copyOf(nodeIds);
    first = List.copyOf(first);
  }

  /** A step on everything. */
  public static Offer step(String label, String kind, Map<String, Object> params) {
    return new Offer(label, "step", kind, params, List.of(), false, List.of());
  }

  /** The same step on some parts only. */
  public Offer on(List<Integer> ids) {
    return new Offer(label, action, kind, params, ids, asks, first);
  }

  /** The same step with other parameters. */
  public Offer with(Map<String, Object> newParams) {
    return new Offer(label, action, kind, newParams, nodeIds, asks, first);
  }

  /** The same, with another before it. */
  public Offer after(Offer other) {
    return new Offer(label, action, kind, params, nodeIds, asks, List.of(other));
  }

  /** The same, but never accepted together with others. */
  public Offer asking() {
    return new Offer(label, action, kind, params, nodeIds, true, first);
  }

  public static Offer bind(String label, String reference, String file) {
    return new Offer(label, "bind", reference, Map.of("file", file), List.of(), false, List.of());
  }

  /** Reads the cargo anew with another choice. */
  public static Offer read(String label, String option, Object value) {
    return new Offer(label, "read", option, Map.of("value", value), List.of(), false, List.of());
  }

  /** Another choice at the landing. */
  public static Offer option(String label, String option, Object value) {
    return new Offer(label, "option", option, Map.of("value", value), List.of(), false, List.of());
  }
}
