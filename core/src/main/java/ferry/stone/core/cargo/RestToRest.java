package ferry.stone.core.cargo;

import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.time.Clip;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * The motion of a part from another rest pose: rotations as they turn it away from its rest,
 * translations as they move it from there, in proportion to the bones' lengths, scales as factors.
 * All three are linear in the values, so slopes change likewise.
 */
final class RestToRest {
  private RestToRest() {}

  /**
   * @param there the rest that the motion was made for
   * @param here the rest that it is put onto
   */
  static Clip.Track of(Clip.Track track, Trs there, Trs here) {
    return switch (track.property()) {
      case Clip.ROTATION -> turned(track, there, here);
      case Clip.TRANSLATION -> moved(track, there, here);
      case Clip.SCALE -> scaled(track, there, here);
      default -> track;
    };
  }

  private static Clip.Track turned(Clip.Track track, Trs there, Trs here) {
    Quaterniond before =
        new Quaterniond(here.rotation()).mul(new Quaterniond(there.rotation()).invert());
    return track.withValues(
        turned(track.values(), before),
        turned(track.inSlopes(), before),
        turned(track.outSlopes(), before));
  }

  private static double[] turned(double[] values, Quaterniond before) {
    if (values == null) {
      return null;
    }
    double[] result = new double[values.length];
    Quaterniond q = new Quaterniond();
    for (int i = 0; i + 3 < values.length; i += 4) {
      before.mul(q.set(values[i], values[i + 1], values[i + 2], values[i + 3]), q);
      result[i] = q.x;
      result[i + 1] = q.y;
      result[i + 2] = q.z;
      result[i + 3] = q.w;
    }
    return result;
  }

  private static Clip.Track moved(Clip.Track track, Trs there, Trs here) {
    double was = there.translation().length();
    double is = here.translation().length();
    double ratio = was > 0 && is > 0 ? is / was : 1;
    // The bone points elsewhere where it rests otherwise: what moves it is turned with it.
    Quaterniond turn =
        was > 0 && is > 0
            ? new Quaterniond()
                .rotationTo(new Vector3d(there.translation()), new Vector3d(here.translation()))
            : new Quaterniond();
    Vector3d from = new Vector3d(there.translation());
    Vector3d to = new Vector3d(here.translation());
    return track.withValues(
        moved(track.values(), turn, ratio, from, to),
        moved(track.inSlopes(), turn, ratio, null, null),
        moved(track.outSlopes(), turn, ratio, null, null));
  }

  private static double[] moved(
      double[] values, Quaterniond turn, double ratio, Vector3d from, Vector3d to) {
    if (values == null) {
      return null;
    }
    double[] result = new double[values.length];
    Vector3d v = new Vector3d();
    for (int i = 0; i + 2 < values.length; i += 3) {
      v.set(values[i], values[i + 1], values[i + 2]);
      if (from != null) {
        v.sub(from);
      }
      turn.transform(v).mul(ratio);
      if (to != null) {
        v.add(to);
      }
      result[i] = v.x;
      result[i + 1] = v.y;
      result[i + 2] = v.z;
    }
    return result;
  }

  private static Clip.Track scaled(Clip.Track track, Trs there, Trs here) {
    double[] factor = new double[3];
    for (int c = 0; c < 3; c++) {
      double was = there.scale().get(c);
      factor[c] = was == 0 ? 1 : here.scale().get(c) / was;
    }
    return track.withValues(
        scaled(track.values(), factor),
        scaled(track.inSlopes(), factor),
        scaled(track.outSlopes(), factor));
  }

  private static double[] scaled(double[] values, double[] factor) {
    if (values == null) {
      return null;
    }
    double[] result = values.clone();
    for (int i = 0; i < result.length; i++) {
      result[i] *= factor[i % 3];
    }
    return result;
  }
}
