package ferry.stone.core.format.gltf.read;

import ferry.stone.core.math.FloatList;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.Table;
import java.util.BitSet;

/**
 * Values of one attribute over all primitives of a mesh. Where a primitive has none, custom layers
 * have no value, colours are white and the others 0.
 */
final class GltfLayer {
  private final Semantic semantic;
  private final int components;
  private final FloatList floats = new FloatList(256);
  private final IntList wholes = new IntList(16);
  private final BitSet missing = new BitSet();
  private boolean whole = true;
  private int reached;

  GltfLayer(Semantic semantic, int components, int first) {
    this.semantic = semantic;
    this.components = components;
    reach(first);
  }

  int components() {
    return components;
  }

  /**
   * @param values {@code null} where there are whole numbers; the caller leaves them alone
   */
  void add(float[] values, int[] numbers, int first) {
    reach(first);
    if (numbers != null) {
      for (int number : numbers) {
        wholes.add(number);
        floats.add(number);
      }
    } else {
      whole = false;
      floats.take(values);
    }
    reached = floats.size() / components;
  }

  /** Fills up to a vertex. */
  void reach(int vertices) {
    int rows = vertices - reached;
    if (rows > 0) {
      missing.set(reached, vertices);
      floats.fill(semantic == Semantic.COLOUR ? 1 : 0, components * rows);
      for (int i = 0; whole && i < components * rows; i++) {
        wholes.add(0);
      }
      reached = vertices;
    }
  }

  Attribute made(String name) {
    boolean some = semantic == Semantic.OTHER && whole && wholes.size() == floats.size();
    Table table =
        some
            ? new Table.Wholes(wholes.toArray(), components)
            : new Table.Floats(floats.toArray(), components, false);
    int[] rows = null;
    if (semantic == Semantic.OTHER && !missing.isEmpty()) {
      rows = new int[reached];
      for (int v = 0; v < reached; v++) {
        rows[v] = missing.get(v) ? -1 : v;
      }
    }
    return new Attribute(name, semantic, Domain.VERTEX, table, rows);
  }
}
