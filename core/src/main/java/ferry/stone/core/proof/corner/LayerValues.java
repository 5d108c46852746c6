package ferry.stone.core.proof.corner;

import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Table;
import java.util.List;

/** Compares values of custom layers, whatever types they have on both sides. */
public final class LayerValues {
  private static final double AGREES = 1e-6;

  private LayerValues() {}

  /** The landed layer of each name, {@code null} where there is none. */
  public static Attribute[] found(List<String> names, PolygonMesh mesh) {
    List<Attribute> custom = mesh.all(Attribute.Semantic.OTHER);
    return names.stream()
        .map(name -> custom.stream().filter(a -> a.name().equals(name)).findFirst().orElse(null))
        .toArray(Attribute[]::new);
  }

  /** Whether two rows say the same; none and 0 are the same where a format needs a number. */
  public static boolean same(Attribute a, int i, Attribute b, int j) {
    boolean texts = a.table() instanceof Table.Texts;
    if (a.components() != b.components() || texts != b.table() instanceof Table.Texts) {
      return false;
    }
    if (texts) {
      return i < 0 || j < 0 ? i < 0 && j < 0 : a.table().same(i, b.table(), j);
    }
    for (int k = 0; k < a.components(); k++) {
      double x = i < 0 ? 0 : a.table().number(i, k);
      double y = j < 0 ? 0 : b.table().number(j, k);
      if (!(x == y || Math.abs(x - y) <= AGREES * Math.max(Math.abs(x), Math.abs(y)))) {
        return false;
      }
    }
    return true;
  }

  /** A layer in a few words: type, numbers a value, and what carries them. */
  public static String words(Attribute layer) {
    String each = layer.components() == 1 ? "" : " × " + layer.components();
    return layer.table().type()
        + each
        + " on "
        + switch (layer.domain()) {
          case VERTEX -> "vertices";
          case CORNER -> "corners";
          case FACE -> "faces";
          case CONSTANT -> "all";
        };
  }
}
