package ferry.stone.core.scene.time;

import ferry.stone.core.scene.node.LocalTransform.Trs;
import java.util.ArrayList;
import java.util.List;
import org.joml.Matrix4dc;
import org.joml.Quaterniond;
import org.joml.Vector3dc;

/** Where a node stands at some moments, put in by rising time, as tracks with straight lines. */
public final class SampledPlaces {
  /** Bytes that a moment takes. */
  public static final long BYTES = 8 * (3 + 4 + 3);

  private static final double SAME = 1e-7;

  private final double[] times;
  private final double[] translation;
  private final double[] rotation;
  private final double[] scale;
  private final Quaterniond before = new Quaterniond(0, 0, 0, 0);
  private int count;

  /**
   * @param times rising, one a place
   */
  public SampledPlaces(double[] times) {
    this.times = times;
    translation = new double[3 * times.length];
    rotation = new double[4 * times.length];
    scale = new double[3 * times.length];
  }

  /** Takes the next place, and gives what comes nearest to it without shear: what is kept of it. */
  public Trs add(Matrix4dc place) {
    Trs trs = Trs.nearest(place);
    Quaterniond turn = new Quaterniond(trs.rotation());
    // The two signs of a rotation are one: that of the sample before makes the short way.
    if (before.dot(turn) < 0) {
      turn.set(-turn.x, -turn.y, -turn.z, -turn.w);
    }
    before.set(turn);
    put(translation, trs.translation());
    put(scale, trs.scale());
    rotation[4 * count] = turn.x;
    rotation[4 * count + 1] = turn.y;
    rotation[4 * count + 2] = turn.z;
    rotation[4 * count + 3] = turn.w;
    count++;
    return trs;
  }

  private void put(double[] into, Vector3dc value) {
    into[3 * count] = value.x();
    into[3 * count + 1] = value.y();
    into[3 * count + 2] = value.z();
  }

  /**
   * Tracks of what is ever unlike the place at rest.
   *
   * @param rest of the node
   */
  public List<Clip.Track> tracks(int nodeId, Trs rest) {
    List<Clip.Track> tracks = new ArrayList<>();
    if (moves(translation, rest.translation())) {
      tracks.add(track(nodeId, Clip.TRANSLATION, 3, translation));
    }
    if (turns(rest)) {
      tracks.add(track(nodeId, Clip.ROTATION, 4, rotation));
    }
    if (moves(scale, rest.scale())) {
      tracks.add(track(nodeId, Clip.SCALE, 3, scale));
    }
    return tracks;
  }

  private Clip.Track track(int nodeId, String property, int components, double[] values) {
    return new Clip.Track(
        nodeId, property, Clip.Interpolation.LINEAR, components, times, values, null, null);
  }

  private static boolean moves(double[] values, Vector3dc rest) {
    for (int i = 0; i < values.length; i++) {
      double own = rest.get(i % 3);
      if (!(Math.abs(values[i] - own) <= SAME * Math.max(1, Math.abs(own)))) {
        return true;
      }
    }
    return false;
  }

  private boolean turns(Trs rest) {
    for (int i = 0; i < rotation.length; i += 4) {
      double dot =
          rotation[i] * rest.rotation().x()
              + rotation[i + 1] * rest.rotation().y()
              + rotation[i + 2] * rest.rotation().z()
              + rotation[i + 3] * rest.rotation().w();
      if (!(1 - Math.abs(dot) <= SAME * SAME)) {
        return true;
      }
    }
    return false;
  }
}
