package ferry.stone.core.format.abc.write;

import ferry.stone.core.format.files.FreeNames;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Sets of faces by material: the only way in which the format says which faces have which one. They
 * stand in the order of the slots, so that a program that makes a slot of each set has them as they
 * were.
 */
public final class MaterialSets {
  private MaterialSets() {}

  /** The mesh with a set for each slot that has a material and faces, after its own sets. */
  public static PolygonMesh added(Scene scene, PolygonMesh mesh) {
    List<FaceSet> sets = new ArrayList<>(mesh.faceSets());
    FreeNames names = new FreeNames();
    sets.forEach(s -> names.take(s.name()));
    int[][] bySlot = mesh.facesOfSlots();
    for (int slot = 0; slot < bySlot.length; slot++) {
      int[] faces = bySlot[slot];
      int material = shown(mesh, slot);
      if (material < 0 || faces.length == 0 || of(mesh, faces) != null) {
        continue;
      }
      String name = scene.material(material).orElseThrow().name();
      sets.add(new FaceSet(names.take(name.isEmpty() ? "material" : name), faces));
    }
    return mesh.toBuilder().faceSets(sets).build();
  }

  /** The material of a slot, or the first that a look shows there; −1 for none. */
  private static int shown(PolygonMesh mesh, int slot) {
    int material = mesh.materialIds()[slot];
    for (int v = 0; v < mesh.variantMaterials().length && material < 0; v++) {
      material = mesh.variantMaterials()[v][slot];
    }
    return material;
  }

  /** The mesh with those materials alone that one for all, or a set of its own, tells. */
  static PolygonMesh told(PolygonMesh mesh) {
    int[] ids = mesh.materialIds().clone();
    int[][] bySlot = mesh.facesOfSlots();
    for (int slot = 0; slot < ids.length && !isSingle(mesh); slot++) {
      ids[slot] = of(mesh, bySlot[slot]) == null ? -1 : ids[slot];
    }
    return mesh.toBuilder().materials(ids, mesh.faceSlot()).build();
  }

  /** Whether all faces have one material. */
  public static boolean isSingle(PolygonMesh mesh) {
    return mesh.materialIds().length == 1 && mesh.faceSlot() == null && mesh.materialIds()[0] >= 0;
  }

  /** The set of just these faces, {@code null} for none. */
  public static FaceSet of(PolygonMesh mesh, int[] faces) {
    for (FaceSet set : mesh.faceSets()) {
      if (Arrays.equals(set.faces(), faces)) {
        return set;
      }
    }
    return null;
  }
}
