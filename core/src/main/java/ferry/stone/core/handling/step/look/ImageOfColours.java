package ferry.stone.core.handling.step.look;

import ferry.stone.core.field.Field;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.handling.step.surface.ChosenMeshes;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.look.Wrap;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.texture.ColourSpace;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.UvRaster;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Draws the colours of vertices into an image for each part, which becomes its base colour: for
 * engines and tools that pass vertex colours over.
 */
public final class ImageOfColours extends BasicStep<ImageOfColours.Params> {
  private static final double USUAL_SIDE = 1024;
  private static final double MOST_OVERLAP = 0.02;
  private static final double SLACK = 1e-4;

  /**
   * @param side of each image in pixels
   * @param around pixels that colours go on beyond the edges of faces
   * @param keep whether the colours stay on the vertices, which multiply the image
   */
  public record Params(double side, double around, boolean keep) {
    public Params {
      Field.within("side", side, 16, 8192);
      Field.within("around", around, 0, 64);
    }
  }

  public ImageOfColours() {
    super(
        Group.LOOK,
        "coloursToImage",
        "Image of vertex colours",
        "Draws the colours of the chosen parts' vertices into an image by their UVs, and puts it on"
            + " base colour.",
        Params.class,
        true,
        Field.number("side", "Side", "px", 16, 8192, USUAL_SIDE, "Of each part's image."),
        Field.number(
            "around", "Around faces", "px", 0, 64, 8, "How far colours go on beyond their edges."),
        Field.flag(
            "keep",
            "Keep the colours too",
            false,
            "Most engines multiply them with the image, which darkens it."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    List<Finding> findings = new ArrayList<>();
    SceneBuilder builder = scene.toBuilder();
    List<Material> materials = new ArrayList<>(scene.materials());
    List<Texture> textures = new ArrayList<>(scene.textures());
    List<PolygonMesh> meshes = new ArrayList<>();
    ChosenMeshes chosen = ChosenMeshes.of(scene, selection);
    Set<Integer> several = SeveralLooks.of(scene);
    int drawn = 0;
    for (PolygonMesh mesh : scene.meshes()) {
      progress.checkCancelled();
      Attribute colours = mesh.first(Semantic.COLOUR).orElse(null);
      if (!chosen.has(mesh) || colours == null) {
        meshes.add(mesh);
        continue;
      }
      String why = several.contains(mesh.id()) ? SeveralLooks.STAYS : refused(scene, mesh);
      if (!why.isEmpty()) {
        findings.add(Finding.of("colours-stay", Severity.LOOK, mesh.name(), why));
        meshes.add(mesh);
        continue;
      }
      UvRaster raster = raster(scene, mesh, colours, (int) params.side());
      if (raster.overlap() > MOST_OVERLAP) {
        findings.add(
            Finding.of(
                    "colours-overlap",
                    Severity.LOOK,
                    mesh.name(),
                    "Faces lie over each other on the image: the last one is seen.")
                .measured(Math.round(100 * raster.overlap()) + " % of the pixels"));
      }
      int id = builder.newId();
      String name = mesh.name() + "_colours.png";
      byte[] png = ImageCodec.encodePng(raster.image((int) params.around()));
      textures.add(new Texture(id, name, name, null, png));
      PolygonMesh dressed = dressed(mesh, id, materials, builder);
      if (!params.keep()) {
        List<Attribute> left = new ArrayList<>(dressed.attributes());
        left.remove(dressed.first(Semantic.COLOUR).orElseThrow());
        dressed = dressed.withAttributes(left);
      }
      meshes.add(dressed);
      drawn++;
    }
    String figure = drawn == 0 ? "no colours to draw" : Figures.count(drawn, "image");
    return new StepResult(
        drawn == 0 ? scene : builder.meshes(meshes).materials(materials).textures(textures).build(),
        findings,
        figure);
  }

  private static String refused(Scene scene, PolygonMesh mesh) {
    Attribute uv = mesh.first(Semantic.UV).orElse(null);
    if (uv == null) {
      return "The part has no UVs to draw by: lay some first.";
    }
    for (int i = 0; i < uv.values().length; i++) {
      float v = uv.values()[i];
      if (i % uv.components() < 2 && !(v >= -SLACK && v <= 1 + SLACK)) {
        return "Faces lie outside the image (UVs beyond 0 to 1): pack them first.";
      }
    }
    boolean image =
        mesh.usedMaterials()
            .anyMatch(
                id -> scene.material(id).flatMap(m -> m.texture(Channel.BASE_COLOUR)).isPresent());
    return image ? "A material of the part has an image for base colour already." : "";
  }

  private static UvRaster raster(Scene scene, PolygonMesh mesh, Attribute colours, int side) {
    UvRaster raster = new UvRaster(side);
    Attribute uv = mesh.first(Semantic.UV).orElseThrow();
    double[] at = new double[6];
    double[] colour = new double[12];
    for (int f = 0; f < mesh.faces().faceCount(); f++) {
      int start = mesh.faces().start(f);
      // A fan from the first corner: faces are nearly convex where they lie on an image.
      for (int k = 1; k + 1 < mesh.faces().size(f); k++) {
        corner(scene, mesh, uv, colours, f, start, at, colour, 0);
        corner(scene, mesh, uv, colours, f, start + k, at, colour, 1);
        corner(scene, mesh, uv, colours, f, start + k + 1, at, colour, 2);
        raster.triangle(at, colour);
      }
    }
    return raster;
  }

  private static void corner(
      Scene scene,
      PolygonMesh mesh,
      Attribute uv,
      Attribute colours,
      int face,
      int corner,
      double[] at,
      double[] colour,
      int place) {
    int vertex = mesh.faces().vertex(corner);
    int u = uv.valueOf(corner, vertex, face);
    at[2 * place] = u < 0 ? 0 : uv.values()[uv.components() * u];
    double v = u < 0 ? 0 : uv.values()[uv.components() * u + 1];
    at[2 * place + 1] = scene.uvOrigin() == UvOrigin.TOP_LEFT ? v : 1 - v;
    int row = colours.valueOf(corner, vertex, face);
    for (int c = 0; c < 4; c++) {
      double value =
          row < 0 || c >= colours.components()
              ? 1
              : colours.values()[colours.components() * row + c];
      colour[4 * place + c] =
          c < 3 && scene.linearColours() ? ColourSpace.toSrgb(Math.max(0, value)) : value;
    }
  }

  /** The mesh with its own copies of its materials, which have the image. */
  private static PolygonMesh dressed(
      PolygonMesh mesh, int texture, List<Material> materials, SceneBuilder builder) {
    TextureUse use = new TextureUse(texture, 0, 0, 0, 1, 1, 0, Wrap.CLAMPED, (char) 0, 1, "");
    int[] ids = mesh.materialIds().clone();
    if (ids.length == 0) {
      ids = new int[] {-1};
    }
    for (int slot = 0; slot < ids.length; slot++) {
      int old = ids[slot];
      Material own = materials.stream().filter(m -> m.id() == old).findFirst().orElse(null);
      int id = builder.newId();
      Map<Channel, Material.Value> channels =
          own == null || own.channels().isEmpty()
              ? new EnumMap<>(Channel.class)
              : new EnumMap<>(own.channels());
      channels.put(Channel.BASE_COLOUR, new Material.Value(null, use));
      materials.add(
          new Material(
              id,
              (own == null ? "plain" : own.name()) + "_" + mesh.name(),
              own == null ? Material.Shading.METALLIC_ROUGHNESS : own.shading(),
              channels,
              own == null ? Material.Alpha.OPAQUE : own.alpha(),
              own == null ? 0.5 : own.alphaCutoff(),
              own != null && own.doubleSided(),
              own == null ? Map.of() : own.properties()));
      ids[slot] = id;
    }
    int[] slots = new int[mesh.faces().faceCount()];
    for (int f = 0; f < slots.length; f++) {
      slots[f] = Math.max(0, mesh.slot(f));
    }
    return mesh.toBuilder().materials(ids, slots).build();
  }
}
