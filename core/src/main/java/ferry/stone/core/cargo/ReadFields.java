package ferry.stone.core.cargo;

import ferry.stone.core.field.Field;
import ferry.stone.core.field.Values;
import ferry.stone.core.format.CargoRole;
import ferry.stone.core.format.Format;
import ferry.stone.core.format.Formats;
import ferry.stone.core.format.SceneReader;
import ferry.stone.core.format.files.Resources;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** What can be chosen about the reading of a cargo: fields of one name are one choice. */
public final class ReadFields {
  private ReadFields() {}

  /** Those of all formats. */
  public static List<Field> all() {
    return of(Formats.ALL);
  }

  /** Those that count for the files of a cargo. */
  public static List<Field> of(Resources resources) throws IOException {
    List<Format> formats = new ArrayList<>();
    for (String path : resources.paths()) {
      if (CargoRole.of(path, resources).isRead()) {
        Formats.of(path, resources).ifPresent(formats::add);
      }
    }
    return of(formats);
  }

  private static List<Field> of(List<Format> formats) {
    Map<String, Field> fields = new LinkedHashMap<>();
    formats.stream()
        .map(Format::reader)
        .flatMap(Optional::stream)
        .map(SceneReader::fields)
        .flatMap(List::stream)
        .forEach(field -> fields.putIfAbsent(field.name(), field));
    return List.copyOf(fields.values());
  }

  /** Names of the formats that have a choice, for help. */
  public static String formats(Field field) {
    return String.join(
        ", ",
        Formats.ALL.stream()
            .filter(
                format ->
                    format.reader().stream()
                        .flatMap(r -> r.fields().stream())
                        .anyMatch(f -> f.name().equals(field.name())))
            .map(Format::name)
            .toList());
  }

  /**
   * Refuses choices that no format has, and values that do not fit.
   *
   * @throws IllegalArgumentException in a sentence
   */
  public static void check(Map<String, Object> options) {
    Values.of(all(), options);
  }
}
