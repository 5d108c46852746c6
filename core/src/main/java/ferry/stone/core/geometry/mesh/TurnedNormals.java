package ferry.stone.core.geometry.mesh;

import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;

/**
 * Normals that go with a surface whose vertices move. At each corner the two edges and the face's
 * direction span a frame; a normal turns as the inverse transpose of how that frame changes, as
 * normals do under a matrix, and one that several corners share takes the mean.
 */
public final class TurnedNormals {
  private static final int PARTS = 3;

  private final Attribute normals;
  private final Polygons faces;
  private final float[] parts;
  private final double[] frame = new double[9];

  /**
   * @param normals of the mesh, with a value at each corner
   */
  public TurnedNormals(PolygonMesh mesh, Attribute normals) {
    this.normals = normals;
    faces = mesh.faces();
    parts = new float[PARTS * faces.cornerCount()];
    Coordinates points = mesh.points();
    each(
        v -> points.at(v),
        (corner, value) -> {
          for (int k = 0; k < PARTS; k++) {
            double part = 0;
            for (int c = 0; c < 3; c++) {
              part += frame[3 * k + c] * normals.values()[3 * value + c];
            }
            parts[PARTS * corner + k] = (float) part;
          }
        });
  }

  private interface Numbers {
    double at(int place);
  }

  private interface Corner {
    void at(int corner, int value);
  }

  /** The values for other points, {@code float[3*n]}; where a face has no size, the old ones. */
  public float[] at(float[] points) {
    double[] sums = new double[normals.values().length];
    double[] turned = new double[3];
    each(
        i -> points[i],
        (corner, value) -> {
          if (turned(corner, turned)) {
            for (int c = 0; c < 3; c++) {
              sums[3 * value + c] += turned[c];
            }
          }
        });
    float[] result = normals.values().clone();
    for (int i = 0; i < result.length; i += 3) {
      double length = Math.hypot(Math.hypot(sums[i], sums[i + 1]), sums[i + 2]);
      if (length > 0) {
        for (int c = 0; c < 3; c++) {
          result[i + c] = (float) (sums[i + c] / length);
        }
      }
    }
    return result;
  }

  /** The reciprocal of the frame that stands, times the parts of the corner's normal. */
  private boolean turned(int corner, double[] into) {
    double[] f = frame;
    cross(f, 3, 6, into, 0);
    double volume = f[0] * into[0] + f[1] * into[1] + f[2] * into[2];
    if (!(Math.abs(volume) > 0)) {
      return false;
    }
    double length = 0;
    for (int c = 0; c < 3; c++) {
      int d = (c + 1) % 3;
      int e = (c + 2) % 3;
      double a = f[3 + d] * f[6 + e] - f[3 + e] * f[6 + d];
      double b = f[6 + d] * f[e] - f[6 + e] * f[d];
      double n = f[d] * f[3 + e] - f[e] * f[3 + d];
      into[c] =
          (parts[PARTS * corner] * a
                  + parts[PARTS * corner + 1] * b
                  + parts[PARTS * corner + 2] * n)
              / volume;
      length += into[c] * into[c];
    }
    length = Math.sqrt(length);
    for (int c = 0; c < 3; c++) {
      into[c] /= length;
    }
    return length > 0 && Double.isFinite(length);
  }

  /** Goes through all corners with the frame of each in {@link #frame}. */
  private void each(Numbers points, Corner visit) {
    for (int face = 0; face < faces.faceCount(); face++) {
      int start = faces.start(face);
      int size = faces.size(face);
      for (int k = 0; k < size && size > 2; k++) {
        int corner = start + k;
        int value = normals.valueOf(corner, faces.vertex(corner), face);
        if (value < 0) {
          continue;
        }
        int here = 3 * faces.vertex(corner);
        int next = 3 * faces.vertex(start + (k + 1) % size);
        int last = 3 * faces.vertex(start + (k + size - 1) % size);
        for (int c = 0; c < 3; c++) {
          frame[c] = points.at(next + c) - points.at(here + c);
          frame[3 + c] = points.at(last + c) - points.at(here + c);
        }
        cross(frame, 0, 3, frame, 6);
        double length = Math.hypot(Math.hypot(frame[6], frame[7]), frame[8]);
        for (int c = 6; c < 9 && length > 0; c++) {
          frame[c] /= length;
        }
        visit.at(corner, value);
      }
    }
  }

  private static void cross(double[] f, int a, int b, double[] into, int at) {
    double x = f[a + 1] * f[b + 2] - f[a + 2] * f[b + 1];
    double y = f[a + 2] * f[b] - f[a] * f[b + 2];
    double z = f[a] * f[b + 1] - f[a + 1] * f[b];
    into[at] = x;
    into[at + 1] = y;
    into[at + 2] = z;
  }
}
