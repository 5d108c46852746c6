package ferry.stone.core.format.fbx.write;

import ferry.stone.core.scene.time.Clip.Interpolation;
import ferry.stone.core.scene.time.Clip.Track;
import ferry.stone.core.scene.time.KeyCurve;
import java.util.Arrays;

/** Turns tracks into curves of single numbers. Steps, lines and cubics stay what they are. */
final class FbxTrackCurves {
  private FbxTrackCurves() {}

  /** Each number of a track times a factor. */
  static KeyCurve[] of(Track track, double factor) {
    KeyCurve[] curves = new KeyCurve[track.components()];
    for (int c = 0; c < curves.length; c++) {
      curves[c] = component(track, c, factor);
    }
    return curves;
  }

  private static KeyCurve component(Track track, int c, double factor) {
    int n = track.components();
    int count = track.timesSeconds().length;
    double[] values = new double[count];
    for (int k = 0; k < count; k++) {
      values[k] = factor * track.values()[n * k + c];
    }
    KeyCurve curve = KeyCurve.of(track.timesSeconds(), values);
    Arrays.fill(curve.modes(), mode(track.interpolation()));
    for (int k = 0; track.interpolation() == Interpolation.CUBIC && k < count; k++) {
      curve.rightSlopes()[k] = (float) (factor * track.outSlopes()[n * k + c]);
      if (k + 1 < count) {
        curve.nextLeftSlopes()[k] = (float) (factor * track.inSlopes()[n * (k + 1) + c]);
      }
    }
    return curve;
  }

  private static byte mode(Interpolation interpolation) {
    return switch (interpolation) {
      case STEP -> KeyCurve.HOLD;
      case LINEAR -> KeyCurve.LINE;
      case CUBIC -> KeyCurve.CURVE;
    };
  }
}
