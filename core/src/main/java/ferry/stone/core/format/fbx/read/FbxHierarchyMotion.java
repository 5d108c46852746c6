package ferry.stone.core.format.fbx.read;

import ferry.stone.core.format.fbx.raw.FbxTransforms;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Track;
import ferry.stone.core.work.Cancel;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.joml.Matrix4d;
import org.joml.Quaterniond;

/**
 * The motion of parts to which scale comes down by a rule of its own: where they stand in their
 * parents follows from everything above them, so all of it is sampled together.
 */
final class FbxHierarchyMotion {
  /** A matrix shears when it differs by more than this part of its size from what it is made of. */
  private static final double SHEAR = 1e-6;

  private static final double CLOSEST = 1e-5;
  private static final int DEEPEST = 6;
  private static final int WIDTH = 10;
  private static final int MOST_NUMBERS = 40_000_000;

  private final List<FbxClipReader.Model> models;
  private final FbxPartMotion[] parts;
  private final boolean[] needed;
  private final double tolerance;
  private final int[] bound;
  private final Set<String> sheared = new TreeSet<>();
  private final Matrix4d inverse = new Matrix4d();

  /**
   * @param moves what moves of each model, {@code null} where nothing does
   * @param above all models that the bound ones hang on, and themselves
   * @param isBound the models whose tracks are wanted
   * @param tolerance how far sampled places may be off, in scene units
   */
  FbxHierarchyMotion(
      List<FbxClipReader.Model> models,
      FbxMotion.Value[][] moves,
      Set<Integer> above,
      boolean[] isBound,
      double tolerance) {
    this.models = models;
    this.tolerance = tolerance;
    needed = new boolean[models.size()];
    parts = new FbxPartMotion[models.size()];
    List<Integer> places = new ArrayList<>();
    for (int i = 0; i < needed.length; i++) {
      needed[i] = above.contains(i);
      FbxMotion.Value[] own = moves[i] == null ? new FbxMotion.Value[3] : moves[i];
      parts[i] = needed[i] ? new FbxPartMotion(models.get(i).rest(), own, tolerance) : null;
      if (isBound[i]) {
        places.add(i);
      }
    }
    bound = places.stream().mapToInt(Integer::intValue).toArray();
  }

  /** Names of the parts that shear at some moment; known after the tracks. */
  Set<String> sheared() {
    return sheared;
  }

  List<Track> tracks(double[] times) {
    TreeMap<Double, double[]> samples = new TreeMap<>();
    int most = Math.max(1000, MOST_NUMBERS / (WIDTH * bound.length));
    for (double t : times) {
      Cancel.point();
      samples.put(t, sample(t));
    }
    for (int i = 0; i + 1 < times.length; i++) {
      Cancel.point();
      refine(samples, times[i], times[i + 1], DEEPEST, most);
    }
    double[] all = new double[samples.size()];
    double[] rows = new double[WIDTH * bound.length * all.length];
    int row = 0;
    for (Map.Entry<Double, double[]> e : samples.entrySet()) {
      all[row] = e.getKey();
      System.arraycopy(e.getValue(), 0, rows, WIDTH * bound.length * row++, WIDTH * bound.length);
    }
    List<Track> tracks = new ArrayList<>();
    int width = WIDTH * bound.length;
    for (int b = 0; b < bound.length; b++) {
      keepSides(rows, width, WIDTH * b + 3);
      int id = models.get(bound[b]).nodeId();
      int at = WIDTH * b;
      tracks.add(FbxSamples.track(id, Clip.TRANSLATION, all, rows, width, at, 3));
      tracks.add(FbxSamples.track(id, Clip.ROTATION, all, rows, width, at + 3, 4));
      tracks.add(FbxSamples.track(id, Clip.SCALE, all, rows, width, at + 7, 3));
    }
    return tracks;
  }

  /** A quaternion and its opposite turn alike: each takes the side of the one before it. */
  private static void keepSides(double[] rows, int width, int at) {
    for (int from = at + width; from < rows.length; from += width) {
      double dot = 0;
      for (int k = 0; k < 4; k++) {
        dot += rows[from - width + k] * rows[from + k];
      }
      for (int k = 0; dot < 0 && k < 4; k++) {
        rows[from + k] = -rows[from + k];
      }
    }
  }

  /** Translation, rotation and scale of every bound model at a time, ten numbers each. */
  private double[] sample(double seconds) {
    double[] row = new double[WIDTH * bound.length];
    FbxTransforms.World[] world = new FbxTransforms.World[models.size()];
    int next = 0;
    for (int i = 0; i < world.length; i++) {
      if (!needed[i]) {
        continue;
      }
      FbxClipReader.Model model = models.get(i);
      FbxTransforms.World parent = model.parent() < 0 ? null : world[model.parent()];
      world[i] = FbxTransforms.world(parent, parts[i].own(seconds));
      if (next == bound.length || bound[next] != i) {
        continue;
      }
      Matrix4d local =
          parent == null
              ? world[i].matrix()
              : parent.matrix().invert(inverse).mul(world[i].matrix());
      put(model, local, row, WIDTH * next++);
    }
    return row;
  }

  private void put(FbxClipReader.Model model, Matrix4d local, double[] row, int at) {
    Trs trs = Trs.nearest(local);
    double size = Math.max(1, Math.abs(trs.scale().x()) + Math.abs(trs.scale().y()));
    if (!trs.toMatrix().equals(local, SHEAR * Math.max(size, trs.translation().length()))) {
      sheared.add(model.item().name());
    }
    for (int k = 0; k < 3; k++) {
      row[at + k] = trs.translation().get(k);
      row[at + 7 + k] = trs.scale().get(k);
    }
    row[at + 3] = trs.rotation().x();
    row[at + 4] = trs.rotation().y();
    row[at + 5] = trs.rotation().z();
    row[at + 6] = trs.rotation().w();
  }

  /** Halves a span until what lies in its middle is what is played there. */
  private void refine(
      TreeMap<Double, double[]> samples, double from, double to, int depth, int most) {
    double middle = (from + to) / 2;
    if (depth == 0 || samples.size() >= most || to - from < CLOSEST) {
      return;
    }
    double[] row = sample(middle);
    if (played(samples.get(from), samples.get(to), row)) {
      return;
    }
    samples.put(middle, row);
    refine(samples, from, middle, depth - 1, most);
    refine(samples, middle, to, depth - 1, most);
  }

  /** Whether the middle of two samples, as it is played between them, is the third. */
  private boolean played(double[] a, double[] b, double[] middle) {
    Quaterniond q = new Quaterniond();
    Quaterniond other = new Quaterniond();
    for (int at = 0; at < a.length; at += WIDTH) {
      for (int k = 0; k < WIDTH; k++) {
        boolean turn = k >= 3 && k < 7;
        double size = Math.max(1, Math.abs(middle[at + k]));
        double mean = (a[at + k] + b[at + k]) / 2;
        double most = k < 3 ? tolerance : FbxTracks.BETWEEN * size;
        if (!turn && Math.abs(mean - middle[at + k]) > most) {
          return false;
        }
      }
      q.set(a[at + 3], a[at + 4], a[at + 5], a[at + 6]);
      other.set(b[at + 3], b[at + 4], b[at + 5], b[at + 6]);
      q.slerp(other, 0.5);
      double dot =
          q.x * middle[at + 3] + q.y * middle[at + 4] + q.z * middle[at + 5] + q.w * middle[at + 6];
      // 1 minus the cosine of half an angle is an eighth of its square.
      if (1 - Math.abs(dot) > FbxTracks.BETWEEN * FbxTracks.BETWEEN / 8) {
        return false;
      }
    }
    return true;
  }
}
