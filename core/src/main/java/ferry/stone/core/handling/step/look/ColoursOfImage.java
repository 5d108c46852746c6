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
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.look.Wrap;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Attribute.Domain;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.texture.ColourSpace;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Gives corners the colour that base colour has where they lie, as a layer of colours. */
public final class ColoursOfImage extends BasicStep<ColoursOfImage.Params> {
  /**
   * @param name of the layer
   */
  public record Params(String name) {
    public Params {
      name = name == null || name.isBlank() ? "colour" : name.strip();
    }
  }

  public ColoursOfImage() {
    super(
        Group.LOOK,
        "imageToColours",
        "Vertex colours of images",
        "Gives each corner of the chosen parts the colour that its material has there, as a layer of"
            + " colours. The image stays; take it away where only the colours are wanted.",
        Params.class,
        true,
        Field.text("name", "Name", "colour", "Of the layer; one of this name is replaced."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    List<Finding> findings = new ArrayList<>();
    ImagePixels images = new ImagePixels(scene);
    Map<Integer, Material> materials = new HashMap<>();
    scene.materials().forEach(m -> materials.put(m.id(), m));
    ChosenMeshes chosen = ChosenMeshes.of(scene, selection);
    List<PolygonMesh> meshes = new ArrayList<>();
    int coloured = 0;
    for (PolygonMesh mesh : scene.meshes()) {
      progress.checkCancelled();
      if (!chosen.has(mesh) || mesh.faces().faceCount() == 0) {
        meshes.add(mesh);
        continue;
      }
      float[] values = new float[4 * mesh.faces().cornerCount()];
      for (int f = 0; f < mesh.faces().faceCount(); f++) {
        Material material = materials.get(mesh.materialOf(f));
        for (int c = mesh.faces().start(f); c < mesh.faces().end(f); c++) {
          put(scene, mesh, material, images, f, c, values);
        }
      }
      List<Attribute> layers = new ArrayList<>(mesh.attributes());
      layers.removeIf(a -> a.semantic() == Semantic.COLOUR && a.name().equals(params.name()));
      layers.add(new Attribute(params.name(), Semantic.COLOUR, Domain.CORNER, 4, values, null));
      meshes.add(mesh.withAttributes(layers));
      coloured++;
    }
    for (String lost : images.lost()) {
      findings.add(
          Finding.of(
              "image-stays",
              Severity.LOOK,
              lost,
              "The image is missing or cannot be read: its material's number alone was taken."));
    }
    String figure = coloured == 0 ? "no faces" : Figures.count(coloured, "part") + " coloured";
    return new StepResult(
        coloured == 0 ? scene : scene.toBuilder().meshes(meshes).build(), findings, figure);
  }

  private static void put(
      Scene scene,
      PolygonMesh mesh,
      Material material,
      ImagePixels images,
      int face,
      int corner,
      float[] values) {
    double[] factor =
        material == null ? new double[] {1, 1, 1} : material.factor(Channel.BASE_COLOUR, 1, 1, 1);
    double opacity = material == null ? 1 : material.factor(Channel.OPACITY, 1)[0];
    Optional<TextureUse> use =
        material == null ? Optional.empty() : material.texture(Channel.BASE_COLOUR);
    Pixels image = use.map(images::of).orElse(null);
    double[] seen = {1, 1, 1, 1};
    if (image != null) {
      sample(scene, mesh, use.get(), image, face, corner, seen);
    }
    for (int c = 0; c < 3; c++) {
      // Colours are kept as the scene keeps numbers: linear light, or sRGB.
      double stored = scene.linearColours() ? ColourSpace.toLinear(seen[c]) : seen[c];
      double both =
          scene.linearColours()
              ? stored * factor[c]
              : ColourSpace.toSrgb(ColourSpace.toLinear(stored) * ColourSpace.toLinear(factor[c]));
      values[4 * corner + c] = (float) both;
    }
    values[4 * corner + 3] = (float) (seen[3] * opacity);
  }

  /** What the image has at a corner, blended between four pixels as a renderer does. */
  private static void sample(
      Scene scene,
      PolygonMesh mesh,
      TextureUse use,
      Pixels image,
      int face,
      int corner,
      double[] into) {
    List<Attribute> sets = mesh.all(Semantic.UV);
    if (use.uvSet() >= sets.size()) {
      return;
    }
    Attribute uv = sets.get(use.uvSet());
    int row = uv.valueOf(corner, mesh.faces().vertex(corner), face);
    if (row < 0) {
      return;
    }
    double u = use.scaleU() * uv.values()[uv.components() * row];
    double v = use.scaleV() * uv.values()[uv.components() * row + 1];
    double sine = Math.sin(use.rotationRadians());
    double cosine = Math.cos(use.rotationRadians());
    boolean down = scene.uvOrigin() == UvOrigin.TOP_LEFT;
    // KHR_texture_transform turns with V down; from the other end the turn is the other way.
    double turn = down ? sine : -sine;
    double x = cosine * u + turn * v + use.offsetU();
    double y = -turn * u + cosine * v + use.offsetV();
    double px = x * image.width() - 0.5;
    double py = (down ? y : 1 - y) * image.height() - 0.5;
    int left = (int) Math.floor(px);
    int top = (int) Math.floor(py);
    java.util.Arrays.fill(into, 0);
    for (int k = 0; k < 4; k++) {
      double weight =
          ((k & 1) == 0 ? 1 - (px - left) : px - left)
              * ((k >> 1) == 0 ? 1 - (py - top) : py - top);
      int sx = inside(left + (k & 1), image.width(), use.wrap().u());
      int sy = inside(top + (k >> 1), image.height(), use.wrap().v());
      int p = image.argb()[sy * image.width() + sx];
      for (int c = 0; c < 4; c++) {
        into[c] += weight * (p >> (c == 3 ? 24 : 16 - 8 * c) & 0xff) / 255;
      }
    }
  }

  /** A pixel beyond the border of an image, by what the image does there. */
  private static int inside(int place, int length, Wrap.Edge edge) {
    return switch (edge) {
      case CLAMP -> Math.max(0, Math.min(length - 1, place));
      case MIRROR -> {
        int round = Math.floorMod(place, 2 * length);
        yield round < length ? round : 2 * length - 1 - round;
      }
      case REPEAT -> Math.floorMod(place, length);
    };
  }
}
