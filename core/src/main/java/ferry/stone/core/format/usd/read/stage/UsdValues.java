package ferry.stone.core.format.usd.read.stage;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.motion.ListText;
import ferry.stone.core.format.usd.UsdNames;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.compose.UsdProperty;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.layer.UsdType;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.scene.time.Clip;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;

/**
 * Custom values of a prim: attributes that no schema of the scene has a place for, and its notes.
 */
public final class UsdValues {
  /** Fields that are kept as values. */
  private static final Map<String, String> FIELDS =
      Map.of(
          "customData", "customData",
          "assetInfo", "assetInfo",
          "documentation", "documentation",
          "comment", "comment",
          "kind", "kind");

  /** Types that are what they are without being said. */
  private static final Set<String> PLAIN = Set.of("bool", "int", "int64", "double", "string");

  /** Longer lists are told and left out: they belong to no single value. */
  private static final int LONGEST = 1 << 20;

  /** Numbers over time that a value may have in all. */
  private static final long MOST_OVER_TIME = 1 << 22;

  private final UsdReading reading;
  private final UsdPrim prim;
  private final int target;
  private final Map<String, Object> types = new LinkedHashMap<>();
  private final List<String> ofSchemas = new ArrayList<>();
  private final Map<String, Object> fields = new LinkedHashMap<>();
  private final Map<String, Object> files = new LinkedHashMap<>();
  private boolean schemas;

  /**
   * @param target id of what the values are of
   */
  public UsdValues(UsdReading reading, UsdPrim prim, int target) {
    this.reading = reading;
    this.prim = prim;
    this.target = target;
  }

  /** Notes of the prim itself. */
  public void fields(Map<String, Object> into) {
    FIELDS.forEach(
        (field, name) -> {
          Object value = withoutOurs(plain(prim.field(field)));
          boolean empty = value instanceof Map<?, ?> map && map.isEmpty();
          if (value != null && !empty) {
            into.put(name, value);
          }
        });
  }

  /** Custom data without what a landing of ours keeps there. */
  private static Object withoutOurs(Object value) {
    if (!(value instanceof Map<?, ?> map)) {
      return value;
    }
    Map<Object, Object> others = new LinkedHashMap<>(map);
    others.remove(UsdNames.HELPER);
    others.remove(UsdNames.OWN_NAME);
    others.remove(UsdNames.LOOKS);
    others.remove(UsdNames.LEVELS);
    return others;
  }

  /**
   * The schema that the prim follows and those that are applied to it, as far as they are none of
   * ours: their values are kept too, and land in USD again.
   *
   * @param ofOthers whether the prim's own schema is none of ours
   */
  public void schemas(Map<String, Object> into, boolean ofOthers) {
    if (ofOthers) {
      into.put(UsdNames.TYPE_NAME, prim.typeName());
    }
    List<String> apis = new ArrayList<>();
    if (prim.field("apiSchemas") instanceof List<?> list) {
      list.stream().map(String::valueOf).filter(a -> !UsdNames.isOurs(a)).forEach(apis::add);
    }
    if (!apis.isEmpty()) {
      into.put(UsdNames.APIS, List.copyOf(apis));
    }
    schemas = ofOthers || !apis.isEmpty();
  }

  /** Attributes that are wanted, with what they do over time. */
  public void attributes(Map<String, Object> into, Predicate<String> wanted)
      throws IOException, FormatException {
    for (String name : prim.propertyNames()) {
      UsdProperty property = prim.property(name);
      if (!wanted.test(name)) {
        continue;
      }
      if (property.isRelationship()) {
        relationship(property, into);
        continue;
      }
      UsdValue value = Said.value(property);
      if (value == null) {
        continue;
      }
      if (value.length() > LONGEST) {
        reading
            .report()
            .lost(
                "values-not-read",
                prim.path(),
                "The custom value \""
                    + name
                    + "\" has more than 1,048,576 numbers: it is left out.");
        continue;
      }
      String shown = shown(property);
      reading.report().claim(32L * value.length(), prim.path(), "\"" + name + "\"");
      into.put(shown, plain(value));
      notes(property, shown);
      files(property, value, shown);
      ofSchema(property, shown);
      String type = property.typeName();
      boolean uniform = schemas && property.isUniform();
      if (!PLAIN.contains(type) || uniform) {
        types.put(shown, (uniform ? UsdNames.UNIFORM : "") + type + (value.array() ? "[]" : ""));
      }
      if (Said.moves(property)) {
        motion(shown, property, value);
      }
    }
    if (!ofSchemas.isEmpty()) {
      into.put(UsdNames.SCHEMA, List.copyOf(ofSchemas));
    }
    if (!files.isEmpty()) {
      into.put(UsdNames.FILES_OF, Map.copyOf(files));
    }
    if (!fields.isEmpty()) {
      into.put(UsdNames.FIELDS, Map.copyOf(fields));
    }
    if (!types.isEmpty()) {
      into.put(UsdNames.TYPES, Map.copyOf(types));
    }
  }

  /** What stood before the name was made one that an attribute can have. */
  private static String shown(UsdProperty property) {
    String said = Said.field(property, "displayName", "");
    return !said.isEmpty() && UsdNames.isMadeOf(property.name(), said) ? said : property.name();
  }

  /** Files that a value names come along in a landing. */
  private void files(UsdProperty property, UsdValue value, String shown)
      throws IOException, FormatException {
    if (value.type().kind() != UsdType.Kind.ASSET) {
      return;
    }
    Map<String, Object> found = NamedFiles.of(reading.stage(), value, property.valueLayer());
    if (!found.isEmpty()) {
      files.put(shown, Map.copyOf(found));
    }
    if (NamedFiles.misses(value, found)) {
      reading
          .report()
          .lost(
              "named-file-missing",
              prim.path(),
              "\""
                  + property.name()
                  + "\" names "
                  + String.join(", ", value.texts())
                  + ", which is not in the cargo: its path lands without it. Add the file.");
    }
  }

  /** What a value of another schema has beside its type. */
  private void notes(UsdProperty property, String shown) {
    Map<String, Object> own = new LinkedHashMap<>();
    for (String field : schemas ? UsdNames.OF_VALUES : Set.<String>of()) {
      Object said = plain(property.field(field));
      if (said != null) {
        own.put(field, said);
      }
    }
    if (!own.isEmpty()) {
      fields.put(shown, Map.copyOf(own));
    }
  }

  private void ofSchema(UsdProperty property, String shown) {
    if (schemas && !property.isCustom()) {
      ofSchemas.add(shown);
    }
  }

  /** What a relationship leads to, by paths. */
  private void relationship(UsdProperty property, Map<String, Object> into) {
    if (!property.targets().isEmpty()) {
      into.put(property.name(), List.copyOf(property.targets()));
      types.put(property.name(), UsdNames.RELATIONSHIP);
      ofSchema(property, property.name());
    }
  }

  private void motion(String name, UsdProperty property, UsdValue value)
      throws IOException, FormatException {
    int numbers = value.length();
    if (value.type().kind().isText() && !value.array()) {
      texts(name, property);
    } else if (value.type().kind().isText() || !isEven(property.samples(), numbers)) {
      lists(name, property);
    } else {
      boolean steps = !value.type().kind().isReal();
      reading.track(
          target,
          Clip.CUSTOM + name,
          property,
          steps ? Clip.Interpolation.STEP : Clip.Interpolation.LINEAR,
          numbers,
          UsdValue::doubles);
    }
  }

  /** Whether all samples have as many numbers, and not too many in all. */
  private static boolean isEven(UsdSamples samples, int numbers)
      throws IOException, FormatException {
    int count = samples.codes().length;
    boolean even = numbers > 0 && (long) numbers * count <= MOST_OVER_TIME;
    for (int s = 0; even && s < count; s++) {
      int own = samples.length(s);
      even = own == numbers || own == 0 && !(samples.value(s) instanceof UsdValue);
    }
    return even;
  }

  /** Lists that get longer and shorter, or of texts. */
  private void lists(String name, UsdProperty property) throws IOException, FormatException {
    UsdSamples samples = property.samples();
    long numbers = 0;
    for (int s = 0; s < samples.codes().length; s++) {
      numbers += samples.length(s);
    }
    if (numbers > MOST_OVER_TIME) {
      reading.still(prim, property.name());
      return;
    }
    words(name, property, UsdValues::listed);
  }

  private static String listed(UsdValue value) {
    return plain(value) instanceof List<?> list ? ListText.of(list) : null;
  }

  private interface Words {
    String of(UsdValue value);
  }

  private void texts(String name, UsdProperty property) throws IOException, FormatException {
    words(name, property, UsdValue::text);
  }

  private void words(String name, UsdProperty property, Words each)
      throws IOException, FormatException {
    UsdSamples samples = property.samples();
    double[] codes = samples.codes();
    List<Double> seconds = new ArrayList<>();
    List<String> values = new ArrayList<>();
    for (int s = 0; s < codes.length; s++) {
      String text = samples.value(s) instanceof UsdValue value ? each.of(value) : null;
      if (text != null) {
        reading.report().claim(64 + 2L * text.length(), prim.path(), "\"" + name + "\"");
        seconds.add(reading.seconds(codes[s]));
        values.add(text);
      }
    }
    if (values.size() > 1) {
      double[] times = seconds.stream().mapToDouble(Double::doubleValue).toArray();
      reading.words().add(new Clip.Words(target, Clip.CUSTOM + name, times, values));
    }
  }

  /** As a value for people: numbers, texts, lists, maps; {@code null} for what has none. */
  public static Object plain(Object said) {
    if (said instanceof Map<?, ?> map) {
      Map<String, Object> result = new LinkedHashMap<>();
      map.forEach(
          (key, value) -> {
            Object own = plain(value);
            if (own != null) {
              result.put(String.valueOf(key), own);
            }
          });
      return result;
    }
    if (said instanceof List<?> list) {
      return list.stream().map(UsdValues::plain).filter(v -> v != null).toList();
    }
    if (!(said instanceof UsdValue value)) {
      return said instanceof String || said instanceof Number ? said : null;
    }
    boolean single = !value.array() && value.length() == 1;
    List<Object> all = new ArrayList<>();
    for (int i = 0; i < value.length(); i++) {
      all.add(number(value, i));
    }
    return single ? all.get(0) : List.copyOf(all);
  }

  private static Object number(UsdValue value, int i) {
    return switch (value.type().kind()) {
      case BOOL -> value.number(i) != 0;
      case UCHAR, INT -> (int) value.number(i);
      case UINT, INT64, UINT64 -> ((long[]) value.data())[i];
      case HALF, FLOAT, DOUBLE, TIMECODE -> Said.decimal(value, i);
      default -> value.texts()[i];
    };
  }
}
