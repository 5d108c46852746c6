package ferry.stone.core.format.cache;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.files.RandomBytes;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/** How a kind of cache lays out its file. */
enum CacheKind {
  MDD("mdd", "MDD", ByteOrder.BIG_ENDIAN, 8),
  PC2("pc2", "PC2", ByteOrder.LITTLE_ENDIAN, 32);

  private static final byte[] MAGIC = "POINTCACHE2\0".getBytes(StandardCharsets.US_ASCII);
  private static final int BLOCK = 1 << 16;

  /** Frames a second where nothing says it: common practice, no source. */
  static final double USUAL_RATE = 24;

  final String key;
  final String label;
  final ByteOrder order;
  final int headBytes;

  CacheKind(String key, String label, ByteOrder order, int headBytes) {
    this.key = key;
    this.label = label;
    this.order = order;
    this.headBytes = headBytes;
  }

  static boolean isPc2(byte[] head) {
    return head.length >= MAGIC.length && Arrays.equals(Arrays.copyOf(head, MAGIC.length), MAGIC);
  }

  /**
   * What the head of a file says.
   *
   * @param seconds of each sample; by frame numbers over the rate for PC2
   * @param dataAt place of the first number
   */
  record Head(int points, double[] seconds, long dataAt, boolean rateAssumed) {}

  /**
   * @param rate frames a second of the scene, 0 when it has none
   */
  Head head(String resource, RandomBytes file, double rate) throws IOException, FormatException {
    if (file.size() < headBytes) {
      throw new FormatException(
          Kind.TRUNCATED,
          resource,
          "",
          file.size() == 0
              ? "the file is empty (0 bytes). Export or copy it again."
              : "the file ends inside its head of " + headBytes + " bytes. Copy it again.");
    }
    byte[] bytes = new byte[headBytes];
    file.read(0, bytes, 0, headBytes);
    ByteBuffer head = ByteBuffer.wrap(bytes).order(order);
    return this == MDD ? mdd(resource, file, head, rate) : pc2(resource, file, head, bytes, rate);
  }

  private Head mdd(String resource, RandomBytes file, ByteBuffer head, double rate)
      throws IOException, FormatException {
    int samples = head.getInt();
    int points = head.getInt();
    check(resource, file, samples, points, headBytes + 4L * Math.max(0, samples));
    double[] seconds = new double[samples];
    byte[] block = new byte[BLOCK];
    boolean rising = true;
    for (int s = 0; s < samples; ) {
      int count = Math.min(samples - s, BLOCK / 4);
      file.read(headBytes + 4L * s, block, 0, 4 * count);
      ByteBuffer times = ByteBuffer.wrap(block).order(order);
      for (int i = 0; i < count; i++, s++) {
        // A float's nearest short decimal is what was meant: 1/24 and not a little more.
        seconds[s] = Double.parseDouble(Float.toString(times.getFloat()));
        rising &= Double.isFinite(seconds[s]) && (s == 0 || seconds[s] > seconds[s - 1]);
      }
    }
    if (!rising) {
      for (int s = 0; s < samples; s++) {
        seconds[s] = s / (rate > 0 ? rate : USUAL_RATE);
      }
    }
    return new Head(points, seconds, headBytes + 4L * samples, !rising && !(rate > 0));
  }

  private Head pc2(String resource, RandomBytes file, ByteBuffer head, byte[] bytes, double rate)
      throws FormatException {
    if (!isPc2(bytes)) {
      throw new FormatException(
          Kind.NOT_THIS_FORMAT,
          resource,
          "",
          "the file does not begin with POINTCACHE2. It is no PC2, or damaged.");
    }
    int version = head.getInt(12);
    int points = head.getInt(16);
    float first = head.getFloat(20);
    float step = head.getFloat(24);
    int samples = head.getInt(28);
    if (version != 1) {
      throw new FormatException(
          Kind.UNSUPPORTED,
          resource,
          "byte 12",
          "the version is " + version + "; only 1 is known. Export it again.");
    }
    check(resource, file, samples, points, headBytes);
    boolean said = Float.isFinite(first) && Float.isFinite(step) && step > 0;
    double frames = rate > 0 ? rate : USUAL_RATE;
    double[] seconds = new double[samples];
    for (int s = 0; s < samples; s++) {
      seconds[s] = ((said ? first : 0) + s * (said ? (double) step : 1)) / frames;
    }
    return new Head(points, seconds, headBytes, !(rate > 0) || !said);
  }

  private static void check(String resource, RandomBytes file, int samples, int points, long dataAt)
      throws FormatException {
    boolean counts = samples > 0 && points > 0;
    long bytes = counts ? 12L * points : 0;
    boolean fits = counts && samples <= (file.size() - dataAt) / bytes;
    if (!counts || !fits) {
      throw new FormatException(
          counts && file.size() > dataAt ? Kind.TRUNCATED : Kind.CORRUPT,
          resource,
          "head",
          "it claims "
              + samples
              + " samples of "
              + points
              + " points, which a file of "
              + file.size()
              + " bytes does not hold. Export or copy it again.");
    }
  }

  /** The head of a file to be written. */
  byte[] head(int points, double[] seconds, double rate) {
    ByteBuffer head =
        ByteBuffer.allocate(headBytes + (this == MDD ? 4 * seconds.length : 0)).order(order);
    if (this == MDD) {
      head.putInt(seconds.length).putInt(points);
      for (double t : seconds) {
        head.putFloat((float) t);
      }
      return head.array();
    }
    double step = seconds.length > 1 ? (seconds[1] - seconds[0]) * rate : 1;
    head.put(MAGIC).putInt(1).putInt(points);
    head.putFloat((float) (seconds[0] * rate)).putFloat((float) step).putInt(seconds.length);
    return head.array();
  }
}
