package ferry.stone.core.proof;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.losses.ReaderSays;
import ferry.stone.core.proof.LedgerRow.Verdict;
import java.util.List;

/**
 * What our reader had to leave out, guess or put right to read what landed. The standard says none
 * of that, and another reader may do otherwise, so it is never kept.
 */
final class ReadingProof {
  private ReadingProof() {}

  static void list(Ledger ledger, Findings told) {
    ledger.group("Where the file is not as its standard says");
    List<Finding> all =
        told.list().stream().filter(f -> ReaderSays.isOffTheStandard(f.code())).toList();
    for (Finding finding : all) {
      boolean lost = ReaderSays.isLoss(finding.code());
      ledger.add(
          finding.where().isEmpty() ? "The file" : finding.where(),
          finding.nodeIds().isEmpty() ? -1 : finding.nodeIds().get(0),
          "",
          "",
          lost ? "left out in reading" : "put right in reading",
          finding.measured(),
          lost ? Verdict.LOST : Verdict.CHANGED,
          finding.message());
    }
  }
}
