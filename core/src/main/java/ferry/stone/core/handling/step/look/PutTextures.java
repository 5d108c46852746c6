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
import ferry.stone.core.texture.match.ImageRole;
import ferry.stone.core.texture.match.TextureBindings;
import ferry.stone.core.texture.match.TextureMatch;
import ferry.stone.core.texture.match.TextureMatch.Proposal;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/**
 * Puts images of the cargo on channels of materials: those that fit by name and look, and those
 * that the user put by hand, which are kept with the step and go first.
 */
public final class PutTextures extends BasicStep<PutTextures.Params> {
  private static final Field FIND =
      Field.choice(
          "find",
          "Loose images",
          "What happens with images that no material uses.",
          "fitting",
          "are put where they fit",
          "none",
          "stay as they are");

  private static final double USUAL_LEAST = 50;

  /**
   * @param find {@code fitting} or {@code none}
   * @param least confidence that is taken, in percent
   * @param replace whether channels that have an image get another
   * @param bindings as {@link TextureBindings} reads them
   */
  public record Params(String find, double least, boolean replace, String bindings) {
    public Params {
      find = FIND.chosen(find);
      Field.within("least", least, 0, 100);
      bindings = bindings == null ? "" : bindings.strip();
      TextureBindings.of(bindings);
    }
  }

  public PutTextures() {
    super(
        Group.LOOK,
        "textures",
        "Put textures on",
        "Puts loose images of the cargo on the channels of materials, by the words of their names,"
            + " by materials, parts and folders, and by what their pixels look like. The material"
            + " bench shows each, and changes it.",
        Params.class,
        false,
        FIND,
        Field.number(
            "least", "Least confidence", "%", 0, 100, USUAL_LEAST, "What fits less stays loose."),
        Field.flag(
            "replace", "Replace what is there", false, "Channels that have an image get another."),
        Field.text(
            "bindings",
            "Put by hand",
            "",
            "Channel @ material = image, several with semicolons: normal @ lantern = tex/l_n.png;"
                + " roughness @ lantern = tex/orm.png [g]; emissive @ post = -. The material bench"
                + " writes them for you."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    List<Finding> findings = new ArrayList<>();
    ImageSlots slots = new ImageSlots(scene);
    Set<String> byHand = new HashSet<>();
    int count = 0;
    for (TextureBindings.Put put : TextureBindings.of(params.bindings())) {
      List<Material> named =
          scene.materials().stream().filter(m -> m.name().equals(put.material())).toList();
      if (named.isEmpty()) {
        findings.add(
            left(
                put.material(),
                "There is no material of this name: " + put.channel().label() + " stays."));
      }
      for (Material material : named) {
        byHand.add(key(material, put.channel()));
        slots.clear(material.id(), put.channel());
        if (put.image() != null) {
          slots.put(material.id(), put.role(), slots.image(put.image()));
          count++;
        }
      }
    }
    int loose = 0;
    if (params.find().equals("fitting")) {
      Scene handed = slots.scene();
      TextureMatch match = TextureMatch.of(handed, params.replace());
      slots = new ImageSlots(handed);
      for (Proposal proposal : match.proposals()) {
        progress.checkCancelled();
        ImageRole role = proposal.role();
        boolean sure = 100 * proposal.confidence() >= params.least();
        if (byHand.contains(key(proposal.material(), role.channel()))) {
          continue;
        }
        findings.add(told(proposal, sure));
        if (sure) {
          slots.put(proposal.material().id(), role, proposal.image());
          count++;
        } else {
          loose++;
        }
      }
      for (TextureMatch.Unplaced image : match.unplaced()) {
        findings.add(left(image.image(), "The image stays loose: " + image.why() + "."));
        loose++;
      }
    }
    String figure = count + (count == 1 ? " image put" : " images put");
    figure += loose == 0 ? "" : ", " + Figures.count(loose, "image") + " loose";
    return new StepResult(slots.scene(), findings, figure);
  }

  private static String key(Material material, Channel channel) {
    return material.id() + " " + channel;
  }

  private static Finding told(Proposal proposal, boolean put) {
    String where =
        proposal.role().channel().label()
            + " of "
            + proposal.material().name()
            + (proposal.role().component() == 0
                ? ""
                : ", from its " + part(proposal.role().component()));
    return Finding.of(
            put ? "texture-put" : "texture-loose",
            put ? Severity.NOTE : Severity.LOOK,
            proposal.image(),
            (put ? "Put on " : "Not put on ")
                + where
                + (proposal.role().inverted() ? ", turned to the opposite." : "."))
        .measured(String.format(Locale.ROOT, "%.0f %%", 100 * proposal.confidence()))
        .evidence(String.join(", ", proposal.reasons()));
  }

  static String part(char component) {
    return switch (component) {
      case 'r' -> "red";
      case 'g' -> "green";
      case 'b' -> "blue";
      default -> "alpha";
    };
  }

  private static Finding left(String where, String message) {
    return Finding.of("texture-loose", Severity.LOOK, where, message);
  }
}
