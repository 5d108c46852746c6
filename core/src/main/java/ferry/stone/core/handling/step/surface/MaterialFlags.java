package ferry.stone.core.handling.step.surface;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepKind;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Changes how surfaces are shown: from which sides, and how their opacity is meant. */
public final class MaterialFlags implements StepKind<MaterialFlags.Params> {
  private static final String KEEP = "keep";

  /**
   * @param sides {@code keep}, {@code one} or {@code both}
   * @param opacity {@code keep}, {@code opaque}, {@code mask} or {@code blend}
   * @param cutoff opacity below which a masked surface is a hole, 0 to 1
   */
  public record Params(String sides, String opacity, double cutoff) {
    public Params {
      sides = sides == null ? KEEP : sides;
      opacity = opacity == null ? KEEP : opacity;
      if (!Set.of(KEEP, "one", "both").contains(sides)) {
        throw new IllegalArgumentException("sides must be keep, one or both, not " + sides);
      }
      if (!Set.of(KEEP, "opaque", "mask", "blend").contains(opacity)) {
        throw new IllegalArgumentException(
            "opacity must be keep, opaque, mask or blend, not " + opacity);
      }
      if (!(cutoff >= 0 && cutoff <= 1)) {
        throw new IllegalArgumentException("cutoff must be 0 to 1, not " + cutoff);
      }
    }
  }

  @Override
  public String kind() {
    return "materialFlags";
  }

  @Override
  public String label() {
    return "Show surfaces";
  }

  @Override
  public String help() {
    return "Sets from which sides materials are seen and how their opacity is meant. Materials that"
        + " other parts share change there too.";
  }

  @Override
  public Group group() {
    return Group.LOOK;
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
        Field.choice(
            "sides",
            "Sides",
            List.of(
                new Field.Option(KEEP, "as they are"),
                new Field.Option("one", "front only"),
                new Field.Option("both", "both sides")),
            KEEP,
            "Both sides cost time to draw and hide flipped faces."),
        Field.choice(
            "opacity",
            "Opacity",
            List.of(
                new Field.Option(KEEP, "as it is"),
                new Field.Option("opaque", "opaque"),
                new Field.Option("mask", "holes, no half tones"),
                new Field.Option("blend", "blended")),
            KEEP,
            "Blended surfaces must be sorted by the viewer; holes need not."),
        Field.number(
            "cutoff", "Hole below", "", 0, 1, 0.5, "Opacity below which a surface is a hole."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Map<Integer, PolygonMesh> meshes = scene.meshesById();
    Set<Integer> chosen = new HashSet<>();
    boolean[] meant = selection.withBelow(scene);
    for (int i = 0; i < meant.length; i++) {
      Node node = scene.nodes().get(i);
      if (meant[i] && node.content() instanceof Node.Content.MeshContent content) {
        meshes.get(content.meshId()).usedMaterials().forEach(chosen::add);
        if (content.slotMaterials() != null) {
          Arrays.stream(content.slotMaterials()).forEach(chosen::add);
        }
      }
    }
    List<Material> materials = new ArrayList<>();
    int changed = 0;
    for (Material material : scene.materials()) {
      Material now = chosen.contains(material.id()) ? changed(material, params) : material;
      changed += now.equals(material) ? 0 : 1;
      materials.add(now);
    }
    return StepResult.of(
        scene.toBuilder().materials(materials).build(), Figures.count(changed, "material"));
  }

  private static Material changed(Material m, Params params) {
    boolean both = params.sides().equals(KEEP) ? m.doubleSided() : params.sides().equals("both");
    Material.Alpha alpha =
        switch (params.opacity()) {
          case "opaque" -> Material.Alpha.OPAQUE;
          case "mask" -> Material.Alpha.MASK;
          case "blend" -> Material.Alpha.BLEND;
          default -> m.alpha();
        };
    double cutoff = params.opacity().equals("mask") ? params.cutoff() : m.alphaCutoff();
    return new Material(
        m.id(), m.name(), m.shading(), m.channels(), alpha, cutoff, both, m.properties());
  }
}
