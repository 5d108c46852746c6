package ferry.stone.core.format.flat;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.util.ArrayList;
import java.util.List;

/** Keeps the layers that have a value for each place of their mesh, cut to its length. */
public final class FittingLayers {
  private FittingLayers() {}

  /** What is told of a layer that has too few values. */
  public interface Told {
    void layer(PolygonMesh mesh, Attribute layer);
  }

  /** The same scene when all layers fit. */
  public static Scene of(Scene scene, Told told) {
    List<PolygonMesh> meshes = new ArrayList<>();
    boolean changed = false;
    for (PolygonMesh mesh : scene.meshes()) {
      PolygonMesh fitting = of(mesh, told);
      changed |= fitting != mesh;
      meshes.add(fitting);
    }
    return changed ? scene.toBuilder().meshes(meshes).build() : scene;
  }

  private static PolygonMesh of(PolygonMesh mesh, Told told) {
    List<Attribute> kept = new ArrayList<>();
    boolean changed = false;
    for (Attribute a : mesh.attributes()) {
      int needed = elements(mesh, a.domain());
      boolean longer = a.indices() == null && a.valueCount() > needed;
      boolean fits = fits(mesh, a);
      changed |= longer || !fits;
      if (!fits) {
        told.layer(mesh, a);
      } else {
        kept.add(longer ? a.withTable(a.table().picked(first(needed))) : a);
      }
    }
    return changed ? mesh.withAttributes(kept) : mesh;
  }

  private static int[] first(int count) {
    int[] rows = new int[count];
    for (int i = 0; i < count; i++) {
      rows[i] = i;
    }
    return rows;
  }

  private static int elements(PolygonMesh mesh, Attribute.Domain domain) {
    return switch (domain) {
      case VERTEX -> mesh.points().count();
      case CORNER -> mesh.faces().cornerCount();
      case FACE -> mesh.faces().faceCount();
      case CONSTANT -> 1;
    };
  }

  /** Whether a layer has a value, or the word that there is none, for each place of its mesh. */
  static boolean fits(PolygonMesh mesh, Attribute a) {
    int needed = elements(mesh, a.domain());
    if (!a.semantic().holds(a.components())) {
      return false;
    }
    if (a.indices() == null) {
      return a.valueCount() >= needed;
    }
    if (a.indices().length < needed) {
      return false;
    }
    for (int index : a.indices()) {
      if (index >= a.valueCount()) {
        return false;
      }
    }
    return true;
  }
}
