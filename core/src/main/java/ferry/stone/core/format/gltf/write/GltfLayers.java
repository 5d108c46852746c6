package ferry.stone.core.format.gltf.write;

import ferry.stone.core.format.flat.LayerKinds;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Table;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * How custom layers are written: as vertex attributes of the application's own, whose names begin
 * with an underscore (glTF 2.0, section 3.7.2.1). These hold numbers of 8 and 16 bits and 32-bit
 * floats, no texts and no numbers that are not finite. Sets of colours after the first follow them
 * as COLOR_1 and on.
 *
 * @param name in the file
 * @param width bytes of a whole number with its sign, 1, 2, −1 or −2 (below 0 with a sign); 0 for
 *     floats
 * @param exact whether name, type and values are the layer's own
 */
public record GltfLayers(Attribute layer, String name, int width, boolean exact) {
  /** The layers of a mesh that can be written, in order. */
  public static List<GltfLayers> of(PolygonMesh mesh) {
    List<GltfLayers> written = new ArrayList<>();
    Set<String> names = new HashSet<>();
    for (Attribute layer : mesh.all(Attribute.Semantic.OTHER)) {
      if (!LayerKinds.isPlain(layer)) {
        continue;
      }
      String plain = layer.name().startsWith("_") ? layer.name() : "_" + layer.name();
      String name = plain;
      for (int n = 2; !names.add(name); n++) {
        name = plain + "_" + n;
      }
      int width = width(layer.table());
      boolean sameType =
          layer.table() instanceof Table.Floats
              || layer.table() instanceof Table.Wholes && width != 0;
      written.add(
          new GltfLayers(
              layer, name, width, name.equals(layer.name()) && sameType && !leavesOut(layer)));
    }
    List<Attribute> colours = mesh.all(Attribute.Semantic.COLOUR);
    for (int set = 1; set < colours.size(); set++) {
      written.add(new GltfLayers(colours.get(set), "COLOR_" + set, 0, true));
    }
    return written;
  }

  /** Whether it is a set of colours after the first, which stand behind the custom layers. */
  public boolean isColours() {
    return layer.semantic() == Attribute.Semantic.COLOUR;
  }

  /** Whether some elements have no value: in the file they have 0. */
  private static boolean leavesOut(Attribute layer) {
    for (int i = 0; layer.indices() != null && i < layer.indices().length; i++) {
      if (layer.indices()[i] < 0) {
        return true;
      }
    }
    return false;
  }

  private static int width(Table table) {
    if (!(table instanceof Table.Wholes wholes) || table.components() > 4) {
      return 0;
    }
    int low = 0;
    int high = 0;
    for (int value : wholes.numbers()) {
      low = Math.min(low, value);
      high = Math.max(high, value);
    }
    if (low >= 0) {
      return high <= 0xff ? 1 : high <= 0xffff ? 2 : 0;
    }
    return low >= Byte.MIN_VALUE && high <= Byte.MAX_VALUE
        ? -1
        : low >= Short.MIN_VALUE && high <= Short.MAX_VALUE ? -2 : 0;
  }

  /** The accessor of the layer's values at vertices, −1 where none of them has one. */
  int add(GltfVertexData data, GltfBuffer buffer, int[] rows) {
    boolean any = false;
    for (int row : rows) {
      any |= row >= 0;
    }
    if (!any) {
      return -1;
    }
    int n = layer.components();
    if (isColours()) {
      float[] values = new float[n * rows.length];
      for (int i = 0; i < values.length; i++) {
        values[i] = rows[i / n] < 0 ? 1 : layer.values()[n * rows[i / n] + i % n];
      }
      return data.colours(values, n);
    }
    if (width != 0) {
      int[] from = ((Table.Wholes) layer.table()).numbers();
      int[] values = new int[n * rows.length];
      for (int i = 0; i < values.length; i++) {
        values[i] = rows[i / n] < 0 ? 0 : from[n * rows[i / n] + i % n];
      }
      return buffer.addWholes(values, n, width);
    }
    float[] values = new float[n * rows.length];
    for (int i = 0; i < values.length; i++) {
      values[i] = rows[i / n] < 0 ? 0 : (float) layer.table().number(rows[i / n], i % n);
    }
    return buffer.addFloats(values, n, false);
  }
}
