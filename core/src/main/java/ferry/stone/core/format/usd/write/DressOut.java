package ferry.stone.core.format.usd.write;

import ferry.stone.core.format.abc.write.MaterialSets;
import ferry.stone.core.format.files.FreeNames;
import ferry.stone.core.format.usd.ValidNames;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.write.look.LooksOut;
import ferry.stone.core.format.usd.write.look.VariantsOut;
import ferry.stone.core.format.usd.write.shape.ShapeOut;
import ferry.stone.core.format.usd.write.spec.Spec;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.scene.time.MeshSequence;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;

/** What parts are bound to: materials, in each look to choose from, by sets of faces. */
final class DressOut {
  private final List<String> lookNames;
  private final ShapeOut shapes;
  private final Map<Integer, MeshSequence> sequences = new HashMap<>();
  private final Map<Integer, Material> materials = new HashMap<>();
  private LooksOut looks;
  private VariantsOut variants;
  private String classes;

  DressOut(Scene scene, ShapeOut shapes) {
    this.shapes = shapes;
    lookNames = scene.variants();
    scene.sequences().forEach(s -> sequences.putIfAbsent(s.meshId(), s));
    scene.materials().forEach(m -> materials.put(m.id(), m));
  }

  /** The materials, once they are written. */
  void looks(LooksOut written) {
    looks = written;
    variants = new VariantsOut(lookNames, written);
  }

  /**
   * Where classes stand.
   *
   * @param path with a slash at its end
   */
  void classes(String path) {
    classes = path;
  }

  /** Writes the looks to choose from, once all parts are dressed. */
  void variants(PrimSpec root) {
    if (variants != null) {
      variants.write(root);
    }
  }

  /**
   * Materials of a part: one for all of it, or one for each set.
   *
   * @param taken names below the prim
   * @param several whether the mesh stands elsewhere, with its sets
   */
  void write(
      PrimSpec prim,
      String path,
      PolygonMesh mesh,
      Content.MeshContent content,
      FreeNames taken,
      boolean several) {
    int[] ids = content.slotMaterials() != null ? content.slotMaterials() : mesh.materialIds();
    boolean both =
        IntStream.concat(Arrays.stream(ids), mesh.usedMaterials())
            .mapToObj(materials::get)
            .anyMatch(m -> m != null && m.doubleSided());
    if (both) {
      Spec.uniform(prim, "doubleSided", Spec.number("bool", 1));
    }
    Map<FaceSet, Integer> slots = new LinkedHashMap<>();
    if (ids.length == 1 && mesh.faceSlot() == null) {
      bind(prim, path, mesh, ids, 0);
    } else {
      int[][] bySlot = mesh.facesOfSlots();
      for (int slot = 0; slot < bySlot.length; slot++) {
        FaceSet set = bySlot[slot].length == 0 ? null : MaterialSets.of(mesh, bySlot[slot]);
        if (set != null && (ids[slot] >= 0 || VariantsOut.varies(-1, looks(mesh, slot)))) {
          slots.putIfAbsent(set, slot);
        }
      }
    }
    Map<FaceSet, String> names =
        several
            ? sharedSets(mesh)
            : shapes.sets(prim, mesh, sequences.get(mesh.id()), taken, families(mesh, slots));
    families(prim, mesh, slots);
    slots.forEach(
        (set, slot) -> {
          String name = names.get(set);
          PrimSpec own = prim.children().computeIfAbsent(name, PrimSpec::new);
          bind(own, path + "/" + name, mesh, ids, slot);
        });
  }

  /** Names of the sets that come with a shared mesh. */
  private static Map<FaceSet, String> sharedSets(PolygonMesh mesh) {
    Map<FaceSet, String> names = new HashMap<>();
    FreeNames again = new FreeNames();
    mesh.faceSets().forEach(set -> names.put(set, again.take(ValidNames.of(set.name()))));
    return names;
  }

  /** Materials of a slot in each look. */
  private static int[] looks(PolygonMesh mesh, int slot) {
    return Arrays.stream(mesh.variantMaterials()).mapToInt(v -> v[slot]).toArray();
  }

  private void bind(PrimSpec prim, String path, PolygonMesh mesh, int[] ids, int slot) {
    bind(prim, path, ids[slot], looks(mesh, slot));
  }

  /**
   * Materials of a shape that is kept as it is.
   *
   * @param ids with no look chosen, then in each look
   */
  void kept(PrimSpec prim, String path, int[] ids) {
    if (ids.length > 0) {
      bind(prim, path, ids[0], Arrays.copyOfRange(ids, 1, ids.length));
    }
  }

  private void bind(PrimSpec prim, String path, int id, int[] others) {
    if (VariantsOut.varies(id, others)) {
      Spec.api(prim, "MaterialBindingAPI");
      variants.add(holder(path), path, id, others);
    } else if (id >= 0) {
      Spec.api(prim, "MaterialBindingAPI");
      Spec.target(prim, "material:binding", looks.path(id));
    }
  }

  /** The prim at the top, or the class that instances have. */
  private String holder(String path) {
    boolean ofClass = classes != null && path.startsWith(classes);
    int end = path.indexOf('/', 1);
    end = ofClass ? path.indexOf('/', end + 1) : end;
    return end < 0 ? path : path.substring(0, end);
  }

  /** Which family each set of a mesh is in. */
  static ShapeOut.Families families(PolygonMesh mesh, Map<FaceSet, Integer> ofSets) {
    int[][] bySlot = mesh.facesOfSlots();
    return set -> {
      boolean slot = ofSets != null && ofSets.containsKey(set);
      for (int[] faces : ofSets == null ? bySlot : new int[0][]) {
        slot |= faces.length > 0 && Arrays.equals(faces, set.faces());
      }
      return slot ? "materialBind" : "sets";
    };
  }

  /** Sets of materials do not overlap; others may. */
  private static void families(PrimSpec prim, PolygonMesh mesh, Map<FaceSet, Integer> ofSets) {
    if (!ofSets.isEmpty()) {
      Spec.token(prim, "subsetFamily:materialBind:familyType", "nonOverlapping");
    }
    if (mesh.faceSets().size() > ofSets.size()) {
      Spec.token(prim, "subsetFamily:sets:familyType", "unrestricted");
    }
  }
}
