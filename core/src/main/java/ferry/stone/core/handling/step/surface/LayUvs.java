package ferry.stone.core.handling.step.surface;

import ferry.stone.core.field.Field;
import ferry.stone.core.geometry.uv.UvPlacing;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.joml.Matrix3d;

/** Gives meshes UVs from six sides, or moves the islands that are there into the square. */
public final class LayUvs extends BasicStep<LayUvs.Params> {
  private static final Field HOW_CHOICE =
      Field.choice(
          "how",
          "How",
          "Packed islands lie side by side, none over another.",
          "box",
          "new, from six sides, packed",
          "tile",
          "new, from six sides, tiling",
          "fill",
          "new, only where UVs are missing",
          "pack",
          "pack the islands there are",
          "tiles",
          "move islands by whole tiles",
          "fit",
          "fit the whole set into the square");

  private static final double LARGEST = 10_000;

  /**
   * @param how {@code box} (six sides, packed), {@code tile} (six sides, a tile every {@code size}
   *     metres), {@code fill} (as tile, only where UVs are missing), {@code pack}, {@code tiles} or
   *     {@code fit}
   * @param size side of a tile in metres
   * @param named the UV set that changes, or that is added when no set has the name; empty for the
   *     first
   */
  public record Params(String how, double size, String named) {
    public Params {
      HOW_CHOICE.checked(how);
      Field.within("size", size, 0.001, LARGEST);
      named = named == null ? "" : named.strip();
    }
  }

  public LayUvs() {
    super(
        Group.SURFACE,
        "uvs",
        "Lay out UVs",
        "Gives meshes UVs from six sides, or puts the islands of a UV set into the 0–1 square.",
        Params.class,
        true,
        HOW_CHOICE,
        Field.number("size", "Tile", "m", 0.001, LARGEST, 1, "Side of one tile.")
            .when("how=tile|fill"),
        Field.text(
            "named",
            "UV set",
            "",
            "Which set changes; a name that no set has adds one. Empty for the first."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    int[] changed = new int[1];
    Scene result =
        ChosenMeshes.of(scene, selection)
            .eachSized(
                progress,
                (mesh, metres) -> {
                  PolygonMesh now = laidOut(scene, mesh, params, params.size() / metres);
                  changed[0] += now == mesh ? 0 : 1;
                  return now;
                });
    return StepResult.of(result, Figures.count(changed[0], "mesh"));
  }

  private static PolygonMesh laidOut(Scene scene, PolygonMesh mesh, Params params, double size) {
    List<Attribute> sets = mesh.all(Semantic.UV);
    Optional<Attribute> named =
        sets.stream()
            .filter(s -> params.named().isEmpty() || s.name().equals(params.named()))
            .findFirst();
    Attribute from = named.orElse(sets.isEmpty() ? null : sets.get(0));
    boolean fresh = params.how().equals("box") || params.how().equals("tile");
    if (from == null && !fresh && !params.how().equals("fill")) {
      return mesh;
    }
    String name =
        named.map(Attribute::name).orElse(params.named().isEmpty() ? "uv" : params.named());
    Matrix3d upright = scene.frame().basisTo(Frame.Y_UP_METRE);
    Attribute box = UvPlacing.box(mesh, name, size, scene.uvOrigin(), upright);
    Attribute now =
        switch (params.how()) {
          case "box" -> UvPlacing.packed(mesh, box);
          case "tile" -> box;
          case "fill" -> from == null ? box : UvPlacing.filled(mesh, from, box);
          case "pack" -> UvPlacing.packed(mesh, from);
          case "tiles" -> UvPlacing.intoTile(mesh, from);
          default -> UvPlacing.fitted(from);
        };
    Attribute result =
        new Attribute(
            name, now.semantic(), now.domain(), now.components(), now.values(), now.indices());
    boolean first = named.isPresent() && named.get() == sets.get(0);
    return with(mesh, named.orElse(null), result, fresh && first);
  }

  /**
   * @param turned whether UVs run in other directions now: tangents follow the first set
   */
  private static PolygonMesh with(PolygonMesh mesh, Attribute old, Attribute now, boolean turned) {
    List<Attribute> attributes = new ArrayList<>();
    int lastUv = -1;
    for (Attribute a : mesh.attributes()) {
      if (turned && a.semantic() == Semantic.TANGENT) {
        continue;
      }
      attributes.add(a == old ? now : a);
      lastUv = a.semantic() == Semantic.UV ? attributes.size() - 1 : lastUv;
    }
    if (old == null) {
      attributes.add(lastUv < 0 ? attributes.size() : lastUv + 1, now);
    }
    return mesh.withAttributes(attributes);
  }
}
