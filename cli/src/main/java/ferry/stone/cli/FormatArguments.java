package ferry.stone.cli;

import ferry.stone.core.cargo.ReadFields;
import ferry.stone.core.field.Field;
import ferry.stone.core.format.Format;
import ferry.stone.core.format.Formats;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Model.OptionSpec;
import picocli.CommandLine.ParameterException;

/**
 * Options of the formats that are written, drawn from their fields: {@code --draw-order}, {@code
 * --index-bits short}; a flag that is on by itself is switched off by {@code --no-…}.
 */
final class FormatArguments {
  private FormatArguments() {}

  /** Adds an option for each field of each format; formats with fields of one name share it. */
  static void addTo(CommandSpec command) {
    Map<String, Field> fields = new LinkedHashMap<>();
    Map<String, String> formats = new LinkedHashMap<>();
    for (Format format : Formats.written()) {
      for (Field field : format.writer().orElseThrow().fields()) {
        fields.putIfAbsent(field.name(), field);
        formats.merge(field.name(), format.name(), (a, b) -> a + ", " + b);
      }
    }
    fields.forEach((name, field) -> command.addOption(option(field, formats.get(name))));
  }

  /** Adds an option for each choice about the reading. */
  static void addReading(CommandSpec command) {
    for (Field field : ReadFields.all()) {
      command.addOption(option(field, "Reading " + ReadFields.formats(field)));
    }
  }

  /** What was given of the choices about the reading. */
  static Map<String, Object> reading(CommandSpec command) {
    Map<String, Object> given = new HashMap<>();
    var parsed = command.commandLine().getParseResult();
    for (Field field : ReadFields.all()) {
      String option = "--" + kebab(field.name());
      if (parsed.hasMatchedOption(option)) {
        given.put(
            field.name(), value(command, field, option, parsed.matchedOptionValue(option, null)));
      }
    }
    try {
      ReadFields.check(given);
    } catch (IllegalArgumentException e) {
      throw new ParameterException(command.commandLine(), e.getMessage() + ".");
    }
    return given;
  }

  private static OptionSpec option(Field field, String formats) {
    String description =
        formats + ": " + lower(field.label()) + choices(field) + ". " + field.help();
    OptionSpec.Builder option = OptionSpec.builder("--" + kebab(field.name()));
    if (field.type().equals("flag")) {
      return option
          .type(Boolean.class)
          .arity("0")
          .negatable(true)
          .defaultValue(null)
          .fallbackValue("true")
          .description(description)
          .build();
    }
    return option
        .type(String.class)
        .paramLabel(field.unit().isEmpty() ? "VALUE" : field.unit().toUpperCase(Locale.ROOT))
        .description(description + standard(field))
        .build();
  }

  private static String choices(Field field) {
    return field.options().isEmpty()
        ? ""
        : ", "
            + (field.type().equals("choice") ? "" : "e.g. ")
            + field.options().stream().map(Field.Option::value).collect(Collectors.joining(", "));
  }

  private static String standard(Field field) {
    String words = words(field.standard());
    return words.isEmpty() ? "" : " Standard: " + words + ".";
  }

  private static String words(Object value) {
    return value instanceof Double d && d == Math.rint(d)
        ? String.valueOf(d.longValue())
        : String.valueOf(value);
  }

  private static String lower(String label) {
    boolean word = label.length() > 1 && Character.isLowerCase(label.charAt(1));
    return word ? Character.toLowerCase(label.charAt(0)) + label.substring(1) : label;
  }

  /** {@code drawOrder} as {@code draw-order}. */
  static String kebab(String name) {
    return name.replaceAll("([A-Z])", "-$1").toLowerCase(Locale.ROOT);
  }

  /** What was given of a format's options; others are refused. */
  static Map<String, Object> given(CommandSpec command, Format format) {
    Map<String, Object> given = new HashMap<>();
    List<Field> own = format.writer().orElseThrow().fields();
    var parsed = command.commandLine().getParseResult();
    for (Format other : Formats.written()) {
      for (Field field : other.writer().orElseThrow().fields()) {
        String option = "--" + kebab(field.name());
        if (!parsed.hasMatchedOption(option)) {
          continue;
        }
        if (own.stream().noneMatch(f -> f.name().equals(field.name()))) {
          throw new ParameterException(
              command.commandLine(),
              option + " is an option of " + other.name() + ", not of " + format.name() + ".");
        }
        given.put(
            field.name(), value(command, field, option, parsed.matchedOptionValue(option, null)));
      }
    }
    return given;
  }

  private static Object value(CommandSpec command, Field field, String option, Object text) {
    if (field.type().equals("choice")) {
      return String.valueOf(text).toLowerCase(Locale.ROOT);
    }
    if (!field.type().equals("number")) {
      return text;
    }
    try {
      return Double.valueOf(String.valueOf(text));
    } catch (NumberFormatException e) {
      throw new ParameterException(
          command.commandLine(), option + " takes a number, not \"" + text + "\".");
    }
  }
}
