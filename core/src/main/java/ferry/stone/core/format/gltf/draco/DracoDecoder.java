package ferry.stone.core.format.gltf.draco;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;

/**
 * Reads a packed mesh: head, metadata, connectivity, attributes.
 *
 * <table>
 * <caption>Head, little-endian</caption>
 * <tr><td>mark</td><td>5 bytes, {@code DRACO}</td></tr>
 * <tr><td>version</td><td>uint8 major, uint8 minor: 2.2</td></tr>
 * <tr><td>kind</td><td>uint8: 1 for a mesh (0 points, not read)</td></tr>
 * <tr><td>method</td><td>uint8: 0 sequential, 1 Edgebreaker</td></tr>
 * <tr><td>flags</td><td>uint16: 0x8000 metadata follow</td></tr>
 * </table>
 */
public final class DracoDecoder {
  private static final byte[] MARK = "DRACO".getBytes(StandardCharsets.US_ASCII);
  private static final int METADATA = 0x8000;
  private static final int MOST_DEPTH = 64;
  private static final int MOST_ATTRIBUTES = 256;

  private final DracoBytes in;
  private final DracoMemory memory;

  private DracoDecoder(byte[] bytes, DracoMemory memory) {
    in = new DracoBytes(bytes, 0, bytes.length);
    this.memory = memory;
  }

  public static DracoMesh read(byte[] bytes, DracoMemory memory) throws DracoException {
    try {
      return new DracoDecoder(bytes, memory).mesh();
    } catch (IndexOutOfBoundsException | NegativeArraySizeException e) {
      // Numbers of a damaged stream lead anywhere.
      throw new DracoException("its numbers lead out of it (" + e.getMessage() + ")");
    }
  }

  private DracoMesh mesh() throws DracoException {
    for (byte b : MARK) {
      if (in.u8() != b) {
        throw new DracoException("it does not begin as a Draco stream does");
      }
    }
    int major = in.u8();
    int minor = in.u8();
    if (major != 2 || minor != 2) {
      throw DracoException.version(
          "it is of version " + major + "." + minor + " of the bitstream; 2.2 is read");
    }
    int kind = in.u8();
    int method = in.u8();
    int flags = in.u16();
    if (kind != 1) {
      throw DracoException.version("it holds bare points and no mesh");
    }
    if ((flags & METADATA) != 0) {
      int sets = in.count("sets of metadata", in.remaining());
      for (int i = 0; i < sets; i++) {
        in.varint();
        metadata(0);
      }
      metadata(0);
    }
    return switch (method) {
      case 0 -> sequential();
      case 1 -> edgebreaker();
      default -> throw DracoException.version("its method " + method + " is not published");
    };
  }

  /** Names and values beside the mesh, and sets of them inside: glTF gives them no meaning. */
  private void metadata(int depth) throws DracoException {
    if (depth > MOST_DEPTH) {
      throw new DracoException("its metadata lie too deep in each other");
    }
    int entries = in.count("metadata", in.remaining());
    for (int i = 0; i < entries; i++) {
      in.part(in.u8());
      in.part(in.varint());
    }
    int inside = in.count("metadata", in.remaining());
    for (int i = 0; i < inside; i++) {
      in.part(in.u8());
      metadata(depth + 1);
    }
  }

  private DracoMesh sequential() throws DracoException {
    int faces = in.count("faces", Integer.MAX_VALUE / 3);
    int points = in.count("vertices", Integer.MAX_VALUE / 3);
    memory.claim(Math.max(faces, points));
    int[] triangles;
    if (in.u8() == 0) {
      triangles = RansSymbols.read(in, 3 * faces, 1);
      int last = 0;
      for (int i = 0; i < triangles.length; i++) {
        int by = triangles[i] >>> 1;
        last += (triangles[i] & 1) == 0 ? by : -by;
        triangles[i] = last;
      }
    } else {
      if (3L * faces > in.remaining()) {
        throw new DracoException("the stream ends early");
      }
      triangles = new int[3 * faces];
      for (int i = 0; i < triangles.length; i++) {
        triangles[i] =
            points < 256
                ? in.u8()
                : points < 1 << 16 ? in.u16() : points < 1 << 21 ? in.varint() : in.i32();
      }
    }
    for (int point : triangles) {
      if (point < 0 || point >= points) {
        throw new DracoException("a triangle has a vertex that is not there");
      }
    }
    AttributeReader reader = new AttributeReader(in, points);
    int decoders = in.u8();
    List<List<PackedAttribute>> all = new ArrayList<>();
    for (int i = 0; i < decoders; i++) {
      all.add(attributes());
    }
    int[] same = new int[points];
    java.util.Arrays.setAll(same, i -> i);
    for (List<PackedAttribute> attributes : all) {
      reader.read(attributes, new ValueOrder(null, null, same, same));
    }
    return new DracoMesh(points, triangles, reader.values());
  }

  private List<PackedAttribute> attributes() throws DracoException {
    int count = in.count("attributes", Math.min(MOST_ATTRIBUTES, in.remaining()));
    List<PackedAttribute> attributes = new ArrayList<>();
    for (int i = 0; i < count; i++) {
      attributes.add(PackedAttribute.head(in));
    }
    for (PackedAttribute attribute : attributes) {
      attribute.decoder = in.u8();
    }
    return attributes;
  }

  private DracoMesh edgebreaker() throws DracoException {
    Edgebreaker mesh = Edgebreaker.read(in, in.u8(), memory);
    int[] triangles = new int[mesh.table.opposite.length];
    int points = MeshPoints.of(mesh, triangles);
    int decoders = in.u8();
    int[] seamsOf = new int[decoders];
    boolean[] byDegree = new boolean[decoders];
    for (int i = 0; i < decoders; i++) {
      int data = in.i8();
      boolean corner = in.u8() == 1;
      byDegree[i] = in.u8() == 1;
      if (data >= mesh.seams.size() || corner && (data < 0 || byDegree[i])) {
        throw new DracoException("an attribute names a connectivity that is not there");
      }
      seamsOf[i] = corner ? data : -1;
    }
    List<List<PackedAttribute>> all = new ArrayList<>();
    for (int i = 0; i < decoders; i++) {
      all.add(attributes());
    }
    AttributeReader reader = new AttributeReader(in, points);
    for (int i = 0; i < decoders; i++) {
      Corners corners = seamsOf[i] < 0 ? mesh.table : mesh.seams.get(seamsOf[i]);
      Traversal order = Traversal.of(corners, byDegree[i]);
      reader.read(all.get(i), ValueOrder.of(corners, order, triangles, points));
    }
    return new DracoMesh(points, triangles, reader.values());
  }
}
