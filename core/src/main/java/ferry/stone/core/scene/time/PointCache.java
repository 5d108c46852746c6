package ferry.stone.core.scene.time;

import java.io.IOException;

/** Vertex positions of a mesh over time, read by ranges so that it need not fit in memory. */
public interface PointCache extends Samples {
  int pointCount();

  /**
   * Copies points {@code from} to {@code from + count} of a sample into {@code float[3*count]}.
   *
   * @throws IOException when the file behind it cannot be read
   */
  void read(int sample, int from, int count, float[] target) throws IOException;
}
