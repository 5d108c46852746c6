package ferry.stone.core.proof;

import ferry.stone.core.format.losses.Capability;

/**
 * One fact, on the near side, on the far side, and as it was read back from the landed file.
 *
 * @param group heading it stands under
 * @param nodeId part it is about, −1 for none
 * @param differs far against landed, with a unit
 * @param note why it changed or what was lost, in a few words
 * @param about what of a format it tells of, as a forecast names it; {@code null} for none
 * @param measure the numbers behind the texts; {@code null} where there are none, and in proofs of
 *     the first schema
 */
public record LedgerRow(
    String group,
    String fact,
    int nodeId,
    String near,
    String far,
    String landed,
    String differs,
    Verdict verdict,
    String note,
    Capability about,
    Measure measure) {

  /** What became of it. */
  public enum Verdict {
    KEPT,
    CHANGED,
    LOST
  }

  /** The same fact under another heading. */
  LedgerRow under(String newGroup) {
    return new LedgerRow(
        newGroup, fact, nodeId, near, far, landed, differs, verdict, note, about, measure);
  }
}
