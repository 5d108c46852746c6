package ferry.stone.core.format.gltf.raw;

import ferry.stone.core.format.gltf.raw.MeshoptDecoder.TriangleFifo;
import java.util.Arrays;

/**
 * Packs vertex values and triangle indices, without loss, into the bitstreams that
 * EXT_meshopt_compression publishes: attributes version 0, triangles version 1. A triangle may
 * begin at another of its corners afterwards; its order and winding stay.
 */
public final class MeshoptEncoder {
  private static final int GROUP = 16;
  private static final int TAIL = 32;

  /**
   * Pairs of vertex codes that need no byte of their own. The first must be 0: that pair of two new
   * vertices means something else when it is written out. The others are common in regular grids.
   */
  private static final int[] TABLE = {
    0x00, 0x10, 0x20, 0x30, 0x40, 0x01, 0x02, 0x03, 0x21, 0x12, 0x32, 0x56, 0x67, 0x78, 0, 0
  };

  private static final int TABLED = 14;
  private static final int FIRST_WITHOUT_EDGE = 0xf0;
  private static final int WRITTEN_OUT = 15;

  private byte[] out;
  private int size;

  private MeshoptEncoder(int capacity) {
    out = new byte[capacity];
  }

  private void write(int value) {
    if (size == out.length) {
      out = Arrays.copyOf(out, size + (size >> 1) + 64);
    }
    out[size++] = (byte) value;
  }

  private void write(byte[] values) {
    if (size + values.length > out.length) {
      out = Arrays.copyOf(out, size + values.length + (size >> 1) + 64);
    }
    System.arraycopy(values, 0, out, size, values.length);
    size += values.length;
  }

  private byte[] bytes() {
    return Arrays.copyOf(out, size);
  }

  /**
   * @param data {@code count} elements of {@code stride} bytes, a multiple of 4 up to 256
   */
  public static byte[] attributes(byte[] data, int count, int stride) {
    MeshoptEncoder encoder = new MeshoptEncoder(data.length / 2 + 64);
    encoder.write(0xa0);
    byte[] first = Arrays.copyOf(data, stride);
    byte[] last = first.clone();
    int most = MeshoptDecoder.blockElements(stride);
    int[] deltas = new int[most];
    for (int from = 0; from < count; from += most) {
      int elements = Math.min(most, count - from);
      for (int b = 0; b < stride; b++) {
        int value = last[b] & 0xff;
        Arrays.fill(deltas, 0);
        for (int i = 0; i < elements; i++) {
          int now = data[(from + i) * stride + b] & 0xff;
          int delta = (byte) (now - value);
          deltas[i] = (delta << 1 ^ delta >> 31) & 0xff;
          value = now;
        }
        last[b] = (byte) value;
        encoder.block(deltas, (elements + GROUP - 1) / GROUP);
      }
    }
    encoder.write(new byte[Math.max(0, TAIL - stride)]);
    encoder.write(first);
    return encoder.bytes();
  }

  private void block(int[] deltas, int groups) {
    byte[] header = new byte[(groups + 3) / 4];
    int[] codes = new int[groups];
    for (int g = 0; g < groups; g++) {
      codes[g] = cheapest(deltas, GROUP * g);
      header[g / 4] |= (byte) (codes[g] << 2 * (g % 4));
    }
    write(header);
    for (int g = 0; g < groups; g++) {
      group(deltas, GROUP * g, codes[g]);
    }
  }

  private static int cheapest(int[] deltas, int from) {
    int zeros = 0;
    int overTwo = 0;
    int overFour = 0;
    for (int i = from; i < from + GROUP; i++) {
      zeros += deltas[i] == 0 ? 1 : 0;
      overTwo += deltas[i] >= 3 ? 1 : 0;
      overFour += deltas[i] >= 15 ? 1 : 0;
    }
    if (zeros == GROUP) {
      return 0;
    }
    int two = 4 + overTwo;
    int four = 8 + overFour;
    return two <= four && two < GROUP ? 1 : four < GROUP ? 2 : 3;
  }

  private void group(int[] deltas, int from, int code) {
    if (code == 0) {
      return;
    }
    if (code == 3) {
      for (int i = from; i < from + GROUP; i++) {
        write(deltas[i]);
      }
      return;
    }
    int bits = 2 * code;
    int escape = (1 << bits) - 1;
    int packed = 0;
    for (int i = 0; i < GROUP; i++) {
      packed = packed << bits | Math.min(escape, deltas[from + i]);
      if ((i + 1) * bits % 8 == 0) {
        write(packed);
        packed = 0;
      }
    }
    for (int i = from; i < from + GROUP; i++) {
      if (deltas[i] >= escape) {
        write(deltas[i]);
      }
    }
  }

  /** Packs whole triangles: {@code int[3*t]}. */
  public static byte[] triangles(int[] indices) {
    MeshoptEncoder data = new MeshoptEncoder(indices.length / 3 + 64);
    byte[] codes = new Triangles(data).codes(indices, null);
    MeshoptEncoder all = new MeshoptEncoder(1 + codes.length + data.size + GROUP);
    all.write(0xe1);
    all.write(codes);
    all.write(data.bytes());
    for (int pair : TABLE) {
      all.write(pair);
    }
    return all.bytes();
  }

  /** The triangles as they come back, each from the corner that packing begins it at. */
  public static int[] turned(int[] indices) {
    int[] turned = new int[indices.length];
    new Triangles(new MeshoptEncoder(indices.length / 3 + 64)).codes(indices, turned);
    return turned;
  }

  /** Number of bits by seven, the lowest first, of the distance to the last written out vertex. */
  private void distance(int from, int to) {
    int d = to - from;
    int v = d << 1 ^ d >> 31;
    while ((v & ~127) != 0) {
      write(v & 127 | 128);
      v >>>= 7;
    }
    write(v);
  }

  /** The state that reader and writer keep alike. */
  private static final class Triangles {
    private final MeshoptEncoder data;
    private final TriangleFifo fifo = new TriangleFifo();
    private int next;
    private int last;

    Triangles(MeshoptEncoder data) {
      this.data = data;
    }

    /**
     * @param turned takes the triangles as they are packed, or {@code null}
     */
    byte[] codes(int[] indices, int[] turned) {
      byte[] codes = new byte[indices.length / 3];
      for (int t = 0; t < codes.length; t++) {
        int a = indices[3 * t];
        int b = indices[3 * t + 1];
        int c = indices[3 * t + 2];
        int edge = -1;
        int turn = 0;
        for (int ago = 0; ago < WRITTEN_OUT && edge < 0; ago++) {
          int[] e = fifo.edge(ago);
          turn = is(e, a, b) ? 0 : is(e, b, c) ? 1 : is(e, c, a) ? 2 : -1;
          edge = turn >= 0 ? ago : -1;
        }
        int first = edge >= 0 ? turn : b == next ? 1 : c == next ? 2 : 0;
        int x = indices[3 * t + first];
        int y = indices[3 * t + (first + 1) % 3];
        int z = indices[3 * t + (first + 2) % 3];
        codes[t] = (byte) (edge >= 0 ? beside(edge, x, y, z) : alone(x, y, z));
        if (turned != null) {
          turned[3 * t] = x;
          turned[3 * t + 1] = y;
          turned[3 * t + 2] = z;
        }
      }
      return codes;
    }

    private static boolean is(int[] edge, int a, int b) {
      return edge[0] == a && edge[1] == b;
    }

    /** A triangle beside one of the last edges, which runs from a to b. */
    private int beside(int edge, int a, int b, int third) {
      int code = WRITTEN_OUT;
      if (third == next) {
        code = 0;
        next++;
      } else {
        for (int ago = 2; ago <= 13 && code == WRITTEN_OUT; ago++) {
          code = fifo.vertex(ago) == third ? ago - 1 : code;
        }
      }
      if (code == WRITTEN_OUT) {
        if (third == last - 1) {
          code = 13;
        } else if (third == last + 1) {
          code = 14;
        } else {
          data.distance(last, third);
        }
        last = third;
      }
      fifo.addVertex(third, code == 0 || code > 12);
      fifo.addEdge(third, b);
      fifo.addEdge(a, third);
      return edge << 4 | code;
    }

    private int alone(int a, int b, int c) {
      boolean fresh = a == next;
      next += fresh ? 1 : 0;
      int codeB = vertex(b);
      next += codeB == 0 ? 1 : 0;
      int codeC = vertex(c);
      next += codeC == 0 ? 1 : 0;
      int pair = codeB << 4 | codeC;
      int place = 0;
      while (place < TABLED && TABLE[place] != pair) {
        place++;
      }
      boolean tabled = fresh && place < TABLED;
      if (!tabled) {
        data.write(pair);
        if (!fresh) {
          last = written(a);
        }
        last = codeB == WRITTEN_OUT ? written(b) : last;
        last = codeC == WRITTEN_OUT ? written(c) : last;
      }
      fifo.addVertex(a, true);
      fifo.addVertex(b, codeB == 0 || codeB == WRITTEN_OUT);
      fifo.addVertex(c, codeC == 0 || codeC == WRITTEN_OUT);
      fifo.addEdge(b, a);
      fifo.addEdge(c, b);
      fifo.addEdge(a, c);
      return tabled ? FIRST_WITHOUT_EDGE | place : fresh ? 0xfe : 0xff;
    }

    /** New, one of the last fourteen, or to be written out. */
    private int vertex(int v) {
      if (v == next) {
        return 0;
      }
      for (int ago = 1; ago < WRITTEN_OUT; ago++) {
        if (fifo.vertex(ago) == v) {
          return ago;
        }
      }
      return WRITTEN_OUT;
    }

    private int written(int v) {
      data.distance(last, v);
      return v;
    }
  }
}
