package ferry.stone.core.format.gltf.draco;

/** Texture coordinates as the positions of their triangle lie (Isenburg and Snoeyink 2003). */
final class TexCoordPrediction extends Prediction {
  private final PackedAttribute position;
  private boolean[] turns;
  private int left;

  TexCoordPrediction(ValueOrder order, int components, PackedAttribute position)
      throws DracoException {
    super(order, components);
    this.position = position;
    if (components != 2) {
      throw new DracoException("texture coordinates have " + components + " numbers");
    }
  }

  @Override
  void data(DracoBytes in, Correction correction) throws DracoException {
    left = in.i32();
    if (left < 0 || left > 3L * order.corners().faceCount()) {
      throw new DracoException("it claims " + left + " turns of texture coordinates");
    }
    turns = new boolean[left];
    RansBits bits = new RansBits(in);
    boolean turn = true;
    for (int i = 0; i < left; i++) {
      turn = bits.next() == turn;
      turns[i] = turn;
    }
    correction.data(in);
  }

  @Override
  void run(int[] values, Correction correction) throws DracoException {
    int[] predicted = new int[2];
    Corners corners = order.corners();
    int[] valueOf = order.order().valueOf;
    for (int i = 0; i < order.count(); i++) {
      int corner = order.order().corners[i];
      int next = valueOf[corners.vertex(Corners.next(corner))];
      int previous = valueOf[corners.vertex(Corners.previous(corner))];
      predict(i, next, previous, values, predicted);
      correction.apply(predicted, 0, values, 2 * i, 2);
    }
  }

  private void predict(int i, int next, int previous, int[] values, int[] into)
      throws DracoException {
    if (next < i && previous < i && byTriangle(i, next, previous, values, into)) {
      return;
    }
    int from = next < i ? next : i - 1;
    into[0] = from < 0 ? 0 : values[2 * from];
    into[1] = from < 0 ? 0 : values[2 * from + 1];
  }

  private boolean byTriangle(int i, int next, int previous, int[] values, int[] into)
      throws DracoException {
    long nu = values[2 * next];
    long nv = values[2 * next + 1];
    long pu = values[2 * previous] - nu;
    long pv = values[2 * previous + 1] - nv;
    if (pu == 0 && pv == 0) {
      into[0] = (int) nu;
      into[1] = (int) nv;
      return true;
    }
    long pn = 0;
    long dot = 0;
    for (int c = 0; c < 3; c++) {
      long along = at(previous, c) - at(next, c);
      pn += along * along;
      dot += along * (at(i, c) - at(next, c));
    }
    if (pn == 0) {
      return false;
    }
    if (Math.max(Math.abs(nu), Math.abs(nv)) > Long.divideUnsigned(Long.MAX_VALUE, pn)) {
      throw new DracoException("texture coordinates are too large");
    }
    long xu = nu * pn + dot * pu;
    long xv = nv * pn + dot * pv;
    long off = 0;
    for (int c = 0; c < 3; c++) {
      long along = at(previous, c) - at(next, c);
      long x = at(next, c) + dot * along / pn;
      long d = at(i, c) - x;
      off += d * d;
    }
    long length = root(off * pn);
    if (left == 0) {
      throw new DracoException("turns of texture coordinates are missing");
    }
    boolean turn = turns[--left];
    long cu = pv * length;
    long cv = -pu * length;
    into[0] = (int) ((turn ? xu + cu : xu - cu) / pn);
    into[1] = (int) ((turn ? xv + cv : xv - cv) / pn);
    return true;
  }

  private long at(int value, int c) {
    return position.whole[3 * position.order.valueOf()[order.pointOf()[value]] + c];
  }

  /** The whole part of a square root, of a number without sign. */
  private static long root(long number) {
    if (number == 0) {
      return 0;
    }
    long act = number;
    long root = 1;
    while (Long.compareUnsigned(act, 2) >= 0) {
      root *= 2;
      act = Long.divideUnsigned(act, 4);
    }
    do {
      root = Long.divideUnsigned(root + Long.divideUnsigned(number, root), 2);
    } while (Long.compareUnsigned(root * root, number) > 0);
    return root;
  }
}
