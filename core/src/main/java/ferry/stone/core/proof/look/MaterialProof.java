package ferry.stone.core.proof.look;

import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.flat.Contents;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.Landed;
import ferry.stone.core.proof.Ledger;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.Measure;
import ferry.stone.core.proof.PartMatch;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.BumpMap;
import ferry.stone.core.texture.ColourSpace;
import ferry.stone.core.texture.PbrMaterial;
import ferry.stone.core.texture.PbrTranslation;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.work.Progress;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;

/** Compares materials and their textures, value by value and pixel by pixel. */
public final class MaterialProof {
  private static final double FACTOR_TOLERANCE = 0.002;

  private final Ledger ledger;
  private final Scene near;
  private final Scene far;
  private final Scene read;
  private final PartMatch parts;
  private Progress progress = Progress.NONE;
  private final Landed landing;
  private final TextureProof images;
  private final PlacementProof placements;
  private final SurfaceProof surfaces;

  public MaterialProof(
      Ledger ledger,
      Scene near,
      Scene far,
      Scene read,
      PartMatch parts,
      Resources cargo,
      Landed landing) {
    this.parts = parts;
    this.ledger = ledger;
    this.near = near;
    this.far = far;
    this.read = read;
    this.landing = landing;
    images = new TextureProof(ledger, far, read, cargo, landing);
    placements = new PlacementProof(ledger, far, read);
    surfaces = new SurfaceProof(ledger, read, images, placements);
  }

  public void run(Progress work) {
    progress = work;
    ledger.group("Materials");
    ledger
        .about(landing.said("faces-given-a-material") ? Capability.BARE_FACES : null)
        .count(
            "Materials",
            -1,
            near.materials().size(),
            far.materials().size(),
            read.materials().size(),
            landing.said("faces-given-a-material")
                ? "one was added for faces without any"
                : "materials are missing");
    assignment();
    Map<String, Deque<Material>> byName = new HashMap<>();
    read.materials().forEach(m -> byName.computeIfAbsent(m.name(), k -> new ArrayDeque<>()).add(m));
    int done = 0;
    for (Material material : far.materials()) {
      progress.checkCancelled();
      progress.report(
          "comparing material " + material.name(), 0.8 + 0.2 * done++ / far.materials().size());
      Deque<Material> same = byName.get(material.name());
      Material match = same == null ? null : same.poll();
      ledger.group("Material " + material.name());
      if (match == null) {
        ledger.add("Material", -1, "yes", "yes", "—", "", Verdict.LOST, "it did not land");
      } else {
        if (landing.holding().isMetallicRoughness()) {
          compare(material, match);
        } else {
          channels(material, match);
        }
      }
      images.forget();
    }
  }

  private void assignment() {
    assignment("Faces on their materials", -1);
    boolean variants = landing.fate(Capability.VARIANTS) == Fate.KEPT;
    for (int v = 0; v < far.variants().size() && variants; v++) {
      assignment("Faces on their materials in the look " + far.variants().get(v), v);
    }
    if (!far.variants().isEmpty() && variants) {
      boolean same = far.variants().equals(read.variants());
      ledger.add(
          "Looks to choose from",
          -1,
          String.join(", ", near.variants()),
          String.join(", ", far.variants()),
          String.join(", ", read.variants()),
          "",
          same ? Verdict.KEPT : Verdict.LOST,
          same ? "" : "their names or order differ");
    }
  }

  private void assignment(String fact, int variant) {
    AssignmentProof.Result result =
        new AssignmentProof(far, read, parts, landing).compare(variant, progress);
    boolean nowhere = far.meshes().stream().anyMatch(Contents::hasNowhere);
    boolean given = result.wrong() > 0 && result.wrong() == result.given();
    ledger
        .about(nowhere ? Capability.NOT_NUMBERS : given ? Capability.BARE_FACES : null)
        .measure(
            Measure.count(
                AssignmentProof.faces(near), result.compared(), result.compared() - result.wrong()))
        .add(
            fact,
            -1,
            Figures.count(AssignmentProof.faces(near)),
            Figures.count(result.compared()),
            Figures.count(result.compared() - result.wrong()) + " the same",
            Figures.count(result.wrong(), result.noun()),
            result.wrong() == 0 ? Verdict.KEPT : given ? Verdict.CHANGED : Verdict.LOST,
            result.wrong() == 0
                ? ""
                : given
                    ? "they had no material and got one of their own"
                    : "on another material or gone, first on " + result.first());
  }

  private void compare(Material wanted, Material found) {
    PbrMaterial pbr = PbrTranslation.translate(wanted, far.linearColours());
    double[] base = found.factor(Channel.BASE_COLOUR, 1, 1, 1, 1);
    colour("Base colour", written(wanted, Channel.BASE_COLOUR), pbr.baseColour(), base);
    number("Opacity", written(wanted, Channel.OPACITY), pbr.baseColour()[3], base[3]);
    boolean metalMap = pbr.metallicMap() != null || pbr.packed() != null;
    double metal = found.factor(Channel.METALLIC, 1)[0];
    if (!metalMap || metal != 0) {
      number("Metallic", written(wanted, Channel.METALLIC), pbr.metallic(), metal);
    }
    number(
        "Roughness",
        wanted.get(Channel.ROUGHNESS).isPresent()
            ? written(wanted, Channel.ROUGHNESS)
            : wanted.get(Channel.SHININESS).isPresent()
                ? "exponent " + written(wanted, Channel.SHININESS)
                : "—",
        pbr.roughness(),
        found.factor(Channel.ROUGHNESS, 1)[0]);
    textures(wanted, pbr, found);
    surfaces.compare(pbr, found);
    for (PbrMaterial.Note note : pbr.notes()) {
      ledger
          .about(note.lost() ? Capability.MATERIAL_CHANNELS : Capability.MATERIAL_MODEL)
          .add(
              capital(note.channel()) + ", translation",
              -1,
              note.from(),
              note.lost() ? "—" : note.to(),
              note.lost() ? "—" : note.to(),
              "",
              note.lost() ? Verdict.LOST : Verdict.CHANGED,
              note.lost()
                  ? "metallic-roughness as written here has no place for it"
                  : "translated");
    }
  }

  /** For formats that hold materials as they are: each channel beside its own. */
  private void channels(Material wanted, Material found) {
    wanted
        .channels()
        .forEach(
            (channel, value) -> {
              String name = capital(channel.label());
              double[] own = value.factor();
              double[] there = found.factor(channel, (double[]) null);
              boolean said = own != null && Double.isFinite(own[0]);
              double[] tint = landing.holding().tint(channel, value);
              placements.compare(name, value.texture(), found.texture(channel).orElse(null));
              surfaces.strength(name, value.texture(), found.texture(channel).orElse(null));
              if (tint != null) {
                images.tinted(name, value.texture(), tint, channel.isColour(), found, channel);
                return;
              }
              if (said && there == null && !neutral(channel, value)) {
                ledger
                    .about(Capability.MATERIAL_CHANNELS)
                    .add(name, -1, "", numbers(own), "—", "", Verdict.LOST, "it did not land");
              } else if (said && there != null) {
                factor(name, channel, own, there);
              }
              char part = value.texture() == null ? 0 : value.texture().component();
              images.texture(
                  name + " texture",
                  value.texture(),
                  found.texture(channel).orElse(null),
                  part == 0 ? 'c' : part,
                  part == 0 ? 'c' : foundPart(found, channel, part));
            });
    for (String value : landing.holding().ownValues(wanted)) {
      ledger
          .about(Capability.OWN_VALUES)
          .add(
              capital(value) + ", in other programs",
              -1,
              "yes",
              "yes",
              "—",
              "",
              Verdict.LOST,
              "it stands under a property of our own: it comes back here, nowhere else");
    }
    boolean same =
        wanted.alpha() == found.alpha()
            && wanted.doubleSided() == found.doubleSided()
            && Math.abs(wanted.alphaCutoff() - found.alphaCutoff()) < 1e-6;
    ledger.add(
        "Surface",
        -1,
        "",
        surface(wanted),
        surface(found),
        "",
        same ? Verdict.KEPT : Verdict.CHANGED,
        "");
  }

  /** A part may have become an image of its own. */
  private static char foundPart(Material found, Channel channel, char part) {
    return found.texture(channel).map(TextureUse::component).filter(c -> c != 0).orElse(part);
  }

  /** Full opacity, and a factor of 1 on a texture, need not be said. */
  private static boolean neutral(Channel channel, Material.Value value) {
    double[] f = value.factor();
    boolean black = channel == Channel.BASE_COLOUR && f.length >= 3 && f[0] + f[1] + f[2] == 0;
    return (channel == Channel.OPACITY || value.texture() != null) && (value.isOne() || black);
  }

  private void factor(String name, Channel channel, double[] own, double[] there) {
    double off = 0;
    boolean colour = channel.isColour() && own.length >= 3;
    for (int k = 0; k < Math.min(3, Math.min(own.length, there.length)); k++) {
      double a = colour && far.linearColours() ? ColourSpace.toSrgb(own[k]) : own[k];
      double b = colour && read.linearColours() ? ColourSpace.toSrgb(there[k]) : there[k];
      off = Math.max(off, Math.abs(a - b));
    }
    ledger.measure(Measure.off(Measure.PART, off));
    ledger.add(
        name,
        -1,
        "",
        numbers(own),
        numbers(there),
        String.format(Locale.ROOT, "%.4f", off),
        off <= FACTOR_TOLERANCE ? Verdict.KEPT : Verdict.CHANGED,
        "");
  }

  private static String numbers(double[] values) {
    StringBuilder text = new StringBuilder();
    for (double v : values) {
      text.append(text.isEmpty() ? "" : " ").append(Figures.plain(Math.round(v * 1e4) / 1e4));
    }
    return text.toString();
  }

  private static String surface(Material m) {
    return m.alpha().name().toLowerCase(Locale.ROOT)
        + (m.doubleSided() ? ", both sides" : ", one side");
  }

  private static String capital(String text) {
    return text.substring(0, 1).toUpperCase(Locale.ROOT) + text.substring(1);
  }

  private static String written(Material material, Channel channel) {
    double[] f = material.factor(channel);
    if (f.length == 0) {
      return "—";
    }
    StringBuilder text = new StringBuilder();
    for (double v : f) {
      text.append(text.isEmpty() ? "" : " ").append(Figures.plain(v));
    }
    return text.toString();
  }

  private void colour(String fact, String written, double[] wanted, double[] found) {
    double off = 0;
    for (int k = 0; k < 3; k++) {
      off = Math.max(off, Math.abs(ColourSpace.toSrgb(wanted[k]) - ColourSpace.toSrgb(found[k])));
    }
    ledger.measure(Measure.off(Measure.PART, off));
    ledger.add(
        fact,
        -1,
        written,
        ColourSpace.hex(wanted),
        ColourSpace.hex(found),
        Figures.plain(Math.round(off * 255)) + " / 255",
        off <= FACTOR_TOLERANCE ? Verdict.KEPT : Verdict.CHANGED,
        "");
  }

  private void number(String fact, String written, double wanted, double found) {
    double off = Math.abs(wanted - found);
    ledger.measure(new Measure(Measure.PART, null, wanted, found, off));
    ledger.add(
        fact,
        -1,
        written,
        Figures.plain(wanted),
        Figures.plain(found),
        String.format(Locale.ROOT, "%.4f", off),
        off <= FACTOR_TOLERANCE ? Verdict.KEPT : Verdict.CHANGED,
        "");
  }

  private void textures(Material wanted, PbrMaterial pbr, Material found) {
    TextureUse base = found.texture(Channel.BASE_COLOUR).orElse(null);
    TextureUse packed = found.texture(Channel.ROUGHNESS).orElse(null);
    images.texture("Base colour texture", pbr.base(), base, 'c', 'c');
    placements.compare("Base colour", pbr.base(), base);
    if (pbr.opacity() != null) {
      boolean asIs = pbr.base() != null && pbr.base().textureId() == pbr.opacity().textureId();
      char part = pbr.opacity().component();
      images.texture(
          "Opacity texture", pbr.opacity(), base, part != 0 ? part : asIs ? 'a' : 'l', 'a');
    }
    images.texture("Roughness texture", pbr.roughnessMap(), packed, part(pbr.roughnessMap()), 'g');
    images.texture("Metallic texture", pbr.metallicMap(), packed, part(pbr.metallicMap()), 'b');
    images.texture("Packed texture", pbr.packed(), packed, 'c', 'c');
    images.changedTexture("Shininess texture", pbr.shininess(), packed, "turned into roughness");
    TextureUse normal = found.texture(Channel.NORMAL).orElse(null);
    images.texture("Normal texture", pbr.normal(), normal, 'c', 'c');
    placements.compare("Normal", pbr.normal(), normal);
    placements.compare("Roughness", pbr.roughnessMap(), packed);
    placements.compare("Packed", pbr.packed(), packed);
    placements.compare("Occlusion", pbr.occlusion(), found.texture(Channel.OCCLUSION).orElse(null));
    placements.compare("Emissive", pbr.emissiveMap(), found.texture(Channel.EMISSIVE).orElse(null));
    if (pbr.bump() != null) {
      Pixels bump = images.far(pbr.bump());
      if (bump != null && BumpMap.isNormalMap(bump)) {
        images.texture("Normal texture, given as bump", pbr.bump(), normal, 'c', 'c');
      } else {
        images.changedTexture("Bump texture", pbr.bump(), normal, "turned into a normal map");
      }
    }
    images.texture(
        "Occlusion texture",
        pbr.occlusion(),
        found.texture(Channel.OCCLUSION).orElse(null),
        'c',
        'c');
    images.texture(
        "Emissive texture",
        pbr.emissiveMap(),
        found.texture(Channel.EMISSIVE).orElse(null),
        'c',
        'c');
  }

  private static char part(TextureUse use) {
    return use == null || use.component() == 0 ? 'l' : use.component();
  }
}
