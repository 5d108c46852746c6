package ferry.stone.core.format.files;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import java.util.List;

/** Tells what became of a file that another file names: not found, or found elsewhere. */
public final class ReferenceReport {
  private ReferenceReport() {}

  /**
   * A file that is not there, with the files it may have become as offers.
   *
   * @param what the kind of file, e.g. {@code texture}
   * @param written the reference as it stands in the file
   * @param evidence what is known of it
   * @param proposals files of the cargo that it may be, the likeliest first
   */
  public static void missing(
      Findings findings,
      String code,
      String where,
      String what,
      String written,
      String evidence,
      List<String> proposals) {
    Finding missing =
        Finding.of(
                code,
                Severity.FIX,
                where,
                "The "
                    + what
                    + " \""
                    + written
                    + "\" is not in the cargo: add it, or choose the file that it became.")
            .evidence(evidence);
    if (!proposals.isEmpty()) {
      missing =
          missing
              .evidence("a file \"" + proposals.get(0) + "\" may be it")
              .offer(
                  proposals.stream()
                      .map(p -> Offer.bind("Use " + CargoPath.name(p), written, p))
                      .toArray(Offer[]::new));
    }
    findings.add(missing);
  }

  /** Says so when a file was found otherwise than by its path. */
  public static void found(
      Findings findings, String where, String written, ReferenceFinder.Match match) {
    if (match.how() == ReferenceFinder.How.NAME || match.how() == ReferenceFinder.How.CASE) {
      findings.add(
          Finding.of(
                  "file-found-elsewhere",
                  Severity.NOTE,
                  where,
                  "\"" + written + "\" was found as \"" + match.resource() + "\".")
              .evidence(
                  match.how() == ReferenceFinder.How.CASE
                      ? "same path but for upper and lower case"
                      : "same file name"));
    } else if (match.how() == ReferenceFinder.How.SHARED) {
      String path = match.resource();
      findings.add(
          Finding.of(
                  "file-of-library",
                  Severity.NOTE,
                  where,
                  "\"" + written + "\" is not in the cargo and was found in a shared folder.")
              .evidence("same file name: " + path.substring(path.indexOf('/') + 1)));
    }
  }
}
