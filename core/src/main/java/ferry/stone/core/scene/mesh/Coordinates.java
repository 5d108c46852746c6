package ferry.stone.core.scene.mesh;

import ferry.stone.core.math.Bounds;
import java.util.Arrays;
import org.joml.Matrix4dc;

/** Points in space: x, y, z of each in turn, as float, or as double where the source needed it. */
public final class Coordinates {
  private final float[] floats;
  private final double[] doubles;

  /** Worked out when it is first asked for: all that asks for it later gets the same. */
  private volatile Extent extent;

  /**
   * @param box around the finite points
   * @param finite whether all points are
   */
  private record Extent(Bounds box, boolean finite) {}

  private Coordinates(float[] floats, double[] doubles) {
    this.floats = floats;
    this.doubles = doubles;
    if (length() % 3 != 0) {
      throw new IllegalArgumentException("not a whole number of points: " + length());
    }
  }

  /** Takes over the array ({@code float[3*n]}): the caller must not write to it again. */
  public static Coordinates of(float[] xyz) {
    return new Coordinates(xyz, null);
  }

  /** Takes over the array ({@code double[3*n]}): the caller must not write to it again. */
  public static Coordinates of(double[] xyz) {
    return new Coordinates(null, xyz);
  }

  private int length() {
    return floats != null ? floats.length : doubles.length;
  }

  /** How many points. */
  public int count() {
    return length() / 3;
  }

  public boolean isDouble() {
    return doubles != null;
  }

  public double x(int point) {
    return at(3 * point);
  }

  public double y(int point) {
    return at(3 * point + 1);
  }

  public double z(int point) {
    return at(3 * point + 2);
  }

  /** The number at a place of the flat array. */
  public double at(int place) {
    return floats != null ? floats[place] : doubles[place];
  }

  /** Whether all points are the same numbers. */
  public boolean isSame(Coordinates other) {
    int n = length();
    if (n != other.length()) {
      return false;
    }
    boolean alike = floats != null && other.floats != null;
    int from = alike ? Arrays.mismatch(floats, other.floats) : 0;
    // 0 and −0 are the same number with other bits.
    for (int i = from < 0 ? n : from; i < n; i++) {
      if (at(i) != other.at(i)) {
        return false;
      }
    }
    return true;
  }

  /** Whether all points are somewhere: none is infinite or no number. */
  public boolean isFinite() {
    return extent().finite;
  }

  /** As floats: the array itself when these are floats (do not write), else a rounded copy. */
  public float[] toFloats() {
    if (floats != null) {
      return floats;
    }
    float[] copy = new float[doubles.length];
    for (int i = 0; i < copy.length; i++) {
      copy[i] = (float) doubles[i];
    }
    return copy;
  }

  /** The box around the finite points; empty when there are none. */
  public Bounds bounds() {
    return extent().box;
  }

  private Extent extent() {
    Extent known = extent;
    if (known == null) {
      known = floats != null ? plain(floats) : plain(doubles);
      extent = known;
    }
    return known;
  }

  /** The box around the finite points after a transform ({@code null} for none). */
  public Bounds bounds(Matrix4dc m) {
    if (m == null) {
      return bounds();
    }
    Extent plain = extent();
    if (plain.finite && turnsByRightAngles(m)) {
      return plain.box.transform(m);
    }
    double[] lo = {Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY};
    double[] hi = {Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY};
    int n = length();
    for (int i = 0; i < n; i += 3) {
      double px = at(i);
      double py = at(i + 1);
      double pz = at(i + 2);
      double x = m.m00() * px + m.m10() * py + m.m20() * pz + m.m30();
      double y = m.m01() * px + m.m11() * py + m.m21() * pz + m.m31();
      double z = m.m02() * px + m.m12() * py + m.m22() * pz + m.m32();
      if (Double.isFinite(x + y + z)) {
        lo[0] = Math.min(lo[0], x);
        lo[1] = Math.min(lo[1], y);
        lo[2] = Math.min(lo[2], z);
        hi[0] = Math.max(hi[0], x);
        hi[1] = Math.max(hi[1], y);
        hi[2] = Math.max(hi[2], z);
      }
    }
    return new Bounds(lo[0], lo[1], lo[2], hi[0], hi[1], hi[2]);
  }

  /** Whether each axis becomes an axis, scaled or not: then boxes become boxes. */
  private static boolean turnsByRightAngles(Matrix4dc m) {
    return one(m.m00(), m.m10(), m.m20())
        && one(m.m01(), m.m11(), m.m21())
        && one(m.m02(), m.m12(), m.m22());
  }

  private static boolean one(double a, double b, double c) {
    return (a == 0 ? 0 : 1) + (b == 0 ? 0 : 1) + (c == 0 ? 0 : 1) <= 1;
  }

  private static Extent plain(float[] xyz) {
    float minX = Float.POSITIVE_INFINITY;
    float minY = Float.POSITIVE_INFINITY;
    float minZ = Float.POSITIVE_INFINITY;
    float maxX = Float.NEGATIVE_INFINITY;
    float maxY = Float.NEGATIVE_INFINITY;
    float maxZ = Float.NEGATIVE_INFINITY;
    boolean finite = true;
    for (int i = 0; i + 2 < xyz.length; i += 3) {
      float x = xyz[i];
      float y = xyz[i + 1];
      float z = xyz[i + 2];
      // Not a number where one is infinite or none.
      if (x - x + (y - y) + (z - z) == 0) {
        minX = x < minX ? x : minX;
        minY = y < minY ? y : minY;
        minZ = z < minZ ? z : minZ;
        maxX = x > maxX ? x : maxX;
        maxY = y > maxY ? y : maxY;
        maxZ = z > maxZ ? z : maxZ;
      } else {
        finite = false;
      }
    }
    return new Extent(new Bounds(minX, minY, minZ, maxX, maxY, maxZ), finite);
  }

  private static Extent plain(double[] xyz) {
    double minX = Double.POSITIVE_INFINITY;
    double minY = Double.POSITIVE_INFINITY;
    double minZ = Double.POSITIVE_INFINITY;
    double maxX = Double.NEGATIVE_INFINITY;
    double maxY = Double.NEGATIVE_INFINITY;
    double maxZ = Double.NEGATIVE_INFINITY;
    boolean finite = true;
    for (int i = 0; i + 2 < xyz.length; i += 3) {
      double x = xyz[i];
      double y = xyz[i + 1];
      double z = xyz[i + 2];
      if (x - x + (y - y) + (z - z) == 0) {
        minX = x < minX ? x : minX;
        minY = y < minY ? y : minY;
        minZ = z < minZ ? z : minZ;
        maxX = x > maxX ? x : maxX;
        maxY = y > maxY ? y : maxY;
        maxZ = z > maxZ ? z : maxZ;
      } else {
        finite = false;
      }
    }
    return new Extent(new Bounds(minX, minY, minZ, maxX, maxY, maxZ), finite);
  }

  /** The points after a transform, in 64-bit numbers: {@code double[3*n]}. */
  public double[] placed(Matrix4dc m) {
    int n = length();
    double[] d = new double[n];
    for (int i = 0; i < n; i += 3) {
      double x = at(i);
      double y = at(i + 1);
      double z = at(i + 2);
      d[i] = m.m00() * x + m.m10() * y + m.m20() * z + m.m30();
      d[i + 1] = m.m01() * x + m.m11() * y + m.m21() * z + m.m31();
      d[i + 2] = m.m02() * x + m.m12() * y + m.m22() * z + m.m32();
    }
    return d;
  }

  /** The points after a transform, in the same precision. */
  public Coordinates transform(Matrix4dc m) {
    if (floats == null) {
      return new Coordinates(null, placed(m));
    }
    float[] f = new float[floats.length];
    for (int i = 0; i < f.length; i += 3) {
      double x = floats[i];
      double y = floats[i + 1];
      double z = floats[i + 2];
      f[i] = (float) (m.m00() * x + m.m10() * y + m.m20() * z + m.m30());
      f[i + 1] = (float) (m.m01() * x + m.m11() * y + m.m21() * z + m.m31());
      f[i + 2] = (float) (m.m02() * x + m.m12() * y + m.m22() * z + m.m32());
    }
    return new Coordinates(f, null);
  }

  /** Some of the points, in the order given, in the same precision. */
  public Coordinates picked(int[] points) {
    float[] f = floats != null ? new float[3 * points.length] : null;
    double[] d = floats != null ? null : new double[3 * points.length];
    for (int i = 0; i < points.length; i++) {
      if (f != null) {
        System.arraycopy(floats, 3 * points[i], f, 3 * i, 3);
      } else {
        System.arraycopy(doubles, 3 * points[i], d, 3 * i, 3);
      }
    }
    return new Coordinates(f, d);
  }

  /** Several runs of points one after another; double as soon as one of them is. */
  public static Coordinates joined(java.util.List<Coordinates> runs) {
    int count = Math.toIntExact(runs.stream().mapToLong(Coordinates::length).sum());
    boolean any = runs.stream().anyMatch(Coordinates::isDouble);
    float[] f = any ? null : new float[count];
    double[] d = any ? new double[count] : null;
    int at = 0;
    for (Coordinates run : runs) {
      int n = run.length();
      if (f != null) {
        System.arraycopy(run.floats, 0, f, at, n);
      } else {
        for (int i = 0; i < n; i++) {
          d[at + i] = run.at(i);
        }
      }
      at += n;
    }
    return new Coordinates(f, d);
  }
}
