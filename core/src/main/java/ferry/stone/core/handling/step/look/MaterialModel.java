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
import ferry.stone.core.scene.look.Material.Shading;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.BumpMap;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.model.MaterialLoss;
import ferry.stone.core.texture.model.MaterialReflection;
import ferry.stone.core.texture.model.ModelChange;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/** Writes materials in another model, images too, and says how far what they reflect is off. */
public final class MaterialModel extends BasicStep<MaterialModel.Params> {
  private static final int LOOKED_AT = 512;
  private static final Field TO =
      Field.choice(
          "to",
          "Model",
          "What the channels mean.",
          "metallic",
          "Metallic and roughness",
          "specular",
          "Diffuse, specular and roughness",
          "phong",
          "Phong");
  private static final Field HIGHLIGHT =
      Field.choice(
          "highlight",
          "Highlights of Phong",
          "As plastic: only what is dark with a bright highlight is metal, as landings have it. As"
              + " reflectance: the specular colour is what is mirrored straight on.",
          "practice",
          "as plastic, or dark metal",
          "reflectance",
          "as reflectance");

  /**
   * @param to {@code metallic}, {@code specular} or {@code phong}
   * @param highlight {@code practice} or {@code reflectance}
   * @param bumps whether bump maps become normal maps
   * @param bumpScale what their heights are multiplied by
   */
  public record Params(String to, String highlight, boolean bumps, double bumpScale) {
    public Params {
      to = TO.chosen(to);
      highlight = HIGHLIGHT.chosen(highlight);
      Field.within("bumpScale", bumpScale, 0, 100);
    }

    Shading shading() {
      return switch (to) {
        case "specular" -> Shading.SPECULAR_GLOSSINESS;
        case "phong" -> Shading.PHONG;
        default -> Shading.METALLIC_ROUGHNESS;
      };
    }
  }

  public MaterialModel() {
    super(
        Group.LOOK,
        "materialModel",
        "Change the model of materials",
        "Writes the materials of the chosen parts in another model, their images too, and says how"
            + " far what they reflect is off.",
        Params.class,
        true,
        TO,
        HIGHLIGHT,
        Field.flag("bumps", "Bumps to normals", false, "Normal maps are computed from bump maps."),
        Field.number(
            "bumpScale",
            "Height of bumps",
            "×",
            0,
            100,
            1,
            "At 1, a step from black to white from one pixel to the next rises by 8 pixels."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Set<Integer> used = ChosenMeshes.of(scene, selection).materials();
    List<Finding> findings = new ArrayList<>();
    ImageSlots slots = new ImageSlots(scene);
    int changed = 0;
    for (Material material : scene.materials()) {
      progress.checkCancelled();
      if (used.contains(material.id()) && material.shading() != Shading.UNLIT) {
        boolean model = change(slots, scene, material, params, findings);
        boolean bump = params.bumps() && bump(slots, material, params, findings);
        changed += model || bump ? 1 : 0;
      }
    }
    String figure = changed == 0 ? "nothing to change" : Figures.count(changed, "material");
    return new StepResult(changed == 0 ? scene : slots.scene(), findings, figure);
  }

  private static boolean change(
      ImageSlots slots, Scene scene, Material found, Params params, List<Finding> findings) {
    if (found.shading() == params.shading()) {
      return false;
    }
    Material old = slots.apart(found.id());
    boolean reflectance = params.highlight().equals("reflectance");
    List<String> missing = new ArrayList<>();
    MaterialReflection before =
        new MaterialReflection(
            old, scene.linearColours(), use -> pixels(slots, use, missing), reflectance);
    if (!missing.isEmpty() || !before.liesAlike()) {
      String why =
          missing.isEmpty()
              ? "its images lie differently on the surface, so they cannot be worked out together."
              : missing.get(0) + ".";
      findings.add(
          Finding.of(
              "material-model-stays", Severity.LOOK, old.name(), "It stays as it is: " + why));
      return false;
    }
    ModelChange change = new ModelChange(before, params.shading());
    Material now =
        change.material(
            old, scene.linearColours(), (name, image) -> slots.image(name + ".png", image));
    slots.put(now);
    MaterialReflection after =
        new MaterialReflection(
            now, scene.linearColours(), use -> pixels(slots, use, missing), true);
    MaterialLoss loss = MaterialLoss.of(before, after, LOOKED_AT);
    findings.add(
        Finding.of(
                "material-model-changed",
                Severity.NOTE,
                old.name(),
                "Its channels are those of " + words(params.shading()) + " now.")
            .measured(percent(loss.mean()) + " in the mean, " + percent(loss.most()) + " at most")
            .evidence("how far what both reflect is apart; see the bench for where"));
    return true;
  }

  private static String words(Shading shading) {
    return switch (shading) {
      case PHONG -> "Phong";
      case SPECULAR_GLOSSINESS -> "diffuse, specular and roughness";
      default -> "metallic and roughness";
    };
  }

  private static String percent(double part) {
    return String.format(Locale.ROOT, "%.2f %%", 100 * part);
  }

  private static Pixels pixels(ImageSlots slots, TextureUse use, List<String> missing) {
    try {
      return slots.pixelsOf(use);
    } catch (IllegalArgumentException e) {
      missing.add(e.getMessage());
      return null;
    }
  }

  private static boolean bump(
      ImageSlots slots, Material found, Params params, List<Finding> findings) {
    Material old = slots.material(found.id());
    TextureUse bump = old.texture(Channel.BUMP).orElse(null);
    if (bump == null || old.texture(Channel.NORMAL).isPresent()) {
      return false;
    }
    List<String> missing = new ArrayList<>();
    Pixels heights = pixels(slots, bump, missing);
    if (heights == null) {
      findings.add(
          Finding.of(
              "material-model-stays",
              Severity.LOOK,
              old.name(),
              "Its bump map stays: " + missing.get(0) + "."));
      return false;
    }
    boolean already = BumpMap.isNormalMap(heights);
    double scale = bump.amount() * params.bumpScale();
    int image =
        already
            ? bump.textureId()
            : slots.image(old.name() + "_normal.png", BumpMap.toNormalMap(heights, scale));
    Map<Channel, Material.Value> channels = new EnumMap<>(old.channels());
    channels.remove(Channel.BUMP);
    channels.put(Channel.NORMAL, new Material.Value(null, bump.withTexture(image).withAmount(1)));
    slots.put(old.withChannels(channels));
    findings.add(
        Finding.of(
                "bump-made-normal",
                Severity.NOTE,
                old.name(),
                already
                    ? "Its bump map held normals already: it is the normal map now."
                    : "A normal map was computed from the heights of its bump map.")
            .measured(already ? "" : "heights × " + Figures.plain(scale)));
    return true;
  }
}
