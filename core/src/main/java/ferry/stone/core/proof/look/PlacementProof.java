package ferry.stone.core.proof.look;

import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.Ledger;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.look.Wrap;

/** Compares where images lie on the surface: offset, scale, turn, set of UVs, border. */
public final class PlacementProof {
  private static final double SAME = 1e-4;

  private final Ledger ledger;
  private final Scene far;
  private final Scene read;

  PlacementProof(Ledger ledger, Scene far, Scene read) {
    this.ledger = ledger;
    this.far = far;
    this.read = read;
  }

  /** Tells of a use that is placed in any way, on either side; the images are told elsewhere. */
  void compare(String name, TextureUse wanted, TextureUse found) {
    if (wanted == null || found == null || isPlain(wanted) && isPlain(found)) {
      return;
    }
    TextureUse a = upright(far, wanted);
    TextureUse b = upright(read, found);
    boolean same =
        near(a.offsetU(), b.offsetU())
            && near(a.offsetV(), b.offsetV())
            && near(a.scaleU(), b.scaleU())
            && near(a.scaleV(), b.scaleV())
            && near(Math.sin(a.rotationRadians()), Math.sin(b.rotationRadians()))
            && near(Math.cos(a.rotationRadians()), Math.cos(b.rotationRadians()))
            && a.uvSet() == b.uvSet()
            && a.wrap().equals(b.wrap());
    ledger
        .about(same ? null : Capability.MATERIAL_CHANNELS)
        .add(
            name + " texture, where it lies",
            -1,
            "",
            words(a),
            words(b),
            "",
            same ? Verdict.KEPT : Verdict.CHANGED,
            same ? "" : "the image lies otherwise on the surface");
  }

  private static boolean isPlain(TextureUse use) {
    return !use.hasTransform() && use.uvSet() == 0 && use.wrap().equals(Wrap.REPEATED);
  }

  private static TextureUse upright(Scene scene, TextureUse use) {
    return scene.uvOrigin() == UvOrigin.BOTTOM_LEFT ? use : use.flipped(UvOrigin.BOTTOM_LEFT);
  }

  private static boolean near(double a, double b) {
    return Math.abs(a - b) <= SAME * Math.max(1, Math.abs(a));
  }

  private static String words(TextureUse use) {
    return "set "
        + (use.uvSet() + 1)
        + ", "
        + round(use.scaleU())
        + " × "
        + round(use.scaleV())
        + " at "
        + round(use.offsetU())
        + ", "
        + round(use.offsetV())
        + (use.rotationRadians() == 0
            ? ""
            : ", turned " + round(Math.toDegrees(use.rotationRadians())) + "°")
        + (use.wrap().equals(Wrap.REPEATED) ? "" : ", " + use.wrap().words());
  }

  private static String round(double value) {
    return Figures.plain(Math.round(1e4 * value) / 1e4);
  }
}
