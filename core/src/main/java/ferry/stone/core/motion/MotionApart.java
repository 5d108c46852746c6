package ferry.stone.core.motion;

import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;
import org.joml.Matrix4dc;
import org.joml.Vector3d;

/**
 * How far two motions lie apart over time: vertex against vertex of parts that are in both, in
 * metres. Parts are the same by their id; those that have another number of vertices on the other
 * side are counted and left out.
 *
 * @param seconds of each moment on the first one's time line
 * @param most the farthest that a vertex is apart at each moment, in metres
 * @param mean over all vertices at each moment, in metres
 * @param spots where the middle of the first one's vertices is at each moment, in metres: x, y, z
 * @param otherSpots the same of the second
 * @param parts the parts that were compared, the farthest first; at most 50
 * @param left parts that could not be compared
 */
public record MotionApart(
    double[] seconds,
    double[] most,
    double[] mean,
    double[] spots,
    double[] otherSpots,
    List<Part> parts,
    int left) {
  private static final int MOST_PARTS = 50;
  private static final int MOST_MOMENTS = 600;
  private static final int FEWEST_MOMENTS = 24;
  private static final long MOST_POINTS = 60_000_000L;

  /**
   * A part that was compared.
   *
   * @param metres the farthest that one of its vertices is apart
   * @param seconds when that is
   */
  public record Part(int nodeId, String name, double metres, double seconds) {}

  /**
   * A motion to compare.
   *
   * @param clip {@code null} for the rest pose
   */
  public record Side(Scene scene, Clip clip) {}

  /**
   * @param rate moments a second; fewer where there are very many vertices
   * @param sameSpot whether both middles are put on one spot at each moment first
   * @param starts whether the second one starts when the first does, whatever its seconds
   * @param only part that is compared, −1 for all
   */
  public static MotionApart of(
      Side one,
      Side other,
      double rate,
      boolean sameSpot,
      boolean starts,
      int only,
      Progress progress) {
    return new Work(one, other, sameSpot, starts).run(rate, only, progress);
  }

  /** Places carried by a matrix. */
  public static double[] through(double[] spots, Matrix4dc matrix) {
    double[] carried = spots.clone();
    Deform.transform(carried, new Matrix4d(matrix));
    return carried;
  }

  private static final class Work {
    private final Side one;
    private final Side other;
    private final boolean sameSpot;
    private final double shift;
    private final List<int[]> pairs = new ArrayList<>();
    private long vertices;
    private int left;

    Work(Side one, Side other, boolean sameSpot, boolean starts) {
      this.one = one;
      this.other = other;
      this.sameSpot = sameSpot;
      shift =
          starts && one.clip() != null && other.clip() != null
              ? other.clip().startSeconds() - one.clip().startSeconds()
              : 0;
    }

    MotionApart run(double rate, int only, Progress progress) {
      pair(only);
      double[] seconds = moments(rate);
      double[] most = new double[seconds.length];
      double[] mean = new double[seconds.length];
      double[] spots = new double[3 * seconds.length];
      double[] otherSpots = new double[3 * seconds.length];
      double[] worst = new double[pairs.size()];
      double[] when = new double[pairs.size()];
      ClipPoses poses = ClipPoses.of(one.scene(), one.clip());
      ClipPoses otherPoses = ClipPoses.of(other.scene(), other.clip());
      Matrix4d metres = one.scene().frame().matrixTo(Frame.Y_UP_METRE);
      Matrix4d otherMetres = other.scene().frame().matrixTo(Frame.Y_UP_METRE);
      double[][] own = new double[pairs.size()][];
      double[][] there = new double[pairs.size()][];
      for (int m = 0; m < seconds.length; m++) {
        progress.checkCancelled();
        progress.report("comparing motions", (double) m / seconds.length);
        Pose pose = poses.at(seconds[m]);
        Pose otherPose = otherPoses.at(seconds[m] + shift);
        for (int p = 0; p < own.length; p++) {
          own[p] = points(one.scene(), pose, pairs.get(p)[0], metres);
          there[p] = points(other.scene(), otherPose, pairs.get(p)[1], otherMetres);
        }
        Vector3d spot = middle(own);
        Vector3d otherSpot = middle(there);
        put(spot, spots, m);
        put(otherSpot, otherSpots, m);
        Vector3d move = sameSpot ? spot.sub(otherSpot, new Vector3d()) : new Vector3d();
        double sum = 0;
        for (int p = 0; p < own.length; p++) {
          double farthest = 0;
          for (int v = 0; v < own[p].length; v += 3) {
            double off =
                Math.sqrt(
                    square(own[p][v] - there[p][v] - move.x)
                        + square(own[p][v + 1] - there[p][v + 1] - move.y)
                        + square(own[p][v + 2] - there[p][v + 2] - move.z));
            farthest = Math.max(farthest, off);
            sum += off;
          }
          most[m] = Math.max(most[m], farthest);
          if (farthest > worst[p]) {
            worst[p] = farthest;
            when[p] = seconds[m];
          }
        }
        mean[m] = vertices == 0 ? 0 : sum / vertices;
      }
      return new MotionApart(
          seconds, most, mean, spots, otherSpots, parts(worst, when, seconds[0]), left);
    }

    private void pair(int only) {
      Map<Integer, Integer> places = other.scene().nodePlaces();
      Map<Integer, Integer> counts = counts(one.scene());
      Map<Integer, Integer> otherCounts = counts(other.scene());
      for (int i = 0; i < one.scene().nodes().size(); i++) {
        Node node = one.scene().nodes().get(i);
        if (!(node.content() instanceof Node.Content.MeshContent content)
            || only >= 0 && node.id() != only) {
          continue;
        }
        Integer place = places.get(node.id());
        int count = counts.get(content.meshId());
        boolean same =
            count >= 0
                && place != null
                && other.scene().nodes().get(place).content()
                    instanceof Node.Content.MeshContent there
                && otherCounts.get(there.meshId()) == count;
        if (same) {
          pairs.add(new int[] {i, place});
          vertices += count;
        } else {
          left++;
        }
      }
    }

    /** Vertices of each mesh; −1 for one that is another over time, which nothing pairs. */
    private static Map<Integer, Integer> counts(Scene scene) {
      Map<Integer, Integer> counts = new HashMap<>();
      scene.meshes().forEach(m -> counts.put(m.id(), m.points().count()));
      scene.sequences().forEach(s -> counts.put(s.meshId(), -1));
      return counts;
    }

    private double[] moments(double rate) {
      double start = one.clip() == null ? 0 : one.clip().startSeconds();
      double end = one.clip() == null ? 0 : one.clip().endSeconds();
      long affordable = MOST_POINTS / Math.max(1, 2 * vertices);
      long most = Math.max(FEWEST_MOMENTS, Math.min(MOST_MOMENTS, affordable));
      int count = (int) Math.min(most, Math.ceil(Math.max(0, end - start) * rate - 1e-3) + 1);
      double[] seconds = new double[Math.max(1, count)];
      for (int i = 0; i < seconds.length; i++) {
        double part = seconds.length == 1 ? 0 : (double) i / (seconds.length - 1);
        seconds[i] = start + part * (end - start);
      }
      return seconds;
    }

    private List<Part> parts(double[] worst, double[] when, double start) {
      List<Part> parts = new ArrayList<>();
      for (int p = 0; p < worst.length; p++) {
        Node node = one.scene().nodes().get(pairs.get(p)[0]);
        double at = worst[p] > 0 ? when[p] : start;
        parts.add(new Part(node.id(), node.name(), worst[p], at));
      }
      parts.sort((a, b) -> Double.compare(b.metres(), a.metres()));
      return parts.size() > MOST_PARTS ? List.copyOf(parts.subList(0, MOST_PARTS)) : parts;
    }

    private static double[] points(Scene scene, Pose pose, int place, Matrix4d metres) {
      double[] points = Deform.world(scene, pose, place);
      Deform.transform(points, metres);
      return points;
    }

    private static Vector3d middle(double[][] parts) {
      Vector3d sum = new Vector3d();
      long count = 0;
      for (double[] points : parts) {
        for (int v = 0; v < points.length; v += 3) {
          sum.add(points[v], points[v + 1], points[v + 2]);
        }
        count += points.length / 3;
      }
      return count == 0 ? sum : sum.div(count);
    }

    private static void put(Vector3d spot, double[] spots, int moment) {
      spots[3 * moment] = spot.x;
      spots[3 * moment + 1] = spot.y;
      spots[3 * moment + 2] = spot.z;
    }

    private static double square(double d) {
      return d * d;
    }
  }
}
