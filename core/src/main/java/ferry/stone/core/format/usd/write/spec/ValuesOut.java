package ferry.stone.core.format.usd.write.spec;

import ferry.stone.core.format.files.FreeNames;
import ferry.stone.core.format.motion.ListText;
import ferry.stone.core.format.usd.UsdNames;
import ferry.stone.core.format.usd.ValidNames;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.layer.UsdType;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.scene.time.Clip;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/**
 * Custom values: as attributes of the prim, maps as its custom data; what the format has a field
 * for goes there. A name that no attribute can have stands as its display name.
 */
public final class ValuesOut {
  /** Values by the fields that they are. */
  private static final Set<String> FIELDS =
      Set.of("documentation", "comment", "kind", "assetInfo", "customData", "displayName");

  /** What is written otherwise than as a value. */
  private static final Set<String> OURS =
      Set.of(
          UsdNames.TYPES,
          UsdNames.SCHEMA,
          UsdNames.APIS,
          UsdNames.TYPE_NAME,
          UsdNames.NETWORKS,
          UsdNames.FIELDS,
          UsdNames.FILES_OF);

  private final PrimSpec prim;
  private final FreeNames free = new FreeNames();
  private final TimeCodes times;
  private final int target;
  private List<?> ofSchemas = List.of();
  private Map<?, ?> fields = Map.of();
  private Map<?, ?> files = Map.of();
  private NamedFilesOut taken = (written, found) -> written;

  private ValuesOut(PrimSpec prim, TimeCodes times, int target) {
    this.prim = prim;
    this.times = times;
    this.target = target;
  }

  /**
   * @param target id of what the values are of
   */
  public static void write(PrimSpec prim, Map<String, Object> values, TimeCodes times, int target) {
    new ValuesOut(prim, times, target).all(values);
  }

  /**
   * The same with the files that values name.
   *
   * @param files takes them along
   */
  public static void write(
      PrimSpec prim, Map<String, Object> values, TimeCodes times, int target, NamedFilesOut files) {
    ValuesOut out = new ValuesOut(prim, times, target);
    out.taken = files;
    out.all(values);
  }

  private void all(Map<String, Object> values) {
    Map<?, ?> types = values.get(UsdNames.TYPES) instanceof Map<?, ?> map ? map : Map.of();
    ofSchemas = values.get(UsdNames.SCHEMA) instanceof List<?> list ? list : List.of();
    fields = values.get(UsdNames.FIELDS) instanceof Map<?, ?> map ? map : Map.of();
    files = values.get(UsdNames.FILES_OF) instanceof Map<?, ?> map ? map : Map.of();
    if (values.get(UsdNames.APIS) instanceof List<?> apis) {
      Spec.api(prim, apis.stream().map(String::valueOf).toArray(String[]::new));
    }
    new TreeMap<>(values)
        .forEach(
            (name, value) -> {
              if (!OURS.contains(name)) {
                one(name, value, types.get(name) instanceof String type ? type : "");
              }
            });
  }

  private void one(String name, Object value, String type) {
    if (FIELDS.contains(name) && !name.equals("customData") && !name.equals("assetInfo")) {
      if (value instanceof String text) {
        boolean token = name.equals("kind");
        prim.fields().put(name, Spec.text(token ? "token" : "string", text));
        return;
      }
    }
    if (type.equals(UsdNames.RELATIONSHIP)
        && value instanceof List<?> targets
        && ValidNames.isProperty(name)) {
      PropertySpec property =
          Spec.target(
              prim,
              name,
              targets.stream()
                  .map(String::valueOf)
                  .filter(ValidNames::isPath)
                  .toArray(String[]::new));
      property.custom(!ofSchemas.contains(name));
      return;
    }
    if (value instanceof Map<?, ?> map) {
      boolean whole = name.equals("customData") || name.equals("assetInfo");
      Map<String, Object> dictionary = dictionary(map);
      if (!whole) {
        Spec.custom(prim, name, dictionary);
      } else if (name.equals("customData")) {
        dictionary.forEach((key, each) -> Spec.custom(prim, key, each));
      } else {
        prim.fields().put(name, dictionary);
      }
      return;
    }
    boolean uniform = type.startsWith(UsdNames.UNIFORM);
    UsdValue typed = typed(value, uniform ? type.substring(UsdNames.UNIFORM.length()) : type);
    if (typed != null) {
      attribute(name, named(name, typed)).uniform(uniform);
    }
  }

  /** With the paths that its files have in the landing. */
  private UsdValue named(String name, UsdValue value) {
    if (value.type().kind() != UsdType.Kind.ASSET
        || !(files.get(name) instanceof Map<?, ?> found)) {
      return value;
    }
    String[] texts = value.texts().clone();
    try {
      for (int i = 0; i < texts.length; i++) {
        texts[i] = taken.keep(texts[i], found);
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return new UsdValue(value.type(), value.array(), texts);
  }

  private PropertySpec attribute(String name, UsdValue value) {
    boolean ofSchema = ofSchemas.contains(name) && ValidNames.isProperty(name);
    String valid = ofSchema ? name : UsdNames.attribute(name);
    String taken = free.take(valid);
    PropertySpec property = Spec.set(prim, taken, value);
    property.custom(!ofSchema);
    if (fields.get(name) instanceof Map<?, ?> own) {
      own.forEach((field, said) -> field(property, String.valueOf(field), said));
    }
    if (!taken.equals(name)) {
      Spec.field(property, "displayName", Spec.text("string", name));
    }
    Clip.Track track = times.track(target, Clip.CUSTOM + name);
    Clip.Words words = times.words(target).get(Clip.CUSTOM + name);
    if (track != null && track.components() == value.length() && !value.type().kind().isText()) {
      boolean real = value.type().kind().isReal();
      property.samples(times.samples(track, !real, v -> like(value, v)));
    } else if (words != null) {
      List<UsdValue> texts = new ArrayList<>();
      words.values().forEach(text -> texts.add(word(value, text)));
      property.samples(Spec.samples(times.codes(words.timesSeconds()), texts));
    }
    return property;
  }

  /** What a word says, as a value of the same type. */
  private static UsdValue word(UsdValue value, String text) {
    List<?> list = value.array() ? ListText.list(text) : null;
    return list == null
        ? Spec.text(value.type().name(), text)
        : typed(list, value.type().name() + "[]");
  }

  /** A field that values have, as far as it is known. */
  private static void field(PropertySpec property, String field, Object said) {
    if (UsdNames.OF_VALUES.contains(field) && said instanceof String word) {
      Spec.field(property, field, Spec.text("token", word));
    } else if (UsdNames.OF_VALUES.contains(field) && said instanceof Number number) {
      Spec.field(property, field, Spec.number("int", number.doubleValue()));
    }
  }

  /** Numbers as a value of the same type. */
  private static UsdValue like(UsdValue value, double[] numbers) {
    UsdValue plain = Spec.value("double", true, numbers.clone());
    return new UsdValue(value.type(), value.array(), as(plain, value.type()));
  }

  /** A value with its type; {@code null} for what has none. */
  public static UsdValue typed(Object value, String type) {
    UsdValue own = own(value);
    if (own == null || type.isEmpty()) {
      return own;
    }
    boolean array = type.endsWith("[]");
    UsdType wanted = UsdType.of(array ? type.substring(0, type.length() - 2) : type).orElse(null);
    boolean fits =
        wanted != null
            && wanted.components() > 0
            && wanted.kind().isText() == own.type().kind().isText()
            && own.length() % wanted.components() == 0
            && (array || own.length() == wanted.components());
    return fits ? new UsdValue(wanted, array, as(own, wanted)) : own;
  }

  private static Object as(UsdValue value, UsdType type) {
    return switch (type.kind()) {
      case BOOL -> {
        boolean[] all = new boolean[value.length()];
        for (int i = 0; i < all.length; i++) {
          all[i] = value.number(i) != 0;
        }
        yield all;
      }
      case UCHAR, INT -> value.ints();
      case UINT, INT64, UINT64 -> {
        long[] all = new long[value.length()];
        for (int i = 0; i < all.length; i++) {
          all[i] = value.data() instanceof long[] own ? own[i] : (long) value.number(i);
        }
        yield all;
      }
      case HALF, FLOAT -> value.floats();
      case DOUBLE, TIMECODE -> value.doubles();
      default -> value.texts();
    };
  }

  private static UsdValue own(Object value) {
    if (value instanceof List<?> list) {
      return list(list);
    }
    if (value instanceof Boolean truth) {
      return Spec.number("bool", truth ? 1 : 0);
    }
    if (value instanceof Integer whole) {
      return Spec.number("int", whole);
    }
    if (value instanceof Long whole) {
      return Spec.value("int64", false, new long[] {whole});
    }
    if (value instanceof Number number) {
      return Spec.number("double", number.doubleValue());
    }
    return value instanceof String text ? Spec.text("string", text) : null;
  }

  private static UsdValue list(List<?> list) {
    if (list.stream().allMatch(v -> v instanceof Integer)) {
      return Spec.value("int", true, list.stream().mapToInt(v -> (Integer) v).toArray());
    }
    if (list.stream().allMatch(v -> v instanceof Number)) {
      double[] all = list.stream().mapToDouble(v -> ((Number) v).doubleValue()).toArray();
      return Spec.value("double", true, all);
    }
    if (list.stream().allMatch(v -> v instanceof Boolean)) {
      boolean[] all = new boolean[list.size()];
      for (int i = 0; i < all.length; i++) {
        all[i] = (Boolean) list.get(i);
      }
      return Spec.value("bool", true, all);
    }
    String[] texts = list.stream().map(String::valueOf).toArray(String[]::new);
    return Spec.value("string", true, texts);
  }

  /** A map as a dictionary; what has no type is left out. */
  public static Map<String, Object> dictionary(Map<?, ?> map) {
    Map<String, Object> result = new LinkedHashMap<>();
    new TreeMap<>(map)
        .forEach(
            (key, value) -> {
              Object own = value instanceof Map<?, ?> inner ? dictionary(inner) : own(value);
              if (own != null) {
                result.put(String.valueOf(key), own);
              }
            });
    return result;
  }
}
