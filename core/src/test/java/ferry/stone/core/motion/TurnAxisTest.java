package ferry.stone.core.motion;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNull;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import java.util.List;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/** The line a part turns about: geometry of rotations, a point stays where R p + t = p. */
class TurnAxisTest {
  private static final int KEYS = 25;

  /** Where a moment's turn and place come from. */
  private interface Moment {
    void at(double part, Quaterniond turn, Vector3d place);
  }

  private static TurnAxis axis(Moment moment) {
    double[] times = new double[KEYS];
    double[] turns = new double[4 * KEYS];
    double[] places = new double[3 * KEYS];
    for (int k = 0; k < KEYS; k++) {
      times[k] = k / (KEYS - 1.0);
      Quaterniond q = new Quaterniond();
      Vector3d p = new Vector3d();
      moment.at(times[k], q, p);
      System.arraycopy(new double[] {q.x, q.y, q.z, q.w}, 0, turns, 4 * k, 4);
      System.arraycopy(new double[] {p.x, p.y, p.z}, 0, places, 3 * k, 3);
    }
    var linear = Clip.Interpolation.LINEAR;
    Clip clip =
        new Clip(
            2,
            "turn",
            0,
            1,
            List.of(
                new Clip.Track(1, Clip.ROTATION, linear, 4, times, turns, null, null),
                new Clip.Track(1, Clip.TRANSLATION, linear, 3, times, places, null, null)));
    SceneBuilder scene = new SceneBuilder("wheel");
    scene.add(Node.of(1, "wheel", -1, Node.Content.GROUP));
    scene.add(clip);
    Scene built = scene.build();
    return TurnAxis.of(built, clip, 0);
  }

  @Test
  void aPartThatIsMovedRoundTurnsAboutThatPoint() {
    Vector3d centre = new Vector3d(2, 7, -1);
    TurnAxis axis =
        axis(
            (part, turn, place) -> {
              turn.rotateY(1.5 * part);
              place.set(centre).sub(turn.transform(new Vector3d(centre)));
            });
    assertEquals(1, Math.abs(axis.axis().y), 1e-9);
    // Between its keys the part cuts the corner: by r (1 − cos(θ / 2)), 1 mm at 2.2 m.
    assertEquals(0, Math.hypot(axis.point().x - 2, axis.point().z + 1), 1e-2);
  }

  @Test
  void whatTurnsInItsPlaceTurnsAboutItsOrigin() {
    TurnAxis axis = axis((part, turn, place) -> turn.rotateX(2 * part));
    assertEquals(0, axis.point().length(), 1e-9);
  }

  @Test
  void whatRollsAlongOrTumblesHasNoLine() {
    assertNull(
        axis(
            (part, turn, place) -> {
              turn.rotateZ(-3 * part);
              place.x = 3 * part;
            }));
    assertNull(axis((part, turn, place) -> turn.rotateX(part).rotateY(2 * part * part)));
    assertNull(axis((part, turn, place) -> place.x = part));
  }
}
