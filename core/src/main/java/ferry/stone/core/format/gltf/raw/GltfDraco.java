package ferry.stone.core.format.gltf.raw;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.gltf.draco.DracoDecoder;
import ferry.stone.core.format.gltf.draco.DracoException;
import ferry.stone.core.format.gltf.draco.DracoMesh;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Iterator;
import java.util.Map;
import java.util.TreeMap;

/**
 * Accessors whose numbers are packed with their primitive (KHR_draco_mesh_compression): as if they
 * had a view of their own. An accessor that has one as well is read from it.
 */
public final class GltfDraco {
  private static final int UNSIGNED_INT = 5125;
  private static final int FLOAT = 5126;

  /** What a face takes while it is unpacked and as numbers, with a few attributes. */
  private static final int BYTES_A_FACE = 160;

  private final GltfContainer container;
  private final Map<Integer, Packed> packed = new TreeMap<>();
  private int lastView = -1;
  private DracoMesh last;

  /**
   * @param attribute by which the stream names it; −1 for the triangles
   */
  private record Packed(int view, int attribute, String path) {}

  GltfDraco(GltfContainer container) throws FormatException {
    this.container = container;
    JsonNode meshes = container.root().path("meshes");
    for (int m = 0; m < meshes.size(); m++) {
      JsonNode primitives = meshes.get(m).path("primitives");
      for (int p = 0; p < primitives.size(); p++) {
        String path = "/meshes/" + m + "/primitives/" + p;
        add(primitives.get(p), path + "/extensions/" + GltfExtensions.DRACO);
      }
    }
  }

  private void add(JsonNode primitive, String path) throws FormatException {
    JsonNode own = primitive.at("/extensions/" + GltfExtensions.DRACO);
    if (!own.isObject()) {
      return;
    }
    int view = container.integer(own, "bufferView", -1, path);
    put(primitive.path("indices"), new Packed(view, -1, path));
    Iterator<Map.Entry<String, JsonNode>> names = own.path("attributes").fields();
    while (names.hasNext()) {
      String name = names.next().getKey();
      int id = container.integer(own.path("attributes"), name, -1, path + "/attributes");
      put(primitive.path("attributes").path(name), new Packed(view, id, path));
    }
  }

  private void put(JsonNode accessor, Packed how) {
    if (accessor.isInt()) {
      packed.put(accessor.asInt(), how);
    }
  }

  public boolean has(int accessor) {
    return packed.containsKey(accessor);
  }

  /**
   * The numbers of an accessor in its own type, one value after another.
   *
   * @param size bytes of a number
   */
  public ByteBuffer bytes(int accessor, int type, int size, int components, int count)
      throws IOException, FormatException {
    Packed how = packed.get(accessor);
    DracoMesh mesh = mesh(how);
    long total = (long) count * components * size;
    container.budget().claim(total, how.path, "unpacked numbers");
    if (total > Integer.MAX_VALUE - 8) {
      throw container.error(Kind.TOO_LARGE, how.path, total + " bytes. Split the mesh.");
    }
    ByteBuffer bytes = ByteBuffer.allocate((int) total).order(ByteOrder.LITTLE_ENDIAN);
    if (how.attribute < 0) {
      must(how, mesh.triangles().length == count * components, count, "corners");
      for (int point : mesh.triangles()) {
        put(bytes, type, size, point);
      }
      return bytes;
    }
    DracoMesh.Values values =
        mesh.attributes().stream()
            .filter(v -> v.id() == how.attribute)
            .findFirst()
            .orElseThrow(
                () ->
                    container.error(
                        Kind.CORRUPT,
                        how.path,
                        "its stream has no attribute " + how.attribute + "."));
    must(how, mesh.points() == count, count, "values");
    must(how, values.components() == components, components, "numbers a value");
    for (int value : values.valueOf()) {
      for (int c = 0; c < components; c++) {
        put(bytes, type, size, values.numbers()[value * components + c]);
      }
    }
    return bytes;
  }

  private static void put(ByteBuffer bytes, int type, int size, double number) {
    switch (type) {
      case FLOAT -> bytes.putFloat((float) number);
      case UNSIGNED_INT -> bytes.putInt((int) (long) number);
      default -> {
        if (size == 1) {
          bytes.put((byte) (long) number);
        } else {
          bytes.putShort((short) (long) number);
        }
      }
    }
  }

  private void must(Packed how, boolean holds, int wanted, String what) throws FormatException {
    if (!holds) {
      throw container.error(
          Kind.CORRUPT,
          how.path,
          "its stream does not have the " + wanted + " " + what + " that its accessor has.");
    }
  }

  /** Accessors of one primitive are asked for one after another. */
  private DracoMesh mesh(Packed how) throws IOException, FormatException {
    if (how.view == lastView) {
      return last;
    }
    ByteBuffer view = container.view(how.view, how.path + "/bufferView");
    byte[] stream = new byte[view.remaining()];
    view.get(stream);
    try {
      last = DracoDecoder.read(stream, faces -> claim(faces, how.path));
      lastView = how.view;
      return last;
    } catch (TooLarge e) {
      throw e.cause;
    } catch (DracoException e) {
      throw container.error(
          e.isVersion() ? Kind.UNSUPPORTED : Kind.CORRUPT,
          how.path,
          "the packed mesh cannot be read: "
              + e.getMessage()
              + ". Export or copy the file again, or without mesh compression.");
    }
  }

  private void claim(long faces, String path) {
    try {
      container.budget().claim(BYTES_A_FACE * faces, path, "a packed mesh");
    } catch (FormatException e) {
      throw new TooLarge(e);
    }
  }

  /** Carries a refusal through the decoder, which knows nothing of files. */
  private static final class TooLarge extends RuntimeException {
    private static final long serialVersionUID = 1;
    private final transient FormatException cause;

    TooLarge(FormatException cause) {
      this.cause = cause;
    }
  }
}
