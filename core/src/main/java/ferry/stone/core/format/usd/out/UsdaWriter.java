package ferry.stone.core.format.usd.out;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.layer.ListOp;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.layer.UsdArc;
import ferry.stone.core.format.usd.layer.UsdLayer;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.layer.UsdValue;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Writes a layer as text: {@code #usda 1.0}. Samples are read one by one as they are written. */
public final class UsdaWriter {
  private static final String STEP = "    ";

  private final Writer out;

  private UsdaWriter(Writer out) {
    this.out = out;
  }

  /** The caller closes the stream. */
  public static void write(UsdLayer layer, OutputStream stream)
      throws IOException, FormatException {
    Writer out =
        new BufferedWriter(new OutputStreamWriter(stream, StandardCharsets.UTF_8), 1 << 16);
    new UsdaWriter(out).layer(layer);
    out.flush();
  }

  private void layer(UsdLayer layer) throws IOException, FormatException {
    out.write("#usda 1.0\n");
    Map<String, Object> fields = layer.root().fields();
    if (!fields.isEmpty() || !layer.sublayers().isEmpty()) {
      out.write("(\n");
      fields(fields, STEP);
      if (!layer.sublayers().isEmpty()) {
        out.write(STEP + "subLayers = [\n");
        for (int i = 0; i < layer.sublayers().size(); i++) {
          UsdArc arc = layer.sublayers().get(i);
          out.write(STEP + STEP + asset(arc.asset()) + offset(arc));
          out.write(i + 1 < layer.sublayers().size() ? ",\n" : "\n");
        }
        out.write(STEP + "]\n");
      }
      out.write(")\n");
    }
    for (PrimSpec prim : layer.root().children().values()) {
      out.write("\n");
      prim(prim, "");
    }
  }

  /** Offset, scale and custom data in parentheses; nothing for none. */
  private static String offset(UsdArc arc) {
    List<String> parts = new ArrayList<>();
    if (arc.offset() != 0) {
      parts.add("offset = " + UsdaValueWriter.number(arc.offset()));
    }
    if (arc.scale() != 1) {
      parts.add("scale = " + UsdaValueWriter.number(arc.scale()));
    }
    if (!arc.custom().isEmpty()) {
      parts.add("customData = " + UsdaValueWriter.dictionary(arc.custom()));
    }
    return parts.isEmpty() ? "" : " (" + String.join("; ", parts) + ")";
  }

  private void prim(PrimSpec prim, String indent) throws IOException, FormatException {
    String how =
        switch (prim.specifier()) {
          case DEF -> "def";
          case OVER -> "over";
          case CLASS -> "class";
        };
    String type = prim.typeName().isEmpty() ? "" : " " + prim.typeName();
    out.write(indent + how + type + " " + UsdaValueWriter.quoted(prim.name()));
    body(prim, indent);
    out.write("\n");
  }

  /** Fields in parentheses and contents in braces. */
  private void body(PrimSpec prim, String indent) throws IOException, FormatException {
    if (!prim.fields().isEmpty()) {
      out.write(" (\n");
      fields(prim.fields(), indent + STEP);
      out.write(indent + ")");
    }
    out.write("\n" + indent + "{\n");
    String inside = indent + STEP;
    if (!prim.childOrder().isEmpty()) {
      out.write(inside + "reorder nameChildren = " + names(prim.childOrder()) + "\n");
    }
    if (!prim.propertyOrder().isEmpty()) {
      out.write(inside + "reorder properties = " + names(prim.propertyOrder()) + "\n");
    }
    for (PropertySpec property : prim.properties().values()) {
      property(property, inside);
    }
    boolean first = prim.properties().isEmpty();
    for (PrimSpec child : prim.children().values()) {
      out.write(first ? "" : "\n");
      first = false;
      prim(child, inside);
    }
    for (Map.Entry<String, Map<String, PrimSpec>> set : prim.variantSets().entrySet()) {
      out.write(inside + "variantSet " + UsdaValueWriter.quoted(set.getKey()) + " = {\n");
      for (PrimSpec variant : set.getValue().values()) {
        out.write(inside + STEP + UsdaValueWriter.quoted(variant.name()));
        body(variant, inside + STEP);
        out.write("\n");
      }
      out.write(inside + "}\n");
    }
    out.write(indent + "}");
  }

  private static String names(List<String> names) {
    return names.stream().map(UsdaValueWriter::quoted).toList().toString();
  }

  private void fields(Map<String, Object> fields, String indent) throws IOException {
    for (Map.Entry<String, Object> field : fields.entrySet()) {
      String name = field.getKey();
      Object value = field.getValue();
      if (name.equals("comment") && value instanceof UsdValue text && text.text() != null) {
        out.write(indent + UsdaValueWriter.quoted(text.text()) + "\n");
      } else if (value instanceof ListOp<?> edit) {
        edit(name, edit, indent);
      } else if (name.equals("layerRelocates") && value instanceof Map<?, ?> map) {
        relocates(map, indent);
      } else {
        out.write(indent + FieldTypes.word(name) + " = ");
        value(value instanceof UsdValue own ? FieldTypes.typed(name, own) : value, indent);
        out.write("\n");
      }
    }
  }

  private void relocates(Map<?, ?> map, String indent) throws IOException {
    out.write(indent + "relocates = {\n");
    int left = map.size();
    for (Map.Entry<?, ?> entry : map.entrySet()) {
      out.write(indent + STEP + "<" + entry.getKey() + ">: <" + entry.getValue() + ">");
      out.write(--left > 0 ? ",\n" : "\n");
    }
    out.write(indent + "}\n");
  }

  /** What is done with a list, one line for each kind of edit. */
  private interface Line {
    void write(String edit, List<?> items) throws IOException;
  }

  private void edit(String name, ListOp<?> edit, String indent) throws IOException {
    Line line =
        (word, items) -> {
          out.write(indent + word + FieldTypes.word(name) + " = ");
          if (items.isEmpty()) {
            out.write("None");
          } else if (items.size() == 1
              && !name.equals("apiSchemas")
              && !name.equals("inactiveIds")) {
            out.write(item(name, items.get(0)));
          } else {
            out.write(items.stream().map(i -> item(name, i)).toList().toString());
          }
          out.write("\n");
        };
    edits(edit, line);
  }

  private static void edits(ListOp<?> edit, Line line) throws IOException {
    if (edit.explicit() != null) {
      line.write("", edit.explicit());
      return;
    }
    String[] words = {"delete ", "add ", "prepend ", "append ", "reorder "};
    List<List<?>> lists =
        List.of(edit.deleted(), edit.added(), edit.prepended(), edit.appended(), edit.reordered());
    for (int i = 0; i < words.length; i++) {
      if (!lists.get(i).isEmpty()) {
        line.write(words[i], lists.get(i));
      }
    }
  }

  private static String item(String field, Object item) {
    if (item instanceof UsdArc arc) {
      String prim = arc.prim().isEmpty() && !arc.asset().isEmpty() ? "" : "<" + arc.prim() + ">";
      String file = arc.asset().isEmpty() ? "" : asset(arc.asset());
      return file + prim + offset(arc);
    }
    if (item instanceof Number number) {
      return String.valueOf(number.longValue());
    }
    boolean path = field.equals("inheritPaths") || field.equals("specializes");
    return path ? "<" + item + ">" : UsdaValueWriter.quoted(String.valueOf(item));
  }

  static String asset(String path) {
    return path.contains("@") ? "@@@" + path + "@@@" : "@" + path + "@";
  }

  private void property(PropertySpec property, String indent) throws IOException, FormatException {
    String type =
        property.isRelationship()
            ? "rel "
            : (property.isUniform() ? "uniform " : "")
                + property.typeName()
                + (property.isArray() ? "[] " : " ");
    String head = (property.isCustom() ? "custom " : "") + type + property.name();
    ListOp<String> targets = property.targets();
    boolean whole = property.isRelationship() && targets != null && targets.explicit() != null;
    boolean bare = property.samples() == null && targets == null && property.spline() == null;
    if (property.value() != null || whole || bare || !property.fields().isEmpty()) {
      out.write(indent + head);
      if (whole) {
        out.write(" = " + targets(targets.explicit()));
      } else if (property.value() != null) {
        out.write(" = ");
        value(property.value(), indent);
      }
      if (!property.fields().isEmpty()) {
        out.write(" (\n");
        fields(property.fields(), indent + STEP);
        out.write(indent + ")");
      }
      out.write("\n");
    }
    if (property.samples() != null) {
      samples(indent + head, property.samples(), indent);
    }
    if (property.spline() != null) {
      String spline = SplineText.write(property.spline(), indent);
      out.write(indent + head + ".spline = " + spline + "\n");
    }
    if (targets != null && !whole) {
      String end = property.isRelationship() ? " = " : ".connect = ";
      edits(targets, (w, items) -> out.write(indent + w + head + end + targets(items) + "\n"));
    }
  }

  private void value(Object value, String indent) throws IOException {
    if (value instanceof UsdValue own) {
      UsdaValueWriter.write(out, own);
    } else if (value instanceof Map<?, ?> map) {
      UsdaValueWriter.dictionary(out, map, indent);
    } else {
      out.write("None");
    }
  }

  private static String targets(List<?> paths) {
    List<String> all = paths.stream().map(p -> "<" + p + ">").toList();
    return all.isEmpty() ? "None" : all.size() == 1 ? all.get(0) : all.toString();
  }

  private void samples(String head, UsdSamples samples, String indent)
      throws IOException, FormatException {
    out.write(head + ".timeSamples = {\n");
    double[] codes = samples.codes();
    for (int s = 0; s < codes.length; s++) {
      out.write(indent + STEP + UsdaValueWriter.number(codes[s]) + ": ");
      value(samples.value(s), indent);
      out.write(",\n");
    }
    out.write(indent + "}\n");
  }
}
