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
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.texture.PartSource;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.match.ImageRole;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/**
 * Makes an image whose red, green, blue and alpha each come from a part of some image, from what a
 * material has for a channel, or from one value; and puts it where it belongs.
 */
public final class PackImage extends BasicStep<PackImage.Params> {
  private static final String SAYS =
      "An image and its part (rust.png:g), a channel of the material (@roughness), or a value (0.5);"
          + " with ! before it, its opposite.";
  private static final Field TARGET =
      Field.choice(
          "target",
          "Put on",
          "Where the new image goes.",
          "orm",
          "Occlusion (red), roughness (green), metallic (blue)",
          "base",
          "Base colour",
          "cutout",
          "Base colour, and opacity from alpha",
          "emissive",
          "Emissive",
          "normal",
          "Normal",
          "roughness",
          "Roughness (green)",
          "metallic",
          "Metallic (blue)",
          "occlusion",
          "Occlusion (red)",
          "opacity",
          "Opacity (green)");

  /**
   * @param material which materials get one each; all of the chosen parts when empty
   * @param alpha empty for an image without
   */
  public record Params(
      String material, String red, String green, String blue, String alpha, String target) {
    public Params {
      target = TARGET.chosen(target);
      for (String source : List.of(red, green, blue, alpha)) {
        PackedPart.of(source.isBlank() ? "0" : source);
      }
    }
  }

  public PackImage() {
    super(
        Group.LOOK,
        "packImage",
        "Pack an image",
        "Makes an image of parts of others: any channel from any image's channel, its opposite, or"
            + " one value.",
        Params.class,
        true,
        Field.text("material", "Material", "", "Its name; empty for all of the chosen parts."),
        Field.text("red", "Red", "@occlusion", SAYS),
        Field.text("green", "Green", "@roughness", SAYS),
        Field.text("blue", "Blue", "@metallic", SAYS),
        Field.text("alpha", "Alpha", "", SAYS + " Empty: the image has none."),
        TARGET);
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Set<Integer> used = ChosenMeshes.of(scene, selection).materials();
    List<Finding> findings = new ArrayList<>();
    ImageSlots slots = new ImageSlots(scene);
    int made = 0;
    boolean named = false;
    for (Material material : scene.materials()) {
      progress.checkCancelled();
      boolean wanted =
          params.material().isEmpty()
              ? used.contains(material.id())
              : material.name().equals(params.material());
      named |= wanted;
      if (wanted && put(slots, material, params, findings)) {
        made++;
      }
    }
    if (!named && !params.material().isEmpty()) {
      throw new IllegalArgumentException(
          "there is no material \"" + params.material() + "\"; its name is that on the bench");
    }
    String figure = made == 0 ? "nothing to pack" : Figures.count(made, "image");
    return new StepResult(made == 0 ? scene : slots.scene(), findings, figure);
  }

  private static boolean put(
      ImageSlots slots, Material found, Params params, List<Finding> findings) {
    try {
      Material material = slots.apart(found.id());
      PartSource alpha = params.alpha().isBlank() ? null : part(slots, material, params.alpha());
      Pixels packed =
          PartSource.pack(
              part(slots, material, params.red()),
              part(slots, material, params.green()),
              part(slots, material, params.blue()),
              alpha);
      String image = slots.add(material.name() + "_" + params.target() + ".png", packed);
      for (ImageRole role : roles(params.target())) {
        if (!role.channel().isColour()) {
          // Its number is in the image now.
          slots.clear(material.id(), role.channel());
        }
        slots.put(material.id(), role, image);
      }
      return true;
    } catch (IllegalArgumentException e) {
      findings.add(
          Finding.of("image-not-packed", Severity.LOOK, found.name(), e.getMessage() + "."));
      return false;
    }
  }

  private static PartSource part(ImageSlots slots, Material material, String text) {
    return PackedPart.of(text.isBlank() ? "0" : text).source(slots, material);
  }

  private static List<ImageRole> roles(String target) {
    return switch (target) {
      case "orm" ->
          List.of(
              role(Channel.OCCLUSION, 'r'),
              role(Channel.ROUGHNESS, 'g'),
              role(Channel.METALLIC, 'b'));
      case "cutout" -> List.of(role(Channel.BASE_COLOUR, (char) 0), role(Channel.OPACITY, 'a'));
      case "base" -> List.of(role(Channel.BASE_COLOUR, (char) 0));
      case "emissive" -> List.of(role(Channel.EMISSIVE, (char) 0));
      case "normal" -> List.of(role(Channel.NORMAL, (char) 0));
      case "roughness" -> List.of(role(Channel.ROUGHNESS, 'g'));
      case "metallic" -> List.of(role(Channel.METALLIC, 'b'));
      case "occlusion" -> List.of(role(Channel.OCCLUSION, 'r'));
      default -> List.of(role(Channel.OPACITY, 'g'));
    };
  }

  private static ImageRole role(Channel channel, char part) {
    return new ImageRole(channel, part, false);
  }
}
