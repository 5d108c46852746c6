package ferry.stone.core.format.abc.raw;

import ferry.stone.core.format.files.SeekableOutput;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * An archive that is being written: samples go to the file as they come, lists of where they are
 * when what holds them is closed. The same calls make the same bytes.
 */
public final class AbcOut implements Closeable {
  /** Layout of the tree: {@code AbcCoreOgawa} has known no other. */
  private static final int TREE = 0;

  /** Version of the standard's library whose layout this is, as it counts them. */
  private static final int LIBRARY = 10808;

  private static final int MOST_INDEXED = 254;
  private static final int LONGEST_INDEXED = 255;

  /** Seconds by which a sample may be off its even place. */
  private static final double EVEN = 1e-9;

  final OgawaOut out;
  private final String metaData;
  private final ObjectOut top;
  private final List<TimeSampling> samplings = new ArrayList<>(List.of(TimeSampling.IDENTITY));
  private final List<Integer> longest = new ArrayList<>(List.of(1));
  private final Map<String, Integer> indexed = new LinkedHashMap<>();
  private ByteBuffer buffer = OgawaOut.numbers(1 << 12);

  /**
   * @param metaData what the archive says of itself, as {@code name=value;name=value}
   */
  public AbcOut(SeekableOutput file, String metaData) throws IOException {
    out = new OgawaOut(file);
    this.metaData = metaData;
    top = new ObjectOut(this, "", "", "");
  }

  public ObjectOut top() {
    return top;
  }

  /**
   * The sampling of some moments: the same for the same ones.
   *
   * @param seconds rising, at least one
   */
  public int sampling(double[] seconds) {
    TimeSampling wanted = of(seconds);
    for (int i = 0; i < samplings.size(); i++) {
      TimeSampling there = samplings.get(i);
      if (there.perCycle() == wanted.perCycle() && Arrays.equals(there.stored(), wanted.stored())) {
        return i;
      }
    }
    samplings.add(wanted);
    longest.add(0);
    return samplings.size() - 1;
  }

  private static TimeSampling of(double[] seconds) {
    int count = seconds.length;
    if (count < 2) {
      return new TimeSampling(1, new double[] {seconds[0]});
    }
    double step = (seconds[count - 1] - seconds[0]) / (count - 1);
    for (int s = 0; s < count; s++) {
      if (Math.abs(seconds[s] - seconds[0] - s * step) > EVEN) {
        return new TimeSampling(Double.POSITIVE_INFINITY, seconds);
      }
    }
    return new TimeSampling(nearRate(step), new double[] {seconds[0]});
  }

  /** The step of a whole rate, where it is one: a sum of rounded times is a little off. */
  private static double nearRate(double step) {
    double whole = 1 / Math.rint(1 / step);
    return Math.abs(whole - step) < EVEN * step ? whole : step;
  }

  void sampled(int sampling, int count) {
    longest.set(sampling, Math.max(longest.get(sampling), count));
  }

  /**
   * Place of a text among the shared ones, 255 where it has none: it follows then.
   *
   * @param text of metadata
   */
  int metaData(String text) {
    if (text.isEmpty()) {
      return 0;
    }
    Integer known = indexed.get(text);
    if (known != null) {
      return known;
    }
    if (indexed.size() >= MOST_INDEXED || HeadersOut.utf8(text).length > LONGEST_INDEXED) {
      return 0xff;
    }
    indexed.put(text, indexed.size() + 1);
    return indexed.size();
  }

  /** Memory for the values of a sample, shared by all properties. */
  ByteBuffer buffer(long bytes) throws IOException {
    if (bytes > Integer.MAX_VALUE - 16) {
      throw new IOException(
          "a sample of " + bytes + " bytes is more than 2 GB: split the mesh, or land its parts.");
    }
    if (buffer.capacity() < bytes) {
      buffer = OgawaOut.numbers((int) bytes);
    }
    return buffer.clear();
  }

  /** Writes what is left, and the root. */
  public void finish() throws IOException {
    LongList root = new LongList();
    root.add(out.data(OgawaOut.numbers(4).putInt(TREE).array()));
    root.add(out.data(OgawaOut.numbers(4).putInt(LIBRARY).array()));
    root.add(top.close());
    root.add(out.data(HeadersOut.utf8(metaData)));
    root.add(out.data(samplingBytes()));
    root.add(out.data(indexedBytes()));
    out.finish(out.group(root));
  }

  private byte[] samplingBytes() {
    HeadersOut bytes = new HeadersOut();
    for (int i = 0; i < samplings.size(); i++) {
      TimeSampling sampling = samplings.get(i);
      bytes.number(longest.get(i), HeadersOut.WORD);
      bytes.real(sampling.isAcyclic() ? AbcArchive.ACYCLIC : sampling.perCycle());
      bytes.number(sampling.stored().length, HeadersOut.WORD);
      for (double t : sampling.stored()) {
        bytes.real(t);
      }
    }
    return bytes.toArray();
  }

  private byte[] indexedBytes() {
    HeadersOut bytes = new HeadersOut();
    for (String text : indexed.keySet()) {
      byte[] utf8 = HeadersOut.utf8(text);
      bytes.small(utf8.length);
      bytes.put(utf8);
    }
    return bytes.toArray();
  }

  @Override
  public void close() throws IOException {
    out.close();
  }
}
