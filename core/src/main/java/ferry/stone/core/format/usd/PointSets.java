package ferry.stone.core.format.usd;

import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Table;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;

/**
 * Sets of points are custom layers of a mesh here, 1 at the points of the set and 0 elsewhere, so
 * that every step takes them along: {@code subset:point:FAMILY:NAME}.
 */
public final class PointSets {
  private static final String PREFIX = "subset:point:";

  private PointSets() {}

  /** The mesh with one more set; points that are not there are left out. */
  public static PolygonMesh with(PolygonMesh mesh, String family, String name, int[] points) {
    int[] in = new int[mesh.points().count()];
    for (int point : points) {
      if (point >= 0 && point < in.length) {
        in[point] = 1;
      }
    }
    List<Attribute> layers = new ArrayList<>(mesh.attributes());
    layers.add(
        new Attribute(
            PREFIX + family.replace(':', '_') + ":" + name,
            Attribute.Semantic.OTHER,
            Attribute.Domain.VERTEX,
            new Table.Wholes(in, 1),
            null));
    return mesh.toBuilder().attributes(layers).build();
  }

  /** Whether a layer is such a set. */
  public static boolean is(Attribute layer) {
    return layer.name().startsWith(PREFIX)
        && layer.name().indexOf(':', PREFIX.length()) > 0
        && layer.semantic() == Attribute.Semantic.OTHER
        && layer.domain() == Attribute.Domain.VERTEX
        && layer.indices() == null
        && layer.table() instanceof Table.Wholes wholes
        && wholes.components() == 1;
  }

  public static String family(Attribute layer) {
    return layer.name().substring(PREFIX.length(), layer.name().indexOf(':', PREFIX.length()));
  }

  public static String name(Attribute layer) {
    return layer.name().substring(layer.name().indexOf(':', PREFIX.length()) + 1);
  }

  /** The points of the set, rising. */
  public static int[] points(Attribute layer) {
    int[] in = ((Table.Wholes) layer.table()).numbers();
    return IntStream.range(0, in.length).filter(i -> in[i] != 0).toArray();
  }
}
