package ferry.stone.core.survey;

import ferry.stone.core.geometry.triangle.Triangulation;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.util.ArrayList;
import java.util.List;
import org.joml.Vector3d;

/**
 * Which way a scene's up axis probably points, ranked, with reasons.
 *
 * <p>Evidence for an axis: a flat base at its lower end, resting at zero, more base below than flat
 * top above, and the asset standing over the middle of the ground. Each adds a weight to the
 * logarithm of how often the axis is met. All figures are common practice, no source.
 */
public record UpReading(SignedAxis up, double confidence, List<String> reasons) {
  private static final double[] HOW_OFTEN = {0.01, 0.005, 0.64, 0.01, 0.33, 0.005};
  private static final double BASE_WEIGHT = 3.2;
  private static final double GROUND_WEIGHT = 1.6;
  private static final double CENTRED_WEIGHT = 0.8;
  private static final double FLAT_COSINE = 0.985;
  private static final double END_PART = 0.01;

  private static final double BODY_WEIGHT = 6;
  private static final double FALL_WEIGHT = 9;
  private static final double STATED_WEIGHT = Math.log(50);
  private static final double LEFT_TURN_WEIGHT = 1;

  /** All six directions, the likeliest first. */
  public static List<UpReading> of(Scene scene) {
    return of(scene, Evidence.of(scene), false);
  }

  /**
   * @param withHeader whether what the file states counts too
   */
  static List<UpReading> of(Scene scene, Evidence found, boolean withHeader) {
    Bounds bounds = scene.bounds();
    double[] flatArea = new double[6];
    if (!bounds.isEmpty()) {
      measure(scene, bounds, flatArea);
    }
    double[] score = new double[6];
    List<List<String>> reasons = new ArrayList<>();
    double sum = 0;
    for (SignedAxis axis : SignedAxis.values()) {
      List<String> why = new ArrayList<>();
      score[axis.ordinal()] =
          Math.log(HOW_OFTEN[axis.ordinal()])
              + (bounds.isEmpty() ? 0 : evidence(axis, bounds, flatArea, why))
              + motion(axis, found, why)
              + statement(axis, scene, withHeader, why);
      sum += Math.exp(score[axis.ordinal()]);
      reasons.add(why);
    }
    List<UpReading> readings = new ArrayList<>();
    for (SignedAxis axis : SignedAxis.values()) {
      readings.add(
          new UpReading(
              axis,
              Math.exp(score[axis.ordinal()]) / sum,
              List.copyOf(reasons.get(axis.ordinal()))));
    }
    readings.sort((a, b) -> Double.compare(b.confidence, a.confidence));
    return readings;
  }

  private static double motion(SignedAxis axis, Evidence found, List<String> why) {
    double score = 0;
    if (found.body() != null && found.body().up() == axis) {
      score += BODY_WEIGHT;
      why.add("a body stands on two legs along " + axis.label());
    }
    if (found.fall() != null && found.fall().up() == axis) {
      score += FALL_WEIGHT;
      why.add(Figures.count(found.fall().parts(), "part") + " fall against " + axis.label());
    }
    return score;
  }

  private static double statement(
      SignedAxis axis, Scene scene, boolean withHeader, List<String> why) {
    double score = 0;
    if (withHeader && axis == scene.frame().up()) {
      score += STATED_WEIGHT;
      why.add("the file says so");
    }
    if (axis == SignedAxis.PLUS_Y && LeftTransforms.turnedUp(scene)) {
      score += LEFT_TURN_WEIGHT;
      why.add("its roots carry −90° about X, which turns Z up into Y up");
    }
    return score;
  }

  private static double evidence(
      SignedAxis axis, Bounds bounds, double[] flatArea, List<String> why) {
    int a = axis.index();
    double footprint = bounds.size((a + 1) % 3) * bounds.size((a + 2) % 3);
    double base = flatArea[axis.opposite().ordinal()];
    double score = 0;
    if (footprint > 0) {
      double part = Math.min(1, base / footprint);
      double top = Math.min(1, flatArea[axis.ordinal()] / footprint);
      // A box has as much top as base: only what the base has more counts in full.
      score += BASE_WEIGHT * (part - 0.75 * top);
      if (part > 0.1) {
        why.add(
            "a flat base of "
                + Math.round(100 * part)
                + " % of the footprint faces "
                + axis.opposite().label());
      }
    }
    double low = axis.sign() > 0 ? bounds.min(a) : -bounds.max(a);
    double size = bounds.size(a);
    if (size > 0 && Math.abs(low) <= END_PART * size) {
      score += GROUND_WEIGHT;
      why.add("it rests at 0 along " + axis.label() + " (lowest point " + Figures.plain(low) + ")");
    }
    double off = 0;
    for (int other : new int[] {(a + 1) % 3, (a + 2) % 3}) {
      double middle = (bounds.min(other) + bounds.max(other)) / 2;
      off = Math.max(off, Math.abs(middle) / Math.max(1e-30, bounds.size(other)));
    }
    if (off < 0.05) {
      score += CENTRED_WEIGHT;
      why.add("it stands over the middle of the ground");
    }
    return score;
  }

  /** What lies between the ends of a box along all axes. */
  private record Ends(double[] above, double[] below) {
    static Ends of(Bounds bounds) {
      Ends ends = new Ends(new double[3], new double[3]);
      for (int axis = 0; axis < 3; axis++) {
        double near = END_PART * bounds.size(axis);
        ends.above[axis] = bounds.min(axis) + near;
        ends.below[axis] = bounds.max(axis) - near;
      }
      return ends;
    }

    boolean near(Vector3d p) {
      return !(p.x > above[0]
          && p.x < below[0]
          && p.y > above[1]
          && p.y < below[1]
          && p.z > above[2]
          && p.z < below[2]);
    }
  }

  /** Area of faces that look along each direction and lie at that end of the box. */
  private static void measure(Scene scene, Bounds bounds, double[] flatArea) {
    Vector3d n = new Vector3d();
    Vector3d p = new Vector3d();
    Ends ends = Ends.of(bounds);
    for (Scene.ShownMesh shown : scene.shownMeshes()) {
      PolygonMesh mesh = shown.mesh();
      boolean turned = !shown.world().equals(new org.joml.Matrix4d(), 0);
      for (int f = 0; f < mesh.faces().faceCount(); f++) {
        int start = mesh.faces().start(f);
        int v = mesh.faces().vertex(start);
        p.set(mesh.points().x(v), mesh.points().y(v), mesh.points().z(v));
        if (turned) {
          shown.world().transformPosition(p);
        }
        if (!ends.near(p)) {
          continue;
        }
        Triangulation.newell(mesh.points(), mesh.faces(), start, mesh.faces().size(f), n);
        if (turned) {
          // Area vectors turn by the cofactor matrix; for a rotation and scale that is enough.
          shown.world().transformDirection(n);
        }
        double length = n.length();
        for (int a = 0; a < 3 && length > 0; a++) {
          if (Math.abs(n.get(a)) < FLAT_COSINE * length) {
            continue;
          }
          int sign = n.get(a) > 0 ? 1 : -1;
          double end = sign > 0 ? bounds.max(a) : bounds.min(a);
          if (Math.abs(p.get(a) - end) <= END_PART * bounds.size(a)) {
            flatArea[SignedAxis.of(a, sign).ordinal()] += length / 2;
          }
        }
      }
    }
  }
}
