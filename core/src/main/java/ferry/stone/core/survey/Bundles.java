package ferry.stone.core.survey;

import ferry.stone.core.finding.Finding;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Which findings are of one kind and one cause: they can be looked at and put right as one. */
public final class Bundles {
  private static final Pattern QUOTED = Pattern.compile("\"([^\"]*)\"");

  private Bundles() {}

  /**
   * The same for findings of one code that say the same, but for the names in quotes; of a path its
   * folder counts, so that files missing from one folder are one cause.
   */
  public static String key(Finding finding) {
    Matcher quoted = QUOTED.matcher(finding.message());
    StringBuilder key = new StringBuilder(finding.code()).append('|').append(finding.severity());
    int last = 0;
    while (quoted.find()) {
      key.append(finding.message(), last, quoted.start());
      key.append('"').append(folder(quoted.group(1))).append('"');
      last = quoted.end();
    }
    return key.append(finding.message().substring(last)).toString();
  }

  private static String folder(String path) {
    int slash = Math.max(path.lastIndexOf('/'), path.lastIndexOf('\\'));
    return slash < 0 ? "" : path.substring(0, slash);
  }
}
