package ferry.stone.core.handling.step.look;

import ferry.stone.core.field.Field;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.geometry.mesh.MeshMeasure;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.handling.step.surface.ChosenMeshes;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.texture.PbrMaterial;
import ferry.stone.core.texture.atlas.AtlasTile;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Makes one material of those of the chosen parts: their images go into one atlas for each channel,
 * their numbers into its pixels, and the UVs move along. What cannot be shown so stays, and is
 * told. Materials that are opaque, cut out and see-through get an atlas each, since one material is
 * only one of these.
 */
public final class OneMaterial extends BasicStep<OneMaterial.Params> {
  private static final double USUAL_SIDE = 4096;
  private static final double USUAL_PADDING = 8;
  private static final int SMALL = 8;
  private static final Field REPEATING =
      Field.choice(
          "repeating",
          "Images that repeat",
          "What happens with materials whose image repeats across a face.",
          "stay",
          "stay materials of their own",
          "unroll",
          "are laid out as often as they repeat");

  /**
   * @param side largest side of the atlas in pixels
   * @param padding pixels around each tile, a power of two
   */
  public record Params(String name, double side, double padding, String repeating) {
    public Params {
      name = name == null || name.isBlank() ? "atlas" : name.strip();
      Field.within("side", side, 64, 16_384);
      Field.within("padding", padding, 1, 64);
      if (Integer.bitCount((int) padding) != 1 || padding != Math.rint(padding)) {
        throw new IllegalArgumentException("the padding is 1, 2, 4, 8, 16, 32 or 64 pixels");
      }
      repeating = REPEATING.chosen(repeating);
    }
  }

  public OneMaterial() {
    super(
        Group.LOOK,
        "atlas",
        "One material of many",
        "Puts the images of the chosen parts' materials into one atlas, and moves their UVs along.",
        Params.class,
        true,
        Field.text("name", "Name", "atlas", "Name of the material."),
        Field.number(
            "side", "Largest side", "px", 64, 16_384, USUAL_SIDE, "Images become smaller to fit."),
        Field.number(
            "padding",
            "Padding",
            "px",
            1,
            64,
            USUAL_PADDING,
            "Around each image, a power of two: smaller levels of the atlas down to one in which it"
                + " is a pixel mix nothing."),
        REPEATING);
  }

  /** What one material can only be one of. */
  private record Kind(Material.Alpha alpha, double cutoff, List<Object> layers) {
    static Kind of(PbrMaterial pbr) {
      double cutoff = pbr.alpha() == Material.Alpha.MASK ? pbr.alphaCutoff() : 0;
      return new Kind(pbr.alpha(), cutoff, AtlasLayers.agreed(pbr));
    }
  }

  /** What is known of a material before it goes into an atlas. */
  private static final class Part {
    private final Material material;
    private final PbrMaterial pbr;
    private final AtlasUvs uvs;

    /** Where its image of shade lies; as the others where it does not lie apart. */
    private final AtlasUvs shade;

    private double area;

    Part(Material material, PbrMaterial pbr, UvOrigin origin) {
      this.material = material;
      this.pbr = pbr;
      uvs = new AtlasUvs(origin, AtlasSource.lie(pbr));
      shade =
          AtlasSource.isShadedApart(pbr) ? new AtlasUvs(origin, AtlasSource.shadeLie(pbr)) : uvs;
    }

    boolean misses(PolygonMesh mesh) {
      return AtlasSource.lie(pbr) != null && (uvs.of(mesh) == null || shade.of(mesh) == null);
    }

    void add(PolygonMesh mesh, int face) {
      uvs.add(mesh, face);
      if (shade != uvs) {
        shade.add(mesh, face);
      }
    }

    boolean isPlain() {
      return uvs.isPlain() && shade.isPlain();
    }

    long repeats() {
      return Math.max(
          (long) uvs.acrossU() * uvs.acrossV(), (long) shade.acrossU() * shade.acrossV());
    }
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    List<Finding> findings = new ArrayList<>();
    List<PolygonMesh> meshes = meshes(scene, selection, findings);
    AtlasSource source = new AtlasSource(scene);
    Map<Integer, Part> parts = parts(scene, meshes, source, params, findings);
    Map<Kind, List<Part>> groups = new LinkedHashMap<>();
    for (Part part : parts.values()) {
      groups.computeIfAbsent(Kind.of(part.pbr), k -> new ArrayList<>()).add(part);
    }
    AtlasScene made = new AtlasScene(scene, meshes);
    int joined = 0;
    for (Map.Entry<Kind, List<Part>> group : groups.entrySet()) {
      progress.checkCancelled();
      if (group.getValue().size() > 1) {
        joined += join(made, group.getKey().alpha, group.getValue(), source, params, findings);
      }
    }
    String figure =
        joined == 0 ? "nothing to join" : Figures.count(joined, "material") + " → " + made.count();
    return new StepResult(joined == 0 ? scene : made.scene(), findings, figure);
  }

  private static List<PolygonMesh> meshes(
      Scene scene, Selection selection, List<Finding> findings) {
    Set<Integer> several = SeveralLooks.of(scene);
    List<PolygonMesh> meshes = new ArrayList<>();
    for (PolygonMesh mesh : ChosenMeshes.of(scene, selection).meshesIn(scene)) {
      if (several.contains(mesh.id())) {
        findings.add(left(mesh.name(), SeveralLooks.STAYS));
      } else {
        meshes.add(mesh);
      }
    }
    return meshes;
  }

  private static Map<Integer, Part> parts(
      Scene scene,
      List<PolygonMesh> meshes,
      AtlasSource source,
      Params params,
      List<Finding> findings) {
    Map<Integer, Part> parts = new LinkedHashMap<>();
    Set<Integer> refused = new HashSet<>();
    for (PolygonMesh mesh : meshes) {
      double area = MeshMeasure.area(mesh) / Math.max(1, mesh.faces().faceCount());
      for (int f = 0; f < mesh.faces().faceCount(); f++) {
        int id = mesh.materialOf(f);
        Material material = id < 0 || refused.contains(id) ? null : scene.material(id).orElse(null);
        if (material == null) {
          continue;
        }
        Part part = parts.get(id);
        if (part == null) {
          PbrMaterial pbr = source.pbr(material);
          part = new Part(material, pbr, scene.uvOrigin());
          Optional<String> why = source.refused(pbr);
          if (why.isPresent()) {
            refused.add(id);
            findings.add(left(material.name(), "The material stays: " + why.get() + "."));
            continue;
          }
          parts.put(id, part);
        }
        if (part.misses(mesh)) {
          refused.add(id);
          parts.remove(id);
          findings.add(
              left(
                  material.name(),
                  "The material stays: it has images, and its part has no UVs for them."));
          continue;
        }
        part.add(mesh, f);
        part.area += area;
      }
    }
    parts.values().removeIf(p -> repeats(p, params, findings));
    return parts;
  }

  private static boolean repeats(Part part, Params params, List<Finding> findings) {
    boolean stays =
        AtlasSource.lie(part.pbr) != null
            && !part.isPlain()
            && (params.repeating().equals("stay") || part.repeats() > 4096);
    if (stays) {
      findings.add(
          left(
              part.material.name(),
              "The material stays: its images repeat across faces. They can be laid out as often"
                  + " as they repeat."));
    }
    return stays;
  }

  private static int join(
      AtlasScene made,
      Material.Alpha alpha,
      List<Part> group,
      AtlasSource source,
      Params params,
      List<Finding> findings) {
    double glowing = group.stream().mapToDouble(p -> p.pbr.emissiveStrength()).max().orElse(1);
    List<AtlasTile> tiles =
        group.stream()
            .map(p -> source.tile(p.pbr, p.uvs.acrossU(), p.uvs.acrossV(), glowing))
            .toList();
    int[][] full = new int[group.size()][];
    double[] area = new double[group.size()];
    for (int i = 0; i < full.length; i++) {
      int[] size = tiles.get(i).size();
      boolean plain = AtlasSource.lie(group.get(i).pbr) == null;
      full[i] =
          plain
              ? new int[] {SMALL, SMALL}
              : new int[] {size[0] * tiles.get(i).acrossU(), size[1] * tiles.get(i).acrossV()};
      area[i] = plain ? 0 : group.get(i).area;
    }
    Optional<AtlasSizes> sizes =
        AtlasSizes.fitting(full, area, (int) params.padding(), (int) params.side());
    if (sizes.isEmpty()) {
      findings.add(
          left(params.name(), "The images do not fit an atlas of this size: nothing was joined."));
      return 0;
    }
    AtlasSizes fit = sizes.get();
    String name =
        made.free(
            alpha == Material.Alpha.OPAQUE ? params.name() : params.name() + "_" + word(alpha));
    List<AtlasScene.Joined> joined = new ArrayList<>();
    for (int i = 0; i < group.size(); i++) {
      double side = fit.packed().side();
      double[] tile = {
        fit.packed().x()[i] / side,
        fit.packed().y()[i] / side,
        fit.width()[i] / side,
        fit.height()[i] / side
      };
      Part part = group.get(i);
      joined.add(new AtlasScene.Joined(part.material, part.pbr, part.uvs, part.shade, tile));
    }
    made.add(name, alpha, joined, tiles, fit, (int) params.padding(), glowing);
    findings.add(
        Finding.of(
                "atlas-made",
                Severity.NOTE,
                name,
                "One material of "
                    + Figures.count(group.size(), "material")
                    + ", on images of "
                    + fit.packed().side()
                    + " × "
                    + fit.packed().side()
                    + " pixels.")
            .measured(
                Math.round(100 * fit.scale())
                    + " % of their resolution"
                    + (tiles.stream().anyMatch(AtlasTile::isDeep) ? ", 8 bits of 16" : ""))
            .evidence(String.join(", ", group.stream().map(p -> p.material.name()).toList())));
    return group.size();
  }

  private static String word(Material.Alpha alpha) {
    return alpha == Material.Alpha.MASK ? "cut_out" : "see_through";
  }

  private static Finding left(String where, String message) {
    return Finding.of("material-stays", Severity.LOOK, where, message);
  }
}
