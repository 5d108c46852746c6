package ferry.stone.core.format.collada;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.scene.time.KeyCurve;
import java.util.HashMap;
import java.util.Map;

/**
 * A sampler: key times, and a curve of each number of its output. Control points of BEZIER are
 * (time, value) pairs; those of HERMITE are slopes, three times as long as the handles.
 */
record DaeCurves(double[] seconds, KeyCurve[] curves) {

  /** {@code null} when it has no keys that make sense, which is told. */
  static DaeCurves of(DaeDocument document, DaeElement sampler) throws FormatException {
    Map<String, DaeSource> inputs = new HashMap<>();
    for (DaeElement input : sampler.all("input")) {
      DaeElement source = document.named(input, "source", "source");
      if (source != null) {
        inputs.put(input.attribute("semantic"), DaeSource.of(document, source));
      }
    }
    DaeSource times = inputs.get("INPUT");
    DaeSource values = inputs.get("OUTPUT");
    if (times == null || values == null || times.numbers() == null || values.numbers() == null) {
      document.say("motion-broken", sampler, "The motion has no times or no values: left out.");
      return null;
    }
    int keys = Math.min(times.count(), values.count());
    double[] seconds = new double[keys];
    for (int k = 0; k < keys; k++) {
      seconds[k] = times.at(k, 0);
      boolean rising = k == 0 || seconds[k] > seconds[k - 1];
      if (!Double.isFinite(seconds[k]) || !rising) {
        document.say(
            "keys-out-of-order", sampler, "Its times do not rise: the motion is left out.");
        return null;
      }
    }
    if (keys == 0) {
      return null;
    }
    KeyCurve[] curves = new KeyCurve[values.components()];
    for (int c = 0; c < curves.length; c++) {
      double[] numbers = new double[keys];
      for (int k = 0; k < keys; k++) {
        numbers[k] = values.at(k, c);
        if (!Double.isFinite(numbers[k])) {
          document.say("motion-broken", sampler, "A value is no number: the motion is left out.");
          return null;
        }
      }
      curves[c] = curve(document, sampler, inputs, seconds, numbers, c, curves.length);
    }
    return new DaeCurves(seconds, curves);
  }

  private static KeyCurve curve(
      DaeDocument document,
      DaeElement sampler,
      Map<String, DaeSource> inputs,
      double[] seconds,
      double[] numbers,
      int component,
      int components) {
    KeyCurve curve = KeyCurve.lines(seconds, numbers);
    DaeSource modes = inputs.get("INTERPOLATION");
    DaeSource in = inputs.get("IN_TANGENT");
    DaeSource out = inputs.get("OUT_TANGENT");
    for (int k = 0; k + 1 < seconds.length; k++) {
      String mode =
          modes != null && modes.words() != null && k < modes.count() ? modes.word(k) : "";
      switch (mode) {
        case "STEP" -> curve.modes()[k] = KeyCurve.HOLD;
        case "BEZIER", "HERMITE" -> {
          boolean there =
              in != null
                  && out != null
                  && in.numbers() != null
                  && out.numbers() != null
                  && k < out.count()
                  && k + 1 < in.count();
          if (there) {
            boolean slopes = mode.equals("HERMITE");
            double span = seconds[k + 1] - seconds[k];
            double[] from = handle(out, k, component, components);
            double[] to = handle(in, k + 1, component, components);
            if (slopes) {
              // Hermite to Bézier: a third of the tangent after the key, or before it.
              from = new double[] {seconds[k] + from[0] / 3, numbers[k] + from[1] / 3};
              to = new double[] {seconds[k + 1] - to[0] / 3, numbers[k + 1] - to[1] / 3};
            }
            bend(curve, k, span, from, to, numbers);
          }
        }
        case "", "LINEAR" -> {
          // A line already.
        }
        default ->
            document.say(
                "interpolation-not-read",
                sampler,
                "Keys that run as " + mode + " are read as lines between them.");
      }
    }
    return curve;
  }

  /** The two numbers of a tangent as written; its time is not a number where it is not said. */
  private static double[] handle(DaeSource source, int key, int component, int components) {
    int width = source.components();
    if (width == 2 * components) {
      return new double[] {source.at(key, 2 * component), source.at(key, 2 * component + 1)};
    }
    if (width == components + 1) {
      return new double[] {source.at(key, 0), source.at(key, component + 1)};
    }
    return new double[] {Double.NaN, source.at(key, Math.min(width - 1, component))};
  }

  private static void bend(
      KeyCurve curve, int key, double span, double[] from, double[] to, double[] numbers) {
    double start = curve.seconds()[key];
    double end = curve.seconds()[key + 1];
    double right = (from[0] - start) / span;
    double left = (end - to[0]) / span;
    right = Double.isFinite(right) ? Math.max(0, Math.min(1, right)) : KeyCurve.EVEN;
    left = Double.isFinite(left) ? Math.max(0, Math.min(1, left)) : KeyCurve.EVEN;
    double rise = from[1] - numbers[key];
    double fall = numbers[key + 1] - to[1];
    if (!Double.isFinite(rise) || !Double.isFinite(fall)) {
      return;
    }
    // A handle without length has no slope; a very short one stands for it.
    right = Math.max(1e-4, right);
    left = Math.max(1e-4, left);
    curve.modes()[key] = KeyCurve.CURVE;
    curve.rightWeights()[key] = (float) right;
    curve.nextLeftWeights()[key] = (float) left;
    curve.rightSlopes()[key] = (float) (rise / (right * span));
    curve.nextLeftSlopes()[key] = (float) (fall / (left * span));
  }
}
