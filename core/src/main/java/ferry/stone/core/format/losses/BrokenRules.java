package ferry.stone.core.format.losses;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * Rules of a standard that a file breaks: what a reader of ours forgives, because a picture can be
 * had without it, may stop another reader or show it something else. Each rule is told once, with
 * the first place and how often.
 */
public final class BrokenRules {
  /** Name of what is told. */
  public static final String CODE = "off-standard";

  private final Map<String, Told> told = new LinkedHashMap<>();

  private static final class Told {
    private String where;
    private int times;
  }

  /**
   * @param where the place in the file
   * @param rule a sentence, the same for all places
   */
  public void broken(String where, String rule) {
    Told at = told.computeIfAbsent(rule, k -> new Told());
    at.where = at.times++ == 0 ? where : at.where;
  }

  public void hold(boolean holds, String where, String rule) {
    if (!holds) {
      broken(where, rule);
    }
  }

  /**
   * @param resource the file
   */
  public void tell(String resource, Findings findings) {
    told.forEach(
        (rule, at) ->
            findings.add(
                Finding.of(CODE, Severity.LOOK, (resource + " " + at.where).strip(), rule)
                    .measured(at.times == 1 ? "" : at.times + " times")));
  }
}
