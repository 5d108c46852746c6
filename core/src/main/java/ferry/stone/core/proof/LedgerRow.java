package ferry.stone.core.proof;

/**
 * One fact, on the near side, on the far side, and as it was read back from the landed file.
 *
 * @param group heading it stands under
 * @param nodeId part it is about, −1 for none
 * @param differs far against landed, with a unit
 * @param note why it changed or what was lost, in a few words
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
    String note) {

  /** What became of it. */
  public enum Verdict {
    KEPT,
    CHANGED,
    LOST
  }
}
