package ferry.stone.core.cargo;

import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Names of parts that say how fine they are: {@code lantern_high}, {@code lantern low}, {@code
 * lantern-hp}. Common practice, no source.
 */
final class LevelNames {
  private static final Pattern SAID =
      Pattern.compile(
          "(.+?)[ _.-]+(high|hi|hp|mid|medium|low|lo|lp|(high|mid|low)[ _.-]?poly|lod[ _.-]?\\d+)",
          Pattern.CASE_INSENSITIVE);

  private LevelNames() {}

  /** What a name says without how fine it is, in small letters. */
  static String plain(String name) {
    Matcher said = SAID.matcher(numberless(name));
    return (said.matches() ? said.group(1) : numberless(name)).toLowerCase(Locale.ROOT);
  }

  /** The name without how fine it is, as it is written. */
  static String shown(String name) {
    Matcher said = SAID.matcher(numberless(name));
    return said.matches() ? said.group(1) : name;
  }

  private static String numberless(String name) {
    return name.replaceFirst("[._]\\d{1,4}$", "");
  }
}
