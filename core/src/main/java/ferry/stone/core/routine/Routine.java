package ferry.stone.core.routine;

import ferry.stone.core.cargo.ReadFields;
import ferry.stone.core.cargo.SharedFolders;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.math.LengthUnit;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.shore.Shore;
import ferry.stone.core.shore.Shores;
import java.util.List;
import java.util.Map;

/**
 * What is done to every cargo alike: how it is read, the steps, the shore and the landings.
 *
 * @param schema form of the JSON; see {@link #SCHEMA}
 * @param id unique: small letters, digits and dashes
 * @param name for people, 1 to 80 characters
 * @param note what it is for, in a sentence
 * @param version from 1; every change that is saved is one more
 * @param reading choices about the reading, by field name
 * @param unit of the numbers where a file does not say, such as {@code cm}; empty for the likeliest
 * @param up axis where a file does not say, such as {@code z}; empty for the likeliest
 * @param shore whose limits and names count and whose wishes the landings follow
 * @param accept whether what the survey offers is accepted first, where nothing is taken away
 * @param steps in order
 * @param landings one or more
 */
public record Routine(
    int schema,
    String id,
    String name,
    String note,
    int version,
    Map<String, Object> reading,
    String unit,
    String up,
    Shore shore,
    boolean accept,
    List<RoutineStep> steps,
    List<RoutineLanding> landings) {
  /** The form that is written; it rises when a member changes its meaning. */
  public static final int SCHEMA = 1;

  private static final int LONGEST_NAME = 80;
  private static final int LONGEST_NOTE = 2000;
  private static final int MOST_STEPS = 200;
  private static final int MOST_LANDINGS = 12;

  public Routine {
    if (schema != SCHEMA) {
      throw new IllegalArgumentException(
          "\"schema\" is " + schema + "; this version reads routines of schema " + SCHEMA);
    }
    if (id == null || !id.matches("[a-z0-9-]{1,64}")) {
      throw new IllegalArgumentException("a routine's \"id\" has small letters, digits and dashes");
    }
    if (name == null || name.isBlank() || name.length() > LONGEST_NAME) {
      throw new IllegalArgumentException("a routine's \"name\" has 1 to 80 characters");
    }
    note = note == null ? "" : note;
    if (note.length() > LONGEST_NOTE) {
      throw new IllegalArgumentException("a routine's \"note\" has at most 2,000 characters");
    }
    version = Math.max(1, version);
    reading = reading == null ? Map.of() : Map.copyOf(reading);
    ReadFields.check(reading);
    unit = unit == null ? "" : unit.strip();
    up = up == null ? "" : up.strip();
    if (!unit.isEmpty() && LengthUnit.parse(unit).isEmpty()) {
      throw new IllegalArgumentException("\"unit\" is one of " + LengthUnit.SYMBOLS);
    }
    if (!up.isEmpty() && SignedAxis.parse(up).isEmpty()) {
      throw new IllegalArgumentException("\"up\" is x, y, z or one of them with a minus");
    }
    shore = shore == null ? Shores.usual() : shore;
    steps = steps == null ? List.of() : List.copyOf(steps);
    landings = landings == null ? List.of() : List.copyOf(landings);
    if (landings.isEmpty() || landings.size() > MOST_LANDINGS || steps.size() > MOST_STEPS) {
      throw new IllegalArgumentException(
          "a routine has 1 to " + MOST_LANDINGS + " landings and at most " + MOST_STEPS + " steps");
    }
    for (RoutineLanding landing : landings) {
      landing.on(shore);
    }
  }

  /** How its cargos are read. */
  public AssetReading assetReading() {
    return new AssetReading(
        reading,
        LengthUnit.parse(unit).orElse(null),
        SignedAxis.parse(up).orElse(null),
        false,
        shore,
        SharedFolders.NONE);
  }

  /** Its landings as they are written. */
  public List<LandingOptions> landingOptions() {
    return landings.stream().map(l -> l.on(shore)).toList();
  }

  /**
   * The folder of each landing in that of an asset, with {@code /} at its end; empty where there is
   * one landing alone.
   */
  public List<String> folders() {
    if (landings.size() == 1) {
      return List.of("");
    }
    List<String> folders = new java.util.ArrayList<>();
    for (RoutineLanding landing : landings) {
      String name = landing.format();
      for (int n = 2; folders.contains(name + "/"); n++) {
        name = landing.format() + "-" + n;
      }
      folders.add(name + "/");
    }
    return folders;
  }

  /** The same under another id and version. */
  public Routine as(String newId, int newVersion) {
    return new Routine(
        schema, newId, name, note, newVersion, reading, unit, up, shore, accept, steps, landings);
  }
}
