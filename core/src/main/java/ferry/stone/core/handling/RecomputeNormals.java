package ferry.stone.core.handling;

import ferry.stone.core.geometry.Normals;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Attribute;
import ferry.stone.core.scene.Node;
import ferry.stone.core.scene.PolygonMesh;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** Computes normals anew: smooth where faces meet at less than an angle, hard elsewhere. */
public final class RecomputeNormals implements StepKind<RecomputeNormals.Params> {
  private static final double MOST = 180;

  /** Degrees from 0 (all hard) to 180 (all smooth). */
  public record Params(double angle) {
    public Params {
      if (!(angle >= 0 && angle <= MOST)) {
        throw new IllegalArgumentException("angle must be 0 to 180, not " + angle);
      }
    }
  }

  @Override
  public String kind() {
    return "normals";
  }

  @Override
  public String label() {
    return "Recompute normals";
  }

  @Override
  public String help() {
    return "Computes normals anew; edges sharper than the angle stay hard.";
  }

  @Override
  public Class<Params> paramType() {
    return Params.class;
  }

  @Override
  public boolean takesSelection() {
    return true;
  }

  @Override
  public List<Field> fields() {
    return List.of(
        Field.number(
            "angle", "Angle", "°", 0, MOST, 40, "Faces that meet at more than this stay hard."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    return apply(scene, selection, params, KnownMeshes.NONE, progress);
  }

  @Override
  public StepResult apply(
      Scene scene, Selection selection, Params params, KnownMeshes known, Progress progress) {
    Set<Integer> chosen = new HashSet<>();
    for (Node node : scene.nodes()) {
      if (selection.holds(node) && node.content() instanceof Node.Content.MeshContent content) {
        chosen.add(content.meshId());
      }
    }
    List<PolygonMesh> meshes = new ArrayList<>();
    long values = 0;
    for (int i = 0; i < scene.meshes().size(); i++) {
      PolygonMesh mesh = scene.meshes().get(i);
      if (chosen.contains(mesh.id()) && mesh.faces().faceCount() > 0) {
        PolygonMesh result = known.of(mesh);
        if (result == null) {
          double size = scene.meshes().size();
          Progress part = progress.part(i / size, (i + 1) / size);
          result =
              mesh.withFirst(
                  Attribute.Semantic.NORMAL, Normals.byAngle(mesh, params.angle(), part));
        }
        mesh = result;
        values += mesh.first(Attribute.Semantic.NORMAL).map(Attribute::valueCount).orElse(0);
      }
      meshes.add(mesh);
    }
    return StepResult.of(
        scene.toBuilder().meshes(meshes).build(),
        Figures.plain(params.angle()) + "° · " + Figures.count(values, "normal"));
  }
}
