package ferry.stone.core.format.fbx.raw;

import ferry.stone.core.math.DoubleList;
import ferry.stone.core.scene.time.KeyCurve;
import java.util.ArrayList;
import java.util.List;

/**
 * Reads the keys of version 6: for each a time, a value and letters for how it runs on, with
 * numbers where the letters ask for them. {@code L} is a line; {@code C,s} holds and {@code C,n}
 * takes the next value; {@code U} is a curve with two slopes, {@code s} the same on both sides or
 * {@code b} broken, or slopes to be worked out ({@code a}, {@code p}; {@code t} with three
 * numbers), and {@code n}, {@code r}, {@code l} or {@code a} for the handle lengths that follow.
 */
final class FbxSixKeys {
  private final List<Object> values;
  private int at;

  private final DoubleList seconds = new DoubleList(16);
  private final DoubleList numbers = new DoubleList(16);
  private final List<double[]> handles = new ArrayList<>();

  private FbxSixKeys(List<Object> values) {
    this.values = values;
  }

  /** The curve, or {@code null} when there are no keys or they make no sense. */
  static KeyCurve read(FbxRecord record) {
    return record.values().isEmpty() ? null : new FbxSixKeys(record.values()).curve();
  }

  private KeyCurve curve() {
    while (at + 1 < values.size()) {
      if (!(values.get(at) instanceof Number time) || !(values.get(at + 1) instanceof Number v)) {
        return null;
      }
      at += 2;
      double t = time.doubleValue() / FbxSettings.TICKS_PER_SECOND;
      boolean falls = seconds.size() > 0 && t < seconds.get(seconds.size() - 1);
      if (falls || !Double.isFinite(v.doubleValue())) {
        return null;
      }
      seconds.add(t);
      numbers.add(v.doubleValue());
      handles.add(key());
    }
    return seconds.size() == 0 ? null : made();
  }

  private String letter() {
    if (at < values.size() && !(values.get(at) instanceof Number)) {
      Object value = values.get(at++);
      // Y, N, T and F are truth values elsewhere.
      return value instanceof Boolean b ? (b ? "T" : "N") : String.valueOf(value);
    }
    return "";
  }

  private double number() {
    return at < values.size() && values.get(at) instanceof Number n && ++at > 0
        ? n.doubleValue()
        : 0;
  }

  /** Mode, slopes and handle lengths; slopes that are NaN are to be worked out. */
  private double[] key() {
    double[] key = {KeyCurve.LINE, 0, 0, KeyCurve.EVEN, KeyCurve.EVEN};
    String kind = letter();
    if (kind.equals("C")) {
      key[0] = letter().equals("n") ? KeyCurve.HOLD_NEXT : KeyCurve.HOLD;
    } else if (kind.equals("U") || kind.equals("A")) {
      key[0] = KeyCurve.CURVE;
      String slopes = letter();
      if (slopes.equals("s") || slopes.equals("b")) {
        key[1] = number();
        key[2] = number();
      } else {
        key[1] = Double.NaN;
        for (int i = 0; slopes.equalsIgnoreCase("t") && i < 3; i++) {
          number();
        }
      }
      String lengths = letter();
      if (lengths.equals("r") || lengths.equals("a")) {
        key[3] = number();
      }
      if (lengths.equals("l") || lengths.equals("a")) {
        key[4] = number();
      }
    }
    while (at < values.size() && !(values.get(at) instanceof Number)) {
      at++;
    }
    return key;
  }

  private KeyCurve made() {
    KeyCurve curve = KeyCurve.of(seconds.toArray(), numbers.toArray());
    for (int k = 0; k < handles.size(); k++) {
      double[] key = handles.get(k);
      curve.modes()[k] = (byte) key[0];
      boolean own = !Double.isNaN(key[1]);
      curve.rightSlopes()[k] = (float) (own ? key[1] : slope(k));
      boolean last = k + 1 == handles.size();
      curve.nextLeftSlopes()[k] = (float) (own || last ? key[2] : slope(k + 1));
      curve.rightWeights()[k] = (float) key[3];
      curve.nextLeftWeights()[k] = (float) key[4];
    }
    return curve;
  }

  /** From the key before to the key after: common practice, no source. */
  private double slope(int k) {
    if (k == 0 || k + 1 >= seconds.size()) {
      return 0;
    }
    double span = seconds.get(k + 1) - seconds.get(k - 1);
    return span > 0 ? (numbers.get(k + 1) - numbers.get(k - 1)) / span : 0;
  }
}
