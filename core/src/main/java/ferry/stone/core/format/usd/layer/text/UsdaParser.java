package ferry.stone.core.format.usd.layer.text;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.usd.layer.ListOp;
import ferry.stone.core.format.usd.layer.ListOp.Edit;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.layer.UsdArc;
import ferry.stone.core.format.usd.layer.UsdLayer;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.layer.UsdType;
import ferry.stone.core.format.usd.layer.UsdValue;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Reads text layers ({@code #usda 1.0}), after the grammar that the standard publishes. A fault is
 * told with its line and column. Fields have the names that crates give them.
 */
public final class UsdaParser {
  private static final String MARK = "#usda 1.";
  private static final int DEEPEST = 200;

  /** Edits by their words; "reorder" stands before lists of names as well. */
  private static final Map<String, Edit> EDITS =
      Map.of(
          "add",
          Edit.ADD,
          "prepend",
          Edit.PREPEND,
          "append",
          Edit.APPEND,
          "delete",
          Edit.DELETE,
          "reorder",
          Edit.REORDER);

  /** Fields that have another name in text. */
  private static final Map<String, String> NAMES =
      Map.of(
          "inherits",
          "inheritPaths",
          "variantSets",
          "variantSetNames",
          "variants",
          "variantSelection",
          "doc",
          "documentation");

  private final UsdaCursor in;
  private final UsdaValues values;
  private final String resource;
  private final List<UsdArc> sublayers = new ArrayList<>();

  private UsdaParser(String resource, byte[] text) {
    this.resource = resource;
    in = new UsdaCursor(resource, text);
    values = new UsdaValues(in);
  }

  /** Whether a file begins like a text layer. */
  public static boolean isText(byte[] head) {
    return new UsdaCursor("", head).startsWith("#usda ");
  }

  public static UsdLayer parse(String resource, byte[] text) throws FormatException {
    return new UsdaParser(resource, text).layer();
  }

  private UsdLayer layer() throws FormatException {
    if (!in.startsWith(MARK)) {
      boolean other = in.startsWith("#usda ");
      throw new FormatException(
          other ? Kind.TOO_NEW : Kind.NOT_THIS_FORMAT,
          resource,
          "line 1, column 1",
          other
              ? "the layer is of a version that is not known: it begins otherwise than \"#usda"
                  + " 1.0\". Export it for an older version."
              : "this is not a text layer: it does not begin with \"#usda 1.0\". Export or copy it"
                  + " again.");
    }
    in.passLine();
    PrimSpec root = new PrimSpec("");
    root.specifier(PrimSpec.Specifier.DEF);
    if (in.take('(')) {
      fields(root.fields(), true);
    }
    while (in.peek() != 0) {
      if (in.take("reorder")) {
        in.word("rootPrims");
        in.expect('=');
        root.childOrder(names());
      } else {
        prim(root, 0);
      }
    }
    return new UsdLayer(resource, root, sublayers);
  }

  private void prim(PrimSpec parent, int depth) throws FormatException {
    if (depth > DEEPEST) {
      throw in.error("prims are nested deeper than " + DEEPEST + " here.");
    }
    PrimSpec.Specifier specifier =
        in.take("def")
            ? PrimSpec.Specifier.DEF
            : in.take("over")
                ? PrimSpec.Specifier.OVER
                : in.take("class") ? PrimSpec.Specifier.CLASS : null;
    if (specifier == null) {
      throw in.expected("def, over or class");
    }
    String typeName = in.isString() ? "" : in.word("the type of a prim");
    String name = in.string("the name of a prim in quotes");
    PrimSpec prim = new PrimSpec(name);
    prim.specifier(specifier);
    prim.typeName(typeName);
    if (name.isEmpty() || parent.children().putIfAbsent(name, prim) != null) {
      throw in.error(
          name.isEmpty()
              ? "a prim has no name here. Give it one."
              : "a prim \"" + name + "\" is here a second time. Give it another name.");
    }
    if (in.take('(')) {
      fields(prim.fields(), false);
    }
    contents(prim, depth);
  }

  private void contents(PrimSpec prim, int depth) throws FormatException {
    in.expect('{');
    while (!in.take('}')) {
      String word = in.peekWord();
      switch (word) {
        case "def", "over", "class" -> prim(prim, depth + 1);
        case "variantSet" -> variants(prim, depth);
        case "reorder" -> {
          in.take("reorder");
          if (in.take("nameChildren")) {
            in.expect('=');
            prim.childOrder(names());
          } else if (in.take("properties")) {
            in.expect('=');
            prim.propertyOrder(names());
          } else {
            property(prim, Edit.REORDER);
          }
        }
        case "" -> throw in.expected("a prim, a property or \"}\"");
        default -> {
          Edit edit = EDITS.getOrDefault(word, Edit.SET);
          if (edit != Edit.SET) {
            in.take(word);
          }
          property(prim, edit);
        }
      }
    }
  }

  private void variants(PrimSpec prim, int depth) throws FormatException {
    in.take("variantSet");
    String set = in.string("the name of a variant set in quotes");
    Map<String, PrimSpec> variants =
        prim.variantSets().computeIfAbsent(set, k -> new LinkedHashMap<>());
    in.expect('=');
    in.expect('{');
    while (!in.take('}')) {
      String name = in.string("the name of a variant in quotes");
      PrimSpec variant = variants.computeIfAbsent(name, PrimSpec::new);
      if (in.take('(')) {
        fields(variant.fields(), false);
      }
      if (depth > DEEPEST) {
        throw in.error("variants are nested deeper than " + DEEPEST + " here.");
      }
      contents(variant, depth + 1);
    }
  }

  private List<String> names() throws FormatException {
    List<String> names = new ArrayList<>();
    if (!in.take('[')) {
      names.add(in.string("a name in quotes"));
      return names;
    }
    while (!in.take(']')) {
      names.add(in.string("a name in quotes"));
      if (!in.take(',') && in.peek() != ']') {
        throw in.expected("\",\" or \"]\"");
      }
    }
    return names;
  }

  private void property(PrimSpec prim, Edit edit) throws FormatException {
    boolean custom = in.take("custom");
    boolean uniform = in.take("uniform") || in.take("config");
    boolean varying = !uniform && in.take("varying");
    if (in.take("rel")) {
      relationship(prim, edit, custom, !varying);
      return;
    }
    String typeName = in.word("the type of an attribute");
    boolean array = in.take('[');
    if (array) {
      in.expect(']');
    }
    String name = in.word("the name of an attribute");
    PropertySpec spec = named(prim, name, false);
    spec.type(typeName, array);
    spec.custom(spec.isCustom() | custom);
    spec.uniform(uniform);
    if (in.take('.')) {
      String part = in.word("connect, timeSamples, default or spline");
      in.expect('=');
      switch (part) {
        case "connect" -> spec.targets(edited(spec.targets(), edit, targets()));
        case "timeSamples" -> spec.samples(samples(typeName, array));
        case "default" -> spec.value(value(typeName, array));
        case "spline" -> spec.spline(UsdaSpline.read(in, values));
        default -> throw in.error("an attribute has no \"" + part + "\". Correct the file.");
      }
    } else if (in.take('=')) {
      spec.value(value(typeName, array));
    }
    if (in.take('(')) {
      fields(spec.fields(), false);
    }
  }

  private void relationship(PrimSpec prim, Edit edit, boolean custom, boolean uniform)
      throws FormatException {
    PropertySpec spec = named(prim, in.word("the name of a relationship"), true);
    spec.custom(spec.isCustom() | custom);
    spec.uniform(uniform);
    if (in.take('.')) {
      in.word("default");
    }
    if (in.take('=')) {
      spec.targets(edited(spec.targets(), edit, targets()));
    }
    if (in.take('(')) {
      fields(spec.fields(), false);
    }
  }

  private PropertySpec named(PrimSpec prim, String name, boolean relationship)
      throws FormatException {
    PropertySpec spec =
        prim.properties().computeIfAbsent(name, k -> new PropertySpec(k, relationship));
    if (spec.isRelationship() != relationship) {
      throw in.error(
          "\"" + name + "\" is an attribute and a relationship. Give one of them another name.");
    }
    return spec;
  }

  private static <T> ListOp<T> edited(ListOp<T> before, Edit edit, List<T> items) {
    return (before == null ? ListOp.<T>none() : before).and(edit, items);
  }

  private Object value(String typeName, boolean array) throws FormatException {
    UsdType type = UsdType.of(typeName).orElse(null);
    return type == null ? values.any(0) : values.typed(type, array);
  }

  private UsdSamples samples(String typeName, boolean array) throws FormatException {
    in.expect('{');
    Map<Double, Object> byCode = new java.util.TreeMap<>();
    while (!in.take('}')) {
      double code = in.number();
      in.expect(':');
      byCode.put(code, value(typeName, array));
      if (!in.take(',') && in.peek() != '}') {
        throw in.expected("\",\" or \"}\"");
      }
    }
    double[] codes = byCode.keySet().stream().mapToDouble(Double::doubleValue).toArray();
    return new UsdSamples.Held(codes, byCode.values().toArray());
  }

  /** One path, several in brackets, or none. */
  private List<String> targets() throws FormatException {
    List<String> paths = new ArrayList<>();
    if (in.take("None")) {
      return paths;
    }
    if (!in.take('[')) {
      paths.add(in.path());
      return paths;
    }
    while (!in.take(']')) {
      paths.add(in.path());
      if (!in.take(',') && in.peek() != ']') {
        throw in.expected("\",\" or \"]\"");
      }
    }
    return paths;
  }

  /** What stands between parentheses, after the first of them. */
  private void fields(Map<String, Object> fields, boolean ofLayer) throws FormatException {
    while (!in.take(')')) {
      if (in.isString()) {
        fields.put("comment", UsdValue.text(UsdType.Kind.STRING, in.string("a remark")));
        continue;
      }
      String word = in.word("the name of a field, or \")\"");
      Edit edit = EDITS.getOrDefault(word, Edit.SET);
      String written = edit == Edit.SET ? word : in.word("the name of a field");
      String name = NAMES.getOrDefault(written, written);
      in.expect('=');
      field(fields, name, edit, ofLayer);
      in.take(',');
    }
  }

  @SuppressWarnings("unchecked")
  private void field(Map<String, Object> fields, String name, Edit edit, boolean ofLayer)
      throws FormatException {
    Object before = fields.get(name);
    switch (name) {
      case "references", "payload" ->
          fields.put(name, edited((ListOp<UsdArc>) before, edit, arcs()));
      case "inheritPaths", "specializes" ->
          fields.put(name, edited((ListOp<String>) before, edit, targets()));
      case "relocates", "layerRelocates" ->
          fields.put(ofLayer ? "layerRelocates" : name, relocates());
      case "variantSelection" -> fields.put(name, values.dictionary(0));
      case "subLayers" -> {
        if (!ofLayer) {
          throw in.error("only a layer has sublayers. Correct the file.");
        }
        sublayers.addAll(sublayers());
      }
      default -> {
        boolean list =
            edit != Edit.SET || name.equals("apiSchemas") || name.equals("variantSetNames");
        fields.put(name, list ? edited((ListOp<Object>) before, edit, items()) : values.any(0));
      }
    }
  }

  /** Texts, or numbers as they are. */
  private List<Object> items() throws FormatException {
    Object found = values.any(0);
    if (!(found instanceof UsdValue value)) {
      return List.of();
    }
    if (value.data() instanceof String[] texts) {
      return new ArrayList<>(Arrays.asList(texts));
    }
    List<Object> items = new ArrayList<>();
    for (int i = 0; i < value.length(); i++) {
      // Lists of numbers are of whole ones.
      items.add((long) value.number(i));
    }
    return items;
  }

  private List<UsdArc> arcs() throws FormatException {
    List<UsdArc> arcs = new ArrayList<>();
    if (in.take("None")) {
      return arcs;
    }
    if (!in.take('[')) {
      arcs.add(arc());
      return arcs;
    }
    while (!in.take(']')) {
      arcs.add(arc());
      if (!in.take(',') && in.peek() != ']') {
        throw in.expected("\",\" or \"]\"");
      }
    }
    return arcs;
  }

  private UsdArc arc() throws FormatException {
    String asset = in.peek() == '@' ? in.asset() : "";
    String prim = in.peek() == '<' ? in.path() : "";
    return withOffset(asset, prim);
  }

  /** Offset, scale and custom data in parentheses, if there are some. */
  private UsdArc withOffset(String asset, String prim) throws FormatException {
    double offset = 0;
    double scale = 1;
    Map<String, Object> custom = Map.of();
    if (in.take('(')) {
      while (!in.take(')')) {
        String part = in.word("offset, scale or customData");
        in.expect('=');
        switch (part) {
          case "offset" -> offset = in.number();
          case "scale" -> scale = in.number();
          case "customData" -> custom = values.dictionary(0);
          default -> throw in.error("a reference has no \"" + part + "\". Correct the file.");
        }
        in.take(',');
      }
    }
    return new UsdArc(asset, prim, offset, scale, custom);
  }

  private List<UsdArc> sublayers() throws FormatException {
    List<UsdArc> layers = new ArrayList<>();
    in.expect('[');
    while (!in.take(']')) {
      layers.add(withOffset(in.asset(), ""));
      if (!in.take(',') && in.peek() != ']') {
        throw in.expected("\",\" or \"]\"");
      }
    }
    return layers;
  }

  private Map<String, Object> relocates() throws FormatException {
    Map<String, Object> moves = new LinkedHashMap<>();
    in.expect('{');
    while (!in.take('}')) {
      String from = in.path();
      in.expect(':');
      moves.put(from, in.path());
      if (!in.take(',') && in.peek() != '}') {
        throw in.expected("\",\" or \"}\"");
      }
    }
    return moves;
  }
}
