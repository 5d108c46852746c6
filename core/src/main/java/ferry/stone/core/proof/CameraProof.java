package ferry.stone.core.proof;

import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.math.Figures;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.Lens;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Compares what cameras see: angle or height, shape, reach, and the lens behind them. */
final class CameraProof {
  private static final double AGREES = 1e-5;

  private final Ledger ledger;
  private final Scene far;
  private final Scene read;
  private final Landed landing;

  CameraProof(Ledger ledger, Scene far, Scene read, Landed landing) {
    this.ledger = ledger;
    this.far = far;
    this.read = read;
    this.landing = landing;
  }

  void compare() {
    // Cameras of one name are taken in their order.
    Map<String, Deque<Camera>> byName = new HashMap<>();
    for (Camera camera : read.cameras()) {
      byName.computeIfAbsent(camera.name(), n -> new ArrayDeque<>()).add(camera);
    }
    for (Camera camera : far.cameras()) {
      Camera landed = byName.getOrDefault(camera.name(), new ArrayDeque<>()).poll();
      List<String> other = landed == null ? List.of() : differences(camera, landed);
      ledger
          .about(other.isEmpty() ? Capability.CAMERAS : Capability.OPEN_CAMERAS)
          .add(
              "Camera " + camera.name(),
              -1,
              view(camera),
              view(camera),
              landed == null ? "—" : view(landed),
              "",
              landed == null ? Verdict.LOST : other.isEmpty() ? Verdict.KEPT : Verdict.CHANGED,
              landed == null ? "it did not land" : String.join(", ", other));
      boolean holdsLens =
          landing.fate(Capability.CAMERA_LENSES) == Capability.Fate.KEPT && camera.lens() != null;
      if (landed != null && holdsLens) {
        lens(camera, landed);
      }
    }
  }

  private void lens(Camera camera, Camera landed) {
    ledger
        .about(Capability.CAMERA_LENSES)
        .add(
            "Lens of " + camera.name(),
            -1,
            words(camera),
            words(camera),
            landed.lens() == null ? "—" : words(landed),
            "",
            landed.lens() == null
                ? Verdict.LOST
                : agree(camera.lens(), landed.lens()) ? Verdict.KEPT : Verdict.CHANGED,
            "");
  }

  private static boolean agree(Lens a, Lens b) {
    return near(a.gateWidth(), b.gateWidth())
        && near(a.gateHeight(), b.gateHeight())
        && near(a.shiftX(), b.shiftX())
        && near(a.shiftY(), b.shiftY())
        && near(a.focusDistance(), b.focusDistance())
        && near(a.fStop(), b.fStop());
  }

  private List<String> differences(Camera camera, Camera landed) {
    List<String> other = new ArrayList<>();
    double angle = landed.verticalAngleRadians() - camera.verticalAngleRadians();
    if (!(Math.abs(angle) < AGREES) || !near(camera.height(), landed.height())) {
      other.add("the view differs");
    }
    if (!near(camera.aspect(), landed.aspect())) {
      other.add("width by height " + shape(camera) + " became " + shape(landed));
    }
    if (!near(camera.near(), landed.near())) {
      other.add("begins at " + length(landed.near()) + ", not " + length(camera.near()));
    }
    if (!near(camera.far(), landed.far())) {
      other.add("ends at " + length(landed.far()) + ", not " + length(camera.far()));
    }
    return other;
  }

  private static boolean near(double a, double b) {
    return a == b || Math.abs(a - b) <= AGREES * Math.max(Math.abs(a), Math.abs(b));
  }

  private static String shape(Camera camera) {
    return camera.aspect() > 0 ? Figures.plain(camera.aspect()) : "any";
  }

  private String length(double units) {
    return Double.isInfinite(units)
        ? "no end"
        : Figures.length(units * far.frame().metresPerUnit());
  }

  private static String words(Camera camera) {
    Lens lens = camera.lens();
    return Figures.plain(rounded(lens.focalLength(camera.verticalAngleRadians())))
        + " mm on "
        + Figures.plain(rounded(lens.gateWidth()))
        + " × "
        + Figures.plain(rounded(lens.gateHeight()))
        + " mm";
  }

  private static double rounded(double millimetres) {
    return Math.round(millimetres * 100) / 100.0;
  }

  private static String view(Camera camera) {
    return camera.verticalAngleRadians() > 0
        ? Figures.plain(rounded(Math.toDegrees(camera.verticalAngleRadians()))) + "° high"
        : Figures.plain(camera.height()) + " m high";
  }
}
