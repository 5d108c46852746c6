package ferry.stone.core.proof.look;

import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.Ledger;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.Measure;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.LayerParts;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.PbrMaterial;
import ferry.stone.core.texture.PbrTranslation;
import java.util.Locale;
import java.util.Map;

/**
 * Compares what a metallic-roughness material has beside its body: its own light, how it lets
 * through what is behind, the strengths of its images, and the layers above (clearcoat, sheen …).
 */
public final class SurfaceProof {
  private static final double FACTOR_TOLERANCE = 0.002;

  private final Ledger ledger;
  private final Scene read;
  private final TextureProof images;
  private final PlacementProof placements;

  SurfaceProof(Ledger ledger, Scene read, TextureProof images, PlacementProof placements) {
    this.ledger = ledger;
    this.read = read;
    this.images = images;
    this.placements = placements;
  }

  void compare(PbrMaterial wanted, Material landed) {
    PbrMaterial found = PbrTranslation.translate(landed, read.linearColours());
    boolean mapGone = wanted.emissiveMap() != null && found.emissiveMap() == null;
    if (!mapGone) {
      // Without its image the light is left out, which the image's own line tells.
      factors("Emission", light(wanted), light(found), false);
    }
    strength("Normal", wanted.normal(), found.normal());
    strength("Occlusion", wanted.occlusion(), landed.texture(Channel.OCCLUSION).orElse(null));
    surface(wanted, found);
    wanted.layers().entrySet().stream()
        .sorted(Map.Entry.comparingByKey())
        .forEach(e -> layer(e.getKey(), e.getValue(), found.layers().get(e.getKey())));
  }

  private static double[] light(PbrMaterial pbr) {
    double[] light = pbr.emissive().clone();
    for (int k = 0; k < light.length; k++) {
      light[k] *= pbr.emissiveStrength();
    }
    return light;
  }

  private void layer(Channel channel, Material.Value wanted, Material.Value found) {
    String name =
        channel.label().substring(0, 1).toUpperCase(Locale.ROOT) + channel.label().substring(1);
    double[] own = wanted.factor();
    if (own != null && own.length > 0 && Double.isFinite(own[0])) {
      factors(name, own, found == null ? null : found.factor(), true);
    }
    TextureUse there = found == null ? null : found.texture();
    char part = wanted.texture() == null ? 0 : wanted.texture().component();
    char read = there == null ? 0 : LayerParts.of(channel, there);
    boolean whole = LayerParts.standard(channel) == 0 || part == 0 && read != 'a';
    images.texture(
        name + " texture",
        wanted.texture(),
        there,
        whole ? 'c' : part == 0 ? 'l' : part,
        whole ? 'c' : read);
    placements.compare(name, wanted.texture(), there);
    if (channel == Channel.CLEARCOAT_NORMAL) {
      strength(name, wanted.texture(), there);
    }
  }

  private void factors(String fact, double[] wanted, double[] found, boolean always) {
    if (found == null) {
      ledger
          .about(Capability.MATERIAL_CHANNELS)
          .add(fact, -1, "", numbers(wanted), "—", "", Verdict.LOST, "it did not land");
      return;
    }
    double off = 0;
    double most = 1;
    boolean dark = true;
    for (int k = 0; k < Math.min(wanted.length, found.length); k++) {
      off = Math.max(off, Math.abs(wanted[k] - found[k]));
      most = Math.max(most, Math.abs(wanted[k]));
      dark &= wanted[k] == 0 && found[k] == 0;
    }
    if (dark && !always) {
      return;
    }
    boolean same = off <= FACTOR_TOLERANCE * most;
    ledger
        .about(same ? null : Capability.MATERIAL_CHANNELS)
        .measure(Measure.off(Measure.PART, off))
        .add(
            fact,
            -1,
            "",
            numbers(wanted),
            numbers(found),
            String.format(Locale.ROOT, "%.4f", off),
            same ? Verdict.KEPT : Verdict.CHANGED,
            "");
  }

  /** How strongly an image works: scale of normals, amount of bumps and shade. */
  void strength(String fact, TextureUse wanted, TextureUse found) {
    if (wanted == null || found == null || wanted.amount() == 1 && found.amount() == 1) {
      return;
    }
    factors(
        fact + " texture, its strength",
        new double[] {wanted.amount()},
        new double[] {found.amount()},
        true);
  }

  private void surface(PbrMaterial wanted, PbrMaterial found) {
    // An opacity map of nothing but 0 and 1 is written as a cut-out, which shows the same.
    boolean cutOut =
        wanted.alpha() == Material.Alpha.BLEND
            && found.alpha() == Material.Alpha.MASK
            && wanted.opacity() != null;
    boolean masks = wanted.alpha() == Material.Alpha.MASK && found.alpha() == Material.Alpha.MASK;
    boolean same =
        (cutOut || wanted.alpha() == found.alpha())
            && wanted.doubleSided() == found.doubleSided()
            && wanted.unlit() == found.unlit()
            && (!masks || Math.abs(wanted.alphaCutoff() - found.alphaCutoff()) < FACTOR_TOLERANCE);
    ledger
        .about(same ? null : Capability.MATERIAL_CHANNELS)
        .add(
            "Surface",
            -1,
            "",
            words(wanted),
            words(found),
            "",
            same ? Verdict.KEPT : Verdict.CHANGED,
            cutOut ? "every pixel of the opacity is 0 or 1" : "");
  }

  private static String words(PbrMaterial m) {
    return m.alpha().name().toLowerCase(Locale.ROOT)
        + (m.alpha() == Material.Alpha.MASK ? " at " + round(m.alphaCutoff()) : "")
        + (m.doubleSided() ? ", both sides" : ", one side")
        + (m.unlit() ? ", not lit" : "");
  }

  private static String numbers(double[] values) {
    StringBuilder text = new StringBuilder();
    for (double v : values) {
      text.append(text.isEmpty() ? "" : " ").append(round(v));
    }
    return text.toString();
  }

  private static String round(double value) {
    return Figures.plain(Math.round(value * 1e4) / 1e4);
  }
}
