package ferry.stone.core.survey;

import ferry.stone.core.scene.Scene;

/**
 * What of a scene tells its unit and axes apart from its size: measured once, used by both
 * readings.
 *
 * @param body a body on two legs, or {@code null}
 * @param fall parts in free fall, or {@code null}
 */
record Evidence(BodyReading body, FallReading fall) {
  static Evidence of(Scene scene) {
    return new Evidence(BodyReading.of(scene), FallReading.of(scene));
  }

  /** Whether anything but size and custom speaks. */
  boolean isStrong() {
    return body != null || fall != null;
  }
}
