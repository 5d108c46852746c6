package ferry.stone.core.format.fbx.read;

import ferry.stone.core.format.fbx.raw.FbxCurve;
import ferry.stone.core.format.fbx.raw.FbxDocument;
import ferry.stone.core.format.fbx.raw.FbxProperties;
import ferry.stone.core.format.fbx.raw.FbxSettings;
import ferry.stone.core.math.DoubleList;
import ferry.stone.core.scene.time.KeyCurve;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** The curves of one take: which values of which objects move, over all of its layers. */
final class FbxMotion {
  private static final int OVERRIDE = 1;
  private static final int ADDITIVE = 0;
  private static final double PERCENT = 100;
  private static final List<String> PARTS = List.of("d|X", "d|Y", "d|Z");

  /**
   * The curves of one value in one layer.
   *
   * @param curves of each component, {@code null} for one that stands still
   * @param still values of the components without a curve, NaN where unsaid
   * @param weight of the layer, 0 to 1
   * @param mode 0 adds to the layers below, others take their place
   */
  private record Layer(KeyCurve[] curves, double[] still, double weight, int mode) {
    boolean moves() {
      return Arrays.stream(curves).anyMatch(java.util.Objects::nonNull);
    }
  }

  private final FbxDocument.Item stack;
  private final Map<Long, Map<String, List<Layer>>> values = new HashMap<>();
  private final FbxCurve.Alike alike = new FbxCurve.Alike();
  private double first = Double.POSITIVE_INFINITY;
  private double last = Double.NEGATIVE_INFINITY;

  FbxMotion(FbxDocument document, FbxDocument.Item stack) {
    this.stack = stack;
    List<FbxDocument.Item> layers = document.sources(stack, "AnimationLayer");
    boolean solo = layers.stream().anyMatch(l -> l.properties().flag("Solo", false));
    for (int i = 0; i < layers.size(); i++) {
      FbxProperties p = layers.get(i).properties();
      if (p.flag("Mute", false) || solo && !p.flag("Solo", false)) {
        continue;
      }
      // The lowest layer is what the others add to.
      int mode = i == 0 ? OVERRIDE : (int) p.number("BlendMode", ADDITIVE);
      double weight = i == 0 ? 1 : p.number("Weight", PERCENT) / PERCENT;
      for (FbxDocument.Item node : document.sources(layers.get(i), "AnimationCurveNode")) {
        add(document, node, weight, mode);
      }
    }
  }

  private void add(FbxDocument document, FbxDocument.Item node, double weight, int mode) {
    KeyCurve[] curves = new KeyCurve[3];
    for (FbxDocument.Link link : document.sources(node)) {
      if (link.item().kind().equals("AnimationCurve")) {
        KeyCurve curve = FbxCurve.read(link.item().record(), alike);
        curves[Math.max(0, PARTS.indexOf(link.property()))] = curve;
        if (curve != null) {
          first = Math.min(first, curve.seconds()[0]);
          last = Math.max(last, curve.seconds()[curve.seconds().length - 1]);
        }
      }
    }
    double[] still = new double[3];
    for (int k = 0; k < 3; k++) {
      still[k] = node.properties().number(PARTS.get(k), Double.NaN);
    }
    Layer layer = new Layer(curves, still, weight, mode);
    for (FbxDocument.Link target : document.destinations(node)) {
      if (!target.item().kind().equals("AnimationLayer") && !target.property().isEmpty()) {
        values
            .computeIfAbsent(target.item().id(), k -> new HashMap<>())
            .computeIfAbsent(target.property(), k -> new ArrayList<>())
            .add(layer);
      }
    }
  }

  /** Begin of the take in seconds, as stated; NaN when it is not. */
  double stated(String name) {
    double ticks = stack.properties().number(name, Double.NaN);
    return ticks / FbxSettings.TICKS_PER_SECOND;
  }

  /** First and last key of the whole take, or {@code null} without any. */
  double[] range() {
    return first <= last ? new double[] {first, last} : null;
  }

  /**
   * A value that has keys, or {@code null}.
   *
   * @param rest without motion, a number a component
   * @param multiplies whether layers multiply instead of adding, as they do for scales
   */
  Value value(long id, String property, double[] rest, boolean multiplies) {
    List<Layer> layers = values.getOrDefault(id, Map.of()).get(property);
    return layers == null || layers.stream().noneMatch(Layer::moves)
        ? null
        : new Value(layers.toArray(new Layer[0]), rest, multiplies);
  }

  /** A moving value of up to three components. */
  static final class Value {
    private final Layer[] layers;
    private final double[] rest;
    private final boolean multiplies;

    /** Whether one layer says it all. */
    private final boolean plain;

    /** The key of each curve that was met last: times mostly rise. */
    private final int[] met;

    private Value(Layer[] layers, double[] rest, boolean multiplies) {
      this.layers = layers;
      this.rest = rest;
      this.multiplies = multiplies;
      plain = layers.length == 1 && layers[0].mode() != ADDITIVE && layers[0].weight() == 1;
      met = new int[layers.length * rest.length];
    }

    private double at(KeyCurve curve, int place, double seconds) {
      if (curve.values().length == 1) {
        return curve.values()[0];
      }
      int key = curve.before(seconds, met[place]);
      met[place] = key;
      return curve.at(seconds, key);
    }

    int components() {
      return rest.length;
    }

    double at(int component, double seconds) {
      double result = rest[component];
      if (plain) {
        KeyCurve curve = layers[0].curves()[component];
        double own = curve == null ? layers[0].still()[component] : at(curve, component, seconds);
        return Double.isNaN(own) ? result : own;
      }
      for (int l = 0; l < layers.length; l++) {
        Layer layer = layers[l];
        KeyCurve curve = layer.curves()[component];
        double own =
            curve == null
                ? layer.still()[component]
                : at(curve, l * rest.length + component, seconds);
        if (Double.isNaN(own)) {
          continue;
        }
        if (layer.mode() != ADDITIVE) {
          result += layer.weight() * (own - result);
        } else if (multiplies) {
          result *= 1 + layer.weight() * (own - 1);
        } else {
          result += layer.weight() * own;
        }
      }
      return result;
    }

    /** Adds the times of all keys, and moments just before they jump, in no order. */
    void times(DoubleList times) {
      double[] added = null;
      for (Layer layer : layers) {
        for (KeyCurve curve : layer.curves()) {
          if (curve != null) {
            double[] own = curve.seconds();
            // What stands still has one key, mostly where the others begin.
            boolean there = own == added || added != null && own.length == 1 && own[0] == added[0];
            if (!there) {
              times.addAll(own);
              added = own;
            }
            curve.beforeJumps().forEach(times::add);
          }
        }
      }
    }

    /**
     * The curves as they were written where one layer says it all; {@code null} elsewhere. A
     * component that stands still has a curve only where it stands elsewhere than at rest.
     */
    KeyCurve[] curves() {
      if (!plain) {
        return null;
      }
      KeyCurve[] curves = Arrays.copyOf(layers[0].curves(), rest.length);
      for (int c = 0; c < rest.length; c++) {
        double still = layers[0].still()[c];
        if (curves[c] == null && Double.isFinite(still) && still != rest[c]) {
          curves[c] = KeyCurve.of(new double[1], new double[] {still});
        }
      }
      return curves;
    }

    /** The curves as written, or straight lines between samples where layers are blended. */
    KeyCurve[] curvesOr(double[] samples) {
      KeyCurve[] own = curves();
      if (own != null) {
        return own;
      }
      own = new KeyCurve[rest.length];
      for (int c = 0; c < own.length; c++) {
        double[] values = new double[samples.length];
        for (int i = 0; i < values.length; i++) {
          values[i] = at(c, samples[i]);
        }
        own[c] = KeyCurve.lines(samples, values);
      }
      return own;
    }
  }
}
