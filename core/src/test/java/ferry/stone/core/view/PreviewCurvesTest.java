package ferry.stone.core.view;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;

import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import java.util.List;
import org.joml.Quaterniond;
import org.junit.jupiter.api.Test;

/** Curves as the page draws them. */
class PreviewCurvesTest {
  private static Clip.Track track(String property, int components, double[] times, double... v) {
    return new Clip.Track(7, property, Clip.Interpolation.LINEAR, components, times, v, null, null);
  }

  private static double[] turn(double degrees) {
    Quaterniond q = new Quaterniond().rotateZ(Math.toRadians(degrees));
    return new double[] {q.x, q.y, q.z, q.w};
  }

  private static Scene scene(Clip.Track... tracks) {
    SceneBuilder scene = new SceneBuilder("s").nextId(100);
    scene.add(Node.of(7, "drum", -1, Node.Content.GROUP));
    scene.add(new Clip(50, "go", 0, 2, List.of(tracks)));
    return scene
        .frame(Frame.Y_UP_METRE.withMetresPerUnit(0.01), FrameSource.STATED, FrameSource.STATED)
        .framesPerSecond(2)
        .build();
  }

  /** The values at whole frames. */
  private static double[] frames(PreviewCurves.Line line) {
    double[] values = new double[line.values().length / 4 + 1];
    for (int i = 0; i < values.length; i++) {
      values[i] = line.values()[4 * i];
    }
    return values;
  }

  @Test
  void placesAreMetresAndMorphsPercent() {
    Scene scene =
        scene(
            track(Clip.TRANSLATION, 3, new double[] {0, 2}, 0, 100, 0, 200, 100, 0),
            track(Clip.MORPH + "smile", 1, new double[] {0, 1}, 0, 0.5));
    PreviewCurves curves = PreviewCurves.of(scene, scene.clips().get(0), 7);
    assertEquals(4, curves.lines().size());
    PreviewCurves.Line x = curves.lines().get(0);
    assertEquals("place X m", x.group() + " " + x.name() + " " + x.unit());
    assertArrayEquals(new double[] {0, 0.5, 1, 1.5, 2}, frames(x), 1e-12);
    assertArrayEquals(new double[] {1, 1, 1, 1, 1}, frames(curves.lines().get(1)), 1e-12);
    PreviewCurves.Line smile = curves.lines().get(3);
    assertArrayEquals(new double[] {0, 25, 50, 50, 50}, frames(smile), 1e-12);
    assertArrayEquals(new double[] {0, 1}, smile.keys(), 0);
    assertEquals(0, PreviewCurves.of(scene, scene.clips().get(0), 8).lines().size());
  }

  @Test
  void aTurnGoesOnPastHalfARound() {
    double[] values = new double[20];
    for (int i = 0; i < 5; i++) {
      System.arraycopy(turn(100 * i), 0, values, 4 * i, 4);
    }
    Scene scene = scene(track(Clip.ROTATION, 4, new double[] {0, 0.5, 1, 1.5, 2}, values));
    List<PreviewCurves.Line> lines = PreviewCurves.of(scene, scene.clips().get(0), 7).lines();
    assertArrayEquals(new double[] {0, 100, 200, 300, 400}, frames(lines.get(2)), 1e-6);
    assertArrayEquals(new double[5], frames(lines.get(0)), 1e-6);
  }
}
