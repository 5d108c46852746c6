package ferry.stone.core.format.motion;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.ReadReport;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.MatrixTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.SampledPlaces;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;
import org.joml.Matrix4d;
import org.joml.Matrix4dc;
import org.joml.Vector3d;

/**
 * Where the parts of a file stand and how that changes, by their places in the scene's list of
 * nodes.
 */
public final class PlaceTree {
  private static final double SAME = 1e-9;

  /** A part of its size that a sheared transform may be off. */
  private static final double SHEARED = 1e-6;

  private record Place(int nodeId, String path, int parent, MovingPlace transform) {}

  private final List<Place> places = new ArrayList<>();
  private final ReadReport report;

  public PlaceTree(ReadReport report) {
    this.report = report;
  }

  /**
   * @param parent place of the node above, −1 for none
   * @param transform {@code null} for what stands where its parent does
   */
  public void add(int nodeId, String path, int parent, MovingPlace transform) {
    places.add(new Place(nodeId, path, parent, transform));
  }

  /**
   * Takes the last added node out of its parent where it does not follow it, and following it would
   * shear: nothing but its own matrices count then.
   *
   * @return whether it stands at the top now
   */
  public boolean lift() {
    int last = places.size() - 1;
    Place own = places.get(last);
    if (own.transform == null || !own.transform.leavesItsParent() || own.parent < 0) {
      return false;
    }
    boolean shears = false;
    for (double time : times(last)) {
      boolean apart = !own.transform.inherits(time);
      Matrix4d local = local(last, time);
      shears |= apart && !near(Trs.nearest(local), local, SHEARED);
      if (!apart) {
        return false;
      }
    }
    if (shears) {
      places.set(last, new Place(own.nodeId, own.path, -1, own.transform));
      report.note(
          "place-not-inherited",
          own.path,
          "It does not follow its parent: it is read as a part at the top.");
    }
    return shears;
  }

  /** Takes a node that stands where it stands, whatever the moment. */
  public void stand(int nodeId, String path, int parent, Matrix4dc place) {
    add(
        nodeId,
        path,
        parent,
        new MovingPlace() {
          @Override
          public boolean leavesItsParent() {
            return false;
          }

          @Override
          public boolean moves() {
            return false;
          }

          @Override
          public boolean inherits(double seconds) {
            return true;
          }

          @Override
          public Matrix4d at(double seconds) {
            return new Matrix4d(place);
          }

          @Override
          public double[] moments() {
            return new double[1];
          }
        });
  }

  /** Takes nodes up to a number of them that the file does not say: nothing moves them here. */
  public void skip(int count) {
    while (places.size() < count) {
      places.add(new Place(0, "", -1, null));
    }
  }

  private Matrix4d world(int place, double t) {
    if (place < 0) {
      return new Matrix4d();
    }
    Place p = places.get(place);
    if (p.transform == null) {
      return world(p.parent, t);
    }
    Matrix4d own = p.transform.at(t);
    return p.transform.inherits(t) ? world(p.parent, t).mul(own) : own;
  }

  /** A node's points to those of its parent at a moment. */
  private Matrix4d local(int place, double t) {
    Place p = places.get(place);
    if (p.transform == null) {
      return new Matrix4d();
    }
    Matrix4d own = p.transform.at(t);
    return p.transform.inherits(t) ? own : world(p.parent, t).invert().mul(own);
  }

  /** Where the last added node stands at the first of its samples. */
  public LocalTransform rest() {
    int last = places.size() - 1;
    MovingPlace transform = places.get(last).transform;
    if (transform == null) {
      return LocalTransform.IDENTITY;
    }
    if (transform.leavesItsParent() && places.get(last).parent >= 0) {
      report.note(
          "place-not-inherited",
          places.get(last).path,
          "It does not follow its parent: it is read as a child that stands where it stood.");
    }
    LocalTransform form = transform.inherits(transform.restSeconds()) ? transform.form() : null;
    if (form != null) {
      return form;
    }
    Matrix4d matrix = local(last, transform.restSeconds());
    Trs trs = Trs.nearest(matrix);
    return near(trs, matrix, SAME) ? trs : new MatrixTransform(matrix);
  }

  private static boolean near(Trs trs, Matrix4dc matrix, double part) {
    Vector3d scale = matrix.getScale(new Vector3d());
    double size = matrix.getTranslation(new Vector3d()).length() + scale.length();
    return matrix.isFinite() && trs.toMatrix().equals(matrix, part * Math.max(1e-6, size));
  }

  /** What moves all nodes. */
  public List<Clip.Track> tracks() throws FormatException {
    List<Clip.Track> tracks = new ArrayList<>();
    for (int p = 0; p < places.size(); p++) {
      MovingPlace transform = places.get(p).transform;
      if (transform != null && (transform.moves() || transform.leavesItsParent())) {
        double[] times = times(p);
        if (times.length > 1) {
          tracks(p, times, tracks);
        }
      }
    }
    return tracks;
  }

  /** Its own moments; where it does not follow its parent, those of all above it too. */
  private double[] times(int place) {
    MovingPlace own = places.get(place).transform;
    if (!own.leavesItsParent()) {
      return own.moments();
    }
    TreeSet<Double> times = new TreeSet<>();
    for (int p = place; p >= 0; p = places.get(p).parent) {
      if (places.get(p).transform != null) {
        for (double t : places.get(p).transform.moments()) {
          times.add(t);
        }
      }
    }
    return times.stream().mapToDouble(Double::doubleValue).toArray();
  }

  private void tracks(int place, double[] times, List<Clip.Track> tracks) throws FormatException {
    Place p = places.get(place);
    report.claim(SampledPlaces.BYTES * times.length, p.path, "its motion");
    SampledPlaces sampled = new SampledPlaces(times);
    boolean shears = false;
    for (double time : times) {
      Matrix4d matrix = local(place, time);
      shears |= !near(sampled.add(matrix), matrix, SHEARED);
    }
    if (shears) {
      report.lost(
          "motion-shears",
          p.path,
          "Its motion shears, which no translation, rotation and scale says: read as near as they"
              + " come.");
    }
    tracks.addAll(sampled.tracks(p.nodeId, Trs.nearest(local(place, p.transform.restSeconds()))));
  }
}
