package ferry.stone.core.format.obj.rules;

import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.losses.BrokenRules;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.util.Set;

/** A library of materials. */
final class MtlRules {
  private static final Set<String> COLOURS = Set.of("Ka", "Kd", "Ks", "Ke", "Tf");
  private static final Set<String> NUMBERS =
      Set.of(
          "Ns",
          "d",
          "Tr",
          "Ni",
          "illum",
          "sharpness",
          "Pr",
          "Pm",
          "Ps",
          "Pc",
          "Pcr",
          "aniso",
          "anisor");

  private static final Set<String> OTHER_MAPS = Set.of("bump", "disp", "decal", "norm", "refl");

  private static final String NUMBER = "[-+]?(\\d+\\.?\\d*|\\.\\d+)([eE][-+]?\\d+)?";

  private final String path;
  private final Resources files;
  private final BrokenRules rules;
  private boolean inside;

  MtlRules(String path, Resources files, BrokenRules rules) {
    this.path = path;
    this.files = files;
    this.rules = rules;
  }

  /**
   * @param materials takes the names of all materials
   */
  void all(Set<String> materials) throws IOException {
    try (BufferedReader in =
        new BufferedReader(new InputStreamReader(files.open(path), StandardCharsets.UTF_8))) {
      int number = 0;
      for (String line = in.readLine(); line != null; line = in.readLine()) {
        number++;
        String text = line.strip();
        if (!text.isEmpty() && !text.startsWith("#")) {
          statement(text, path + " line " + number, materials);
        }
      }
    }
  }

  private void statement(String text, String where, Set<String> materials) {
    String name = text.split("\\s+", 2)[0];
    String rest = text.substring(name.length()).strip();
    if (name.equals("newmtl")) {
      inside = true;
      rules.hold(materials.add(rest), where, "Two materials have one name.");
      return;
    }
    rules.hold(inside, where, "A value stands before any material.");
    String[] words = rest.isEmpty() ? new String[0] : rest.split("\\s+");
    if (COLOURS.contains(name)) {
      boolean other = words.length > 0 && (words[0].equals("xyz") || words[0].equals("spectral"));
      rules.hold(
          other || words.length == 3 && areNumbers(words), where, "A colour is not 3 numbers.");
    } else if (NUMBERS.contains(name)) {
      rules.hold(
          words.length == 1 && areNumbers(words) || words.length == 2 && words[0].equals("-halo"),
          where,
          "A value of a material is not one number.");
    } else if (name.startsWith("map_") || OTHER_MAPS.contains(name)) {
      // Whether it is there the comparison of images tells.
      rules.hold(words.length > 0, where, "A map names no image.");
    } else {
      rules.broken(where, "Materials have no value of this name.");
    }
  }

  private static boolean areNumbers(String[] words) {
    for (String word : words) {
      if (!word.matches(NUMBER)) {
        return false;
      }
    }
    return true;
  }
}
