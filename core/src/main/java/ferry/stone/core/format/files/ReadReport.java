package ferry.stone.core.format.files;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;

/**
 * What a reader tells, and the memory that it may take.
 *
 * @param resource the file that is read
 * @param everySample whether what is read is read again at each sample, so that nothing of its
 *     motion is left out
 */
public record ReadReport(String resource, Findings findings, Budget budget, boolean everySample) {

  /** The same for a mesh that is read at each of its samples. */
  public ReadReport ofEverySample() {
    return new ReadReport(resource, findings, budget, true);
  }

  /** The same with nobody to tell. */
  public ReadReport silent() {
    return new ReadReport(resource, new Findings(), budget, true);
  }

  /** Something that was left out. */
  public void lost(String code, String path, String message) {
    findings.add(Finding.of(code, Severity.LOOK, where(path), message));
  }

  public void note(String code, String path, String message) {
    findings.add(Finding.of(code, Severity.NOTE, where(path), message));
  }

  private String where(String path) {
    return resource + " " + path;
  }

  public FormatException broken(String path, String problem) {
    return new FormatException(Kind.CORRUPT, resource, path, problem + " Export the file again.");
  }

  public void claim(long bytes, String path, String what) throws FormatException {
    budget.claim(bytes, path, what);
  }
}
