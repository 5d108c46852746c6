package ferry.stone.core.format.abc.write;

import ferry.stone.core.format.abc.raw.AbcProperty.Type;
import ferry.stone.core.format.abc.raw.CompoundOut;
import ferry.stone.core.format.abc.raw.Pod;
import ferry.stone.core.format.abc.raw.PropertyOut;
import ferry.stone.core.math.Half;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Table;
import ferry.stone.core.texture.ColourSpace;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** Values over a mesh as parameters: values alone, or with indices where the layer has some. */
final class LayersOut {
  private static final List<Integer> EXTENTS = List.of(1, 2, 3, 4, 9, 16);
  private static final String NAME = "sourceName";

  private final Scene scene;

  LayersOut(Scene scene) {
    this.scene = scene;
  }

  /**
   * A parameter that takes a sample after another.
   *
   * @param indices {@code null} where values stand in the order of the elements
   */
  record Parameter(PropertyOut values, PropertyOut indices) {
    void repeat(int times) {
      values.repeat(times);
      if (indices != null) {
        indices.repeat(times);
      }
    }
  }

  /**
   * Starts a parameter.
   *
   * @param property its name in the file
   * @param like a sample of the layer: its type, and whether it has indices
   */
  Parameter open(
      CompoundOut holder, String property, Attribute like, boolean indexed, double[] seconds) {
    int width = width(like);
    int extent = EXTENTS.contains(width) ? width : 1;
    Pod pod = pod(like.table());
    Map<String, String> words = new TreeMap<>();
    words.put("arrayExtent", Integer.toString(width / extent));
    words.put("geoScope", scope(like.domain()));
    words.put("isGeomParam", "true");
    words.put("podExtent", Integer.toString(extent));
    words.put("podName", name(pod));
    String meaning = meaning(like);
    if (!meaning.isEmpty()) {
      words.put("interpretation", meaning);
    }
    if (!property.equals(like.name())) {
      words.put(NAME, like.name().replaceAll("[;=\\p{Cntrl}]", "_"));
    }
    StringBuilder meta = new StringBuilder();
    words.forEach(
        (key, value) ->
            meta.append(meta.isEmpty() ? "" : ";").append(key).append('=').append(value));
    Type type = new Type(true, pod, extent);
    if (!indexed) {
      return new Parameter(holder.property(property, type, meta.toString(), seconds), null);
    }
    CompoundOut compound = holder.compound(property, meta.toString());
    return new Parameter(
        compound.property(".vals", type, meta.toString(), seconds),
        compound.property(".indices", new Type(true, Pod.UINT32, 1), "", seconds));
  }

  /** UVs have two numbers there. */
  private static int width(Attribute layer) {
    return layer.semantic() == Semantic.UV ? 2 : layer.components();
  }

  /** Whether a layer needs indices: it has some, or some elements have no value. */
  static boolean isIndexed(Attribute layer) {
    return layer.indices() != null;
  }

  /**
   * The next sample.
   *
   * @param layer {@code null} for one without values
   * @param order corner of the mesh for each corner of the file
   */
  void add(Parameter parameter, Attribute layer, PolygonMesh mesh, int[] order) throws IOException {
    if (layer == null) {
      values(parameter.values, new Table.Floats(new float[0], 1, false), null);
      if (parameter.indices != null) {
        parameter.indices.add(new int[0]);
      }
      return;
    }
    boolean corners = layer.domain() == Domain.CORNER;
    int[] indices = layer.indices();
    if (parameter.indices == null) {
      int count = corners ? mesh.faces().cornerCount() : elements(layer, mesh);
      int[] rows = corners ? order : rows(layer, count);
      values(parameter.values, layer.table(), rows);
      return;
    }
    int none = layer.table().count();
    boolean gaps = false;
    int count = corners ? order.length : indices == null ? none : indices.length;
    int[] placed = new int[count];
    for (int e = 0; e < count; e++) {
      int element = corners ? order[e] : e;
      int row = indices == null ? element : indices[element];
      gaps |= row < 0;
      placed[e] = row < 0 ? none : row;
    }
    int[] rows = null;
    if (gaps) {
      // An element without a value gets one of zeros.
      rows = new int[none + 1];
      Arrays.setAll(rows, i -> i < none ? i : -1);
    }
    values(parameter.values, layer.table(), rows);
    parameter.indices.add(placed);
  }

  private static int elements(Attribute layer, PolygonMesh mesh) {
    return switch (layer.domain()) {
      case VERTEX -> mesh.points().count();
      case FACE -> mesh.faces().faceCount();
      case CORNER -> mesh.faces().cornerCount();
      case CONSTANT -> 1;
    };
  }

  private static int[] rows(Attribute layer, int count) {
    if (layer.indices() == null && layer.table().count() == count) {
      return null;
    }
    int[] rows = new int[count];
    for (int i = 0; i < count; i++) {
      rows[i] = layer.indices() == null ? i : layer.indices()[i];
    }
    return rows;
  }

  /**
   * Values for other elements than a mesh's own.
   *
   * @param elements of the layer, one for each of the file
   */
  void gathered(Parameter parameter, Attribute layer, int[] elements) throws IOException {
    int[] rows = new int[elements.length];
    for (int i = 0; i < rows.length; i++) {
      rows[i] = layer.indices() == null ? elements[i] : layer.indices()[elements[i]];
    }
    values(parameter.values, layer.table(), rows);
  }

  /**
   * @param rows of the table, −1 for zeros; {@code null} for all as they are
   */
  private void values(PropertyOut property, Table table, int[] rows) throws IOException {
    int count = rows == null ? table.count() : rows.length;
    int n = table.components();
    if (table instanceof Table.Texts texts) {
      String[] all = new String[count];
      Arrays.setAll(all, i -> row(rows, i) < 0 ? "" : texts.texts()[row(rows, i)]);
      property.add(List.of(all));
    } else if (table instanceof Table.Doubles doubles) {
      double[] all = new double[n * count];
      for (int i = 0; i < all.length; i++) {
        int row = row(rows, i / n);
        all[i] = row < 0 ? 0 : doubles.numbers()[n * row + i % n];
      }
      property.add(all);
    } else if (table instanceof Table.Wholes wholes) {
      int[] all = new int[n * count];
      for (int i = 0; i < all.length; i++) {
        int row = row(rows, i / n);
        all[i] = row < 0 ? 0 : wholes.numbers()[n * row + i % n];
      }
      property.add(all);
    } else if (table instanceof Table.Floats floats) {
      floats(property, floats, rows, count, n);
    }
  }

  private static void floats(
      PropertyOut property, Table.Floats floats, int[] rows, int count, int n) throws IOException {
    if (rows == null && !floats.half()) {
      property.add(floats.numbers());
      return;
    }
    float[] all = new float[n * count];
    for (int i = 0; i < all.length; i++) {
      int row = row(rows, i / n);
      all[i] = row < 0 ? 0 : floats.numbers()[n * row + i % n];
    }
    if (floats.half()) {
      short[] halves = new short[all.length];
      for (int i = 0; i < halves.length; i++) {
        halves[i] = Half.of(all[i]);
      }
      property.addHalves(halves);
    } else {
      property.add(all);
    }
  }

  private static int row(int[] rows, int place) {
    return rows == null ? place : rows[place];
  }

  /** The layer in the form of the file: V from the bottom, two numbers a UV, colours as coded. */
  Attribute told(Attribute layer) {
    if (layer.semantic() == Semantic.UV) {
      int n = layer.components();
      float[] uv = new float[2 * layer.valueCount()];
      for (int i = 0; i < uv.length; i++) {
        float value = layer.values()[n * (i / 2) + i % 2];
        boolean flip = i % 2 == 1 && scene.uvOrigin() == UvOrigin.TOP_LEFT;
        uv[i] = flip ? 1 - value : value;
      }
      return new Attribute(layer.name(), Semantic.UV, layer.domain(), 2, uv, layer.indices());
    }
    if (layer.semantic() == Semantic.COLOUR && scene.linearColours()) {
      float[] coded = layer.values().clone();
      int n = layer.components();
      for (int i = 0; i < coded.length; i++) {
        coded[i] = i % n < 3 ? (float) ColourSpace.toSrgb(coded[i]) : coded[i];
      }
      return layer.withValues(coded);
    }
    return layer;
  }

  private static String meaning(Attribute layer) {
    return switch (layer.semantic()) {
      case UV -> "vector";
      case NORMAL -> "normal";
      case COLOUR -> layer.components() == 4 ? "rgba" : "rgb";
      default -> "";
    };
  }

  private static String scope(Domain domain) {
    return switch (domain) {
      case VERTEX -> "vtx";
      case CORNER -> "fvr";
      case FACE -> "uni";
      case CONSTANT -> "con";
    };
  }

  private static Pod pod(Table table) {
    if (table instanceof Table.Floats floats) {
      return floats.half() ? Pod.FLOAT16 : Pod.FLOAT32;
    }
    return table instanceof Table.Doubles
        ? Pod.FLOAT64
        : table instanceof Table.Wholes ? Pod.INT32 : Pod.STRING;
  }

  private static String name(Pod pod) {
    return switch (pod) {
      case FLOAT16 -> "float16_t";
      case FLOAT64 -> "float64_t";
      case INT32 -> "int32_t";
      case STRING -> "string";
      default -> "float32_t";
    };
  }
}
