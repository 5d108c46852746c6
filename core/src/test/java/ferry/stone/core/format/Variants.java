package ferry.stone.core.format;

import ferry.stone.core.field.Field;
import ferry.stone.core.landing.LandingOptions;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** Landings of every format that is written: the standard, and each option changed by itself. */
public final class Variants {
  /** What only says what the numbers mean. */
  private static final List<String> FRAME = List.of("unit", "up", "front", "hand");

  private Variants() {}

  /** By what they show. */
  public static Map<String, LandingOptions> all() {
    Map<String, LandingOptions> all = new TreeMap<>(encodings());
    for (Format format : Formats.written()) {
      LandingOptions standard = LandingOptions.of(format.key());
      for (Field field : format.writer().orElseThrow().fields()) {
        if (field.type().equals("flag")) {
          boolean on = Boolean.TRUE.equals(field.standard());
          all.put(format.key() + ", " + field.name() + " " + !on, standard.with(field.name(), !on));
        }
      }
    }
    return all;
  }

  /** The standard of each format, and its choices of a form. */
  public static Map<String, LandingOptions> encodings() {
    Map<String, LandingOptions> all = new TreeMap<>();
    for (Format format : Formats.written()) {
      LandingOptions standard = LandingOptions.of(format.key());
      all.put(format.key(), standard);
      for (Field field : format.writer().orElseThrow().fields()) {
        if (field.type().equals("choice") && !FRAME.contains(field.name())) {
          others(field)
              .forEach(
                  value ->
                      all.put(
                          format.key() + ", " + field.name() + " " + value,
                          standard.with(field.name(), value)));
        }
      }
    }
    return all;
  }

  private static List<String> others(Field field) {
    List<String> values = new ArrayList<>(field.options().stream().map(o -> o.value()).toList());
    values.remove(field.standard());
    return values;
  }
}
