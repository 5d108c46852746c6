package ferry.stone.core.format.usd.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.Lens;

/** Cameras with the numbers that the format needs. */
final class HeldCamera {
  private static final double OPEN_ASPECT = 16.0 / 9;
  private static final double FAR_AWAY = 1_000_000;
  private static final double GATE = 24;

  private HeldCamera() {}

  /** A camera with what the format needs to know. */
  static Camera of(Camera camera, double metresPerUnit, Findings said) {
    double aspect = camera.aspect() > 0 ? camera.aspect() : OPEN_ASPECT;
    double far = Double.isInfinite(camera.far()) ? FAR_AWAY : camera.far();
    Lens lens = camera.lens();
    double high = lens == null ? GATE : lens.gateHeight();
    if (!(camera.verticalAngleRadians() > 0)) {
      high = camera.height() * metresPerUnit * 1000;
    }
    boolean open = !(camera.aspect() > 0) || Double.isInfinite(camera.far());
    if (open) {
      said.add(
          Finding.of(
              "camera-closed",
              Severity.NOTE,
              camera.name(),
              "The format needs numbers where the camera leaves its reach or shape open: "
                  + Figures.plain(FAR_AWAY)
                  + " units and 16:9."));
    }
    Lens whole =
        new Lens(
            high * aspect,
            high,
            lens == null ? 0 : lens.shiftX(),
            lens == null ? 0 : lens.shiftY(),
            lens == null ? 0 : lens.focusDistance(),
            lens == null ? 0 : lens.fStop());
    return new Camera(
        camera.id(),
        camera.name(),
        camera.verticalAngleRadians(),
        camera.height(),
        aspect,
        camera.near(),
        far,
        whole,
        camera.properties());
  }
}
