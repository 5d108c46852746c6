package ferry.stone.core.handling.step.look;

import ferry.stone.core.field.Field;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.ImageLoss;
import ferry.stone.core.texture.ImageSize;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/** Makes images of materials smaller, in pixels and in bytes, and says what that loses. */
public final class SmallerImages extends BasicStep<SmallerImages.Params> {
  private static final double USUAL_SIDE = 2048;
  private static final Field KIND =
      Field.choice(
          "kind",
          "Kind of file",
          "JPEG takes less and loses a little; what has transparency, and data, stay PNG.",
          "same",
          "as they are",
          "png",
          "PNG",
          "jpeg",
          "JPEG for colours, PNG for data");

  /**
   * @param side longest side in pixels
   * @param powers whether sides become powers of two, which some engines want
   * @param kind {@code same}, {@code png} or {@code jpeg}
   */
  public record Params(double side, boolean powers, String kind) {
    public Params {
      Field.within("side", side, 4, 16_384);
      kind = KIND.chosen(kind);
    }
  }

  public SmallerImages() {
    super(
        Group.LOOK,
        "images",
        "Make images smaller",
        "Makes the images of all materials smaller, and says how much that saves and loses.",
        Params.class,
        false,
        Field.number(
            "side",
            "Longest side",
            "px",
            4,
            16_384,
            USUAL_SIDE,
            "Smaller images stay as they are."),
        Field.flag("powers", "Powers of two", false, "Sides become the next smaller power of two."),
        KIND);
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Set<Integer> used = new HashSet<>();
    Set<Integer> colours = new HashSet<>();
    for (Material material : scene.materials()) {
      for (Map.Entry<Channel, Material.Value> entry : material.channels().entrySet()) {
        if (entry.getValue().texture() != null) {
          int id = entry.getValue().texture().textureId();
          used.add(id);
          if (entry.getKey().isColour()) {
            colours.add(id);
          }
        }
      }
    }
    List<Finding> findings = new ArrayList<>();
    Map<Integer, Texture> made = new HashMap<>();
    long before = 0;
    long after = 0;
    for (Texture texture : scene.textures()) {
      progress.checkCancelled();
      if (!used.contains(texture.id()) || !texture.isFound()) {
        continue;
      }
      try {
        byte[] file = ImagePixels.file(scene, texture);
        Texture now = smaller(texture, file, params, colours.contains(texture.id()), findings);
        before += file.length;
        after += now == texture ? file.length : now.embedded().length;
        made.put(texture.id(), now);
      } catch (IOException e) {
        findings.add(Finding.of("image-stays", Severity.LOOK, texture.name(), e.getMessage()));
      }
    }
    List<Texture> textures =
        scene.textures().stream().map(t -> made.getOrDefault(t.id(), t)).toList();
    long changed = scene.textures().stream().filter(t -> made.getOrDefault(t.id(), t) != t).count();
    String figure =
        changed == 0
            ? "all are small enough"
            : Figures.count(changed, "image")
                + " · "
                + megabytes(before)
                + " → "
                + megabytes(after);
    return new StepResult(
        changed == 0 ? scene : scene.toBuilder().textures(textures).build(), findings, figure);
  }

  private static String megabytes(long bytes) {
    return String.format(Locale.ROOT, "%.2f MB", bytes / 1e6);
  }

  private static Texture smaller(
      Texture texture, byte[] file, Params params, boolean colour, List<Finding> findings)
      throws IOException {
    String kind = ImageCodec.probe(file, texture.name()).kind();
    Pixels pixels = ImageCodec.decode(file, texture.name());
    int longest = Math.max(pixels.width(), pixels.height());
    int width = side(pixels.width(), longest, params);
    int height = side(pixels.height(), longest, params);
    boolean jpeg =
        !pixels.hasAlpha()
            && (params.kind().equals("same")
                ? kind.equals("jpeg")
                : params.kind().equals("jpeg") && colour);
    boolean sameKind = kind.equals(jpeg ? "jpeg" : "png") || params.kind().equals("same");
    if (width == pixels.width() && height == pixels.height() && sameKind) {
      return texture;
    }
    Pixels small = ImageSize.to(pixels, width, height);
    byte[] now = jpeg ? ImageCodec.encodeJpeg(small) : ImageCodec.encodePng(small);
    String name = texture.name();
    int dot = name.lastIndexOf('.');
    String stem = dot < 0 ? name : name.substring(0, dot);
    Pixels read = jpeg ? ImageCodec.decode(now, name) : small;
    double loss = ImageLoss.decibels(pixels, read);
    findings.add(
        Finding.of(
                "image-smaller",
                Severity.NOTE,
                name,
                String.format(
                    Locale.ROOT,
                    "%d × %d became %d × %d, %s became %s.",
                    pixels.width(),
                    pixels.height(),
                    width,
                    height,
                    megabytes(file.length),
                    megabytes(now.length)))
            .measured(
                Double.isInfinite(loss)
                    ? "nothing lost"
                    : String.format(Locale.ROOT, "%.1f dB", loss))
            .evidence("peak signal-to-noise ratio; above 40 dB hardly anything is seen"));
    String source = texture.resource() != null ? texture.resource() : texture.written();
    return new Texture(texture.id(), stem + (jpeg ? ".jpg" : ".png"), source, null, now);
  }

  private static int side(int length, int longest, Params params) {
    int most = (int) params.side();
    int side =
        longest <= most ? length : Math.max(1, (int) Math.round((double) length * most / longest));
    return params.powers() ? Integer.highestOneBit(side) : side;
  }
}
