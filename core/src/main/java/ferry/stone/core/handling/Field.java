package ferry.stone.core.handling;

import java.util.List;

/**
 * One parameter of a step, as forms and the command line need it.
 *
 * @param name JSON key
 * @param type {@code number}, {@code choice}, {@code flag}, {@code text}, {@code part} (id of a
 *     node), {@code vertex} ({@code node:vertex} of the near side) or {@code faces} ({@code
 *     node:face,face …} of the near side)
 * @param unit unit of a number, or empty
 * @param min lowest number, or {@code null}
 * @param max highest number, or {@code null}
 * @param options for a choice
 * @param standard value when none is given
 * @param help what it does, in one sentence
 */
public record Field(
    String name,
    String label,
    String type,
    String unit,
    Double min,
    Double max,
    List<Option> options,
    Object standard,
    String help) {

  /** A value of a choice and its words. */
  public record Option(String value, String label) {}

  public static Field number(
      String name,
      String label,
      String unit,
      double min,
      double max,
      double standard,
      String help) {
    return new Field(name, label, "number", unit, min, max, List.of(), standard, help);
  }

  public static Field choice(
      String name, String label, List<Option> options, String standard, String help) {
    return new Field(name, label, "choice", "", null, null, options, standard, help);
  }

  /**
   * A choice by pairs of value and words; the first is the standard.
   *
   * @param pairs value, words, value, words …
   */
  public static Field choice(String name, String label, String help, String... pairs) {
    List<Option> options = new java.util.ArrayList<>();
    for (int i = 0; i < pairs.length; i += 2) {
      options.add(new Option(pairs[i], pairs[i + 1]));
    }
    return choice(name, label, List.copyOf(options), pairs[0], help);
  }

  public static Field flag(String name, String label, boolean standard, String help) {
    return new Field(name, label, "flag", "", null, null, List.of(), standard, help);
  }

  public static Field text(String name, String label, String standard, String help) {
    return new Field(name, label, "text", "", null, null, List.of(), standard, help);
  }

  /** Something picked in the view: {@code part}, {@code vertex} or {@code faces}. */
  public static Field pick(String name, String label, String type, String help) {
    return new Field(name, label, type, "", null, null, List.of(), "", help);
  }

  /** Refuses a value that is none of the choices, and names them. */
  static String oneOf(String name, String value, String... choices) {
    for (String choice : choices) {
      if (choice.equals(value)) {
        return value;
      }
    }
    throw new IllegalArgumentException(
        name + " must be one of " + String.join(", ", choices) + ", not \"" + value + "\"");
  }

  /** Refuses a number out of its range, and names the range. */
  static double within(String name, double value, double min, double max) {
    if (!(value >= min && value <= max)) {
      throw new IllegalArgumentException(
          name + " must be " + min + " to " + max + ", not " + value);
    }
    return value;
  }
}
