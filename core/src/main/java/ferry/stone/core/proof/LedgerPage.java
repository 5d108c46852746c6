package ferry.stone.core.proof;

import ferry.stone.core.proof.LedgerRow.Verdict;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * Some rows of a ledger: one of a large scene has hundreds of thousands.
 *
 * @param rows in their order
 * @param fitting how many fit what was asked for
 * @param kept of all rows
 * @param changed of all rows
 * @param lost of all rows
 */
public record LedgerPage(List<LedgerRow> rows, int fitting, int kept, int changed, int lost) {

  /**
   * The first rows that fit.
   *
   * @param only verdict, {@code null} for all
   * @param find what group, fact or note holds, in any case; empty for all
   * @param count how many at most
   */
  public static LedgerPage of(List<LedgerRow> all, Verdict only, String find, int count) {
    String wanted = find.strip().toLowerCase(Locale.ROOT);
    List<LedgerRow> rows = new ArrayList<>();
    int[] verdicts = new int[Verdict.values().length];
    int fitting = 0;
    for (LedgerRow row : all) {
      verdicts[row.verdict().ordinal()]++;
      if ((only == null || row.verdict() == only) && (wanted.isEmpty() || holds(row, wanted))) {
        if (fitting++ < count) {
          rows.add(row);
        }
      }
    }
    return new LedgerPage(
        rows,
        fitting,
        verdicts[Verdict.KEPT.ordinal()],
        verdicts[Verdict.CHANGED.ordinal()],
        verdicts[Verdict.LOST.ordinal()]);
  }

  private static boolean holds(LedgerRow row, String wanted) {
    return (row.group() + " " + row.fact() + " " + row.note())
        .toLowerCase(Locale.ROOT)
        .contains(wanted);
  }
}
