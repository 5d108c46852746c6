package ferry.stone.core.format.usd.write.shape;

import ferry.stone.core.format.files.FreeNames;
import ferry.stone.core.format.usd.PointSets;
import ferry.stone.core.format.usd.ValidNames;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.layer.UsdType;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.write.spec.Spec;
import ferry.stone.core.format.usd.write.spec.TimeCodes;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Table;
import ferry.stone.core.scene.time.MeshSequence;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Layers of values as primvars, with indices where they have some. UVs are {@code st}, {@code st1}
 * … in their order, since readers look for the first under that name; a name that was another one
 * stands as its display name. Colours are linear; the first ones are the display colour.
 */
public final class PrimvarsOut {
  private static final String PREFIX = "primvars:";
  private static final int COLOUR = 3;
  private static final int RGBA = 4;

  /** Name of a UV set by its place. */
  public static String uv(int set) {
    return set == 0 ? "st" : set < 10 ? "st" + set : "st_" + set;
  }

  /** Names of the primvars of a mesh, by the places of its layers. */
  static List<String> names(List<Attribute> layers) {
    FreeNames free = new FreeNames();
    for (String taken :
        new String[] {"st", "displayColor", "displayOpacity", "normals", "tangents"}) {
      free.take(taken);
    }
    List<String> names = new ArrayList<>();
    int uvs = 0;
    boolean colour = false;
    boolean normal = false;
    boolean tangent = false;
    for (Attribute layer : layers) {
      String name;
      if (layer.semantic() == Semantic.UV) {
        name = uv(uvs++);
      } else if (layer.semantic() == Semantic.COLOUR && !colour) {
        colour = true;
        name = "displayColor";
      } else if (layer.semantic() == Semantic.TANGENT && !tangent) {
        tangent = true;
        name = "tangents";
      } else if (layer.semantic() == Semantic.NORMAL && !normal) {
        normal = true;
        name = "normals";
      } else {
        String valid = ValidNames.of(layer.name());
        name = free.take(valid.startsWith("skel") ? "_" + valid : valid);
      }
      names.add(name);
    }
    return names;
  }

  /**
   * Writes all layers of a mesh.
   *
   * @param sequence where it is another mesh over time, else {@code null}
   */
  void write(PrimSpec prim, PolygonMesh mesh, MeshSequence sequence, TimeCodes times) {
    List<String> names = names(mesh.attributes());
    for (int i = 0; i < names.size(); i++) {
      Attribute layer = mesh.attributes().get(i);
      if (PointSets.is(layer)) {
        continue;
      }
      String name = isOwn(layer) ? layer.name() : PREFIX + names.get(i);
      int place = i;
      if (sequence == null) {
        parts(layer, mesh, name).forEach((part, value) -> still(prim, part, value, layer));
        continue;
      }
      for (String part : parts(layer, mesh, name).keySet()) {
        changing(prim, part, layer, sequence, times, at -> parts(at, place, name).get(part));
      }
    }
  }

  /** Attributes of the schema itself and no primvars. */
  private static boolean isOwn(Attribute layer) {
    return layer.semantic() == Semantic.OTHER
        && layer.indices() == null
        && layer.table() instanceof Table.Floats
        && (layer.domain() == Domain.VERTEX
            && layer.components() == 3
            && (layer.name().equals("velocities") || layer.name().equals("accelerations")));
  }

  private Map<String, UsdValue> parts(PolygonMesh mesh, int place, String name) {
    return place < mesh.attributes().size()
        ? parts(mesh.attributes().get(place), mesh, name)
        : Map.of();
  }

  /** The values and indices of a layer, by the names of their properties. */
  private Map<String, UsdValue> parts(Attribute layer, PolygonMesh mesh, String name) {
    Map<String, UsdValue> parts = new LinkedHashMap<>();
    int[] indices = layer.indices();
    int count = elements(layer.domain(), mesh);
    Table table = layer.table();
    if (indices != null) {
      boolean gaps = false;
      int[] placed = Arrays.copyOf(indices, Math.min(count, indices.length));
      for (int e = 0; e < placed.length; e++) {
        gaps |= placed[e] < 0;
        placed[e] = placed[e] < 0 ? table.count() : placed[e];
      }
      if (gaps) {
        // An element without a value gets one of zeros.
        table = withZero(table);
      }
      values(parts, layer, table, name);
      parts.put(name + ":indices", Spec.value("int", true, placed));
      if (parts.containsKey(PREFIX + "displayOpacity")) {
        parts.put(PREFIX + "displayOpacity:indices", Spec.value("int", true, placed));
      }
      return parts;
    }
    if (table.count() > count) {
      int[] rows = new int[count];
      Arrays.setAll(rows, i -> i);
      table = table.picked(rows);
    }
    values(parts, layer, table, name);
    return parts;
  }

  private static Table withZero(Table table) {
    if (table instanceof Table.Texts texts) {
      String[] more = Arrays.copyOf(texts.texts(), texts.count() + 1);
      more[more.length - 1] = "";
      return new Table.Texts(more);
    }
    int width = table.components();
    if (table instanceof Table.Wholes wholes) {
      int[] more = Arrays.copyOf(wholes.numbers(), wholes.numbers().length + width);
      return new Table.Wholes(more, width);
    }
    if (table instanceof Table.Doubles doubles) {
      double[] more = Arrays.copyOf(doubles.numbers(), doubles.numbers().length + width);
      return new Table.Doubles(more, width);
    }
    Table.Floats floats = (Table.Floats) table;
    float[] more = Arrays.copyOf(floats.numbers(), floats.numbers().length + width);
    return new Table.Floats(more, width, floats.half());
  }

  private static int elements(Domain domain, PolygonMesh mesh) {
    return switch (domain) {
      case VERTEX -> mesh.points().count();
      case CORNER -> mesh.faces().cornerCount();
      case FACE ->
          mesh.loose() != null && mesh.faces().faceCount() == 0
              ? mesh.loose().lineCount()
              : mesh.faces().faceCount();
      case CONSTANT -> 1;
    };
  }

  private static void values(
      Map<String, UsdValue> parts, Attribute layer, Table table, String name) {
    boolean shown = name.equals(PREFIX + "displayColor");
    if (shown && layer.components() == RGBA) {
      float[] all = ((Table.Floats) table).numbers();
      float[] rgb = new float[all.length / RGBA * COLOUR];
      float[] clear = new float[all.length / RGBA];
      for (int i = 0; i < clear.length; i++) {
        System.arraycopy(all, RGBA * i, rgb, COLOUR * i, COLOUR);
        clear[i] = all[RGBA * i + COLOUR];
      }
      parts.put(name, Spec.value("color3f", true, rgb));
      parts.put(PREFIX + "displayOpacity", Spec.value("float", true, clear));
      return;
    }
    parts.put(name, value(layer, table));
  }

  private static UsdValue value(Attribute layer, Table table) {
    if (table instanceof Table.Texts texts) {
      return Spec.value("string", true, texts.texts());
    }
    String type = type(layer, table);
    Object data =
        table instanceof Table.Wholes wholes
            ? wholes.numbers()
            : table instanceof Table.Doubles doubles
                ? doubles.numbers()
                : ((Table.Floats) table).numbers();
    return Spec.value(type, true, data);
  }

  private static String type(Attribute layer, Table table) {
    boolean half = table instanceof Table.Floats floats && floats.half();
    String letter = half ? "h" : table instanceof Table.Doubles ? "d" : "f";
    int n = table.components();
    String plain =
        table instanceof Table.Wholes
            ? "int"
            : half ? "half" : table instanceof Table.Doubles ? "double" : "float";
    switch (layer.semantic()) {
      case NORMAL:
        return "normal3" + letter;
      case UV:
        return "texCoord" + n + letter;
      case COLOUR:
        return "color" + n + letter;
      default:
        if (table instanceof Table.Doubles && (n == 9 || n == 16)) {
          return n == 9 ? "matrix3d" : "matrix4d";
        }
        return n == 1 || n > RGBA ? plain : plain + n;
    }
  }

  /** Several numbers a value that no type has are several values. */
  private static int elementSize(Attribute layer, UsdValue value) {
    UsdType type = value.type();
    return type.kind().isText() ? 1 : layer.components() / type.components();
  }

  private void still(PrimSpec prim, String name, UsdValue value, Attribute layer) {
    PropertySpec property = Spec.set(prim, name, value);
    told(property, name, value, layer);
  }

  private static void told(PropertySpec property, String name, UsdValue value, Attribute layer) {
    if (name.endsWith(":indices")) {
      return;
    }
    if (name.startsWith(PREFIX)) {
      Spec.interpolation(
          property,
          switch (layer.domain()) {
            case VERTEX -> "vertex";
            case CORNER -> "faceVarying";
            case FACE -> "uniform";
            case CONSTANT -> "constant";
          });
      boolean shown = name.endsWith(":displayOpacity");
      int size = shown ? 1 : elementSize(layer, value);
      if (size > 1 && !name.endsWith(":displayColor")) {
        Spec.field(property, "elementSize", Spec.number("int", size));
      }
      if (!shown && !layer.name().isEmpty() && !name.equals(PREFIX + layer.name())) {
        Spec.field(property, "displayName", Spec.text("string", layer.name()));
      }
    }
  }

  /** Takes a part of a layer at a sample. */
  private interface Part {
    UsdValue of(PolygonMesh mesh) throws IOException;
  }

  private static void changing(
      PrimSpec prim,
      String name,
      Attribute layer,
      MeshSequence sequence,
      TimeCodes times,
      Part part) {
    UsdValue first;
    try {
      first = part.of(sequence.mesh(0));
    } catch (IOException e) {
      throw new java.io.UncheckedIOException(e);
    }
    if (first == null) {
      return;
    }
    PropertySpec property = Spec.attribute(prim, first.type().name(), first.array(), name);
    told(property, name, first, layer);
    double[] codes = times.codes(sequence.allSeconds());
    property.samples(
        new UsdSamples() {
          @Override
          public double[] codes() {
            return codes;
          }

          @Override
          public Object value(int sample) throws IOException {
            UsdValue value = part.of(sequence.mesh(sample));
            return value == null ? ferry.stone.core.format.usd.layer.UsdBlock.VALUE : value;
          }
        });
  }
}
