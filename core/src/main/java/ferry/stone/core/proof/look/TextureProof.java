package ferry.stone.core.proof.look;

import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.files.TextureBytes;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.Landed;
import ferry.stone.core.proof.Ledger;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.texture.ChannelPacking;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.ImageLoss;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.texture.Tint;
import java.io.IOException;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;

/** Compares images pixel by pixel; those that cannot be decoded byte by byte. */
public final class TextureProof {
  private static final String LESS_DEEP = "16 bits a channel became 8";

  private final Ledger ledger;
  private final Scene far;
  private final Scene read;
  private final Resources cargo;
  private final Landed landing;
  private final Map<Integer, Pixels> decoded = new HashMap<>();

  TextureProof(Ledger ledger, Scene far, Scene read, Resources cargo, Landed landing) {
    this.ledger = ledger;
    this.far = far;
    this.read = read;
    this.cargo = cargo;
    this.landing = landing;
  }

  /** Lets decoded images go. */
  void forget() {
    decoded.clear();
  }

  /** Pixels of an image of the far side, or {@code null}. */
  Pixels far(TextureUse use) {
    return pixels(far, use, cargo);
  }

  void changedTexture(String fact, TextureUse wanted, TextureUse found, String how) {
    if (wanted == null) {
      return;
    }
    ledger
        .about(
            found == null && far(wanted) == null
                ? Capability.MISSING_TEXTURES
                : fact.startsWith("Bump") ? Capability.BUMP_MAPS : Capability.MATERIAL_MODEL)
        .add(
            fact,
            -1,
            name(far, wanted),
            name(far, wanted),
            found == null ? "—" : name(read, found),
            "",
            found == null ? Verdict.LOST : Verdict.CHANGED,
            found == null ? missingNote(wanted) : how);
  }

  private boolean isFound(TextureUse use) {
    return far.texture(use.textureId()).map(Texture::isFound).orElse(false);
  }

  private String missingNote(TextureUse wanted) {
    if (!isFound(wanted)) {
      return "its file is not in the cargo";
    }
    return far(wanted) == null ? "its file cannot be read as an image" : "the image did not land";
  }

  /** Compares a part of two images: {@code c} for all colours, else one channel. */
  void texture(String fact, TextureUse wanted, TextureUse found, char wantedPart, char foundPart) {
    if (wanted == null) {
      return;
    }
    packedBeside(fact, wanted, found);
    if (found != null && sameBytes(wanted, found)) {
      sameImage(fact, wanted);
      return;
    }
    Pixels a = pixels(far, wanted, cargo);
    Pixels b = found == null ? null : pixels(read, found, landing.files());
    if (a == null || b == null) {
      ledger
          .about(
              a == null
                  ? Capability.MISSING_TEXTURES
                  : landing.said("texture-without-uvs")
                      ? Capability.NO_UVS
                      : fact.startsWith("Opacity") ? Capability.OPACITY_PLACEMENT : null)
          .add(
              fact,
              -1,
              far.texture(wanted.textureId()).orElseThrow().written(),
              a == null ? "not found" : size(a),
              b == null ? "—" : size(b),
              "",
              Verdict.LOST,
              b == null ? missingNote(wanted) : "its file is not in the cargo");
      return;
    }
    int off = difference(a, b, wantedPart, foundPart);
    boolean fits = a.width() == b.width() && a.height() == b.height();
    boolean same = fits && (b.isDeep() || !a.isDeep());
    boolean repacked = (off > 1 || !same) && landing.holding().isRepacked();
    boolean apart = !repacked || landing.said("opacity-map-placed-otherwise");
    boolean opacity = fact.startsWith("Opacity") && off > 1 && apart;
    ledger
        .about(
            opacity ? Capability.OPACITY_PLACEMENT : same && !repacked ? null : Capability.PACKING)
        .add(
            fact,
            -1,
            name(far, wanted),
            size(a),
            size(b),
            off + " / 255",
            off <= 1 ? (same ? Verdict.KEPT : Verdict.CHANGED) : Verdict.CHANGED,
            repacked
                ? loss(a, b)
                : off > 1 ? "pixels differ" : same ? "" : fits ? LESS_DEEP : "size changed");
  }

  /** The KTX2 that the source has beside the image. */
  private void packedBeside(String fact, TextureUse wanted, TextureUse found) {
    Texture own = far.texture(wanted.textureId()).orElseThrow().packed();
    if (own == null) {
      return;
    }
    Texture there =
        found == null ? null : read.texture(found.textureId()).map(Texture::packed).orElse(null);
    ledger
        .about(Capability.PACKED_IMAGES)
        .add(
            fact + " as KTX2",
            -1,
            own.name(),
            own.name(),
            there == null ? "—" : there.name(),
            "",
            there == null ? Verdict.LOST : Verdict.KEPT,
            there == null ? "the image beside it landed, the KTX2 did not" : "");
  }

  /**
   * Whether an image that cannot be decoded landed byte for byte, with what is packed beside it.
   */
  private boolean sameBytes(TextureUse wanted, TextureUse found) {
    byte[] a = bytes(far, wanted, cargo);
    byte[] b = bytes(read, found, landing.files());
    return a != null && b != null && java.util.Arrays.equals(a, b) && cannotDecode(wanted);
  }

  /** An image with the value that multiplies it, beside what landed of the two. */
  void tinted(
      String name,
      TextureUse wanted,
      double[] tint,
      boolean colour,
      Material landed,
      Channel channel) {
    TextureUse found = landed.texture(channel).orElse(null);
    Pixels a = pixels(far, wanted, cargo);
    Pixels b = found == null ? null : pixels(read, found, landing.files());
    if (a == null || b == null) {
      texture(name + " texture", wanted, found, 'c', 'c');
      return;
    }
    char part = wanted.component();
    boolean one = part == 'r' || part == 'g' || part == 'b' || part == 'a';
    Pixels whole = one ? ChannelPacking.grey(a, part) : a;
    double[] there = landed.factor(channel, 1, 1, 1);
    Pixels own = Tint.of(whole, tint, colour, far.linearColours());
    Pixels theirs = Tint.of(b, there, colour, read.linearColours());
    int off = difference(own, theirs, 'c', 'c');
    ledger
        .about(
            off <= 1
                ? null
                : landing.holding().isRepacked() ? Capability.PACKING : Capability.TINTED_TEXTURES)
        .add(
            name + " times its texture",
            -1,
            name(far, wanted),
            name(far, wanted),
            name(read, found),
            off + " / 255",
            off <= 1 ? Verdict.KEPT : Verdict.CHANGED,
            off <= 1 ? "the value went into the image" : "pixels differ");
  }

  private boolean cannotDecode(TextureUse use) {
    return pixels(far, use, cargo) == null;
  }

  private static byte[] bytes(Scene scene, TextureUse use, Resources resources) {
    Texture texture = scene.texture(use.textureId()).orElseThrow();
    try {
      return texture.isFound() ? TextureBytes.read(texture, resources) : null;
    } catch (IOException e) {
      return null;
    }
  }

  private void sameImage(String fact, TextureUse wanted) {
    int length = bytes(far, wanted, cargo).length;
    ledger.add(
        fact,
        -1,
        name(far, wanted),
        Figures.count(length, "byte"),
        Figures.count(length, "byte"),
        "0",
        Verdict.KEPT,
        "byte for byte; its pixels cannot be read here");
  }

  private static String loss(Pixels a, Pixels b) {
    return String.format(
        Locale.ROOT, "written as another kind of image: %.1f dB", ImageLoss.decibels(a, b));
  }

  private static String size(Pixels p) {
    return p.width() + " × " + p.height();
  }

  private static String name(Scene scene, TextureUse use) {
    return scene.texture(use.textureId()).map(Texture::name).orElse("—");
  }

  private static int difference(Pixels a, Pixels b, char partOfA, char partOfB) {
    int most = 0;
    for (int y = 0; y < b.height(); y++) {
      for (int x = 0; x < b.width(); x++) {
        int i =
            Math.min(a.height() - 1, y * a.height() / b.height()) * a.width()
                + Math.min(a.width() - 1, x * a.width() / b.width());
        int j = y * b.width() + x;
        if (partOfA != 'c') {
          most = Math.max(most, Math.abs(a.get(i, partOfA) - b.get(j, partOfB)));
          continue;
        }
        for (char c : new char[] {'r', 'g', 'b'}) {
          most = Math.max(most, Math.abs(a.get(i, c) - b.get(j, c)));
        }
      }
    }
    return most;
  }

  private Pixels pixels(Scene scene, TextureUse use, Resources resources) {
    Texture texture = scene.texture(use.textureId()).orElseThrow();
    if (!texture.isFound()) {
      return null;
    }
    int key = scene == read ? -texture.id() : texture.id();
    return decoded.computeIfAbsent(
        key,
        k -> {
          try {
            return ImageCodec.decode(TextureBytes.read(texture, resources), texture.name());
          } catch (IOException e) {
            return null;
          }
        });
  }
}
