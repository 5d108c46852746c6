package ferry.stone.core.format.fbx;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.math.DoubleList;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Clip;
import ferry.stone.core.scene.Clip.Interpolation;
import ferry.stone.core.scene.Clip.Track;
import ferry.stone.core.scene.LocalTransform.PivotTransform;
import ferry.stone.core.scene.LocalTransform.ScaleInheritance;
import ferry.stone.core.scene.LocalTransform.Trs;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * Turns takes into clips. Curves of angles with pivots, orders and inherited scales have no exact
 * form as translation, rotation and scale: they are sampled at every frame and at every key, denser
 * where the motion between would be off, and what runs straight between samples is left out again.
 */
final class FbxClipReader {
  static final String[] TRANSFORM = {"Lcl Translation", "Lcl Rotation", "Lcl Scaling"};

  /** Samples that lie nearer to the line between their neighbours are left out. */
  private static final double STRAIGHT = 1e-7;

  /** Between samples nothing is off by more than this, in units or radians. */
  private static final double BETWEEN = 2e-5;

  /** A matrix shears when it differs by more than this part of its size from what it is made of. */
  private static final double SHEAR = 1e-6;

  private static final double CLOSEST = 1e-5;

  /** A frame this near to a key, in seconds, is the key. */
  private static final double NEAR = 1e-6;

  private static final int DEEPEST = 6;
  private static final int WIDTH = 10;
  private static final int MOST_NUMBERS = 40_000_000;
  private static final int FEWEST_SAMPLES = 1_000;
  private static final double PERCENT = 100;

  /**
   * A model in the hierarchy.
   *
   * @param parent place of its parent in the list, −1 for a root
   */
  record Model(FbxDocument.Item item, int nodeId, int parent, PivotTransform rest) {}

  /** A morph channel, the key of its target, and the nodes that show it. */
  record Morph(FbxDocument.Item channel, String key, double rest, List<Integer> nodeIds) {}

  private final List<Model> models;
  private final Set<String> sheared = new TreeSet<>();
  private final Findings findings;
  private boolean allPlain;
  private final List<Morph> morphs;
  private final double framesPerSecond;

  FbxClipReader(List<Model> models, List<Morph> morphs, double framesPerSecond, Findings findings) {
    this.findings = findings;
    this.models = models;
    this.morphs = morphs;
    this.framesPerSecond = framesPerSecond;
  }

  /** The clip of a take, or {@code null} when nothing moves in it. */
  Clip clip(int id, String name, FbxMotion motion) {
    double[] range = motion.range();
    if (range == null) {
      return null;
    }
    double start = motion.stated("LocalStart");
    double end = motion.stated("LocalStop");
    if (!(start < end)) {
      start = range[0];
      end = range[1];
    }
    sheared.clear();
    boolean[] moving = moving(motion);
    List<Track> tracks = new ArrayList<>();
    double[] times = times(motion, moving, start, end);
    if (times.length > 0) {
      transforms(motion, moving, times, tracks);
    }
    for (Morph morph : morphs) {
      TreeSet<Double> keys = motion.times(morph.channel().id(), "DeformPercent");
      if (!keys.isEmpty()) {
        morph(motion, morph, grid(keys, start, end), tracks);
      }
    }
    visibility(motion, tracks);
    if (!sheared.isEmpty()) {
      findings.add(
          Finding.of(
                  "motion-shears",
                  Severity.LOOK,
                  name,
                  "Scales that come down to turned parts shear them in this take. Motion of"
                      + " translation, rotation and scale cannot shear: these parts come close, not"
                      + " exactly: "
                      + String.join(", ", sheared.stream().limit(5).toList())
                      + ".")
              .measured(Figures.count(sheared.size(), "part")));
    }
    return tracks.isEmpty() ? null : new Clip(id, name, start, end, tracks);
  }

  /** Models whose place in their parent changes: their own, or scales that come down to them. */
  private boolean[] moving(FbxMotion motion) {
    boolean[] moving = new boolean[models.size()];
    boolean[] scaled = new boolean[models.size()];
    for (int i = 0; i < moving.length; i++) {
      Model model = models.get(i);
      boolean above = model.parent() >= 0 && scaled[model.parent()];
      scaled[i] = above || motion.moves(model.item().id(), "Lcl Scaling");
      boolean inherits = model.rest().inheritance() != ScaleInheritance.NORMAL;
      moving[i] = motion.moves(model.item().id(), TRANSFORM) || above && inherits;
    }
    return moving;
  }

  private double[] times(FbxMotion motion, boolean[] moving, double start, double end) {
    TreeSet<Double> keys = new TreeSet<>();
    for (int i = 0; i < moving.length; i++) {
      if (moving[i]) {
        keys.addAll(motion.times(models.get(i).item().id(), TRANSFORM));
      }
    }
    return keys.isEmpty() ? new double[0] : grid(keys, start, end);
  }

  /** How many samples of all models are held at once. */
  private int most() {
    return Math.max(FEWEST_SAMPLES, MOST_NUMBERS / (WIDTH * Math.max(20, models.size())));
  }

  /** Moments to look at within the take: its ends, its keys, and every frame between the keys. */
  private double[] grid(TreeSet<Double> keys, double start, double end) {
    TreeSet<Double> times = new TreeSet<>(keys.subSet(start, true, end, true));
    double first = Math.max(start, keys.first());
    double last = Math.min(end, keys.last());
    times.add(start);
    times.add(end);
    // A take of many hours with many parts is sampled more coarsely, so that it fits.
    double step = Math.max(1 / framesPerSecond, (last - first) / most());
    for (long i = (long) Math.floor((first - start) / step); start + i * step <= last; i++) {
      double t = start + i * step;
      Double near = times.floor(t + NEAR);
      if (t >= first && (near == null || t - near > NEAR)) {
        times.add(t);
      }
    }
    return times.stream().mapToDouble(Double::doubleValue).toArray();
  }

  private void transforms(FbxMotion motion, boolean[] moving, double[] times, List<Track> tracks) {
    allPlain = allPlain(motion);
    TreeMap<Double, double[]> samples = new TreeMap<>();
    for (double t : times) {
      samples.put(t, sample(motion, moving, t));
    }
    for (int i = 0; i + 1 < times.length; i++) {
      refine(motion, moving, samples, times[i], times[i + 1], DEEPEST);
    }
    double[] all = samples.keySet().stream().mapToDouble(Double::doubleValue).toArray();
    double[][] rows = samples.values().toArray(new double[0][]);
    for (int i = 0; i < moving.length; i++) {
      if (moving[i]) {
        double[] own = new double[WIDTH * rows.length];
        for (int r = 0; r < rows.length; r++) {
          System.arraycopy(rows[r], WIDTH * i, own, WIDTH * r, WIDTH);
          keepSide(own, r);
        }
        int id = models.get(i).nodeId();
        tracks.add(track(id, Clip.TRANSLATION, all, own, 0, 3));
        tracks.add(track(id, Clip.ROTATION, all, own, 3, 4));
        tracks.add(track(id, Clip.SCALE, all, own, 7, 3));
      }
    }
  }

  /**
   * Whether every model stands in its parent as its own transform says: scale comes down plainly,
   * or there is none above that another way of bringing it down would change.
   */
  private boolean allPlain(FbxMotion motion) {
    boolean[] scaled = new boolean[models.size()];
    for (int i = 0; i < scaled.length; i++) {
      Model model = models.get(i);
      boolean above = model.parent() >= 0 && scaled[model.parent()];
      if (above && model.rest().inheritance() != ScaleInheritance.NORMAL) {
        return false;
      }
      scaled[i] =
          above
              || !model.rest().scaling().equals(1, 1, 1)
              || motion.moves(model.item().id(), "Lcl Scaling");
    }
    return true;
  }

  /** A quaternion and its opposite turn alike: each takes the side of the one before it. */
  private static void keepSide(double[] own, int row) {
    double dot = 0;
    for (int k = 3; row > 0 && k < 7; k++) {
      dot += own[WIDTH * (row - 1) + k] * own[WIDTH * row + k];
    }
    for (int k = 3; dot < 0 && k < 7; k++) {
      own[WIDTH * row + k] = -own[WIDTH * row + k];
    }
  }

  /** Translation, rotation and scale of every moving model at a time, ten numbers each. */
  private double[] sample(FbxMotion motion, boolean[] moving, double seconds) {
    double[] row = new double[WIDTH * models.size()];
    FbxTransforms.World[] world = new FbxTransforms.World[models.size()];
    for (int i = 0; i < world.length; i++) {
      Model model = models.get(i);
      Matrix4d local;
      if (allPlain) {
        local = moving[i] ? at(motion, model, seconds).toMatrix() : null;
      } else {
        FbxTransforms.World parent = model.parent() < 0 ? null : world[model.parent()];
        world[i] = FbxTransforms.world(parent, at(motion, model, seconds));
        local =
            parent == null
                ? world[i].matrix()
                : parent.matrix().invert(new Matrix4d()).mul(world[i].matrix());
      }
      if (!moving[i]) {
        continue;
      }
      Trs trs = FbxTransforms.decompose(local);
      double size = Math.max(1, Math.abs(trs.scale().x()) + Math.abs(trs.scale().y()));
      if (!trs.toMatrix().equals(local, SHEAR * Math.max(size, trs.translation().length()))) {
        sheared.add(model.item().name());
      }
      int at = WIDTH * i;
      for (int k = 0; k < 3; k++) {
        row[at + k] = trs.translation().get(k);
        row[at + 7 + k] = trs.scale().get(k);
      }
      row[at + 3] = trs.rotation().x();
      row[at + 4] = trs.rotation().y();
      row[at + 5] = trs.rotation().z();
      row[at + 6] = trs.rotation().w();
    }
    return row;
  }

  /** Halves a span until what lies in its middle is what is played there. */
  private void refine(
      FbxMotion motion,
      boolean[] moving,
      TreeMap<Double, double[]> samples,
      double from,
      double to,
      int depth) {
    double middle = (from + to) / 2;
    if (depth == 0 || samples.size() >= 2 * most() || to - from < CLOSEST) {
      return;
    }
    double[] row = sample(motion, moving, middle);
    if (played(samples.get(from), samples.get(to), row)) {
      return;
    }
    samples.put(middle, row);
    refine(motion, moving, samples, from, middle, depth - 1);
    refine(motion, moving, samples, middle, to, depth - 1);
  }

  /** Whether the middle of two samples, as it is played between them, is the third. */
  private static boolean played(double[] a, double[] b, double[] middle) {
    Quaterniond q = new Quaterniond();
    Quaterniond other = new Quaterniond();
    for (int at = 0; at < a.length; at += WIDTH) {
      for (int k = 0; k < WIDTH; k++) {
        boolean turn = k >= 3 && k < 7;
        double size = Math.max(1, Math.abs(middle[at + k]));
        double mean = (a[at + k] + b[at + k]) / 2;
        if (!turn && Math.abs(mean - middle[at + k]) > BETWEEN * size) {
          return false;
        }
      }
      q.set(a[at + 3], a[at + 4], a[at + 5], a[at + 6]);
      other.set(b[at + 3], b[at + 4], b[at + 5], b[at + 6]);
      q.slerp(other, 0.5);
      double dot =
          q.x * middle[at + 3] + q.y * middle[at + 4] + q.z * middle[at + 5] + q.w * middle[at + 6];
      // 1 minus the cosine of half an angle is an eighth of its square.
      if (1 - Math.abs(dot) > BETWEEN * BETWEEN / 8 && (q.lengthSquared() > 0.5)) {
        return false;
      }
    }
    return true;
  }

  static PivotTransform at(FbxMotion motion, Model model, double seconds) {
    PivotTransform rest = model.rest();
    long id = model.item().id();
    if (!motion.moves(id, TRANSFORM)) {
      return rest;
    }
    return FbxTransforms.with(
        rest,
        motion.vector(id, TRANSFORM[0], new Vector3d(rest.translation()), seconds, false),
        motion.vector(id, TRANSFORM[1], new Vector3d(rest.rotation()), seconds, false),
        motion.vector(id, TRANSFORM[2], new Vector3d(rest.scaling()), seconds, true));
  }

  /** A track of samples, without those that the line between their neighbours gives. */
  private static Track track(
      int nodeId, String property, double[] times, double[] samples, int from, int components) {
    DoubleList keptTimes = new DoubleList(16);
    DoubleList kept = new DoubleList(64);
    int width = samples.length / times.length;
    int last = -1;
    for (int s = 0; s < times.length; s++) {
      boolean end = s == 0 || s == times.length - 1;
      if (end || !straight(times, samples, width, from, components, last, s)) {
        keptTimes.add(times[s]);
        for (int c = 0; c < components; c++) {
          kept.add(samples[width * s + from + c]);
        }
        last = s;
      }
    }
    return new Track(
        nodeId,
        property,
        Interpolation.LINEAR,
        components,
        keptTimes.toArray(),
        kept.toArray(),
        null,
        null);
  }

  /** Whether everything between the last kept sample and the next one lies on their line. */
  private static boolean straight(
      double[] times, double[] samples, int width, int from, int components, int last, int s) {
    double span = times[s + 1] - times[last];
    for (int c = 0; c < components; c++) {
      double a = samples[width * last + from + c];
      double b = samples[width * (s + 1) + from + c];
      double size = Math.max(1, Math.max(Math.abs(a), Math.abs(b)));
      for (int i = Math.max(last + 1, s - 64); i <= s; i++) {
        double line = a + (b - a) * (times[i] - times[last]) / span;
        if (Math.abs(samples[width * i + from + c] - line) > STRAIGHT * size) {
          return false;
        }
      }
    }
    // A long straight run is cut now and then, so that all of it was looked at.
    return s - last < 64;
  }

  private void morph(FbxMotion motion, Morph morph, double[] times, List<Track> tracks) {
    double[] samples = new double[times.length];
    long id = morph.channel().id();
    for (int s = 0; s < samples.length; s++) {
      samples[s] = motion.number(id, "DeformPercent", morph.rest() * PERCENT, times[s]) / PERCENT;
    }
    for (int nodeId : morph.nodeIds()) {
      tracks.add(track(nodeId, Clip.MORPH + morph.key(), times, samples, 0, 1));
    }
  }

  private void visibility(FbxMotion motion, List<Track> tracks) {
    for (Model model : models) {
      TreeSet<Double> keys = motion.times(model.item().id(), "Visibility");
      if (keys.isEmpty()) {
        continue;
      }
      double[] times = keys.stream().mapToDouble(Double::doubleValue).toArray();
      double[] seen = new double[times.length];
      for (int i = 0; i < seen.length; i++) {
        seen[i] = motion.number(model.item().id(), "Visibility", 1, times[i]) > 0 ? 1 : 0;
      }
      tracks.add(
          new Track(model.nodeId(), Clip.VISIBLE, Interpolation.STEP, 1, times, seen, null, null));
    }
  }
}
