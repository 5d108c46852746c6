package ferry.stone.core.handling;

import java.util.List;

/**
 * One parameter of a step, as forms and the command line need it.
 *
 * @param name JSON key
 * @param type {@code number}, {@code choice}
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
}
