package ferry.stone.core.math;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import org.joml.Matrix4d;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

class FrameTest {
  private static final Frame Z_UP_CM =
      new Frame(0.01, SignedAxis.PLUS_Z, SignedAxis.MINUS_Y, Handedness.RIGHT);

  @Test
  void zUpToYUpIsMinusNinetyDegreesAboutX() {
    // Common practice, no source.
    Matrix4d turn = new Matrix4d().rotationX(Math.toRadians(-90));
    Vector3d p = new Vector3d(1, 2, 3);
    Vector3d expected = turn.transformPosition(new Vector3d(p));
    Vector3d moved = Z_UP_CM.withMetresPerUnit(1).matrixTo(Frame.Y_UP_METRE).transformPosition(p);
    assertEquals(0, expected.distance(moved), 1e-12);
  }

  @Test
  void centimetresToMetresIsAHundredth() {
    // Common practice, no source: × 0.01.
    assertEquals(0.01, Z_UP_CM.scaleTo(Frame.Y_UP_METRE));
    assertEquals(0.0254, LengthUnit.INCH.metres());
  }

  @Test
  void everyFrameGoesToEveryOtherAndBack() {
    int frames = 0;
    for (SignedAxis up : SignedAxis.values()) {
      for (SignedAxis front : SignedAxis.values()) {
        for (Handedness hand : Handedness.values()) {
          if (up.index() == front.index()) {
            continue;
          }
          frames++;
          Frame frame = new Frame(0.0254, up, front, hand);
          Matrix4d there = frame.matrixTo(Frame.Y_UP_METRE);
          Matrix4d back = Frame.Y_UP_METRE.matrixTo(frame);
          assertTrue(there.mul(back, new Matrix4d()).equals(new Matrix4d(), 1e-12));
          // Up goes up, front to the front, and a change of hand is a mirror.
          Vector3d u = frame.basisTo(Frame.Y_UP_METRE).transform(up.vector());
          assertEquals(new Vector3d(0, 1, 0), u);
          assertEquals(
              hand == Handedness.RIGHT ? 1 : -1,
              frame.basisTo(Frame.Y_UP_METRE).determinant(),
              1e-12);
        }
      }
    }
    assertEquals(48, frames);
  }

  @Test
  void refusesWhatIsNoFrame() {
    assertThrows(
        IllegalArgumentException.class,
        () -> new Frame(1, SignedAxis.PLUS_Y, SignedAxis.MINUS_Y, Handedness.RIGHT));
    assertThrows(
        IllegalArgumentException.class, () -> Frame.Y_UP_METRE.withMetresPerUnit(Double.NaN));
  }

  @Test
  void readsAxesAndUnitsAsPeopleWriteThem() {
    assertEquals(SignedAxis.MINUS_Z, SignedAxis.parse("-Z").orElseThrow());
    assertEquals(SignedAxis.PLUS_Y, SignedAxis.parse("+y").orElseThrow());
    assertTrue(SignedAxis.parse("w").isEmpty());
    assertEquals(LengthUnit.CENTIMETRE, LengthUnit.parse("CM").orElseThrow());
    assertTrue(LengthUnit.parse("cubit").isEmpty());
  }

  @Test
  void figuresReadWell() {
    assertEquals("0.96 m", Figures.length(0.96));
    assertEquals("7.4 mm", Figures.length(0.0074));
    assertEquals("1.2 km", Figures.length(1200));
    assertEquals("1 vertex", Figures.count(1, "vertex"));
    assertEquals("2 vertices", Figures.count(2, "vertex"));
    assertEquals("2 meshes", Figures.count(2, "mesh"));
    assertEquals("18\u2009432 faces", Figures.count(18432, "face"));
    assertEquals("2.31 MB", Figures.bytes(2_310_000));
  }
}
