package ferry.stone.core.format.usd.read.shape;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.read.look.Bindings;
import ferry.stone.core.format.usd.read.look.LookSets;
import ferry.stone.core.format.usd.read.look.UsdLooks;
import ferry.stone.core.format.usd.read.stage.Above;
import ferry.stone.core.format.usd.read.stage.Primvars;
import ferry.stone.core.format.usd.read.stage.Said;
import ferry.stone.core.format.usd.read.stage.UsdReading;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** The materials of meshes: of all faces, of sets of them, and in each look to choose from. */
final class Dressing {
  private final UsdReading reading;
  private final Bindings bindings;
  private final UsdLooks looks;
  private final LookSets sets;

  Dressing(UsdReading reading, Bindings bindings, UsdLooks looks, LookSets sets) {
    this.reading = reading;
    this.bindings = bindings;
    this.looks = looks;
    this.sets = sets;
  }

  /**
   * Paths of materials: first with no look chosen, then in each look that is known so far.
   *
   * @param whole of all faces, empty for none
   * @param own of each subset, empty where it binds nothing
   */
  record Bound(List<String> whole, List<List<String>> own) {
    String key(Instances first) {
      return whole.stream().map(first::path).toList().toString()
          + own.stream().map(all -> all.stream().map(first::path).toList()).toList();
    }
  }

  Bound bound(UsdPrim prim, Above above, List<UsdSubset> subsets)
      throws IOException, FormatException {
    List<String> names = sets.reach(prim.path()) ? sets.names() : List.of();
    List<String> whole = new ArrayList<>();
    whole.add(bindings.material(prim, above));
    for (String look : names) {
      whole.add(sets.material(look, prim.path()));
    }
    Above here = new Above(above, prim, -1, Primvars.NONE);
    List<List<String>> own = new ArrayList<>();
    for (UsdSubset subset : subsets) {
      boolean binds = subset.isOfFaces() && subset.binds();
      List<String> all = new ArrayList<>();
      all.add(binds ? bindings.material(subset.prim(), here) : "");
      for (String look : names) {
        all.add(binds ? sets.material(look, subset.prim().path()) : "");
      }
      own.add(all);
    }
    return new Bound(whole, own);
  }

  Dress dress(List<UsdSubset> subsets, Bound bound, boolean both, List<String> uvs, Instances first)
      throws IOException, FormatException {
    int[][] own = new int[subsets.size()][];
    for (int s = 0; s < own.length; s++) {
      UsdSubset subset = subsets.get(s);
      own[s] = ids(bound.own.get(s), both, uvs, first);
    }
    return new Dress(ids(bound.whole, both, uvs, first), own);
  }

  /** Materials of a prim as a whole. */
  int[] whole(UsdPrim prim, Above above, Instances first) throws IOException, FormatException {
    boolean both = Said.flag(prim, "doubleSided", false);
    return ids(bound(prim, above, List.of()).whole, both, List.of(), first);
  }

  private int[] ids(List<String> paths, boolean both, List<String> uvs, Instances first)
      throws IOException, FormatException {
    int[] ids = new int[paths.size()];
    for (int i = 0; i < ids.length; i++) {
      ids[i] = looks.id(paths.get(i), first.path(paths.get(i)), uvs, both);
    }
    return ids;
  }

  /** Looks that became known after a mesh change nothing of it. */
  void tell() {
    List<String> names = sets.names();
    names.forEach(reading.scene()::variant);
    if (names.isEmpty()) {
      return;
    }
    List<PolygonMesh> meshes = new ArrayList<>();
    for (PolygonMesh mesh : reading.scene().build().meshes()) {
      int[][] known = mesh.variantMaterials();
      int[][] all = Arrays.copyOf(known, names.size());
      for (int v = known.length; v < all.length; v++) {
        all[v] = new int[mesh.materialIds().length];
        Arrays.fill(all[v], -1);
      }
      meshes.add(known.length == 0 ? mesh : mesh.toBuilder().variantMaterials(all).build());
    }
    reading.scene().meshes(meshes);
  }

  /**
   * Which materials a mesh has, first with no look chosen, then in each look.
   *
   * @param whole of all faces that no set dresses, −1 for none
   * @param sets material of each set, −1 for none
   */
  record Dress(int[] whole, int[][] sets) {
    private static boolean shows(int[] ids) {
      return Arrays.stream(ids).anyMatch(id -> id >= 0);
    }

    PolygonMesh on(PolygonMesh mesh, List<UsdSubset> subsets) {
      List<int[]> slots = new ArrayList<>();
      boolean dressed = Arrays.stream(sets).anyMatch(Dress::shows);
      if (!dressed) {
        return shows(whole) ? with(mesh, List.of(whole), null) : mesh;
      }
      int[] ofFace = new int[mesh.faces().faceCount()];
      if (shows(whole)) {
        slots.add(whole);
      }
      Arrays.fill(ofFace, shows(whole) ? 0 : -1);
      int set = 0;
      for (int s = 0; s < subsets.size(); s++) {
        if (!subsets.get(s).isOfFaces()) {
          continue;
        }
        FaceSet faces = mesh.faceSets().get(set++);
        if (shows(sets[s])) {
          for (int face : faces.faces()) {
            ofFace[face] = slots.size();
          }
          slots.add(overWhole(sets[s]));
        }
      }
      boolean used = !shows(whole) || Arrays.stream(ofFace).anyMatch(s -> s == 0);
      return used
          ? with(mesh, slots, ofFace)
          : with(
              mesh,
              slots.subList(1, slots.size()),
              Arrays.stream(ofFace).map(s -> s - 1).toArray());
    }

    /** A set that a look does not dress shows what all faces show there. */
    private int[] overWhole(int[] set) {
      int[] all = set.clone();
      for (int i = 0; i < all.length; i++) {
        all[i] = all[i] < 0 ? whole[i] : all[i];
      }
      return all;
    }

    private static PolygonMesh with(PolygonMesh mesh, List<int[]> slots, int[] ofFace) {
      int[] ids = slots.stream().mapToInt(s -> s[0]).toArray();
      int[][] looks = new int[slots.get(0).length - 1][ids.length];
      boolean varies = false;
      for (int v = 0; v < looks.length; v++) {
        for (int slot = 0; slot < ids.length; slot++) {
          int own = slots.get(slot)[v + 1];
          looks[v][slot] = own == ids[slot] ? -1 : own;
          varies |= looks[v][slot] >= 0;
        }
      }
      return mesh.toBuilder()
          .materials(ids, ofFace)
          .variantMaterials(varies ? looks : new int[0][])
          .build();
    }
  }
}
