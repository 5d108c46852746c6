package ferry.stone.core.format.fbx.rules;

import ferry.stone.core.format.fbx.raw.FbxRecord;
import ferry.stone.core.format.losses.BrokenRules;
import java.util.List;
import java.util.Map;

/** Curves and takes. */
final class FbxMotionRules {
  /** Numbers that say how a key's curve runs: two slopes and what is packed beside them. */
  private static final int ATTRIBUTES = 4;

  private final BrokenRules rules;
  private final Map<Long, FbxRecord> objects;
  private final Map<Long, List<Long>> destinations;

  FbxMotionRules(
      BrokenRules rules, Map<Long, FbxRecord> objects, Map<Long, List<Long>> destinations) {
    this.rules = rules;
    this.objects = objects;
    this.destinations = destinations;
  }

  void check(long id, FbxRecord record) {
    String where = record.place() + " " + record.name();
    switch (record.name()) {
      case "AnimationCurve" -> {
        curve(record, where);
        joined(id, where, "AnimationCurveNode", "A curve belongs to no moving value.");
      }
      case "AnimationCurveNode" ->
          joined(id, where, "AnimationLayer", "A moving value belongs to no layer.");
      case "AnimationLayer" -> joined(id, where, "AnimationStack", "A layer belongs to no take.");
      case "AnimationStack" -> take(record, where);
      default -> {
        // Nothing is asked of it here.
      }
    }
  }

  private void joined(long id, String where, String kind, String rule) {
    boolean found = false;
    for (long target : destinations.getOrDefault(id, List.of())) {
      FbxRecord record = objects.get(target);
      found |= record != null && record.name().equals(kind);
    }
    rules.hold(found, where, rule);
  }

  private void curve(FbxRecord curve, String where) {
    long[] times = curve.at("KeyTime").longs();
    double[] values = curve.at("KeyValueFloat").doubles();
    rules.hold(
        times.length > 0 && times.length == values.length,
        where,
        "A curve has more or fewer values than keys.");
    boolean rising = true;
    for (int k = 1; k < times.length; k++) {
      // Two keys at one moment are a jump, which readers take.
      rising &= times[k] >= times[k - 1];
    }
    rules.hold(rising, where, "The times of a curve fall.");
    boolean finite = true;
    for (double value : values) {
      finite &= Double.isFinite(value);
    }
    rules.hold(finite, where, "A curve holds what is no number.");
    int[] counts = curve.at("KeyAttrRefCount").ints();
    long sum = 0;
    for (int count : counts) {
      sum += count;
    }
    rules.hold(
        sum == times.length
            && curve.at("KeyAttrFlags").ints().length == counts.length
            && curve.at("KeyAttrDataFloat").doubles().length == ATTRIBUTES * counts.length,
        where,
        "How a curve runs is said for other keys than it has.");
  }

  private void take(FbxRecord stack, String where) {
    double start = Double.NEGATIVE_INFINITY;
    double stop = Double.POSITIVE_INFINITY;
    for (FbxRecord p : stack.at("Properties70").all("P")) {
      start = p.text(0).equals("LocalStart") ? p.number(4, start) : start;
      stop = p.text(0).equals("LocalStop") ? p.number(4, stop) : stop;
    }
    rules.hold(start <= stop, where, "A take ends before it begins.");
  }
}
