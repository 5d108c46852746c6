package ferry.stone.core.format;

import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.work.Progress;
import java.util.Map;

/**
 * What a reader works with.
 *
 * @param resources the files around the one that is read
 * @param bindings files the user chose for written references
 * @param findings takes what was met and could not be kept
 * @param framesPerSecond rate of the cargo's scene, for files that count frames; 0 when unknown
 */
public record ReadContext(
    Resources resources,
    Map<String, String> bindings,
    Findings findings,
    Progress progress,
    double framesPerSecond) {

  /** Without a known rate. */
  public ReadContext(
      Resources resources, Map<String, String> bindings, Findings findings, Progress progress) {
    this(resources, bindings, findings, progress, 0);
  }

  public ReadContext {
    bindings = Map.copyOf(bindings);
  }

  public static ReadContext of(Resources resources) {
    return new ReadContext(resources, Map.of(), new Findings(), Progress.NONE);
  }
}
