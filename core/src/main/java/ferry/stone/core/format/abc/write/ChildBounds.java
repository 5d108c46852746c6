package ferry.stone.core.format.abc.write;

import ferry.stone.core.format.abc.raw.AbcProperty.Type;
import ferry.stone.core.format.abc.raw.CompoundOut;
import ferry.stone.core.format.abc.raw.Pod;
import ferry.stone.core.format.abc.raw.PropertyOut;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.motion.ClipPoses;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import java.util.TreeSet;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/**
 * Boxes around all that hangs on an object, in the space of that object, and around the whole
 * archive: a program that reads it knows where things are before it reads them.
 */
final class ChildBounds {
  private static final String PROPERTY = ".childBnds";

  /** More boxes of shapes than these are not held: then none are written. */
  private static final long MOST = 1_000_000;

  private final Scene scene;
  private final CompoundOut[] xforms;
  private final Boxes[] shapes;
  private final TreeSet<Double>[] moments;
  private final boolean[] holds;

  /**
   * @param xforms where each node's box goes, {@code null} where it has none
   * @param shapes boxes of what each node shows, {@code null} for nothing
   */
  @SuppressWarnings("unchecked")
  ChildBounds(Scene scene, CompoundOut[] xforms, Boxes[] shapes) {
    this.scene = scene;
    this.xforms = xforms;
    this.shapes = shapes;
    moments = new TreeSet[shapes.length + 1];
    holds = new boolean[shapes.length + 1];
  }

  /**
   * @param top of the archive
   */
  void write(CompoundOut top, Progress progress) throws IOException {
    long boxes = 0;
    for (Boxes shape : shapes) {
      boxes += shape == null ? 0 : shape.count();
    }
    if (boxes == 0 || boxes > MOST) {
      return;
    }
    Clip clip = scene.clips().isEmpty() ? null : scene.clips().get(0);
    gather(clip);
    PropertyOut[] properties = new PropertyOut[holds.length];
    TreeSet<Double> all = new TreeSet<>();
    for (int i = 0; i < holds.length; i++) {
      CompoundOut holder = i == shapes.length ? top : xforms[i];
      if (holds[i] && holder != null) {
        double[] seconds =
            moments[i].isEmpty()
                ? null
                : moments[i].stream().mapToDouble(Double::doubleValue).toArray();
        properties[i] =
            holder.property(
                PROPERTY, new Type(false, Pod.FLOAT64, 6), "interpretation=box", seconds);
        all.addAll(moments[i]);
      }
    }
    if (all.isEmpty()) {
      all.add(0.0);
    }
    ClipPoses poses = ClipPoses.of(scene, clip);
    boolean first = true;
    for (double moment : all) {
      progress.checkCancelled();
      Bounds[] around = at(moment, poses.at(moment).world());
      for (int i = 0; i < properties.length; i++) {
        boolean due = moments[i].isEmpty() ? first : moments[i].contains(moment);
        if (properties[i] != null && due) {
          Bounds b = around[i];
          double[] box = {b.minX(), b.minY(), b.minZ(), b.maxX(), b.maxY(), b.maxZ()};
          properties[i].add(b.isEmpty() ? Boxes.NOTHING : box);
        }
      }
      first = false;
    }
  }

  /** When what hangs on each node is elsewhere or another. */
  private void gather(Clip clip) {
    Map<Integer, TreeSet<Double>> moved = new HashMap<>();
    if (clip != null) {
      for (Clip.Track track : clip.tracks()) {
        if (track.isTransform()) {
          TreeSet<Double> own = moved.computeIfAbsent(track.targetId(), k -> new TreeSet<>());
          for (double t : track.timesSeconds()) {
            own.add(t);
          }
        }
      }
    }
    for (int i = 0; i < moments.length; i++) {
      moments[i] = new TreeSet<>();
    }
    for (int i = shapes.length - 1; i >= 0; i--) {
      Node node = scene.nodes().get(i);
      if (shapes[i] != null) {
        holds[i] = true;
        double[] seconds = shapes[i].seconds();
        for (double t : seconds == null ? new double[0] : seconds) {
          moments[i].add(t);
        }
      }
      int above = node.parent() < 0 ? shapes.length : node.parent();
      if (holds[i]) {
        holds[above] = true;
        moments[above].addAll(moments[i]);
        moments[above].addAll(moved.getOrDefault(node.id(), new TreeSet<>()));
      }
    }
  }

  /** The box of each node's own space at a moment; last that of all. */
  private Bounds[] at(double moment, Matrix4d[] world) {
    Bounds[] around = new Bounds[shapes.length + 1];
    Arrays.fill(around, Bounds.EMPTY);
    for (int i = shapes.length - 1; i >= 0; i--) {
      if (!holds[i]) {
        continue;
      }
      if (shapes[i] != null) {
        Bounds own = shapes[i].at(moment);
        around[i] = around[i].union(own);
        // Carried at once: boxes of turned boxes grow at each step.
        around[shapes.length] = around[shapes.length].union(carried(own, world[i]));
      }
      int parent = scene.nodes().get(i).parent();
      if (parent >= 0) {
        Matrix4d local = new Matrix4d(world[parent]).invert().mul(world[i]);
        around[parent] = around[parent].union(carried(around[i], local));
      }
    }
    return around;
  }

  /** Around the corners of a box that a matrix carries. */
  private static Bounds carried(Bounds box, Matrix4d matrix) {
    Bounds all = Bounds.EMPTY;
    if (box.isEmpty() || !matrix.isFinite()) {
      return all;
    }
    Vector3d p = new Vector3d();
    for (int corner = 0; corner < 8; corner++) {
      p.set(
          (corner & 1) == 0 ? box.minX() : box.maxX(),
          (corner & 2) == 0 ? box.minY() : box.maxY(),
          (corner & 4) == 0 ? box.minZ() : box.maxZ());
      matrix.transformPosition(p);
      all = all.union(new Bounds(p.x, p.y, p.z, p.x, p.y, p.z));
    }
    return all;
  }
}
