package ferry.stone.core.finding;

import java.util.Map;

/**
 * A way to put a finding right with one click.
 *
 * @param label what the button says
 * @param action {@code step}: add or set a handling step; {@code bind}: use a file for a reference
 * @param kind the step's kind, or the written reference
 * @param params the step's parameters, or {@code file}
 */
public record Offer(String label, String action, String kind, Map<String, Object> params) {

  public static Offer step(String label, String kind, Map<String, Object> params) {
    return new Offer(label, "step", kind, Map.copyOf(params));
  }

  public static Offer bind(String label, String reference, String file) {
    return new Offer(label, "bind", reference, Map.of("file", file));
  }
}
