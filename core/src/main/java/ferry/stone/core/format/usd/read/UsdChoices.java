package ferry.stone.core.format.usd.read;

import ferry.stone.core.field.Field;
import ferry.stone.core.field.Values;
import ferry.stone.core.format.usd.compose.UsdStage;
import ferry.stone.core.scene.Composition;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What can be chosen about the reading of a stage. */
public final class UsdChoices {
  /** Which variants count, before what the layers choose. */
  public static final String VARIANTS = Composition.VARIANTS;

  /** Which payloads are read. */
  public static final String PAYLOADS = "payloads";

  private static final String ALL = "all";
  private static final String NONE = "none";
  private static final Pattern CHOICE = Pattern.compile("(/[^{}\\s]*)\\{([^=}]+)=([^}]*)\\}");

  public static final List<Field> FIELDS =
      List.of(
          Field.text(
              VARIANTS,
              "Variants",
              "",
              "Which variant counts, as /Prim{set=variant}, several with a space between them; empty"
                  + " for what the files choose."),
          Field.text(
                  PAYLOADS,
                  "Payloads",
                  ALL,
                  "Parts that are loaded on demand: all, none, or the paths of those that are"
                      + " loaded, with spaces between them.")
              .proposing(ALL, "All", NONE, "None"));

  private UsdChoices() {}

  static UsdStage.Choices of(Values values) {
    Map<String, Map<String, String>> variants = new HashMap<>();
    Matcher choice = CHOICE.matcher(values.text(VARIANTS));
    while (choice.find()) {
      variants
          .computeIfAbsent(choice.group(1), k -> new HashMap<>())
          .put(choice.group(2), choice.group(3));
    }
    String payloads = values.text(PAYLOADS).strip();
    if (payloads.isEmpty() || payloads.equals(ALL)) {
      return new UsdStage.Choices(variants, prim -> true);
    }
    Set<String> loaded = payloads.equals(NONE) ? Set.of() : Set.of(payloads.split("\\s+"));
    return new UsdStage.Choices(variants, loaded::contains);
  }
}
