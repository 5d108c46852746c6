package ferry.stone.core.format.fbx;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import org.joml.Vector3d;

/** The curves of one take: which values of which objects move, over all of its layers. */
final class FbxMotion {
  private static final int OVERRIDE = 1;
  private static final int ADDITIVE = 0;
  private static final double PERCENT = 100;

  /**
   * The curves of one value in one layer.
   *
   * @param curves of each component, {@code null} for one that stands still
   * @param still values of the components without a curve
   * @param weight of the layer, 0 to 1
   * @param mode 0 adds to the layers below, others take their place
   */
  private record Layer(FbxCurve[] curves, double[] still, double weight, int mode) {}

  private final FbxDocument.Item stack;
  private final Map<Long, Map<String, List<Layer>>> values = new HashMap<>();

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
    String[] parts = {"d|X", "d|Y", "d|Z"};
    FbxCurve[] curves = new FbxCurve[3];
    for (FbxDocument.Link link : document.sources(node)) {
      if (link.item().kind().equals("AnimationCurve")) {
        FbxCurve curve = FbxCurve.read(link.item().record());
        int place = java.util.Arrays.asList(parts).indexOf(link.property());
        curves[Math.max(0, place)] = curve;
      }
    }
    double[] still = new double[3];
    for (int k = 0; k < 3; k++) {
      still[k] = node.properties().number(parts[k], Double.NaN);
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

  /** Times of all keys of an object's values, and moments just before they jump. */
  TreeSet<Double> times(long id, String... properties) {
    TreeSet<Double> times = new TreeSet<>();
    Map<String, List<Layer>> own = values.getOrDefault(id, Map.of());
    for (String property : properties) {
      for (Layer layer : own.getOrDefault(property, List.of())) {
        for (FbxCurve curve : layer.curves()) {
          if (curve != null) {
            java.util.Arrays.stream(curve.seconds()).forEach(times::add);
            curve.beforeJumps().forEach(times::add);
          }
        }
      }
    }
    return times;
  }

  /** Whether any of an object's values has keys. */
  boolean moves(long id, String... properties) {
    Map<String, List<Layer>> own = values.get(id);
    for (int i = 0; own != null && i < properties.length; i++) {
      for (Layer layer : own.getOrDefault(properties[i], List.of())) {
        for (FbxCurve curve : layer.curves()) {
          if (curve != null) {
            return true;
          }
        }
      }
    }
    return false;
  }

  /** First and last key of the whole take, or {@code null} without any. */
  double[] range() {
    double first = Double.POSITIVE_INFINITY;
    double last = Double.NEGATIVE_INFINITY;
    for (Map<String, List<Layer>> own : values.values()) {
      for (List<Layer> layers : own.values()) {
        for (Layer layer : layers) {
          for (FbxCurve curve : layer.curves()) {
            if (curve != null) {
              first = Math.min(first, curve.seconds()[0]);
              last = Math.max(last, curve.seconds()[curve.seconds().length - 1]);
            }
          }
        }
      }
    }
    return first <= last ? new double[] {first, last} : null;
  }

  /** A value of three components at a time. */
  Vector3d vector(long id, String property, Vector3d rest, double seconds, boolean multiplies) {
    Vector3d result = new Vector3d(rest);
    for (Layer layer : values.getOrDefault(id, Map.of()).getOrDefault(property, List.of())) {
      for (int k = 0; k < 3; k++) {
        result.setComponent(k, blended(layer, k, result.get(k), seconds, multiplies));
      }
    }
    return result;
  }

  /** A value of one component at a time. */
  double number(long id, String property, double rest, double seconds) {
    double result = rest;
    for (Layer layer : values.getOrDefault(id, Map.of()).getOrDefault(property, List.of())) {
      result = blended(layer, 0, result, seconds, false);
    }
    return result;
  }

  private static double blended(
      Layer layer, int component, double below, double seconds, boolean multiplies) {
    FbxCurve curve = layer.curves()[component];
    double own = curve != null ? curve.at(seconds) : layer.still()[component];
    if (Double.isNaN(own)) {
      return below;
    }
    if (layer.mode() == ADDITIVE) {
      return multiplies ? below * (1 + layer.weight() * (own - 1)) : below + layer.weight() * own;
    }
    return below + layer.weight() * (own - below);
  }
}
