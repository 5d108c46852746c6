package ferry.stone.core.field;

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
 * @param options for a choice: its values; for others: values to propose, others are taken too
 * @param standard value when none is given
 * @param help what it does, in one sentence
 * @param group heading that it stands under, or empty
 * @param when what must hold for it to count: the name of a flag that is on, or {@code
 *     name=value|value} of a choice; empty for always
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
    String help,
    String group,
    String when) {

  /** A value and its words. */
  public record Option(String value, String label) {}

  /** Without a heading. */
  public Field(
      String name,
      String label,
      String type,
      String unit,
      Double min,
      Double max,
      List<Option> options,
      Object standard,
      String help) {
    this(name, label, type, unit, min, max, options, standard, help, "", "");
  }

  /** The same under a heading. */
  public Field under(String heading) {
    return new Field(name, label, type, unit, min, max, options, standard, help, heading, when);
  }

  /** The same, counting only while a flag is on or a choice stands at one of some values. */
  public Field when(String condition) {
    return new Field(name, label, type, unit, min, max, options, standard, help, group, condition);
  }

  /**
   * The same with values to propose.
   *
   * @param pairs value, words, value, words …
   */
  public Field proposing(String... pairs) {
    return new Field(name, label, type, unit, min, max, pairs(pairs), standard, help, group, when);
  }

  /** The same with another standard. */
  public Field standing(Object otherStandard) {
    return new Field(name, label, type, unit, min, max, options, otherStandard, help, group, when);
  }

  private static List<Option> pairs(String... pairs) {
    List<Option> options = new java.util.ArrayList<>();
    for (int i = 0; i < pairs.length; i += 2) {
      options.add(new Option(pairs[i], pairs[i + 1]));
    }
    return List.copyOf(options);
  }

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
    return choice(name, label, pairs(pairs), pairs[0], help);
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

  /** A choice that may be left out: the standard then. */
  public String chosen(String value) {
    return checked(value == null ? (String) standard : value);
  }

  /** Refuses a value that is none of the choices, and names them. */
  public String checked(String value) {
    if (options.stream().anyMatch(o -> o.value().equals(value))) {
      return value;
    }
    throw new IllegalArgumentException(
        name
            + " must be one of "
            + String.join(", ", options.stream().map(Option::value).toList())
            + ", not \""
            + value
            + "\"");
  }

  /** Refuses a number out of its range, and names the range. */
  public static double within(String name, double value, double min, double max) {
    if (!(value >= min && value <= max)) {
      throw new IllegalArgumentException(
          name + " must be " + min + " to " + max + ", not " + value);
    }
    return value;
  }
}
