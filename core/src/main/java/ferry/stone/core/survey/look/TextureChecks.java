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
            seen.computeIfAbsent(id, k -> looked(texture))
                .ifPresent(look -> slot(material, entry.getKey(), texture, look));
          }
        }
      }
    }
  }

  private Optional<ImageEvidence> looked(Texture texture) {
    String problem = LooseImages.problem(scene.images(), texture);
    if (!problem.isEmpty()) {
      findings.add(
          Finding.of("image-unreadable", Severity.FIX, texture.name(), problem)
              .evidence("What shows it here stays plain, and it does not land in most formats."));
    }
    return LooseImages.evidence(scene.images(), texture);
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
    char part = material.texture(channel).orElseThrow().component();
    String against = look.against(channel, part);
    if (against.isEmpty()) {
      return;
    }
    boolean normal = channel == Channel.NORMAL || channel == Channel.CLEARCOAT_NORMAL;
    List<Offer> offers = new ArrayList<>();
    String code;
    Severity severity = Severity.FIX;
    if (normal && look.isDownward()) {
      code = "green-points-down";
      severity = Severity.LOOK;
      String turned = written(texture, " [opposite]");
      offers.add(
          offer("Turn its green up", TextureBindings.with("", channel, material.name(), turned)));
    } else if (normal) {
      code = "no-normal-map";
      if (look.isGrey() && material.texture(Channel.BUMP).isEmpty()) {
        offers.add(move("Put it on bump", material, channel, Channel.BUMP, texture));
      }
      offers.add(take(material, channel));
    } else if (look.isNormalMap()) {
      code = "normal-map-misplaced";
      if (material.texture(Channel.NORMAL).isEmpty()) {
        offers.add(move("Put it on normal", material, channel, Channel.NORMAL, texture));
      }
      offers.add(take(material, channel));
    } else {
      code = "colour-as-data";
      severity = Severity.LOOK;
      offers.add(take(material, channel));
    }
    findings.add(
        Finding.of(code, severity, material.name() + ", " + channel.label(), against)
            .evidence(texture.name() + ": " + look.words())
            .offer(offers.toArray(Offer[]::new)));
  }

  /** How a binding names a texture. */
  private static String written(Texture texture, String parts) {
    String name = texture.resource() != null ? texture.resource() : texture.name();
    return name + parts;
  }

  private static Offer move(
      String label, Material material, Channel from, Channel to, Texture texture) {
    String away = TextureBindings.with("", from, material.name(), "-");
    return offer(label, TextureBindings.with(away, to, material.name(), written(texture, "")));
  }

  private static Offer take(Material material, Channel channel) {
    return offer("Take it away", TextureBindings.with("", channel, material.name(), "-"));
  }

  /** What pixels look like is a guess, so it is accepted by itself. */
  private static Offer offer(String label, String bindings) {
    return Offer.step(label, "textures", Map.of("find", "none", "bindings", bindings)).asking();
  }
}
