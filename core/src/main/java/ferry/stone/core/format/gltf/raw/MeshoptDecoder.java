package ferry.stone.core.format.gltf.raw;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;

/**
 * Unpacks buffer views after the bitstreams and filters that EXT_meshopt_compression publishes:
 * vertex attributes (version 0), triangle indices (version 1) and index sequences (version 1).
 */
final class MeshoptDecoder {
  /** The stream does not follow the published form. */
  static final class Damaged extends Exception {
    private static final long serialVersionUID = 1;

    Damaged(String problem) {
      super(problem);
    }
  }

  private static final int ATTRIBUTES = 0xa0;
  private static final int TRIANGLES = 0xe1;
  private static final int SEQUENCE = 0xd1;
  private static final int GROUP = 16;
  private static final int TAIL = 32;
  private static final int CODE_TABLE = 16;
  private static final int MOST_GROWTH = 64;

  private final byte[] in;
  private int at;

  private MeshoptDecoder(ByteBuffer source) {
    in = new byte[source.remaining()];
    source.duplicate().get(in);
  }

  /**
   * @param mode {@code ATTRIBUTES}, {@code TRIANGLES} or {@code INDICES}
   * @param count elements to unpack
   * @param stride bytes of an element
   * @param filter {@code NONE}, {@code OCTAHEDRAL}, {@code QUATERNION} or {@code EXPONENTIAL}
   */
  static ByteBuffer decode(ByteBuffer source, String mode, int count, int stride, String filter)
      throws Damaged {
    boolean fits =
        count >= 0 && (mode.equals("ATTRIBUTES") ? stride > 0 : stride == 2 || stride == 4);
    // Sixteen equal elements take two bits for each of their bytes: no stream grows by more.
    if (!fits || (long) count * stride > (long) MOST_GROWTH * source.remaining()) {
      throw new Damaged(
          count
              + " elements of "
              + stride
              + " bytes cannot be in "
              + source.remaining()
              + " bytes");
    }
    MeshoptDecoder decoder = new MeshoptDecoder(source);
    ByteBuffer out = ByteBuffer.allocate(count * stride).order(ByteOrder.LITTLE_ENDIAN);
    try {
      switch (mode) {
        case "ATTRIBUTES" -> decoder.attributes(out.array(), count, stride);
        case "TRIANGLES" -> decoder.triangles(out, count, stride);
        case "INDICES" -> decoder.sequence(out, count, stride);
        default -> throw new Damaged("\"" + mode + "\" is no mode");
      }
    } catch (ArrayIndexOutOfBoundsException e) {
      throw new Damaged("the packed data ends too early");
    }
    MeshoptFilters.apply(filter, out, count, stride);
    return out;
  }

  private int next() {
    return in[at++] & 0xff;
  }

  /** How many elements are packed together. */
  static int blockElements(int stride) {
    return Math.min(8192 / stride & ~(GROUP - 1), 256);
  }

  private void attributes(byte[] out, int count, int stride) throws Damaged {
    if (next() != ATTRIBUTES) {
      throw new Damaged("the packed attributes have another version than 0");
    }
    if (stride % 4 != 0 || stride > 256 || in.length < 1 + Math.max(stride, TAIL)) {
      throw new Damaged("the packed attributes are too short");
    }
    byte[] last = Arrays.copyOfRange(in, in.length - stride, in.length);
    int most = blockElements(stride);
    int[] deltas = new int[most];
    for (int first = 0; first < count; first += most) {
      int elements = Math.min(most, count - first);
      for (int b = 0; b < stride; b++) {
        int groups = (elements + GROUP - 1) / GROUP;
        int header = at;
        at += (groups + 3) / 4;
        for (int g = 0; g < groups; g++) {
          int bits = in[header + g / 4] >> 2 * (g % 4) & 3;
          group(bits, deltas, GROUP * g);
        }
        int value = last[b] & 0xff;
        for (int i = 0; i < elements; i++) {
          int delta = deltas[i] >>> 1 ^ -(deltas[i] & 1);
          value = value + delta & 0xff;
          out[(first + i) * stride + b] = (byte) value;
        }
        last[b] = (byte) value;
      }
    }
  }

  /** Sixteen values of 0, 2, 4 or 8 bits; the highest value of 2 and 4 bits stands for a byte. */
  private void group(int code, int[] out, int to) {
    if (code == 0) {
      Arrays.fill(out, to, Math.min(out.length, to + GROUP), 0);
      return;
    }
    if (code == 3) {
      for (int i = 0; i < GROUP; i++) {
        out[to + i] = next();
      }
      return;
    }
    int bits = 2 * code;
    int escape = (1 << bits) - 1;
    int packed = at;
    at += GROUP * bits / 8;
    for (int i = 0; i < GROUP; i++) {
      int bit = i * bits;
      int value = (in[packed + bit / 8] & 0xff) >> 8 - bits - bit % 8 & escape;
      out[to + i] = value == escape ? next() : value;
    }
  }

  private void triangles(ByteBuffer out, int count, int stride) throws Damaged {
    if (count % 3 != 0 || in.length < 1 + count / 3 + CODE_TABLE || next() != TRIANGLES) {
      throw new Damaged("the packed triangles are too short or have another version than 1");
    }
    int code = at;
    at += count / 3;
    int table = in.length - CODE_TABLE;
    TriangleFifo fifo = new TriangleFifo();
    int next = 0;
    int last = 0;
    for (int t = 0; t < count / 3; t++) {
      int c = in[code + t] & 0xff;
      int[] edge = fifo.edge(c >> 4);
      if (c < 0xf0) {
        int a = edge[0];
        int b = edge[1];
        int fec = c & 15;
        int third;
        if (fec < 13) {
          third = fec == 0 ? next++ : fifo.vertex(1 + fec);
          fifo.addVertex(third, fec == 0);
        } else {
          last = fec != 15 ? last + (fec - (fec ^ 3)) : last + zigzag();
          third = last;
          fifo.addVertex(third, true);
        }
        put(out, stride, a, b, third);
        fifo.addEdge(third, b);
        fifo.addEdge(a, third);
        continue;
      }
      boolean tabled = c < 0xfe;
      int aux = tabled ? in[table + (c & 15)] & 0xff : next();
      int fea = !tabled && c == 0xff ? 15 : 0;
      int feb = aux >> 4;
      int fec = aux & 15;
      if (!tabled && aux == 0) {
        next = 0;
      }
      int a = fea == 0 ? next++ : 0;
      int b = feb == 0 ? next++ : fifo.vertex(feb);
      int d = fec == 0 ? next++ : fifo.vertex(fec);
      if (!tabled) {
        if (fea == 15) {
          a = last += zigzag();
        }
        if (feb == 15) {
          b = last += zigzag();
        }
        if (fec == 15) {
          d = last += zigzag();
        }
      }
      put(out, stride, a, b, d);
      boolean newB = feb == 0 || (!tabled && feb == 15);
      boolean newD = fec == 0 || (!tabled && fec == 15);
      fifo.addTriangle(a, b, newB, d, newD);
    }
  }

  private static void put(ByteBuffer out, int stride, int a, int b, int c) {
    put(out, stride, a);
    put(out, stride, b);
    put(out, stride, c);
  }

  private static void put(ByteBuffer out, int stride, int value) {
    if (stride == 2) {
      out.putShort((short) value);
    } else {
      out.putInt(value);
    }
  }

  private void sequence(ByteBuffer out, int count, int stride) throws Damaged {
    if (next() != SEQUENCE) {
      throw new Damaged("the packed indices have another version than 1");
    }
    int[] last = new int[2];
    for (int i = 0; i < count; i++) {
      int v = varint();
      int which = v & 1;
      v >>>= 1;
      last[which] += v >>> 1 ^ -(v & 1);
      put(out, stride, last[which]);
    }
  }

  private int zigzag() {
    int v = varint();
    return v >>> 1 ^ -(v & 1);
  }

  private int varint() {
    int result = 0;
    for (int shift = 0; shift < 35; shift += 7) {
      int b = next();
      result |= (b & 127) << shift;
      if (b < 128) {
        break;
      }
    }
    return result;
  }

  /** The last sixteen edges and vertices. */
  static final class TriangleFifo {
    private final int[][] edges = new int[GROUP][2];
    private final int[] vertices = new int[GROUP];
    private int edgeAt;
    private int vertexAt;

    TriangleFifo() {
      Arrays.fill(vertices, -1);
      for (int[] edge : edges) {
        Arrays.fill(edge, -1);
      }
    }

    /** An edge by how long ago it was added, 0 for the last. */
    int[] edge(int ago) {
      return edges[edgeAt - 1 - ago & GROUP - 1];
    }

    /** A vertex by how long ago it was added, 1 for the last. */
    int vertex(int ago) {
      return vertices[vertexAt - ago & GROUP - 1];
    }

    void addEdge(int a, int b) {
      edges[edgeAt][0] = a;
      edges[edgeAt][1] = b;
      edgeAt = edgeAt + 1 & GROUP - 1;
    }

    /** A triangle that begins anew: its vertices, and its edges as the next one meets them. */
    void addTriangle(int a, int b, boolean newB, int c, boolean newC) {
      addVertex(a, true);
      addVertex(b, newB);
      addVertex(c, newC);
      addEdge(b, a);
      addEdge(c, b);
      addEdge(a, c);
    }

    void addVertex(int v, boolean fresh) {
      vertices[vertexAt] = v;
      vertexAt = vertexAt + (fresh ? 1 : 0) & GROUP - 1;
    }
  }
}
