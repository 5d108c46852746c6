package ferry.stone.core.proof.pair;

import ferry.stone.core.cargo.CargoRules;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.proof.Ledger;
import ferry.stone.core.proof.LedgerRow.Verdict;
import java.io.IOException;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Rules of its standard that the second of two files breaks and the first does not: another reader
 * may stop there, or show something else, though ours reads both alike.
 */
final class RulesProof {
  private RulesProof() {}

  static void list(Ledger ledger, PairProof.Side first, PairProof.Side second) throws IOException {
    if (!second.isFile()) {
      return;
    }
    Set<String> before =
        first.isFile()
            ? CargoRules.broken(first.files()).stream()
                .map(Finding::message)
                .collect(Collectors.toSet())
            : Set.of();
    ledger.group("Where the second file is not as its standard says");
    for (Finding rule : CargoRules.broken(second.files())) {
      if (!before.contains(rule.message())) {
        ledger.add(
            rule.where(),
            -1,
            "",
            "",
            "breaks it",
            rule.measured(),
            Verdict.CHANGED,
            rule.message());
      }
    }
  }
}
