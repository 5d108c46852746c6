package ferry.stone.core.format.obj.read;

import ferry.stone.core.format.files.CargoPath;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * Options of a texture statement, then the file name, which may hold spaces.
 *
 * <p>{@code -o u [v [w]]}, {@code -s u [v [w]]} and {@code -t u [v [w]]} take one to three numbers,
 * so a file name that is itself a number cannot follow them without an ending; such a name is taken
 * for the file when nothing else is left.
 */
final class MtlMapOptions {
  private MtlMapOptions() {}

  static MtlMaterial.MapStatement parse(String text) {
    List<int[]> spans = words(text);
    double[] offset = {0, 0};
    double[] scale = {1, 1};
    boolean clamp = false;
    char component = 0;
    double amount = 1;
    List<String> others = new ArrayList<>();
    int i = 0;
    while (i < spans.size() - 1 && text.charAt(spans.get(i)[0]) == '-') {
      String option = word(text, spans, i).toLowerCase(Locale.ROOT);
      int first = i + 1;
      switch (option) {
        case "-o", "-s", "-t" -> {
          int count = numbers(text, spans, first, option);
          if (option.equals("-o")) {
            read(text, spans, first, count, offset);
          } else if (option.equals("-s")) {
            read(text, spans, first, count, scale);
          } else {
            others.add(option);
          }
          i = first + count;
        }
        case "-bm" -> {
          amount = number(word(text, spans, first));
          i = first + 1;
        }
        case "-clamp" -> {
          clamp = word(text, spans, first).equalsIgnoreCase("on");
          i = first + 1;
        }
        case "-imfchan" -> {
          component = word(text, spans, first).toLowerCase(Locale.ROOT).charAt(0);
          i = first + 1;
        }
        case "-mm" -> {
          others.add(option + " " + word(text, spans, first) + " " + word(text, spans, first + 1));
          i = first + 2;
        }
        case "-blendu", "-blendv", "-boost", "-texres", "-type", "-cc", "-colorspace" -> {
          others.add(option + " " + word(text, spans, first));
          i = first + 1;
        }
        default -> {
          // A file name may begin with a dash; what has an image's ending is one.
          if (CargoPath.isImage(text.substring(spans.get(i)[0]).strip())) {
            return statement(text, spans, i, offset, scale, clamp, component, amount, others);
          }
          others.add(option);
          i = first;
        }
      }
    }
    return statement(text, spans, i, offset, scale, clamp, component, amount, others);
  }

  /** How many numbers follow, 1 to 3; the last word is the file's name. */
  private static int numbers(String text, List<int[]> spans, int first, String option) {
    int count = 0;
    while (count < 3
        && first + count < spans.size() - 1
        && isNumber(word(text, spans, first + count))) {
      count++;
    }
    if (count == 0) {
      throw new IllegalArgumentException(option + " needs a number");
    }
    return count;
  }

  private static MtlMaterial.MapStatement statement(
      String text,
      List<int[]> spans,
      int from,
      double[] offset,
      double[] scale,
      boolean clamp,
      char component,
      double amount,
      List<String> others) {
    if (from >= spans.size()) {
      throw new IllegalArgumentException("a file name is missing");
    }
    String path = text.substring(spans.get(from)[0]).strip();
    if (path.length() > 1 && path.startsWith("\"") && path.endsWith("\"")) {
      path = path.substring(1, path.length() - 1);
    }
    return new MtlMaterial.MapStatement(
        path, offset, scale, clamp, component, amount, String.join(" ", others));
  }

  private static void read(String text, List<int[]> spans, int first, int count, double[] into) {
    for (int k = 0; k < Math.min(count, 2); k++) {
      into[k] = number(word(text, spans, first + k));
    }
  }

  private static List<int[]> words(String text) {
    List<int[]> spans = new ArrayList<>();
    int i = 0;
    while (i < text.length()) {
      if (Character.isWhitespace(text.charAt(i))) {
        i++;
        continue;
      }
      int from = i;
      while (i < text.length() && !Character.isWhitespace(text.charAt(i))) {
        i++;
      }
      spans.add(new int[] {from, i});
    }
    return spans;
  }

  private static String word(String text, List<int[]> spans, int index) {
    if (index >= spans.size()) {
      throw new IllegalArgumentException("an option's value is missing");
    }
    return text.substring(spans.get(index)[0], spans.get(index)[1]);
  }

  private static boolean isNumber(String word) {
    return word.matches("[-+]?(\\d+\\.?\\d*|\\.\\d+)([eE][-+]?\\d+)?");
  }

  private static double number(String word) {
    if (!isNumber(word)) {
      throw new IllegalArgumentException("\"" + word + "\" is no number");
    }
    return Double.parseDouble(word);
  }
}
