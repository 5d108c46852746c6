package ferry.stone.core.format.fbx.read;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.fbx.raw.FbxDocument;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.math.DoubleList;
import ferry.stone.core.math.Figures;
import ferry.stone.core.motion.TrackValues;
import ferry.stone.core.scene.node.LocalTransform.PivotTransform;
import ferry.stone.core.scene.node.LocalTransform.ScaleInheritance;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Keys;
import ferry.stone.core.scene.time.Clip.Track;
import ferry.stone.core.scene.time.KeyCurve;
import ferry.stone.core.work.Beside;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.DoubleUnaryOperator;
import java.util.function.Supplier;

/**
 * Turns takes into clips. The keys are kept as they were written; beside them tracks of
 * translation, rotation and scale are made, for which angles with pivots, orders and inherited
 * scales are sampled at every frame and at every key, denser where the motion between would be off.
 */
final class FbxClipReader {
  private static final String[] TRANSFORM = {"Lcl Translation", "Lcl Rotation", "Lcl Scaling"};
  private static final String[] PROPERTY = {Clip.TRANSLATION, Clip.ROTATION, Clip.SCALE};

  /** A frame this near to a key, in seconds, is the key. */
  private static final double NEAR = 1e-6;

  /** Sampled places are off by at most this part of the size of what is shown. */
  private static final double PLACE = 2e-6;

  private static final int MOST_SAMPLES = 1_000_000;

  /**
   * A model in the hierarchy.
   *
   * @param parent place of its parent in the list, −1 for a root
   */
  record Model(FbxDocument.Item item, int nodeId, int parent, PivotTransform rest) {}

  /**
   * A value besides transforms.
   *
   * @param object the file's id of what has it
   * @param name its property
   * @param targets ids in the scene that it moves
   * @param track property of the tracks
   * @param factor the scene's number for 1 in the file
   * @param rest without motion, in the file's numbers
   * @param function makes the scene's number of the file's where that is no factor, or {@code null}
   */
  record Value(
      long object,
      String name,
      List<Integer> targets,
      String track,
      double factor,
      double[] rest,
      DoubleUnaryOperator function) {}

  private final double[] span;
  private final List<Model> models;
  private final List<Value> values;
  private final double framesPerSecond;
  private final double tolerance;
  private final Budget budget;
  private final Findings findings;
  private volatile Grid lastGrid;

  /**
   * @param size of what is shown, in scene units
   */
  FbxClipReader(
      List<Model> models,
      List<Value> values,
      double framesPerSecond,
      double[] span,
      double size,
      Budget budget,
      Findings findings) {
    this.span = span;
    this.budget = budget;
    tolerance = PLACE * (size > 0 ? size : 1);
    this.models = models;
    this.values = values;
    this.framesPerSecond = framesPerSecond;
    this.findings = findings;
  }

  /** The clip of a take; one in which nothing moves keeps its name and range. */
  Clip clip(int id, String name, FbxMotion motion) throws FormatException {
    double[] range = motion.range();
    double start = motion.stated("LocalStart");
    double end = motion.stated("LocalStop");
    if (range == null) {
      boolean stated = start < end;
      double from = stated ? start : span == null ? 0 : span[0];
      double to = stated ? end : span == null ? 0 : span[1];
      return new Clip(id, name, from, Math.max(from, to), List.of());
    }
    if (!(start < end)) {
      // A take that says nothing of its own runs over the time line, if that meets its keys at all.
      boolean meets = span != null && span[0] < range[1] && span[1] > range[0];
      start = meets ? span[0] : range[0];
      end = meets ? span[1] : range[1];
    }
    double[] ends = {start, end};
    List<Track> tracks = new ArrayList<>();
    List<Keys> keys = new ArrayList<>();
    FbxMotion.Value[][] moves = new FbxMotion.Value[models.size()][];
    for (int i = 0; i < moves.length; i++) {
      moves[i] = moves(models.get(i), motion);
    }
    boolean[] bound = bound(moves);
    boolean blended = false;
    List<Sampling> samplings = new ArrayList<>();
    for (int i = 0; i < moves.length; i++) {
      if (moves[i] != null) {
        FbxMotion.Value[] own = moves[i];
        boolean blends = isBlended(own);
        keep(models.get(i), own, blends ? times(own, start, end) : null, keys);
        blended |= blends;
        if (!bound[i]) {
          samplings.add(
              new Sampling(
                  models.get(i),
                  own,
                  () -> times(own, ends[0], ends[1]),
                  (long) ((ends[1] - ends[0]) * framesPerSecond)));
        }
      }
    }
    sample(name, samplings, tracks);
    hierarchy(name, moves, bound, start, end, tracks);
    others(name, motion, start, end, tracks, keys);
    if (blended) {
      findings.add(
          Finding.of(
              "layers-blended",
              Severity.NOTE,
              name,
              "Several layers move the same parts: they were blended as the file says, and land as"
                  + " one motion."));
    }
    return new Clip(id, name, start, end, tracks).withKeys(keys);
  }

  /**
   * A part whose motion is sampled by itself.
   *
   * @param moments about how many there will be
   */
  private record Sampling(
      Model model, FbxMotion.Value[] moves, Supplier<double[]> times, long moments) {}

  /** Moments that are sampled in one go: few enough to be held to the budget soon. */
  private static final int MOMENTS_AT_ONCE = 20_000;

  /**
   * Samples on all cores, some parts ahead: what they come to is held to the budget before more.
   */
  private void sample(String take, List<Sampling> samplings, List<Track> tracks)
      throws FormatException {
    try (Beside beside = new Beside()) {
      ArrayDeque<Supplier<List<Track>>> begun = new ArrayDeque<>();
      int from = 0;
      while (from < samplings.size() || !begun.isEmpty()) {
        if (from < samplings.size() && begun.size() < 2 * Beside.cores()) {
          int to = endOfBatch(samplings, from);
          List<Sampling> batch = samplings.subList(from, to);
          begun.add(beside.give(() -> batch.stream().flatMap(s -> sampled(s).stream()).toList()));
          from = to;
        } else {
          add(take, begun.remove().get(), tracks);
        }
      }
    }
  }

  private static int endOfBatch(List<Sampling> samplings, int from) {
    int to = from;
    long moments = 0;
    while (to < samplings.size() && (to == from || moments < MOMENTS_AT_ONCE)) {
      moments += samplings.get(to++).moments();
    }
    return to;
  }

  private List<Track> sampled(Sampling each) {
    FbxPartMotion part = new FbxPartMotion(each.model().rest(), each.moves(), tolerance);
    return part.tracks(each.model().nodeId(), each.times().get());
  }

  /** Adds sampled motion within the budget: a few keys can stand for many hours of it. */
  private void add(String take, List<Track> sampled, List<Track> tracks) throws FormatException {
    for (Track track : sampled) {
      long numbers = track.timesSeconds().length + (long) track.values().length;
      budget.derive(Double.BYTES * numbers, take, "the motion of the take");
      tracks.add(track);
    }
  }

  private static FbxMotion.Value[] moves(Model model, FbxMotion motion) {
    PivotTransform rest = model.rest();
    long id = model.item().id();
    var t = rest.translation();
    var r = rest.rotation();
    var s = rest.scaling();
    FbxMotion.Value[] own = {
      motion.value(id, TRANSFORM[0], new double[] {t.x(), t.y(), t.z()}, false),
      motion.value(id, TRANSFORM[1], new double[] {r.x(), r.y(), r.z()}, false),
      motion.value(id, TRANSFORM[2], new double[] {s.x(), s.y(), s.z()}, true)
    };
    return own[0] == null && own[1] == null && own[2] == null ? null : own;
  }

  private static boolean isBlended(FbxMotion.Value[] own) {
    for (FbxMotion.Value value : own) {
      if (value != null && value.curves() == null) {
        return true;
      }
    }
    return false;
  }

  /**
   * @param times for layers that are blended, {@code null} where none are
   */
  private static void keep(Model model, FbxMotion.Value[] own, double[] times, List<Keys> keys) {
    for (int v = 0; v < own.length; v++) {
      if (own[v] != null) {
        KeyCurve[] curves = own[v].curvesOr(times);
        for (int c = 0; c < curves.length; c++) {
          if (curves[c] != null) {
            keys.add(new Keys(model.nodeId(), PROPERTY[v], c, curves[c]));
          }
        }
      }
    }
  }

  /** Models whose place in the parent depends on scales above them. */
  private boolean[] bound(FbxMotion.Value[][] moves) {
    boolean[] bound = new boolean[models.size()];
    boolean[] scaled = new boolean[models.size()];
    boolean[] scaleMoves = new boolean[models.size()];
    for (int i = 0; i < bound.length; i++) {
      Model model = models.get(i);
      boolean above = model.parent() >= 0 && scaled[model.parent()];
      boolean aboveMoves = model.parent() >= 0 && scaleMoves[model.parent()];
      boolean plain = model.rest().inheritance() == ScaleInheritance.NORMAL;
      bound[i] = !plain && above && (moves[i] != null || aboveMoves);
      boolean own = moves[i] != null && moves[i][2] != null;
      scaled[i] = above || own || !model.rest().scaling().equals(1, 1, 1);
      scaleMoves[i] = aboveMoves || own;
    }
    return bound;
  }

  private double[] times(FbxMotion.Value[] own, double start, double end) {
    DoubleList keys = new DoubleList(64);
    for (FbxMotion.Value value : own) {
      if (value != null) {
        value.times(keys);
      }
    }
    return grid(keys, start, end);
  }

  /** Moments that belong to keys: the joints of a rig mostly have theirs at the same times. */
  private record Grid(double[] keys, double start, double end, double[] times) {
    boolean isOf(double[] otherKeys, double otherStart, double otherEnd) {
      return start == otherStart && end == otherEnd && Arrays.equals(keys, otherKeys);
    }
  }

  /** Moments to look at within the take: its ends, its keys, and every frame between the keys. */
  private double[] grid(DoubleList keys, double start, double end) {
    double[] sorted = keys.toArray();
    if (!rises(sorted)) {
      Arrays.sort(sorted);
    }
    Grid last = lastGrid;
    if (last == null || !last.isOf(sorted, start, end)) {
      last = new Grid(sorted, start, end, between(sorted, start, end));
      lastGrid = last;
    }
    return last.times;
  }

  private double[] between(double[] sorted, double start, double end) {
    double first = Math.max(start, sorted[0]);
    double last = Math.min(end, sorted[sorted.length - 1]);
    DoubleList times = new DoubleList(2 * sorted.length);
    times.add(start);
    // A take of many hours is sampled more coarsely, so that it fits.
    double step = Math.max(1 / framesPerSecond, (last - first) / MOST_SAMPLES);
    long frame = (long) Math.ceil((first - start) / step - 1e-9);
    int key = 0;
    while (true) {
      while (key < sorted.length && sorted[key] <= times.get(times.size() - 1)) {
        key++;
      }
      double t = start + frame * step;
      double next = key < sorted.length ? sorted[key] : Double.POSITIVE_INFINITY;
      boolean isFrame = t <= last && t < next;
      next = isFrame ? t : next;
      if (!(next < end)) {
        break;
      }
      frame += isFrame ? 1 : 0;
      // A frame beside a key is that key.
      boolean near = next - times.get(times.size() - 1) <= NEAR || isFrame && near(sorted, key, t);
      if (!isFrame || !near) {
        times.add(next);
      }
    }
    if (end > start) {
      times.add(end);
    }
    return times.toArray();
  }

  private static boolean rises(double[] times) {
    for (int i = 1; i < times.length; i++) {
      if (times[i] < times[i - 1]) {
        return false;
      }
    }
    return true;
  }

  private static boolean near(double[] keys, int key, double t) {
    return key < keys.length && keys[key] - t <= NEAR;
  }

  private void hierarchy(
      String take,
      FbxMotion.Value[][] moves,
      boolean[] bound,
      double start,
      double end,
      List<Track> tracks)
      throws FormatException {
    Set<Integer> needed = new HashSet<>();
    for (int i = 0; i < bound.length; i++) {
      for (int above = i; bound[i] && above >= 0; above = models.get(above).parent()) {
        needed.add(above);
      }
    }
    if (needed.isEmpty()) {
      return;
    }
    DoubleList all = new DoubleList(64);
    for (int i : needed) {
      for (int v = 0; moves[i] != null && v < 3; v++) {
        if (moves[i][v] != null) {
          moves[i][v].times(all);
        }
      }
    }
    FbxHierarchyMotion motion = new FbxHierarchyMotion(models, moves, needed, bound, tolerance);
    add(take, motion.tracks(grid(all, start, end)), tracks);
    Set<String> sheared = motion.sheared();
    if (!sheared.isEmpty()) {
      findings.add(
          Finding.of(
                  "motion-shears",
                  Severity.LOOK,
                  take,
                  "Scales that come down to turned parts shear them in this take. Motion of"
                      + " translation, rotation and scale cannot shear: these parts come close, not"
                      + " exactly: "
                      + String.join(", ", sheared.stream().limit(5).toList())
                      + ".")
              .measured(Figures.count(sheared.size(), "part")));
    }
  }

  private void others(
      String take, FbxMotion motion, double start, double end, List<Track> tracks, List<Keys> keys)
      throws FormatException {
    for (Value value : values) {
      FbxMotion.Value moving = motion.value(value.object(), value.name(), value.rest(), false);
      if (moving == null) {
        continue;
      }
      DoubleList times = new DoubleList(16);
      moving.times(times);
      KeyCurve[] curves = moving.curvesOr(grid(times, start, end));
      boolean seen = value.track().equals(Clip.VISIBLE);
      for (int target : value.targets()) {
        Track track = FbxTracks.of(target, value.track(), curves, value.rest(), value.factor());
        boolean scaled = value.function() == null;
        track =
            seen ? switched(track) : scaled ? track : TrackValues.through(track, value.function());
        add(take, List.of(track), tracks);
        for (int c = 0; c < curves.length && !seen && scaled; c++) {
          if (curves[c] != null) {
            keys.add(new Keys(target, value.track(), c, curves[c].mapped(value.factor(), 0)));
          }
        }
      }
    }
  }

  /** Anything above 0 is seen, from its key on. */
  private static Track switched(Track track) {
    double[] seen = track.values().clone();
    for (int i = 0; i < seen.length; i++) {
      seen[i] = seen[i] > 0 ? 1 : 0;
    }
    return new Track(
        track.targetId(),
        track.property(),
        Clip.Interpolation.STEP,
        1,
        track.timesSeconds(),
        seen,
        null,
        null);
  }
}
