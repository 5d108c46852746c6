package ferry.stone.core.format.abc.read;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.abc.raw.AbcProperty;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.scene.time.PointCache;
import java.io.IOException;

/** What meshes of an archive are over time, read where and when it is asked for. */
final class AbcSamples {
  private AbcSamples() {}

  /** Reads a mesh of a sample. */
  interface Source {
    PolygonMesh mesh(int sample) throws IOException, FormatException;
  }

  private static IOException unreadable(FormatException e) {
    return new IOException(e.getMessage(), e);
  }

  /**
   * Vertices that move.
   *
   * @param points the property that holds them
   */
  record Moving(int id, String name, int meshId, AbcProperty points, int pointCount)
      implements PointCache {
    @Override
    public int sampleCount() {
      return points.sampleCount();
    }

    @Override
    public double timeSeconds(int sample) {
      return points.seconds(sample);
    }

    @Override
    public void read(int sample, int from, int count, float[] target) throws IOException {
      try {
        AbcProperty.Place place = points.place(sample);
        if (place.rows() != pointCount) {
          throw new IOException(
              name
                  + ", sample "
                  + sample
                  + ": it has "
                  + place.rows()
                  + " points where its mesh has "
                  + pointCount
                  + ". Export the file again.");
        }
        points.floats(place, 3 * from, 3 * count, target);
      } catch (FormatException e) {
        throw unreadable(e);
      }
    }
  }

  /**
   * A mesh that is another one over time.
   *
   * @param clock the property whose samples it has
   */
  record Changing(int id, String name, int meshId, AbcProperty clock, Source source)
      implements MeshSequence {
    @Override
    public int sampleCount() {
      return clock.sampleCount();
    }

    @Override
    public double timeSeconds(int sample) {
      return clock.seconds(sample);
    }

    @Override
    public PolygonMesh mesh(int sample) throws IOException {
      try {
        return source.mesh(sample);
      } catch (FormatException e) {
        throw unreadable(e);
      }
    }
  }
}
