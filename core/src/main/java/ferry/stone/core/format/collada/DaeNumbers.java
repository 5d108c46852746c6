package ferry.stone.core.format.collada;

import ferry.stone.core.math.DoubleList;
import ferry.stone.core.math.IntList;

/** Takes numbers from text that comes in pieces; a number may lie across two of them. */
final class DaeNumbers {
  /** Longer words are no numbers. */
  private static final int LONGEST = 64;

  private final DoubleList reals;
  private final IntList wholes;
  private final StringBuilder word = new StringBuilder(LONGEST);
  private String broken;

  private DaeNumbers(DoubleList reals, IntList wholes) {
    this.reals = reals;
    this.wholes = wholes;
  }

  static DaeNumbers ofReals() {
    return new DaeNumbers(new DoubleList(256), null);
  }

  static DaeNumbers ofWholes() {
    return new DaeNumbers(null, new IntList(256));
  }

  void take(char[] text, int from, int count) {
    for (int i = from; i < from + count; i++) {
      char c = text[i];
      if (c <= ' ') {
        end();
      } else if (word.length() < LONGEST) {
        word.append(c);
      }
    }
  }

  private void end() {
    if (word.isEmpty()) {
      return;
    }
    if (reals != null) {
      reals.add(real(word));
    } else {
      try {
        wholes.add(Integer.parseInt(word, 0, word.length(), 10));
      } catch (NumberFormatException e) {
        broken = broken == null ? word.toString() : broken;
      }
    }
    word.setLength(0);
  }

  /** What is no number is not a number: the survey tells of such positions. */
  static double real(CharSequence word) {
    try {
      return Double.parseDouble(word.toString());
    } catch (NumberFormatException e) {
      return switch (word.toString()) {
        case "INF" -> Double.POSITIVE_INFINITY;
        case "-INF" -> Double.NEGATIVE_INFINITY;
        default -> Double.NaN;
      };
    }
  }

  double[] reals() {
    end();
    return reals.toArray();
  }

  int[] wholes() {
    end();
    return wholes.toArray();
  }

  /** The first word that should have been a whole number and is none, or {@code null}. */
  String broken() {
    return broken;
  }
}
