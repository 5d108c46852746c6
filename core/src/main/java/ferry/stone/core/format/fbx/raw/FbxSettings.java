package ferry.stone.core.format.fbx.raw;

import ferry.stone.core.math.Frame;
import ferry.stone.core.math.Handedness;
import ferry.stone.core.math.SignedAxis;
import java.util.Map;

/**
 * What the header says of the whole scene: unit, axes and frame rate.
 *
 * @param frame unit in metres, up, front, hand
 * @param stated whether the file has such a header at all
 * @param framesPerSecond of the time line
 * @param originalUp up axis of the tool that made the scene, {@code null} if unsaid
 * @param span first and last second of the time line, {@code null} if unsaid
 */
public record FbxSettings(
    Frame frame, boolean stated, double framesPerSecond, SignedAxis originalUp, double[] span) {
  /** Ticks of the format's clock in a second. */
  public static final double TICKS_PER_SECOND = 46_186_158_000.0;

  private static final int CUSTOM_RATE = 14;

  /** Frames per second of each time mode, by its number; 0 where the file says it otherwise. */
  private static final double[] RATES = {
    30,
    120,
    100,
    60,
    50,
    48,
    30,
    30,
    30_000 / 1001.0,
    30_000 / 1001.0,
    25,
    24,
    1000,
    24_000 / 1001.0,
    0,
    96,
    72,
    60_000 / 1001.0,
    120_000 / 1001.0
  };

  /** The number of the time mode with a rate, −1 when there is none; no rate is 0. */
  public static int mode(double framesPerSecond, double tolerance) {
    for (int i = 1; i < RATES.length && framesPerSecond > 0; i++) {
      if (RATES[i] > 0 && Math.abs(RATES[i] - framesPerSecond) < tolerance * framesPerSecond) {
        return i;
      }
    }
    return framesPerSecond > 0 ? -1 : 0;
  }

  public static long ticks(double seconds) {
    return Math.round(seconds * TICKS_PER_SECOND);
  }

  public static FbxSettings of(FbxDocument document) {
    FbxRecord record = document.root().at("GlobalSettings");
    FbxProperties p = new FbxProperties(record, Map.of());
    SignedAxis up = axis(p, "UpAxis", 1);
    SignedAxis front = axis(p, "FrontAxis", 2);
    SignedAxis side = axis(p, "CoordAxis", 0);
    boolean apart =
        up.index() != front.index() && front.index() != side.index() && side.index() != up.index();
    Frame frame;
    double metres = p.number("UnitScaleFactor", 1) / 100;
    metres = metres > 0 && Double.isFinite(metres) ? metres : 0.01;
    if (apart) {
      double turn = up.vector().cross(front.vector()).dot(side.vector());
      Handedness hand = turn > 0 ? Handedness.RIGHT : Handedness.LEFT;
      frame = new Frame(metres, up, front, hand);
    } else {
      frame = new Frame(metres, SignedAxis.PLUS_Y, SignedAxis.PLUS_Z, Handedness.RIGHT);
    }
    int mode = (int) p.number("TimeMode", 0);
    double rate = mode >= 0 && mode < RATES.length ? RATES[mode] : RATES[0];
    if (mode == CUSTOM_RATE) {
      rate = p.number("CustomFrameRate", 0);
    }
    SignedAxis original =
        p.number("OriginalUpAxis", -1) < 0
            ? null
            : axis(p, "OriginalUpAxis", "OriginalUpAxisSign", 1);
    double start = p.number("TimeSpanStart", 0) / TICKS_PER_SECOND;
    double stop = p.number("TimeSpanStop", 0) / TICKS_PER_SECOND;
    return new FbxSettings(
        frame,
        p.has("UnitScaleFactor") && apart,
        rate > 0 ? rate : RATES[0],
        original,
        start < stop ? new double[] {start, stop} : null);
  }

  private static SignedAxis axis(FbxProperties p, String name, int otherwise) {
    return axis(p, name, name + "Sign", otherwise);
  }

  private static SignedAxis axis(FbxProperties p, String name, String sign, int otherwise) {
    int index = (int) p.number(name, otherwise);
    index = index < 0 || index > 2 ? otherwise : index;
    return SignedAxis.of(index, p.number(sign, 1) < 0 ? -1 : 1);
  }
}
