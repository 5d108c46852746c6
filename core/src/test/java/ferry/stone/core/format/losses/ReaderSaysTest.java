package ferry.stone.core.format.losses;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.MatchResult;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** A reader's new word is a loss or none by decision: forgotten, a proof would omit it. */
class ReaderSaysTest {
  /** Words with a hyphen in quotes: the codes of findings, and few others. */
  private static final Pattern CODE = Pattern.compile("\"([a-z]+(?:-[a-z]+)+)\"");

  @Test
  void everyWordOfReadersAndWritersIsInACatalogue() throws IOException {
    Path core = Path.of("src/main/java/ferry/stone/core");
    Set<String> unknown = new TreeSet<>();
    int found = 0;
    for (Path source : sources(core.resolve("format"), core.resolve("cargo"))) {
      String text = Files.readString(source);
      for (String code : CODE.matcher(text).results().map(MatchResult::group).toList()) {
        String bare = code.substring(1, code.length() - 1);
        found++;
        if (!ReaderSays.knows(bare) && WriterSays.about(bare) == null) {
          unknown.add(bare + " in " + source.getFileName());
        }
      }
    }
    assertTrue(found > 80, found + " words");
    assertEquals(Set.of(), unknown);
  }

  private static List<Path> sources(Path... folders) throws IOException {
    List<Path> all = new ArrayList<>();
    for (Path folder : folders) {
      try (Stream<Path> files = Files.walk(folder)) {
        files
            .filter(f -> f.toString().endsWith(".java") && !f.toString().endsWith("Says.java"))
            .forEach(all::add);
      }
    }
    return all;
  }
}
