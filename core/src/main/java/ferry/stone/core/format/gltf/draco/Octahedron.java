package ferry.stone.core.format.gltf.draco;

/**
 * Directions as two whole numbers on an unfolded octahedron (specification, section "Normal
 * Octahedron Transform"; Cigolle and others 2014).
 */
final class Octahedron {
  private static final int LEAST_BITS = 2;
  private static final int MOST_BITS = 30;

  final int mostQuantized;
  final int most;
  final int centre;
  private final float step;

  Octahedron(int bits) throws DracoException {
    if (bits < LEAST_BITS || bits > MOST_BITS) {
      throw new DracoException("directions are quantized to " + bits + " bits");
    }
    mostQuantized = (1 << bits) - 1;
    most = mostQuantized - 1;
    centre = most / 2;
    step = 2f / most;
  }

  /** The octahedron whose largest number is so large. */
  static Octahedron ofMost(int mostQuantized) throws DracoException {
    return new Octahedron(32 - Integer.numberOfLeadingZeros(mostQuantized));
  }

  void direction(int s, int t, double[] into, int at) {
    float y = s * step - 1f;
    float z = t * step - 1f;
    float x = 1f - Math.abs(y) - Math.abs(z);
    float off = Math.max(0, -x);
    y += y < 0 ? off : -off;
    z += z < 0 ? off : -off;
    float square = x * x + y * y + z * z;
    float by = square < 1e-6f ? 0 : (float) (1 / Math.sqrt(square));
    into[at] = x * by;
    into[at + 1] = y * by;
    into[at + 2] = z * by;
  }

  /** Brings a vector onto the octahedron, whole. */
  void onto(int[] v) {
    long sum = Math.abs((long) v[0]) + Math.abs((long) v[1]) + Math.abs((long) v[2]);
    if (sum == 0) {
      v[0] = centre;
      return;
    }
    v[0] = (int) ((long) v[0] * centre / sum);
    v[1] = (int) ((long) v[1] * centre / sum);
    int rest = centre - Math.abs(v[0]) - Math.abs(v[1]);
    v[2] = v[2] >= 0 ? rest : -rest;
  }

  /** The two numbers of a whole vector on the octahedron. */
  void unfold(int[] v, int[] into) {
    int s;
    int t;
    if (v[0] >= 0) {
      s = v[1] + centre;
      t = v[2] + centre;
    } else {
      s = v[1] < 0 ? Math.abs(v[2]) : most - Math.abs(v[2]);
      t = v[2] < 0 ? Math.abs(v[1]) : most - Math.abs(v[1]);
    }
    if (s == 0 && t == 0 || s == 0 && t == most || s == most && t == 0) {
      s = most;
      t = most;
    } else if (s == 0 && t > centre) {
      t = centre - (t - centre);
    } else if (s == most && t < centre) {
      t = centre + (centre - t);
    } else if (t == most && s < centre) {
      s = centre + (centre - s);
    } else if (t == 0 && s > centre) {
      s = centre - (s - centre);
    }
    into[0] = s;
    into[1] = t;
  }

  boolean isInDiamond(int s, int t) {
    return Math.abs(s) + Math.abs(t) <= centre;
  }

  void invertDiamond(int[] p) {
    int signS;
    int signT;
    if (p[0] >= 0 && p[1] >= 0) {
      signS = 1;
      signT = 1;
    } else if (p[0] <= 0 && p[1] <= 0) {
      signS = -1;
      signT = -1;
    } else {
      signS = p[0] > 0 ? 1 : -1;
      signT = p[1] > 0 ? 1 : -1;
    }
    int cornerS = signS * centre;
    int cornerT = signT * centre;
    int s = 2 * p[0] - cornerS;
    int t = 2 * p[1] - cornerT;
    boolean same = signS * signT >= 0;
    int swapped = same ? -t : t;
    t = same ? -s : s;
    s = swapped;
    p[0] = (s + cornerS) / 2;
    p[1] = (t + cornerT) / 2;
  }

  int within(int x) {
    return x > centre ? x - mostQuantized : x < -centre ? x + mostQuantized : x;
  }
}
