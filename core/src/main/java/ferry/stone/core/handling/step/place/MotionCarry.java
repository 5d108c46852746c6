package ferry.stone.core.handling.step.place;

import ferry.stone.core.motion.Curves;
import ferry.stone.core.motion.TurnAxis;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.PivotTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Interpolation;
import ferry.stone.core.scene.time.Clip.Track;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.joml.Matrix3d;
import org.joml.Matrix4d;
import org.joml.Matrix4dc;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.joml.Vector3dc;

/**
 * Changes where nodes stand in their parents, at rest and in every clip alike.
 *
 * <p>{@link #before} puts a constant matrix C in front: local(t) becomes C·local(t); C is a
 * rotation with a uniform scale and a move, else moving nodes are refused. {@link #after} puts a
 * move d behind: local(t)·T(d), which bends the path of the translation where the node turns: it is
 * sampled at every key and frame.
 */
public final class MotionCarry {
  private static final double EVEN = 1e-9;
  private static final double FRAMES_PER_SECOND = 30;
  private static final double BEFORE_STEP = 1e-5;
  private static final double STILL = 1e-6;
  private static final String[] TRANSFORMS = {Clip.TRANSLATION, Clip.ROTATION, Clip.SCALE};

  private final Scene scene;
  private final Set<Integer> moving = new HashSet<>();
  private List<Clip> clips;

  public MotionCarry(Scene scene) {
    this.scene = scene;
    clips = scene.clips();
    for (Clip clip : clips) {
      for (Track track : clip.tracks()) {
        if (track.isTransform()) {
          moving.add(track.targetId());
        }
      }
    }
  }

  public boolean moves(int nodeId) {
    return moving.contains(nodeId);
  }

  /** Whether a clip changes one of some values of a node. */
  public boolean moves(int nodeId, String... properties) {
    return clips.stream()
        .flatMap(c -> c.tracks().stream())
        .anyMatch(t -> t.targetId() == nodeId && List.of(properties).contains(t.property()));
  }

  public List<Clip> clips() {
    return clips;
  }

  /** Takes away tracks of a node that hold its value at rest all the time: they move nothing. */
  void dropStill(Node node) {
    if (!moves(node.id())) {
      return;
    }
    Trs rest = node.transform() instanceof Trs trs ? trs : Trs.nearest(node.transform().toMatrix());
    replaceTracks(node, (clip, track) -> isStill(track, rest) ? null : track);
    moving.removeIf(id -> id == node.id() && !moves(id, TRANSFORMS));
  }

  private static boolean isStill(Track track, Trs rest) {
    double[] still =
        switch (track.property()) {
          case Clip.TRANSLATION ->
              new double[] {rest.translation().x(), rest.translation().y(), rest.translation().z()};
          case Clip.SCALE -> new double[] {rest.scale().x(), rest.scale().y(), rest.scale().z()};
          default -> null;
        };
    if (still == null || track.interpolation() == Interpolation.CUBIC) {
      return false;
    }
    for (int i = 0; i < track.values().length; i++) {
      double wanted = still[i % 3];
      if (Math.abs(track.values()[i] - wanted) > STILL * Math.max(1, Math.abs(wanted))) {
        return false;
      }
    }
    return true;
  }

  /** What fits into translation, rotation and scale stays so. */
  public static LocalTransform plain(Matrix4dc m) {
    Trs trs = Trs.nearest(m);
    double size = Math.max(1, Math.abs(m.m30()) + Math.abs(m.m31()) + Math.abs(m.m32()));
    if (trs.toMatrix().equals(new Matrix4d(m), EVEN * size)) {
      return m.equals(new Matrix4d(), 0) ? LocalTransform.IDENTITY : trs;
    }
    return new LocalTransform.MatrixTransform(new Matrix4d(m));
  }

  public Node before(Node node, Matrix4dc c) {
    Matrix4d rest = new Matrix4d(c).mul(node.transform().toMatrix());
    if (moves(node.id())) {
      double scale = Math.cbrt(c.determinant3x3());
      Matrix3d turn = c.get3x3(new Matrix3d()).scale(1 / scale);
      boolean even = turn.transpose(new Matrix3d()).mul(turn).equals(new Matrix3d(), EVEN);
      if (!(scale > 0) || !even) {
        throw new IllegalArgumentException(
            "\""
                + node.name()
                + "\" moves in a clip, and a mirror or uneven scale cannot go in front of its"
                + " motion. Choose parts that do not move");
      }
      Quaterniond rotation = new Quaterniond().setFromNormalized(turn);
      replaceTracks(node, (clip, track) -> beforeTrack(track, c, rotation, scale));
      if (node.transform() instanceof Trs own) {
        // Part by part, since clips move the parts: another split of one matrix would not do.
        return node.withTransform(
            Trs.of(
                c.transformPosition(new Vector3d(own.translation())),
                rotation.mul(own.rotation(), new Quaterniond()),
                new Vector3d(own.scale()).mul(scale)));
      }
    }
    return node.withTransform(plain(rest));
  }

  /** The node without its scale; clips that scale it do so from 1. */
  Node unscaled(Node node, Trs own) {
    if (moves(node.id())) {
      replaceTracks(
          node,
          (clip, track) -> track.property().equals(Clip.SCALE) ? over(track, own.scale()) : track);
    }
    return node.withTransform(new Trs(own.translation(), own.rotation(), new Vector3d(1)));
  }

  private static Track over(Track track, Vector3dc scale) {
    return track.withValues(
        over(track.values(), scale), over(track.inSlopes(), scale), over(track.outSlopes(), scale));
  }

  private static double[] over(double[] values, Vector3dc scale) {
    double[] result = values == null ? null : values.clone();
    for (int i = 0; result != null && i < result.length; i++) {
      result[i] /= scale.get(i % 3);
    }
    return result;
  }

  private static Track beforeTrack(Track t, Matrix4dc c, Quaterniond rotation, double scale) {
    return switch (t.property()) {
      case Clip.TRANSLATION ->
          t.withValues(
              points(t.values(), c, true),
              points(t.inSlopes(), c, false),
              points(t.outSlopes(), c, false));
      case Clip.ROTATION ->
          t.withValues(
              turned(t.values(), rotation),
              turned(t.inSlopes(), rotation),
              turned(t.outSlopes(), rotation));
      case Clip.SCALE -> t.scaled(scale);
      default -> t;
    };
  }

  private static double[] points(double[] values, Matrix4dc c, boolean positions) {
    if (values == null) {
      return null;
    }
    double[] result = new double[values.length];
    Vector3d v = new Vector3d();
    for (int i = 0; i < result.length; i += 3) {
      v.set(values[i], values[i + 1], values[i + 2]);
      if (positions) {
        c.transformPosition(v);
      } else {
        c.transformDirection(v);
      }
      result[i] = v.x;
      result[i + 1] = v.y;
      result[i + 2] = v.z;
    }
    return result;
  }

  private static double[] turned(double[] values, Quaterniond rotation) {
    if (values == null) {
      return null;
    }
    double[] result = new double[values.length];
    Quaterniond q = new Quaterniond();
    for (int i = 0; i < result.length; i += 4) {
      rotation.mul(q.set(values[i], values[i + 1], values[i + 2], values[i + 3]), q);
      result[i] = q.x;
      result[i + 1] = q.y;
      result[i + 2] = q.z;
      result[i + 3] = q.w;
    }
    return result;
  }

  private interface Change {
    Track of(Clip clip, Track track);
  }

  /** Changes a node's transform tracks; keys in a source's own form no longer hold. */
  private void replaceTracks(Node node, Change change) {
    List<Clip> changed = new ArrayList<>();
    for (Clip clip : clips) {
      List<Track> tracks = new ArrayList<>();
      boolean any = false;
      for (Track track : clip.tracks()) {
        boolean own = track.targetId() == node.id() && track.isTransform();
        any |= own;
        Track now = own ? change.of(clip, track) : track;
        if (now != null) {
          tracks.add(now);
        }
      }
      changed.add(any ? withoutKeys(clip.withTracks(tracks).withKeys(clip.keys()), node) : clip);
    }
    clips = changed;
  }

  private static Clip withoutKeys(Clip clip, Node node) {
    return clip.withKeys(
        clip.keys().stream()
            .filter(k -> k.targetId() != node.id() || !isTransform(k.property()))
            .toList());
  }

  private static boolean isTransform(String property) {
    return Set.of(Clip.TRANSLATION, Clip.ROTATION, Clip.SCALE).contains(property);
  }

  /**
   * As {@link #after(Node, Vector3d)}, but clips turn and scale the node about its new pivot: that
   * goes the way the old pivot went.
   */
  Node aboutNewPivot(Node node, Vector3d move) {
    Matrix4d local = node.transform().toMatrix();
    LocalTransform own = node.transform();
    PivotTransform pivots =
        own instanceof PivotTransform p
            ? p
            : own instanceof LocalTransform.InheritedTransform inherited ? inherited.own() : null;
    Vector3d said = pivots == null ? new Vector3d() : new Vector3d(pivots.rotationPivot());
    int place = scene.nodePlaces().get(node.id());
    List<Clip> changed = new ArrayList<>();
    for (int c = 0; c < clips.size(); c++) {
      // A part may also be moved round a point that no pivot names.
      TurnAxis line =
          c < scene.clips().size() ? TurnAxis.of(scene, scene.clips().get(c), place) : null;
      Vector3d old = line == null ? said : line.point();
      // From where the old pivot is at rest to where the new one is.
      Vector3d apart =
          local
              .transformPosition(new Vector3d(move))
              .sub(local.transformPosition(new Vector3d(old)));
      changed.add(path(clips.get(c), node, old, apart));
    }
    clips = changed;
    return moved(node, local.translate(move));
  }

  private static Node moved(Node node, Matrix4d rest) {
    if (node.transform() instanceof Trs own) {
      Vector3d place = rest.getTranslation(new Vector3d());
      return node.withTransform(new Trs(place, own.rotation(), own.scale()));
    }
    return node.withTransform(plain(rest));
  }

  /** The node with a move behind its own transform. */
  Node after(Node node, Vector3d move) {
    Matrix4d rest = node.transform().toMatrix().translate(move);
    if (moves(node.id())) {
      List<Clip> changed = new ArrayList<>();
      for (Clip clip : clips) {
        changed.add(after(clip, node, move));
      }
      clips = changed;
      return moved(node, rest);
    }
    return node.withTransform(plain(rest));
  }

  private Clip after(Clip clip, Node node, Vector3d move) {
    return path(clip, node, move, new Vector3d());
  }

  /** The clip with the node's translation as a point of it goes, and a constant beside. */
  private Clip path(Clip clip, Node node, Vector3d point, Vector3d beside) {
    Track t = null;
    Track r = null;
    Track s = null;
    List<Track> tracks = new ArrayList<>();
    for (Track track : clip.tracks()) {
      boolean own = track.targetId() == node.id();
      t = own && track.property().equals(Clip.TRANSLATION) ? track : t;
      r = own && track.property().equals(Clip.ROTATION) ? track : r;
      s = own && track.property().equals(Clip.SCALE) ? track : s;
      if (!own || !track.property().equals(Clip.TRANSLATION)) {
        tracks.add(track);
      }
    }
    if (t == null && r == null && s == null) {
      return clip;
    }
    Trs rest = node.transform() instanceof Trs trs ? trs : Trs.nearest(node.transform().toMatrix());
    if (r == null && s == null) {
      // Where nothing turns or scales the whole path is shifted.
      Vector3d shift = rest.rotation().transform(new Vector3d(point).mul(rest.scale())).add(beside);
      double[] shifted = points(t.values(), new Matrix4d().translation(shift), true);
      tracks.add(t.withValues(shifted, t.inSlopes(), t.outSlopes()));
      return withoutKeys(clip.withTracks(tracks).withKeys(clip.keys()), node);
    }
    double[] times = times(clip, t, r, s);
    double[] values = new double[3 * times.length];
    double[] sample = new double[4];
    Vector3d p = new Vector3d();
    Quaterniond q = new Quaterniond();
    for (int i = 0; i < times.length; i++) {
      p.set(point);
      if (s == null) {
        p.mul(rest.scale());
      } else {
        Curves.sample(s, times[i], sample);
        p.mul(sample[0], sample[1], sample[2]);
      }
      q.set(rest.rotation());
      if (r != null) {
        Curves.sample(r, times[i], sample);
        q.set(sample[0], sample[1], sample[2], sample[3]);
      }
      q.transform(p);
      if (t == null) {
        p.add(rest.translation());
      } else {
        Curves.sample(t, times[i], sample);
        p.add(sample[0], sample[1], sample[2]);
      }
      values[3 * i] = p.x + beside.x;
      values[3 * i + 1] = p.y + beside.y;
      values[3 * i + 2] = p.z + beside.z;
    }
    tracks.add(
        new Track(node.id(), Clip.TRANSLATION, Interpolation.LINEAR, 3, times, values, null, null));
    return withoutKeys(clip.withTracks(tracks).withKeys(clip.keys()), node);
  }

  /** Every key of the tracks, and every quarter of a frame where the node turns or scales. */
  private double[] times(Clip clip, Track... tracks) {
    TreeSet<Double> times = new TreeSet<>();
    for (Track track : tracks) {
      for (int k = 0; track != null && k < track.timesSeconds().length; k++) {
        double key = track.timesSeconds()[k];
        times.add(key);
        if (track.interpolation() == Interpolation.STEP && k > 0) {
          // The moment before a jump, so that the path does not lead up to it.
          times.add(Math.max(track.timesSeconds()[k - 1], key - BEFORE_STEP));
        }
      }
    }
    if (tracks[1] != null || tracks[2] != null || times.isEmpty()) {
      double rate = 4 * (scene.framesPerSecond() > 0 ? scene.framesPerSecond() : FRAMES_PER_SECOND);
      double first = times.isEmpty() ? clip.startSeconds() : times.first();
      double last = times.isEmpty() ? clip.endSeconds() : times.last();
      for (long f = (long) Math.ceil(first * rate); f <= last * rate; f++) {
        times.add(f / rate);
      }
    }
    return times.stream().mapToDouble(Double::doubleValue).toArray();
  }
}
