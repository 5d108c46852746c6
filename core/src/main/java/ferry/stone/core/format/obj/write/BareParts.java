package ferry.stone.core.format.obj.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;

/**
 * Faces without a material after faces with one. "Once a material is assigned, it cannot be turned
 * off; it can only be changed": Appendix B1, {@code usemtl}. They get a material of their own.
 */
final class BareParts {
  private static final double GREY = 0.8;

  private BareParts() {}

  /**
   * @param materials takes the one that is added
   * @param id for it
   */
  static List<PolygonMesh> given(
      List<PolygonMesh> meshes, List<Material> materials, int id, Findings said) {
    List<PolygonMesh> result = new ArrayList<>();
    boolean dressed = false;
    int given = 0;
    String first = "";
    for (PolygonMesh mesh : meshes) {
      int faces = mesh.faces().faceCount();
      int[] ids = Arrays.copyOf(mesh.materialIds(), mesh.materialIds().length + 1);
      ids[ids.length - 1] = id;
      int[] slots = new int[faces];
      boolean changed = false;
      for (int f = 0; f < faces; f++) {
        boolean bare = mesh.materialOf(f) < 0;
        slots[f] = bare && dressed ? ids.length - 1 : mesh.slot(f);
        changed |= bare && dressed;
        dressed |= !bare;
      }
      result.add(changed ? mesh.toBuilder().materials(ids, slots).build() : mesh);
      first = changed && given++ == 0 ? mesh.name() : first;
    }
    if (given > 0) {
      ObjNames names = new ObjNames("material", false);
      materials.forEach(m -> names.next(m.name()));
      Material.Value grey = new Material.Value(new double[] {GREY, GREY, GREY}, null);
      materials.add(
          new Material(
              id,
              names.next("unassigned"),
              Material.Shading.PHONG,
              Map.of(Channel.BASE_COLOUR, grey),
              Material.Alpha.OPAQUE,
              0.5,
              false,
              Map.of()));
      said.add(
          Finding.of(
                  "faces-given-a-material",
                  Severity.NOTE,
                  first,
                  "Faces without a material come after faces with one: the format cannot turn that"
                      + " off, so they get a material of their own.")
              .measured(Figures.count(given, "part")));
    }
    return result;
  }
}
