package ferry.stone.core.proof.corner;

import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.util.List;

/**
 * Which landed set of vertex colours is which: the first is the first, others go by name, place.
 */
public final class ColourSetPairs {
  private ColourSetPairs() {}

  /** The landed set of each of a mesh, {@code null} where there is none. */
  public static Attribute[] of(PolygonMesh mesh, PolygonMesh landed) {
    List<Attribute> own = mesh.all(Semantic.COLOUR);
    List<Attribute> there = landed.all(Semantic.COLOUR);
    Attribute[] found = new Attribute[own.size()];
    for (int k = 0; k < found.length; k++) {
      String name = own.get(k).name();
      Attribute byPlace = k < there.size() ? there.get(k) : null;
      found[k] =
          k == 0
              ? byPlace
              : there.stream()
                  .skip(1)
                  .filter(a -> a.name().equals(name))
                  .findFirst()
                  .orElse(byPlace);
    }
    return found;
  }
}
