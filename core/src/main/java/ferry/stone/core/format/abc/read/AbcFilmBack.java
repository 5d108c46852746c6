package ferry.stone.core.format.abc.read;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.abc.raw.AbcCompound;
import ferry.stone.core.format.abc.raw.AbcObject;
import ferry.stone.core.format.abc.raw.AbcProperty;
import ferry.stone.core.format.files.ReadReport;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import org.joml.Matrix3d;

/**
 * Operations on the film back of a camera: translations, scales and matrices of the picture's
 * window, whose half width is 1, for row vectors, the last one first; as the library's {@code
 * CameraSample::getScreenWindow} has it.
 */
final class AbcFilmBack {
  private static final int OF_MATRIX = 9;
  private static final double NOTHING = 1e-9;

  private AbcFilmBack() {}

  /**
   * @return how much wider and higher the window is, and how far it is moved to the right and up
   */
  static double[] read(ReadReport report, AbcObject object, AbcCompound geometry)
      throws IOException, FormatException {
    AbcProperty types = geometry.value(".filmBackOps").orElse(null);
    AbcProperty numbers = geometry.value(".filmBackChannels").orElse(null);
    if (types == null) {
      return new double[] {1, 1, 0, 0};
    }
    List<String> ops = types.texts(0);
    double[] values = numbers == null ? new double[0] : numbers.doubles(0);
    // JOML's columns are the rows of the file: for row vectors the product runs the other way.
    Matrix3d all = new Matrix3d();
    int at = 0;
    for (String op : ops) {
      int width = op.startsWith("m") ? OF_MATRIX : 2;
      if (at + width > values.length) {
        throw report.broken(object.path(), "the operations of its film back have too few numbers.");
      }
      Matrix3d own = new Matrix3d();
      switch (op.isEmpty() ? ' ' : op.charAt(0)) {
        case 't' -> own.m20(values[at]).m21(values[at + 1]);
        case 's' -> own.m00(values[at]).m11(values[at + 1]);
        default -> own.set(Arrays.copyOfRange(values, at, at + width));
      }
      all.mul(own);
      at += width;
    }
    boolean turned = Math.abs(all.m01()) > NOTHING || Math.abs(all.m10()) > NOTHING;
    if (turned || !(all.m00() > 0 && all.m11() > 0)) {
      report.lost(
          "camera-not-read",
          object.path(),
          "The film back is turned, sheared or mirrored, which has no place here: the picture is"
              + " cut as if it were not.");
      return new double[] {1, 1, 0, 0};
    }
    if (numbers != null && !numbers.isConstant()) {
      report.lost(
          "camera-motion-not-read",
          object.path(),
          "The film back changes over time: it is read as it is at first.");
    }
    return new double[] {all.m00(), all.m11(), all.m20(), all.m21()};
  }
}
