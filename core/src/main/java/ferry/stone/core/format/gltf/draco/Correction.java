package ferry.stone.core.format.gltf.draco;

/** How a stored difference makes a value of its prediction. */
abstract class Correction {
  private static final int NONE = -1;
  private static final int DELTA = 0;
  private static final int WRAP = 1;
  private static final int OCTAHEDRON = 2;
  private static final int OCTAHEDRON_CANONICAL = 3;

  static Correction of(int kind) throws DracoException {
    return switch (kind) {
      case NONE, DELTA -> new Delta();
      case WRAP -> new Wrap();
      case OCTAHEDRON -> new OnOctahedron(false);
      case OCTAHEDRON_CANONICAL -> new OnOctahedron(true);
      default -> throw new DracoException("differences are stored in an unknown way");
    };
  }

  /** Whether differences are stored as they are, and not with their sign in the lowest bit. */
  boolean isPositive() {
    return false;
  }

  abstract void data(DracoBytes in) throws DracoException;

  /**
   * @param predicted from {@code from} on
   * @param values differences from {@code at} on, which become values
   */
  abstract void apply(int[] predicted, int from, int[] values, int at, int components);

  private static final class Delta extends Correction {
    @Override
    void data(DracoBytes in) {}

    @Override
    void apply(int[] predicted, int from, int[] values, int at, int components) {
      for (int c = 0; c < components; c++) {
        values[at + c] += predicted[from + c];
      }
    }
  }

  /** Values stay between the least and the most. */
  private static final class Wrap extends Correction {
    private int least;
    private int most;
    private int span;

    @Override
    void data(DracoBytes in) throws DracoException {
      least = in.i32();
      most = in.i32();
      long dif = (long) most - least;
      if (dif < 0 || dif >= Integer.MAX_VALUE) {
        throw new DracoException("the range of an attribute is not one");
      }
      span = (int) dif + 1;
    }

    @Override
    void apply(int[] predicted, int from, int[] values, int at, int components) {
      for (int c = 0; c < components; c++) {
        int value = Math.max(least, Math.min(most, predicted[from + c])) + values[at + c];
        values[at + c] = value > most ? value - span : value < least ? value + span : value;
      }
    }
  }

  private static final class OnOctahedron extends Correction {
    private final boolean canonical;
    private final int[] p = new int[2];
    private Octahedron octahedron;

    OnOctahedron(boolean canonical) {
      this.canonical = canonical;
    }

    @Override
    boolean isPositive() {
      return true;
    }

    Octahedron octahedron() {
      return octahedron;
    }

    @Override
    void data(DracoBytes in) throws DracoException {
      octahedron = Octahedron.ofMost(in.i32());
      if (canonical) {
        in.i32();
      }
    }

    @Override
    void apply(int[] predicted, int from, int[] values, int at, int components) {
      int centre = octahedron.centre;
      p[0] = predicted[from] - centre;
      p[1] = predicted[from + 1] - centre;
      boolean inside = octahedron.isInDiamond(p[0], p[1]);
      if (!inside) {
        octahedron.invertDiamond(p);
      }
      int turns = canonical && !isBottomLeft() ? turns() : 0;
      turn(turns);
      p[0] = octahedron.within(p[0] + values[at]);
      p[1] = octahedron.within(p[1] + values[at + 1]);
      turn((4 - turns) % 4);
      if (!inside) {
        octahedron.invertDiamond(p);
      }
      values[at] = p[0] + centre;
      values[at + 1] = p[1] + centre;
    }

    private boolean isBottomLeft() {
      return p[0] == 0 && p[1] == 0 || p[0] < 0 && p[1] <= 0;
    }

    private int turns() {
      if (p[0] == 0) {
        return p[1] == 0 ? 0 : p[1] > 0 ? 3 : 1;
      }
      if (p[0] > 0) {
        return p[1] >= 0 ? 2 : 1;
      }
      return p[1] <= 0 ? 0 : 3;
    }

    private void turn(int turns) {
      int x = p[0];
      int y = p[1];
      p[0] = turns == 1 ? y : turns == 2 ? -x : turns == 3 ? -y : x;
      p[1] = turns == 1 ? -x : turns == 2 ? -y : turns == 3 ? x : y;
    }
  }

  /** The octahedron that differences lie on; {@code null} for others. */
  Octahedron onOctahedron() {
    return this instanceof OnOctahedron on ? on.octahedron() : null;
  }
}
