package ferry.stone.core.geometry.frame;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Track;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.joml.Matrix3d;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/** What a change of frame does to skins and clips; see {@link Rebase}. */
final class RebaseMotion {
  private final Matrix4d linear;
  private final Matrix4d whole;
  private final Matrix4d inverse;
  private final Matrix3d positions;
  private final Matrix3d directions;
  private final Vector3d move;
  private final double hand;
  private final double scale;

  /**
   * @param linear the change without its translation: a scale times a rotation or mirror
   * @param whole the change
   */
  RebaseMotion(Matrix4d linear, Matrix4d whole) {
    this.linear = linear;
    this.whole = whole;
    inverse = new Matrix4d(linear).invert();
    positions = linear.get3x3(new Matrix3d());
    scale = Math.cbrt(Math.abs(positions.determinant()));
    directions = new Matrix3d(positions).scale(1 / scale);
    hand = Math.signum(positions.determinant());
    move = whole.getTranslation(new Vector3d());
  }

  /** Whether every moving node can take the change in its translation, rotation and scale. */
  boolean fits(Scene scene) {
    if (Rebase.isAxisPermutation(directions)) {
      return true;
    }
    Map<Integer, Integer> places = scene.nodePlaces();
    Set<Integer> moving = new HashSet<>();
    for (Clip clip : scene.clips()) {
      for (Track track : clip.tracks()) {
        Integer place = places.get(track.targetId());
        if (place != null && track.isTransform()) {
          moving.add(place);
        }
        if (track.property().equals(Clip.SCALE) && !isUniform(track.values())) {
          return false;
        }
      }
    }
    for (int place : moving) {
      Node node = scene.nodes().get(place);
      LocalTransform.Trs trs =
          node.transform() instanceof LocalTransform.Trs exact
              ? exact
              : LocalTransform.Trs.nearest(node.transform().toMatrix());
      double even = 1e-12 * Math.abs(trs.scale().x());
      if (Math.abs(trs.scale().x() - trs.scale().y()) > even
          || Math.abs(trs.scale().y() - trs.scale().z()) > even) {
        return false;
      }
    }
    return true;
  }

  private static boolean isUniform(double[] scales) {
    for (int i = 0; i + 2 < scales.length; i += 3) {
      if (scales[i] != scales[i + 1] || scales[i + 1] != scales[i + 2]) {
        return false;
      }
    }
    return true;
  }

  Skin skin(Skin skin) {
    double[] moved = new double[skin.inverseBind().length];
    Matrix4d m = new Matrix4d();
    for (int at = 0; at < moved.length; at += 16) {
      linear.mul(new Matrix4d().set(skin.inverseBind(), at), m).mul(inverse).get(moved, at);
    }
    double[] bind = null;
    if (skin.bindMatrix() != null) {
      bind = new double[16];
      whole.mul(new Matrix4d().set(skin.bindMatrix()), m).mul(inverse).get(bind, 0);
    }
    return skin.withBind(moved, bind);
  }

  List<Clip> clips(Scene scene) {
    Set<Integer> roots = new HashSet<>();
    for (Node node : scene.nodes()) {
      if (node.parent() < 0) {
        roots.add(node.id());
      }
    }
    List<Clip> clips = new ArrayList<>();
    for (Clip clip : scene.clips()) {
      List<Track> tracks = new ArrayList<>();
      for (Track track : clip.tracks()) {
        tracks.add(track(track, roots.contains(track.targetId())));
      }
      clips.add(clip.withTracks(tracks).withKeys(keys(clip, roots)));
    }
    return clips;
  }

  /** Keys follow where axes go to axes; elsewhere the tracks alone say what moves. */
  private List<Clip.Keys> keys(Clip clip, Set<Integer> roots) {
    boolean axes = Rebase.isAxisPermutation(directions);
    RebasePivots pivots = new RebasePivots(linear, directions);
    List<Clip.Keys> result = new ArrayList<>();
    for (Clip.Keys k : clip.keys()) {
      int to = axes && k.component() < 3 ? pivots.axis(k.component()) : k.component();
      switch (k.property()) {
        case Clip.TRANSLATION -> {
          if (axes) {
            double offset = roots.contains(k.targetId()) ? move.get(to) : 0;
            result.add(at(k, to, scale * pivots.sign(k.component()), offset));
          }
        }
        case Clip.ROTATION -> {
          if (axes) {
            result.add(at(k, to, pivots.angleSign(k.component()), 0));
          }
        }
        case Clip.SCALE -> {
          if (axes) {
            result.add(at(k, to, 1, 0));
          }
        }
        default -> {
          boolean length =
              k.property().equals(Clip.CAMERA_HEIGHT) || k.property().equals(Clip.LIGHT_RANGE);
          result.add(at(k, k.component(), length ? scale : 1, 0));
        }
      }
    }
    return result;
  }

  private static Clip.Keys at(Clip.Keys keys, int component, double factor, double offset) {
    return new Clip.Keys(
        keys.targetId(), keys.property(), component, keys.curve().mapped(factor, offset));
  }

  private Track track(Track track, boolean root) {
    return switch (track.property()) {
      case Clip.TRANSLATION -> {
        double[] values = mapped(track.values(), positions);
        for (int i = 0; root && i < values.length; i += 3) {
          values[i] += move.x;
          values[i + 1] += move.y;
          values[i + 2] += move.z;
        }
        yield track.withValues(
            values, mapped(track.inSlopes(), positions), mapped(track.outSlopes(), positions));
      }
      case Clip.ROTATION ->
          track.withValues(
              turned(track.values()), turned(track.inSlopes()), turned(track.outSlopes()));
      case Clip.SCALE -> {
        Matrix3d swap = new Matrix3d(directions);
        for (int c = 0; c < 3; c++) {
          for (int r = 0; r < 3; r++) {
            swap.set(
                c,
                r,
                Rebase.isAxisPermutation(directions)
                    ? Math.abs(Math.rint(swap.get(c, r)))
                    : c == r ? 1 : 0);
          }
        }
        yield track.withValues(
            mapped(track.values(), swap),
            mapped(track.inSlopes(), swap),
            mapped(track.outSlopes(), swap));
      }
      default -> track.isLength() ? track.scaled(scale) : track;
    };
  }

  private static double[] mapped(double[] values, Matrix3d matrix) {
    if (values == null) {
      return null;
    }
    double[] result = new double[values.length];
    Vector3d v = new Vector3d();
    for (int i = 0; i + 2 < values.length; i += 3) {
      matrix.transform(v.set(values[i], values[i + 1], values[i + 2]));
      result[i] = v.x;
      result[i + 1] = v.y;
      result[i + 2] = v.z;
    }
    return result;
  }

  /** Axes of rotation turn with the frame; a mirror also turns the sense of rotation. */
  private double[] turned(double[] quaternions) {
    if (quaternions == null) {
      return null;
    }
    double[] result = quaternions.clone();
    Vector3d v = new Vector3d();
    for (int i = 0; i + 3 < result.length; i += 4) {
      directions.transform(v.set(result[i], result[i + 1], result[i + 2]));
      result[i] = hand * v.x;
      result[i + 1] = hand * v.y;
      result[i + 2] = hand * v.z;
    }
    return result;
  }
}
