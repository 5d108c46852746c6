package ferry.stone.core.proof;

import com.fasterxml.jackson.annotation.JsonIgnore;
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
 * @param seenWithin metres from which a difference in length is as long as a pixel, see {@link
 *     Judge}; {@code null} for others and in proofs before the third schema
 * @param within whether what changed is within what the shore lets pass; {@code null} where it says
 *     nothing
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
    Measure measure,
    Double seenWithin,
    Boolean within) {

  /** What became of it. */
  public enum Verdict {
    KEPT,
    CHANGED,
    LOST
  }

  /** Whether it changed by more than the shore lets pass. */
  @JsonIgnore
  public boolean isBeyond() {
    return Boolean.FALSE.equals(within);
  }

  /** Whether it changed, and the shore lets that pass. */
  @JsonIgnore
  public boolean isWithin() {
    return Boolean.TRUE.equals(within);
  }

  /** The same fact under another heading. */
  LedgerRow under(String newGroup) {
    return new LedgerRow(
        newGroup,
        fact,
        nodeId,
        near,
        far,
        landed,
        differs,
        verdict,
        note,
        about,
        measure,
        seenWithin,
        within);
  }
}
