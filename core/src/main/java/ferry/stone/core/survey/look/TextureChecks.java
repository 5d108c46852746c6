package ferry.stone.core.survey.look;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.texture.match.ImageEvidence;
import ferry.stone.core.texture.match.LooseImages;
import ferry.stone.core.texture.match.TextureBindings;
import ferry.stone.core.texture.match.TextureMatch;
import ferry.stone.core.texture.match.TextureMatch.Proposal;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * Whether images of the cargo lie about unused, and whether those in use look like what their
 * channel is for: a normal map among the colours, colours read as data, a normal map whose green
 * points down.
 */
public final class TextureChecks {
  /** Proposals below it are for the bench to decide. */
  private static final double LIKELY = 0.5;

  /** How clearly the slopes have to say that green points down. */
  private static final double DOWNWARDS = -0.3;

  private static final Map<Channel, Channel> DATA =
      Map.of(
          Channel.METALLIC, Channel.METALLIC,
          Channel.ROUGHNESS, Channel.ROUGHNESS,
          Channel.OCCLUSION, Channel.OCCLUSION,
          Channel.OCCLUSION_ROUGHNESS_METALLIC, Channel.OCCLUSION_ROUGHNESS_METALLIC);

  private final Scene scene;
  private final Findings findings;

  public TextureChecks(Scene scene, Findings findings) {
    this.scene = scene;
    this.findings = findings;
  }

  public void run(Progress progress) {
    loose();
    Map<Integer, Optional<ImageEvidence>> seen = new HashMap<>();
    for (Material material : scene.materials()) {
      for (Map.Entry<Channel, Material.Value> entry : material.channels().entrySet()) {
        if (entry.getValue().texture() != null) {
          progress.checkCancelled();
          int id = entry.getValue().texture().textureId();
          Texture texture = scene.texture(id).filter(Texture::isFound).orElse(null);
          if (texture != null) {
            seen.computeIfAbsent(id, k -> LooseImages.evidence(scene.images(), texture))
                .ifPresent(look -> slot(material, entry.getKey(), texture, look));
          }
        }
      }
    }
  }

  private void loose() {
    List<String> images = LooseImages.of(scene);
    if (images.isEmpty() || scene.materials().isEmpty()) {
      return;
    }
    TextureMatch match = TextureMatch.of(scene, false);
    List<Proposal> fitting =
        match.proposals().stream().filter(p -> p.confidence() >= LIKELY).toList();
    if (fitting.isEmpty() && images.size() > TextureMatch.FEW) {
      // Around a file of the disk there may be images of anything.
      return;
    }
    long placed = fitting.stream().map(Proposal::image).distinct().count();
    Finding finding =
        Finding.of(
                "images-loose",
                fitting.isEmpty() ? Severity.NOTE : Severity.LOOK,
                fitting.isEmpty() ? images.get(0) : fitting.get(0).image(),
                fitting.isEmpty()
                    ? "No material uses these images of the cargo, and none is named for one."
                    : "No material uses these images of the cargo, and they fit channels that have"
                        + " none.")
            .measured(
                Figures.count(images.size(), "image")
                    + (fitting.isEmpty() ? "" : ", " + placed + " fit"))
            .evidence(evidence(fitting));
    findings.add(
        fitting.isEmpty()
            ? finding
            : finding.offer(
                Offer.step("Put them where they fit", "textures", Map.of("find", "fitting"))));
  }

  private static String evidence(List<Proposal> fitting) {
    List<String> lines = new ArrayList<>();
    for (Proposal p : fitting) {
      lines.add(
          String.format(
              Locale.ROOT,
              "%s: %s of %s, %.0f %%",
              p.image(),
              p.role().channel().label(),
              p.material().name(),
              100 * p.confidence()));
    }
    return String.join("; ", lines);
  }

  private void slot(Material material, Channel channel, Texture texture, ImageEvidence look) {
    boolean normal = channel == Channel.NORMAL || channel == Channel.CLEARCOAT_NORMAL;
    if (look.isNormalMap() && (channel.isColour() || DATA.containsKey(channel))) {
      Finding finding =
          told("normal-map-misplaced", Severity.FIX, material, channel, texture, look)
              .apply("The image of this channel holds directions: it is a normal map.");
      boolean free = material.texture(Channel.NORMAL).isEmpty();
      findings.add(
          free
              ? finding.offer(
                  move("Put it on normal", material, channel, Channel.NORMAL, texture),
                  take(material, channel))
              : finding.offer(take(material, channel)));
    } else if (normal && !look.isNormalMap() && !look.isFlat()) {
      Finding finding =
          told("no-normal-map", Severity.FIX, material, channel, texture, look)
              .apply(
                  look.isGrey()
                      ? "The image of this channel is grey: it is no normal map, but may be heights."
                      : "The image of this channel holds colours, and no directions.");
      findings.add(
          look.isGrey() && material.texture(Channel.BUMP).isEmpty()
              ? finding.offer(
                  move("Put it on bump", material, channel, Channel.BUMP, texture),
                  take(material, channel))
              : finding.offer(take(material, channel)));
    } else if (normal && look.upward() < DOWNWARDS) {
      findings.add(
          told("green-points-down", Severity.LOOK, material, channel, texture, look)
              .apply(
                  "The slopes of this normal map fit a surface only when its green points down:"
                      + " bumps would look like dents.")
              .measured(String.format(Locale.ROOT, "%.0f %% surer", -100 * look.upward()))
              .offer(
                  Offer.step(
                          "Turn its green up",
                          "textures",
                          Map.of(
                              "find",
                              "none",
                              "bindings",
                              TextureBindings.with(
                                  "", channel, material.name(), written(texture, " [opposite]"))))
                      .asking()));
    } else if (DATA.containsKey(channel)
        && look.isColour()
        && material.texture(channel).orElseThrow().component() == 0
        && channel != Channel.OCCLUSION_ROUGHNESS_METALLIC) {
      findings.add(
          told("colour-as-data", Severity.LOOK, material, channel, texture, look)
              .apply("The image of this channel is colourful, and its numbers are read as data.")
              .offer(take(material, channel)));
    }
  }

  private interface Telling {
    Finding apply(String message);
  }

  private static Telling told(
      String code,
      Severity severity,
      Material material,
      Channel channel,
      Texture texture,
      ImageEvidence look) {
    return message ->
        Finding.of(code, severity, material.name() + ", " + channel.label(), message)
            .evidence(texture.name() + ": " + look.words());
  }

  /** How a binding names a texture. */
  private static String written(Texture texture, String parts) {
    String name = texture.resource() != null ? texture.resource() : texture.name();
    return name + parts;
  }

  private static Offer move(
      String label, Material material, Channel from, Channel to, Texture texture) {
    String away = TextureBindings.with("", from, material.name(), "-");
    String both = TextureBindings.with(away, to, material.name(), written(texture, ""));
    return Offer.step(label, "textures", Map.of("find", "none", "bindings", both)).asking();
  }

  private static Offer take(Material material, Channel channel) {
    String away = TextureBindings.with("", channel, material.name(), "-");
    return Offer.step("Take it away", "textures", Map.of("find", "none", "bindings", away))
        .asking();
  }
}
