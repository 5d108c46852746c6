package ferry.stone.core.format.gltf.write;

import ferry.stone.core.scene.mesh.Attribute;

/** What vertices of lines and points carry. */
final class LooseValues {
  private LooseValues() {}

  /** Row of a layer on vertices at some of them, −1 for none. */
  static int[] rows(Attribute layer, int[] vertices) {
    int[] rows = new int[vertices.length];
    for (int i = 0; i < rows.length; i++) {
      rows[i] = layer.valueOf(0, vertices[i], 0);
    }
    return rows;
  }

  /** White where there is no colour. */
  static float[] colours(Attribute layer, int[] vertices) {
    int n = layer.components();
    int[] rows = rows(layer, vertices);
    float[] values = new float[n * rows.length];
    for (int i = 0; i < values.length; i++) {
      values[i] = rows[i / n] < 0 ? 1 : layer.values()[n * rows[i / n] + i % n];
    }
    return values;
  }
}
