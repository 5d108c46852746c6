package ferry.stone.core.format.gltf.draco;

/** Normals as the triangles around their vertex lie. */
final class NormalPrediction extends Prediction {
  /** A sum of areas above it is made smaller, as the specification does. */
  private static final long MOST = 1 << 29;

  private final PackedAttribute position;
  private RansBits flips;
  private Octahedron octahedron;

  NormalPrediction(ValueOrder order, int components, PackedAttribute position) {
    super(order, components);
    this.position = position;
  }

  @Override
  void data(DracoBytes in, Correction correction) throws DracoException {
    correction.data(in);
    octahedron = correction.onOctahedron();
    if (octahedron == null || components != 2) {
      throw new DracoException("directions are not stored as directions");
    }
    flips = new RansBits(in);
  }

  @Override
  void run(int[] values, Correction correction) {
    int[] normal = new int[3];
    int[] predicted = new int[2];
    for (int i = 0; i < order.count(); i++) {
      sum(order.order().corners[i], normal);
      octahedron.onto(normal);
      if (flips.next()) {
        normal[0] = -normal[0];
        normal[1] = -normal[1];
        normal[2] = -normal[2];
      }
      octahedron.unfold(normal, predicted);
      correction.apply(predicted, 0, values, 2 * i, 2);
    }
  }

  /** The sum of the areas of the triangles around a corner's vertex. */
  private void sum(int start, int[] into) {
    Corners corners = order.corners();
    long x = 0;
    long y = 0;
    long z = 0;
    boolean leftwards = true;
    int corner = start;
    while (corner >= 0) {
      int next = Corners.next(corner);
      int previous = Corners.previous(corner);
      long ax = at(next, 0) - at(start, 0);
      long ay = at(next, 1) - at(start, 1);
      long az = at(next, 2) - at(start, 2);
      long bx = at(previous, 0) - at(start, 0);
      long by = at(previous, 1) - at(start, 1);
      long bz = at(previous, 2) - at(start, 2);
      x += ay * bz - az * by;
      y += az * bx - ax * bz;
      z += ax * by - ay * bx;
      if (leftwards) {
        corner = corners.swingLeft(corner);
        if (corner < 0) {
          leftwards = false;
          corner = corners.swingRight(start);
        } else if (corner == start) {
          corner = -1;
        }
      } else {
        corner = corners.swingRight(corner);
      }
    }
    long sum = Math.abs(x) + Math.abs(y) + Math.abs(z);
    long by = sum > MOST ? sum / MOST : 1;
    into[0] = (int) (x / by);
    into[1] = (int) (y / by);
    into[2] = (int) (z / by);
  }

  private long at(int corner, int c) {
    int value = order.order().valueOf[order.corners().vertex(corner)];
    int point = order.pointOf()[value];
    return position.whole[3 * position.order.valueOf()[point] + c];
  }
}
