package ferry.stone.core.format.obj.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.flat.FlatParts;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * What OBJ and MTL will hold of a scene, and what is to be said of the rest. The forecast tells it,
 * the writer writes it, the proof compares the file with it.
 *
 * @param held parts at the top under their paths, in the order of the scene, as they are written
 * @param said what is changed or does not land
 */
public record ObjPlan(Scene held, List<Finding> said) {

  /**
   * @param arrived in the frame of the file
   * @param options what was chosen
   */
  public static ObjPlan of(Scene arrived, ObjOptions options) {
    Findings said = new Findings();
    Scene parts = FlatParts.dressed(arrived);
    List<Material> materials =
        new ArrayList<>(new ObjMaterials(parts, options.pbrKeys(), said).held());
    Map<Integer, String> paths = paths(arrived);
    ObjNames names = new ObjNames("part", false);
    ObjMeshes meshes = new ObjMeshes(parts, options.decimals(), said);
    Map<Integer, PolygonMesh> byId = parts.meshesById();
    long emptySets = 0;
    List<PolygonMesh> held = new ArrayList<>();
    List<Node> nodes = new ArrayList<>();
    ObjNames groups = new ObjNames("group", true);
    for (Node node : parts.nodes()) {
      int id = ((Node.Content.MeshContent) node.content()).meshId();
      String name = names.next(paths.get(node.id()));
      nodes.add(node.withName(name));
      PolygonMesh mesh = meshes.held(byId.get(id)).toBuilder().name(name).build();
      held.add(mesh.toBuilder().faceSets(groups(mesh, groups)).build());
      emptySets += mesh.faceSets().stream().filter(set -> set.faces().length == 0).count();
    }
    meshes.tell();
    tell(said, "part-names-changed", names, "part", "Names of parts");
    tell(said, "group-names-changed", groups, "set", "Names of sets of faces");
    if (emptySets > 0) {
      said.add(
          Finding.of(
                  "empty-sets-not-carried",
                  Severity.FIX,
                  "",
                  "A set that holds no face has no line to stand on.")
              .measured(Figures.count(emptySets, "set")));
    }
    held = BareParts.given(held, materials, parts.toBuilder().newId(), said);
    Scene scene =
        parts.toBuilder()
            .uvOrigin(UvOrigin.BOTTOM_LEFT)
            .linearColours(false)
            .materials(materials)
            .meshes(held)
            .nodes(nodes)
            .build();
    return new ObjPlan(scene, said.list());
  }

  private static Map<Integer, String> paths(Scene scene) {
    Map<Integer, String> paths = new HashMap<>();
    List<String> all = scene.paths();
    for (int i = 0; i < all.size(); i++) {
      paths.put(scene.nodes().get(i).id(), all.get(i));
    }
    return paths;
  }

  /** Sets of one mesh have names of their own; another mesh may have the same. */
  private static List<FaceSet> groups(PolygonMesh mesh, ObjNames all) {
    List<FaceSet> sets = new ArrayList<>();
    ObjNames own = new ObjNames("group", true);
    for (FaceSet set : mesh.faceSets()) {
      if (set.faces().length > 0) {
        sets.add(new FaceSet(own.next(set.name()), set.faces()));
      }
    }
    all.also(own);
    return sets;
  }

  private static void tell(
      Findings said, String code, ObjNames names, String noun, String subject) {
    if (names.changed() > 0) {
      said.add(
          Finding.of(
                  code,
                  Severity.NOTE,
                  names.firstChanged(),
                  subject + " are written so that each is one line and there once.")
              .measured(Figures.count(names.changed(), noun)));
    }
  }
}
