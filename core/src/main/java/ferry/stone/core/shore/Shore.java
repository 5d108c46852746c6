package ferry.stone.core.shore;

import ferry.stone.core.math.Frame;
import java.util.List;
import java.util.Map;

/**
 * Named conventions and limits of a place that assets come from or go to.
 *
 * @param id unique; built-in ones are words, others are made by the user
 * @param name for people
 * @param note what it is for, in one sentence
 * @param frame unit, up, front and hand
 * @param formats keys of the formats it takes, the best first; none for any
 * @param budgets limits
 * @param wishes how it wants things written
 * @param names what names may look like
 * @param tolerances what may differ of what lands
 * @param reasons why a choice is as it is, by the choice's name: {@code frame}, {@code triangulate}
 *     …
 */
public record Shore(
    String id,
    String name,
    String note,
    Frame frame,
    List<String> formats,
    Budgets budgets,
    Wishes wishes,
    NameRules names,
    Tolerances tolerances,
    Map<String, String> reasons) {
  private static final int LONGEST_NAME = 80;

  public Shore {
    if (id == null || !id.matches("[a-z0-9-]{1,64}")) {
      throw new IllegalArgumentException("A shore's id has small letters, digits and dashes");
    }
    if (name == null || name.isBlank() || name.length() > LONGEST_NAME) {
      throw new IllegalArgumentException("A shore's name has 1 to 80 characters");
    }
    if (frame == null) {
      throw new IllegalArgumentException("A shore needs a frame: unit, up, front and hand");
    }
    note = note == null ? "" : note;
    formats = formats == null ? List.of() : List.copyOf(formats);
    for (String format : formats) {
      if (!format.matches("[a-z0-9]{1,12}")) {
        throw new IllegalArgumentException("\"" + format + "\" is no key of a format");
      }
    }
    budgets = budgets == null ? Budgets.NONE : budgets;
    wishes = wishes == null ? Wishes.USUAL : wishes;
    names = names == null ? NameRules.ANY : names;
    tolerances = tolerances == null ? Tolerances.NONE : tolerances;
    reasons = reasons == null ? Map.of() : Map.copyOf(reasons);
  }

  /** The same letting something else differ. */
  public Shore withTolerances(Tolerances newTolerances) {
    return new Shore(
        id, name, note, frame, formats, budgets, wishes, names, newTolerances, reasons);
  }

  /** The same under another id and name. */
  public Shore as(String newId, String newName) {
    return new Shore(
        newId, newName, note, frame, formats, budgets, wishes, names, tolerances, reasons);
  }
}
