package ferry.stone.core.format.usd.out;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.SeekableOutput;
import ferry.stone.core.format.usd.layer.CrateTypes;
import ferry.stone.core.format.usd.layer.ListOp;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.layer.UsdArc;
import ferry.stone.core.format.usd.layer.UsdLayer;
import ferry.stone.core.format.usd.layer.UsdType;
import ferry.stone.core.format.usd.layer.UsdValue;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/**
 * Writes a layer as a crate of version 0.8, the one that the standard's own library writes: values
 * as they come, then the tables, then where these stand. Samples are read one by one as they are
 * written; nothing of them is held but where they are.
 *
 * <table>
 * <caption>Head, little-endian</caption>
 * <tr><td>0</td><td>{@code PXR-USDC}</td></tr>
 * <tr><td>8</td><td>version, three bytes, five of 0</td></tr>
 * <tr><td>16</td><td>int64 place of the list of sections</td></tr>
 * <tr><td>24</td><td>64 bytes of 0</td></tr>
 * </table>
 */
public final class CrateWriter {
  /** Minor version, where no value needs a newer one. */
  static final int VERSION = 8;

  private static final int HEAD = 88;
  private static final int ATTRIBUTE = 1;
  private static final int PRIM = 6;
  private static final int ROOT = 7;
  private static final int RELATIONSHIP = 8;
  private static final int VARIANT = 10;
  private static final int VARIANT_SET = 11;

  private final SeekableOutput out;
  private final CrateTables tables = new CrateTables();
  private final CrateValueWriter values;

  private CrateWriter(SeekableOutput out) {
    this.out = out;
    values = new CrateValueWriter(out, tables);
  }

  /** The caller completes and closes the output. */
  public static void write(UsdLayer layer, SeekableOutput out) throws IOException, FormatException {
    new CrateWriter(out).layer(layer);
  }

  private void layer(UsdLayer layer) throws IOException, FormatException {
    ByteBuffer head = ByteBuffer.allocate(HEAD).order(ByteOrder.LITTLE_ENDIAN);
    head.put("PXR-USDC".getBytes(StandardCharsets.US_ASCII)).put((byte) 0).put((byte) VERSION);
    out.write(head.array());
    List<Integer> fields = new ArrayList<>();
    if (!layer.sublayers().isEmpty()) {
      fields.add(
          tables.field(
              "subLayers", values.texts(layer.sublayers().stream().map(UsdArc::asset).toList())));
      fields.add(tables.field("subLayerOffsets", values.offsets(layer.sublayers())));
    }
    contents(layer.root(), "/", fields, ROOT);
    out.patch(9, new byte[] {(byte) values.version()});
    sections();
  }

  private void contents(PrimSpec prim, String path, List<Integer> fields, int type)
      throws IOException, FormatException {
    if (type == PRIM) {
      fields.add(
          tables.field(
              "specifier",
              CrateValueWriter.word(CrateTypes.SPECIFIER, prim.specifier().ordinal())));
      if (!prim.typeName().isEmpty()) {
        fields.add(tables.field("typeName", values.token(prim.typeName())));
      }
    } else if (type == VARIANT) {
      // The library gives variants the specifier of an over.
      fields.add(tables.field("specifier", CrateValueWriter.word(CrateTypes.SPECIFIER, 1)));
    }
    for (Map.Entry<String, Object> field : prim.fields().entrySet()) {
      fields.add(tables.field(field.getKey(), field(field.getKey(), field.getValue())));
    }
    list(fields, "primOrder", prim.childOrder());
    list(fields, "propertyOrder", prim.propertyOrder());
    list(fields, "properties", prim.properties().keySet());
    list(fields, "primChildren", prim.children().keySet());
    list(fields, "variantSetChildren", prim.variantSets().keySet());
    tables.spec(path, type, fields);
    for (PropertySpec property : prim.properties().values()) {
      property(property, path + "." + property.name());
    }
    String below = path.endsWith("/") || path.endsWith("}") ? path : path + "/";
    for (PrimSpec child : prim.children().values()) {
      contents(child, below + child.name(), new ArrayList<>(), PRIM);
    }
    for (Map.Entry<String, Map<String, PrimSpec>> set : prim.variantSets().entrySet()) {
      List<Integer> own = new ArrayList<>();
      list(own, "variantChildren", set.getValue().keySet());
      tables.spec(path + "{" + set.getKey() + "=}", VARIANT_SET, own);
      for (PrimSpec variant : set.getValue().values()) {
        String at = path + "{" + set.getKey() + "=" + variant.name() + "}";
        contents(variant, at, new ArrayList<>(), VARIANT);
      }
    }
  }

  private void list(List<Integer> fields, String name, Iterable<String> names) throws IOException {
    List<String> all = new ArrayList<>();
    names.forEach(all::add);
    if (!all.isEmpty()) {
      fields.add(tables.field(name, values.tokens(all)));
    }
  }

  private long field(String name, Object value) throws IOException, FormatException {
    if (value instanceof ListOp<?> edit) {
      return values.list(FieldTypes.list(name), edit);
    }
    if (name.equals("variantSelection") && value instanceof Map<?, ?> map) {
      return values.selections(map);
    }
    if (name.equals("layerRelocates") && value instanceof Map<?, ?> map) {
      return values.relocates(map);
    }
    return values.any(value instanceof UsdValue own ? FieldTypes.typed(name, own) : value);
  }

  private void property(PropertySpec property, String path) throws IOException, FormatException {
    List<Integer> fields = new ArrayList<>();
    if (property.isCustom()) {
      fields.add(
          tables.field(
              "custom",
              values.any(new UsdValue(UsdType.known("bool"), false, new boolean[] {true}))));
    }
    if (!property.isRelationship()) {
      String type = property.typeName() + (property.isArray() ? "[]" : "");
      fields.add(tables.field("typeName", values.token(type)));
    }
    if (property.isUniform() || property.isRelationship()) {
      fields.add(tables.field("variability", CrateValueWriter.word(CrateTypes.VARIABILITY, 1)));
    }
    if (property.value() != null) {
      fields.add(tables.field("default", values.any(property.value())));
    }
    if (property.samples() != null) {
      fields.add(tables.field("timeSamples", values.samples(property.samples())));
    }
    if (property.targets() != null) {
      String name = property.isRelationship() ? "targetPaths" : "connectionPaths";
      fields.add(tables.field(name, values.list(CrateTypes.PATH_LIST, property.targets())));
    }
    for (Map.Entry<String, Object> field : property.fields().entrySet()) {
      fields.add(tables.field(field.getKey(), field(field.getKey(), field.getValue())));
    }
    tables.spec(path, property.isRelationship() ? RELATIONSHIP : ATTRIBUTE, fields);
  }

  /** A section by its name, and where it begins and how long it is. */
  private record Section(String name, long start, long size) {}

  private interface Body {
    void write() throws IOException;
  }

  private Section section(String name, Body body) throws IOException {
    long start = out.position();
    body.write();
    return new Section(name, start, out.position() - start);
  }

  private void sections() throws IOException {
    // Paths name tokens, so they come before these are counted.
    CratePathTree tree = new CratePathTree(tables);
    List<Section> all = new ArrayList<>();
    all.add(section("TOKENS", this::tokens));
    all.add(
        section(
            "STRINGS",
            () -> {
              int[] strings = tables.strings();
              number(strings.length);
              ByteBuffer bytes =
                  ByteBuffer.allocate(4 * strings.length).order(ByteOrder.LITTLE_ENDIAN);
              bytes.asIntBuffer().put(strings);
              out.write(bytes.array());
            }));
    all.add(
        section(
            "FIELDS",
            () -> {
              int[] names = tables.fieldTokens();
              number(names.length);
              ints(names);
              long[] reps = tables.fieldValues();
              ByteBuffer bytes =
                  ByteBuffer.allocate(8 * reps.length).order(ByteOrder.LITTLE_ENDIAN);
              bytes.asLongBuffer().put(reps);
              packed(CratePacking.lz4(bytes.array(), bytes.capacity()));
            }));
    all.add(counted("FIELDSETS", tables.setTable()));
    all.add(
        section(
            "PATHS",
            () -> {
              number(tables.paths().size());
              number(tree.indices().length);
              ints(tree.indices());
              ints(tree.elements());
              ints(tree.jumps());
            }));
    all.add(
        section(
            "SPECS",
            () -> {
              number(tables.specPaths().length);
              ints(tables.specPaths());
              ints(tables.specFields());
              ints(tables.specTypes());
            }));
    long at = out.position();
    number(all.size());
    for (Section section : all) {
      ByteBuffer entry = ByteBuffer.allocate(32).order(ByteOrder.LITTLE_ENDIAN);
      entry.put(section.name().getBytes(StandardCharsets.US_ASCII));
      entry.putLong(16, section.start()).putLong(24, section.size());
      out.write(entry.array());
    }
    out.patch(16, CrateValueWriter.bytes(at));
  }

  private Section counted(String name, int[] all) throws IOException {
    return section(
        name,
        () -> {
          number(all.length);
          ints(all);
        });
  }

  private void tokens() throws IOException {
    List<byte[]> texts = new ArrayList<>();
    int size = 0;
    for (String token : tables.tokens()) {
      byte[] text = token.getBytes(StandardCharsets.UTF_8);
      texts.add(text);
      size += text.length + 1;
    }
    byte[] joined = new byte[size];
    int at = 0;
    for (byte[] text : texts) {
      System.arraycopy(text, 0, joined, at, text.length);
      at += text.length + 1;
    }
    number(texts.size());
    number(size);
    packed(CratePacking.lz4(joined, size));
  }

  private void ints(int[] all) throws IOException {
    packed(CratePacking.ints(all));
  }

  private void packed(byte[] bytes) throws IOException {
    number(bytes.length);
    out.write(bytes);
  }

  private void number(long value) throws IOException {
    out.write(CrateValueWriter.bytes(value));
  }
}
