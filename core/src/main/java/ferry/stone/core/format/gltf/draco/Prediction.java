package ferry.stone.core.format.gltf.draco;

/**
 * Values foretold by those before them (specification, section "Prediction Decoder"); stored are
 * the differences.
 */
abstract class Prediction {
  static final int DIFFERENCE = 0;
  static final int PARALLELOGRAM = 1;
  static final int MULTI_PARALLELOGRAM = 2;
  static final int CONSTRAINED_MULTI_PARALLELOGRAM = 4;
  static final int TEX_COORDS = 5;
  static final int GEOMETRIC_NORMAL = 6;

  final ValueOrder order;
  final int components;

  Prediction(ValueOrder order, int components) {
    this.order = order;
    this.components = components;
  }

  static Prediction of(int method, ValueOrder order, PackedAttribute position, int components)
      throws DracoException {
    if (method != DIFFERENCE && order.corners() == null) {
      throw new DracoException("values are predicted from triangles that are not there");
    }
    return switch (method) {
      case DIFFERENCE -> new Difference(order, components);
      case PARALLELOGRAM, MULTI_PARALLELOGRAM ->
          new Parallelograms(order, components, method == MULTI_PARALLELOGRAM);
      case CONSTRAINED_MULTI_PARALLELOGRAM -> new ChosenParallelograms(order, components);
      case TEX_COORDS -> new TexCoordPrediction(order, components, position);
      case GEOMETRIC_NORMAL -> new NormalPrediction(order, components, position);
      default ->
          throw DracoException.version("values are predicted in a way that is not published");
    };
  }

  /** Reads what the prediction needs. */
  void data(DracoBytes in, Correction correction) throws DracoException {
    correction.data(in);
  }

  /** Makes values of differences, in place. */
  abstract void run(int[] values, Correction correction) throws DracoException;

  /**
   * Whether the three values across an edge are known; then their parallelogram is.
   *
   * @param value that is to be foretold
   * @param corner at which it stands
   */
  final boolean parallelogram(int value, int corner, int[] values, int[] into) {
    Corners corners = order.corners();
    int[] valueOf = order.order().valueOf;
    int across = corners.opposite(corner);
    if (across < 0) {
      return false;
    }
    int opposite = valueOf[corners.vertex(across)];
    int next = valueOf[corners.vertex(Corners.next(across))];
    int previous = valueOf[corners.vertex(Corners.previous(across))];
    if (opposite >= value || next >= value || previous >= value) {
      return false;
    }
    for (int c = 0; c < components; c++) {
      into[c] =
          values[components * next + c]
              + values[components * previous + c]
              - values[components * opposite + c];
    }
    return true;
  }

  /** As the one before. */
  private static final class Difference extends Prediction {
    Difference(ValueOrder order, int components) {
      super(order, components);
    }

    @Override
    void run(int[] values, Correction correction) {
      int[] zero = new int[components];
      for (int i = 0; i < order.count(); i++) {
        int at = i * components;
        correction.apply(
            i == 0 ? zero : values, i == 0 ? 0 : at - components, values, at, components);
      }
    }
  }

  /** As the fourth corner of the parallelogram across an edge, or the mean of all around. */
  private static final class Parallelograms extends Prediction {
    private final boolean all;

    Parallelograms(ValueOrder order, int components, boolean all) {
      super(order, components);
      this.all = all;
    }

    @Override
    void run(int[] values, Correction correction) {
      int[] one = new int[components];
      int[] sum = new int[components];
      for (int i = 0; i < order.count(); i++) {
        int at = i * components;
        int start = order.order().corners[i];
        java.util.Arrays.fill(sum, 0);
        int found = 0;
        int corner = i == 0 ? -1 : start;
        while (corner >= 0) {
          if (parallelogram(i, corner, values, one)) {
            found++;
            for (int c = 0; c < components; c++) {
              sum[c] += one[c];
            }
          }
          corner = all ? order.corners().swingRight(corner) : -1;
          corner = corner == start ? -1 : corner;
        }
        if (found == 0 && i > 0) {
          correction.apply(values, at - components, values, at, components);
        } else {
          for (int c = 0; found > 1 && c < components; c++) {
            sum[c] /= found;
          }
          correction.apply(sum, 0, values, at, components);
        }
      }
    }
  }
}
