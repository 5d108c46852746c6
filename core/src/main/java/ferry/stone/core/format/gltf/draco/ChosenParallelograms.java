package ferry.stone.core.format.gltf.draco;

/**
 * As the mean of up to four parallelograms around a vertex, of which the encoder left out those
 * across creases.
 */
final class ChosenParallelograms extends Prediction {
  private static final int MOST = 4;

  private final boolean[][] crease = new boolean[MOST][];
  private final int[] at = new int[MOST];

  ChosenParallelograms(ValueOrder order, int components) {
    super(order, components);
  }

  @Override
  void data(DracoBytes in, Correction correction) throws DracoException {
    for (int i = 0; i < MOST; i++) {
      int flags = in.count("creases", 3L * order.corners().faceCount());
      crease[i] = new boolean[flags];
      if (flags > 0) {
        RansBits bits = new RansBits(in);
        for (int j = 0; j < flags; j++) {
          crease[i][j] = bits.next();
        }
      }
    }
    correction.data(in);
  }

  @Override
  void run(int[] values, Correction correction) throws DracoException {
    int[][] each = new int[MOST][components];
    int[] sum = new int[components];
    for (int i = 0; i < order.count(); i++) {
      int found = i == 0 ? 0 : around(i, values, each);
      java.util.Arrays.fill(sum, 0);
      int used = 0;
      for (int k = 0; k < found; k++) {
        int flag = at[found - 1]++;
        if (flag >= crease[found - 1].length) {
          throw new DracoException("creases are missing");
        }
        if (!crease[found - 1][flag]) {
          used++;
          for (int c = 0; c < components; c++) {
            sum[c] += each[k][c];
          }
        }
      }
      int place = i * components;
      if (used == 0 && i > 0) {
        correction.apply(values, place - components, values, place, components);
      } else {
        for (int c = 0; used > 1 && c < components; c++) {
          sum[c] /= used;
        }
        correction.apply(sum, 0, values, place, components);
      }
    }
  }

  private int around(int value, int[] values, int[][] each) {
    Corners corners = order.corners();
    int start = order.order().corners[value];
    int corner = start;
    int found = 0;
    boolean leftwards = true;
    while (corner >= 0) {
      if (parallelogram(value, corner, values, each[found]) && ++found == MOST) {
        break;
      }
      corner = leftwards ? corners.swingLeft(corner) : corners.swingRight(corner);
      if (corner == start) {
        break;
      }
      if (corner < 0 && leftwards) {
        leftwards = false;
        corner = corners.swingRight(start);
      }
    }
    return found;
  }
}
