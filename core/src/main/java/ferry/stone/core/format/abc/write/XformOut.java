package ferry.stone.core.format.abc.write;

import ferry.stone.core.format.abc.raw.AbcProperty.Type;
import ferry.stone.core.format.abc.raw.CompoundOut;
import ferry.stone.core.format.abc.raw.Pod;
import ferry.stone.core.format.abc.raw.PropertyOut;
import ferry.stone.core.math.DoubleList;
import ferry.stone.core.motion.Curves;
import ferry.stone.core.motion.NearestAngles;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.EulerOrder;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * Where an object stands: translation, angles about z, y and x, scale; a matrix where these do not
 * say it. The first operation is the outermost.
 */
final class XformOut {
  static final String SCHEMA = "schema=AbcGeom_Xform_v3";
  static final String TITLE = ".xform";

  /** Translation, angles about z, y and x, scale, matrix: type by 16. */
  private static final int[] OPS = {0x10, 0x60, 0x50, 0x40, 0x00, 0x30};

  private static final int MATRIX = 5;

  /** Where the numbers of each but the matrix begin, and where the last ends. */
  private static final int[] STARTS = {0, 3, 4, 5, 6, 9};

  private static final double[] NOTHING = {0, 0, 0, 0, 0, 0, 1, 1, 1};
  private static final int OF_MATRIX = 16;

  /** Of numbers that were taken out of a matrix. */
  private static final double ROUNDING = 1e-12;

  private XformOut() {}

  /**
   * @param tracks of the node by property; translation, rotation and scale with the same moments
   */
  static void write(CompoundOut xform, Node node, Map<String, Clip.Track> tracks)
      throws IOException {
    boolean moves =
        tracks.containsKey(Clip.TRANSLATION)
            || tracks.containsKey(Clip.ROTATION)
            || tracks.containsKey(Clip.SCALE);
    LocalTransform transform = node.transform();
    Matrix4d matrix = transform.toMatrix();
    if (!moves && matrix.equals(new Matrix4d(), 0)) {
      return;
    }
    Trs trs = transform instanceof Trs t ? t : Trs.nearest(matrix);
    boolean whole = !moves && !(transform instanceof Trs) && !isSame(trs, matrix);
    List<double[]> samples = new ArrayList<>();
    double[] seconds = null;
    if (moves) {
      seconds = seconds(tracks);
      moving(trs, tracks, seconds, samples);
    } else {
      samples.add(whole ? rows(matrix) : numbers(trs, new Vector3d()));
    }
    List<Integer> parts = whole ? List.of(MATRIX) : needed(samples);
    int[] ops = parts.stream().mapToInt(op -> OPS[op]).toArray();
    List<double[]> written = samples;
    if (!whole) {
      written = samples.stream().map(sample -> picked(sample, parts)).toList();
    }
    Type flag = new Type(false, Pod.BOOLEAN, 1);
    PropertyOut inherits = xform.property(".inherits", flag, "", seconds);
    PropertyOut list = xform.property(".ops", new Type(false, Pod.UINT8, ops.length), "", seconds);
    Type numbers = new Type(false, Pod.FLOAT64, written.get(0).length);
    PropertyOut values = xform.property(".vals", numbers, "", seconds);
    for (double[] sample : written) {
      inherits.add(1);
      list.add(ops);
      values.add(sample);
    }
    xform.property("isNotConstantIdentity", flag, "", null).add(1);
    int[] animated = animated(written);
    if (animated.length > 0) {
      xform.property(".animChans", new Type(true, Pod.UINT32, 1), "", null).add(animated);
    }
  }

  private static boolean isSame(Trs trs, Matrix4d matrix) {
    double size = matrix.getTranslation(new Vector3d()).length() + 1;
    return trs.toMatrix().equals(matrix, 1e-12 * size);
  }

  static double[] seconds(Map<String, Clip.Track> tracks) {
    for (String property : List.of(Clip.TRANSLATION, Clip.ROTATION, Clip.SCALE)) {
      if (tracks.containsKey(property)) {
        return tracks.get(property).timesSeconds();
      }
    }
    return null;
  }

  private static void moving(
      Trs rest, Map<String, Clip.Track> tracks, double[] seconds, List<double[]> samples) {
    double[] value = new double[4];
    Vector3d angles = new Vector3d();
    for (double t : seconds) {
      Vector3d translation = new Vector3d(rest.translation());
      Quaterniond rotation = new Quaterniond(rest.rotation());
      Vector3d scale = new Vector3d(rest.scale());
      if (tracks.containsKey(Clip.TRANSLATION)) {
        Curves.sample(tracks.get(Clip.TRANSLATION), t, value);
        translation.set(value);
      }
      if (tracks.containsKey(Clip.ROTATION)) {
        Curves.sample(tracks.get(Clip.ROTATION), t, value);
        rotation.set(value[0], value[1], value[2], value[3]);
      }
      if (tracks.containsKey(Clip.SCALE)) {
        Curves.sample(tracks.get(Clip.SCALE), t, value);
        scale.set(value);
      }
      samples.add(numbers(Trs.of(translation, rotation, scale), angles));
    }
  }

  /**
   * @param angles those of the sample before, which get those of this one: a turn goes on
   */
  private static double[] numbers(Trs trs, Vector3d angles) {
    angles.set(NearestAngles.of(EulerOrder.XYZ, trs.rotation(), angles));
    return new double[] {
      trs.translation().x(),
      trs.translation().y(),
      trs.translation().z(),
      angles.z,
      angles.y,
      angles.x,
      trs.scale().x(),
      trs.scale().y(),
      trs.scale().z()
    };
  }

  /** For row vectors, row by row: the columns of ours one after another. */
  private static double[] rows(Matrix4d matrix) {
    return matrix.get(new double[OF_MATRIX]);
  }

  /**
   * The operations that ever do something; translation where none does, since one must be there.
   */
  private static List<Integer> needed(List<double[]> samples) {
    List<Integer> needed = new ArrayList<>();
    for (int op = 0; op < MATRIX; op++) {
      int from = STARTS[op];
      int to = STARTS[op + 1];
      if (samples.stream().anyMatch(s -> does(s, from, to))) {
        needed.add(op);
      }
    }
    return needed.isEmpty() ? List.of(0) : needed;
  }

  private static boolean does(double[] sample, int from, int to) {
    for (int i = from; i < to; i++) {
      if (!(Math.abs(sample[i] - NOTHING[i]) <= ROUNDING)) {
        return true;
      }
    }
    return false;
  }

  private static double[] picked(double[] sample, List<Integer> ops) {
    DoubleList picked = new DoubleList(sample.length);
    for (int op : ops) {
      for (int i = STARTS[op]; i < STARTS[op + 1]; i++) {
        picked.add(sample[i]);
      }
    }
    return picked.toArray();
  }

  /** Places of the numbers that change. */
  private static int[] animated(List<double[]> samples) {
    double[] first = samples.get(0);
    return IntStream.range(0, first.length)
        .filter(i -> samples.stream().anyMatch(s -> s[i] != first[i]))
        .toArray();
  }
}
