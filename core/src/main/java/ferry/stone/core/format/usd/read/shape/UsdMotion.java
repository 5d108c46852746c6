package ferry.stone.core.format.usd.read.shape;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.scene.time.PointCache;
import java.io.IOException;

/** What meshes of a stage are over time, read where and when it is asked for. */
final class UsdMotion {
  private UsdMotion() {}

  /** Reads a mesh at a time code. */
  interface Source {
    PolygonMesh mesh(double code) throws IOException, FormatException;
  }

  private static IOException unreadable(FormatException e) {
    return new IOException(e.getMessage(), e);
  }

  /**
   * Vertices that move.
   *
   * @param rate time codes a second
   */
  record Moving(
      int id,
      String name,
      int meshId,
      UsdSamples samples,
      double[] codes,
      double rate,
      int pointCount)
      implements PointCache {
    @Override
    public int sampleCount() {
      return codes.length;
    }

    @Override
    public double timeSeconds(int sample) {
      return codes[sample] / rate;
    }

    @Override
    public void read(int sample, int from, int count, float[] target) throws IOException {
      try {
        samples.floats(sample, 3 * from, 3 * count, target);
      } catch (FormatException e) {
        throw unreadable(e);
      }
    }
  }

  /**
   * A mesh that is another one over time.
   *
   * @param codes time codes of its samples
   * @param rate time codes a second
   */
  record Changing(int id, String name, int meshId, double[] codes, double rate, Source source)
      implements MeshSequence {
    @Override
    public int sampleCount() {
      return codes.length;
    }

    @Override
    public double timeSeconds(int sample) {
      return codes[sample] / rate;
    }

    @Override
    public PolygonMesh mesh(int sample) throws IOException {
      try {
        return source.mesh(codes[sample]);
      } catch (FormatException e) {
        throw unreadable(e);
      }
    }
  }
}
