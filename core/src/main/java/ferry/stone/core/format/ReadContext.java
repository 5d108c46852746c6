package ferry.stone.core.format;

import ferry.stone.core.field.Field;
import ferry.stone.core.field.Values;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.work.Progress;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * What a reader works with.
 *
 * @param resources the files around the one that is read
 * @param bindings files the user chose for written references
 * @param options what was chosen about the reading, by the names of the readers' fields
 * @param findings takes what was met and could not be kept
 * @param framesPerSecond rate of the cargo's scene, for files that count frames; 0 when unknown
 */
public record ReadContext(
    Resources resources,
    Map<String, String> bindings,
    Map<String, Object> options,
    Findings findings,
    Progress progress,
    double framesPerSecond) {

  /** Without choices about the reading and without a known rate. */
  public ReadContext(
      Resources resources, Map<String, String> bindings, Findings findings, Progress progress) {
    this(resources, bindings, Map.of(), findings, progress, 0);
  }

  public ReadContext {
    bindings = Map.copyOf(bindings);
    options = Map.copyOf(options);
  }

  public static ReadContext of(Resources resources) {
    return new ReadContext(resources, Map.of(), new Findings(), Progress.NONE);
  }

  /** The same with choices about the reading. */
  public ReadContext withOptions(Map<String, Object> newOptions) {
    return new ReadContext(resources, bindings, newOptions, findings, progress, framesPerSecond);
  }

  /** The same for other files, telling others. */
  public ReadContext of(Resources otherResources, Findings otherFindings) {
    return new ReadContext(
        otherResources, bindings, options, otherFindings, progress, framesPerSecond);
  }

  /**
   * What was chosen of some fields, the standards of the others; a cargo's choices for other
   * formats do not matter here.
   *
   * @throws IllegalArgumentException in a sentence when a value does not fit its field
   */
  public Values values(List<Field> fields) {
    Map<String, Object> own = new HashMap<>();
    for (Field field : fields) {
      if (options.containsKey(field.name())) {
        own.put(field.name(), options.get(field.name()));
      }
    }
    return Values.of(fields, own);
  }
}
