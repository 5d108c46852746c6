package ferry.stone.core.scene.time;

/** What a mesh is at some moments, read when it is asked for. */
public interface Samples {
  int id();

  String name();

  int meshId();

  int sampleCount();

  /** Rising with the sample. */
  double timeSeconds(int sample);

  /** The moments of all samples. */
  default double[] allSeconds() {
    double[] seconds = new double[sampleCount()];
    for (int s = 0; s < seconds.length; s++) {
      seconds[s] = timeSeconds(s);
    }
    return seconds;
  }

  default double startSeconds() {
    return timeSeconds(0);
  }

  default double endSeconds() {
    return timeSeconds(sampleCount() - 1);
  }

  /** The last sample at or before a moment; the first before that. */
  default int sampleAt(double seconds) {
    int low = 0;
    int high = sampleCount() - 1;
    while (low < high) {
      int middle = (low + high + 1) >>> 1;
      if (timeSeconds(middle) <= seconds) {
        low = middle;
      } else {
        high = middle - 1;
      }
    }
    return low;
  }
}
