package ferry.stone.core.format.usd.layer;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.RandomBytes;
import ferry.stone.core.format.usd.layer.spline.UsdSpline;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Reads crates as layers: the same specs and fields that a text layer has. */
public final class CrateReader {
  private static final int ATTRIBUTE = 1;
  private static final int PRIM = 6;
  private static final int ROOT = 7;
  private static final int RELATIONSHIP = 8;
  private static final int VARIANT = 10;
  private static final int END = -1;
  private static final int DEEPEST = 400;

  private final CrateFile file;
  private final CrateValues values;
  private final String resource;
  private final Map<String, Map<String, Object>> byPath = new LinkedHashMap<>();
  private final Map<String, Integer> types = new LinkedHashMap<>();

  private CrateReader(String resource, CrateFile file) {
    this.resource = resource;
    this.file = file;
    values = new CrateValues(file);
  }

  /** Whether a file begins like a crate. */
  public static boolean isCrate(byte[] head) {
    return CrateFile.isCrate(head);
  }

  public static UsdLayer read(String resource, RandomBytes bytes, Budget budget)
      throws IOException, FormatException {
    return new CrateReader(resource, new CrateFile(resource, bytes, budget)).layer();
  }

  private UsdLayer layer() throws IOException, FormatException {
    for (int s = 0; s < file.specPaths.length; s++) {
      String path = file.path(file.specPaths[s], 0);
      types.put(path, file.specTypes[s]);
      byPath.put(path, fields(file.specFields[s]));
    }
    if (!types.containsKey("/") || types.get("/") != ROOT) {
      throw file.corrupt(0, "the crate says nothing of the layer itself.");
    }
    PrimSpec root = new PrimSpec("");
    root.specifier(PrimSpec.Specifier.DEF);
    Map<String, Object> own = byPath.get("/");
    List<UsdArc> sublayers = sublayers(own);
    fill(root, "/", own, 0);
    return new UsdLayer(resource, root, sublayers);
  }

  private Map<String, Object> fields(int first) throws IOException, FormatException {
    Map<String, Object> fields = new LinkedHashMap<>(8);
    for (int i = first; ; i++) {
      if (i < 0 || i >= file.fieldSets.length) {
        throw file.corrupt(0, "a set of fields runs beyond its table.");
      }
      int field = file.fieldSets[i];
      if (field == END) {
        return fields;
      }
      if (field < 0 || field >= file.fieldTokens.length) {
        throw file.corrupt(0, "a field is named that is not there.");
      }
      String name = file.token(file.fieldTokens[field], 0);
      fields.put(name, values.value(file.fieldValues[field]));
    }
  }

  private static List<UsdArc> sublayers(Map<String, Object> fields) {
    List<?> paths = fields.remove("subLayers") instanceof List<?> list ? list : List.of();
    List<?> offsets = fields.remove("subLayerOffsets") instanceof List<?> list ? list : List.of();
    List<UsdArc> layers = new ArrayList<>();
    for (int i = 0; i < paths.size(); i++) {
      double[] offset =
          i < offsets.size() && offsets.get(i) instanceof double[] d ? d : new double[] {0, 1};
      layers.add(new UsdArc(String.valueOf(paths.get(i)), "", offset[0], offset[1], Map.of()));
    }
    return layers;
  }

  private void fill(PrimSpec prim, String path, Map<String, Object> fields, int depth)
      throws FormatException {
    if (depth > DEEPEST) {
      throw file.corrupt(0, "prims are nested deeper than " + DEEPEST + ".");
    }
    Map<String, Object> left = new LinkedHashMap<>(fields);
    if (left.remove("specifier") instanceof Integer specifier) {
      PrimSpec.Specifier[] all = PrimSpec.Specifier.values();
      if (specifier < 0 || specifier >= all.length) {
        throw file.corrupt(0, "the prim " + path + " is neither def, over nor class.");
      }
      prim.specifier(all[specifier]);
    }
    if (left.remove("typeName") instanceof UsdValue name && name.text() != null) {
      prim.typeName(name.text());
    }
    prim.childOrder(names(left.remove("primOrder")));
    prim.propertyOrder(names(left.remove("propertyOrder")));
    Object properties = left.remove("properties");
    for (String name : names(properties)) {
      property(prim, path + "." + name, name);
    }
    String begin = path.endsWith("/") || path.endsWith("}") ? path : path + "/";
    for (String name : names(left.remove("primChildren"))) {
      String below = begin + name;
      PrimSpec child = new PrimSpec(name);
      prim.children().put(name, child);
      fill(child, below, of(below, PRIM), depth + 1);
    }
    for (String set : names(left.remove("variantSetChildren"))) {
      Map<String, PrimSpec> variants = new LinkedHashMap<>();
      prim.variantSets().put(set, variants);
      Map<String, Object> own = byPath.getOrDefault(path + "{" + set + "=}", Map.of());
      for (String name : names(own.get("variantChildren"))) {
        String below = path + "{" + set + "=" + name + "}";
        PrimSpec variant = new PrimSpec(name);
        variants.put(name, variant);
        fill(variant, below, of(below, VARIANT), depth + 1);
      }
    }
    left.forEach(prim.fields()::put);
    for (String field : List.of("references", "payload")) {
      if (left.get(field) instanceof ListOp<?> list) {
        held(list, UsdArc.class, path);
      }
    }
    for (String field : List.of("inheritPaths", "specializes", "variantSetNames", "apiSchemas")) {
      if (left.get(field) instanceof ListOp<?> list) {
        held(list, String.class, path);
      }
    }
  }

  private void held(ListOp<?> list, Class<?> wanted, String path) throws FormatException {
    if (!list.holds(wanted)) {
      throw file.corrupt(0, path + " lists what it cannot hold.");
    }
  }

  private Map<String, Object> of(String path, int type) throws FormatException {
    if (!byPath.containsKey(path) || types.get(path) != type) {
      throw file.corrupt(0, path + " is listed and not there.");
    }
    return byPath.get(path);
  }

  private static List<String> names(Object list) {
    List<String> names = new ArrayList<>();
    if (list instanceof List<?> items) {
      items.forEach(i -> names.add(String.valueOf(i)));
    } else if (list instanceof UsdValue value) {
      names.addAll(List.of(value.texts()));
    }
    return names;
  }

  @SuppressWarnings("unchecked")
  private void property(PrimSpec prim, String path, String name) throws FormatException {
    Integer type = types.get(path);
    if (type == null || type != ATTRIBUTE && type != RELATIONSHIP) {
      throw file.corrupt(0, path + " is listed and not there.");
    }
    // Nobody asks for it again.
    Map<String, Object> left = byPath.get(path);
    PropertySpec spec = new PropertySpec(name, type == RELATIONSHIP);
    prim.properties().put(name, spec);
    if (left.remove("typeName") instanceof UsdValue named && named.text() != null) {
      String text = named.text();
      boolean array = text.endsWith("[]");
      spec.type(array ? text.substring(0, text.length() - 2) : text, array);
    }
    spec.custom(
        left.remove("custom") instanceof UsdValue custom
            && custom.length() > 0
            && custom.number(0) != 0);
    spec.uniform(left.remove("variability") instanceof Integer variability && variability == 1);
    spec.value(typed(left.remove("default"), spec));
    if (left.remove("timeSamples") instanceof UsdSamples samples) {
      spec.samples(new Typed(samples, spec));
    }
    spec.spline(left.remove("spline") instanceof UsdSpline spline ? spline : null);
    Object targets = left.remove(type == RELATIONSHIP ? "targetPaths" : "connectionPaths");
    if (targets instanceof ListOp<?> list) {
      held(list, String.class, path);
      spec.targets((ListOp<String>) list);
    }
    left.remove("targetChildren");
    left.remove("connectionChildren");
    spec.fields().putAll(left);
  }

  /** Values know their numbers; what these mean is told by the attribute. */
  private static Object typed(Object value, PropertySpec spec) {
    UsdType type = UsdType.of(spec.typeName()).orElse(null);
    if (value instanceof ArrayEdit edit && type != null && isSame(type, edit.type())) {
      return new ArrayEdit(type, edit.literals(), edit.operations());
    }
    return value instanceof UsdValue plain && type != null && isSame(type, plain.type())
        ? new UsdValue(type, plain.array(), plain.data())
        : value;
  }

  private static boolean isSame(UsdType a, UsdType b) {
    return a.kind() == b.kind() && a.components() == b.components();
  }

  private record Typed(UsdSamples of, PropertySpec spec) implements UsdSamples {
    @Override
    public double[] codes() {
      return of.codes();
    }

    @Override
    public Object value(int sample) throws IOException, FormatException {
      return typed(of.value(sample), spec);
    }

    @Override
    public int length(int sample) throws IOException, FormatException {
      return of.length(sample);
    }

    @Override
    public void floats(int sample, int from, int count, float[] target)
        throws IOException, FormatException {
      of.floats(sample, from, count, target);
    }
  }
}
