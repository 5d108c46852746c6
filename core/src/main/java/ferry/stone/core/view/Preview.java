package ferry.stone.core.view;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.geometry.mesh.Pieces;
import ferry.stone.core.geometry.triangle.RenderMesh;
import ferry.stone.core.geometry.triangle.RenderPrimitive;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.texture.ColourSpace;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;
import java.util.List;

/**
 * A mesh as the page's views take it: what real-time engines would get, in one block.
 *
 * <table>
 * <caption>Layout, little-endian</caption>
 * <tr><td>uint32</td><td>length of the JSON, a multiple of 4</td></tr>
 * <tr><td>JSON</td><td>{@code primitives}: kind ({@code triangles}, {@code lines} or {@code
 * points}), material, vertices, triangles, and the byte offset of each array after the JSON; absent
 * arrays have none. Triangles come first</td></tr>
 * <tr><td>arrays</td><td>position, normal, uv, uv1, uv2, uv3 (V down), colour (linear), joint and weight (four a vertex, the
 * strongest): float32; index: uint32, two a segment for lines, none for points; then for each morph target its deltas: float32</td></tr>
 * </table>
 */
public final class Preview {
  /** Sets of UVs that a picture is made of. */
  private static final int MOST_UVS = 4;

  private static final ObjectMapper JSON = new ObjectMapper();

  private Preview() {}

  /** The block for a mesh, in the mesh's own units and axes. */
  public static byte[] of(PolygonMesh mesh, Scene scene) {
    List<RenderPrimitive> primitives = RenderMesh.of(mesh, Progress.NONE);
    Skin skin =
        scene.skins().stream().filter(s -> s.meshId() == mesh.id()).findFirst().orElse(null);
    ObjectNode head = JsonNodeFactory.instance.objectNode();
    ArrayNode list = head.putArray("primitives");
    ArrayNode names = head.putArray("morphs");
    MorphTarget.keys(mesh.morphs()).forEach(names::add);
    long size = 0;
    for (RenderPrimitive p : primitives) {
      size = triangles(list.addObject(), p, skin != null, mesh.morphs().size(), size);
    }
    List<LooseView> loose = LooseView.of(mesh);
    List<float[]> inks = loose.stream().map(l -> l.colours(mesh, scene)).toList();
    for (int i = 0; i < loose.size(); i++) {
      size = loose(list.addObject(), loose.get(i), inks.get(i) != null, size);
    }
    if (size > Integer.MAX_VALUE - (1 << 20)) {
      throw new IllegalArgumentException(mesh.name() + " is too large to be shown");
    }
    byte[] json = padded(head);
    ByteBuffer out =
        ByteBuffer.allocate(4 + json.length + (int) size).order(ByteOrder.LITTLE_ENDIAN);
    out.putInt(json.length).put(json);
    for (RenderPrimitive p : primitives) {
      put(out, p.positions());
      if (p.normals() != null) {
        put(out, p.normals());
      }
      for (int set = 0; set < Math.min(MOST_UVS, p.uvs().size()); set++) {
        put(out, uvs(p.uvs().get(set), scene));
      }
      if (p.colours() != null) {
        put(out, colours(p, scene));
      }
      if (skin != null) {
        putInfluences(out, p, skin);
      }
      out.asIntBuffer().put(p.indices());
      out.position(out.position() + 4 * p.indices().length);
      for (MorphTarget morph : mesh.morphs()) {
        put(out, deltas(p, morph, mesh.points().count()));
      }
    }
    for (int i = 0; i < loose.size(); i++) {
      put(out, loose.get(i).positions(mesh));
      if (inks.get(i) != null) {
        put(out, inks.get(i));
      }
      out.asIntBuffer().put(loose.get(i).index());
      out.position(out.position() + 4 * loose.get(i).index().length);
    }
    return out.array();
  }

  private static long triangles(
      ObjectNode json, RenderPrimitive p, boolean skinned, int morphs, long at) {
    json.put("kind", "triangles");
    json.put("material", p.materialId());
    json.put("vertices", p.vertexCount());
    json.put("triangles", p.triangleCount());
    long size = offset(json, "position", at, 3L * p.vertexCount());
    if (p.normals() != null) {
      size = offset(json, "normal", size, 3L * p.vertexCount());
    }
    for (int set = 0; set < Math.min(MOST_UVS, p.uvs().size()); set++) {
      size = offset(json, set == 0 ? "uv" : "uv" + set, size, 2L * p.vertexCount());
    }
    if (p.colours() != null) {
      size = offset(json, "colour", size, 3L * p.vertexCount());
    }
    if (skinned) {
      size = offset(json, "joint", size, 4L * p.vertexCount());
      size = offset(json, "weight", size, 4L * p.vertexCount());
    }
    size = offset(json, "index", size, 3L * p.triangleCount());
    return morphs == 0 ? size : offset(json, "morph", size, 3L * p.vertexCount() * morphs);
  }

  private static long loose(ObjectNode json, LooseView view, boolean inked, long at) {
    json.put("kind", view.kind());
    json.put("material", -1);
    json.put("vertices", view.vertexCount());
    json.put("triangles", 0);
    json.put("segments", view.index().length / 2);
    long size = offset(json, "position", at, 3L * view.vertexCount());
    if (inked) {
      size = offset(json, "colour", size, 3L * view.vertexCount());
    }
    return offset(json, "index", size, view.index().length);
  }

  private static void putInfluences(ByteBuffer out, RenderPrimitive p, Skin skin) {
    float[] joints = new float[4 * p.vertexCount()];
    float[] weights = new float[4 * p.vertexCount()];
    for (int v = 0; v < p.vertexCount(); v++) {
      int source = p.sourceVertex()[v];
      for (int i = skin.offsets()[source]; i < skin.offsets()[source + 1]; i++) {
        int weakest = 4 * v;
        for (int k = 4 * v + 1; k < 4 * v + 4; k++) {
          weakest = weights[k] < weights[weakest] ? k : weakest;
        }
        if (skin.weights()[i] > weights[weakest]) {
          weights[weakest] = skin.weights()[i];
          joints[weakest] = skin.joints()[i];
        }
      }
      float sum = weights[4 * v] + weights[4 * v + 1] + weights[4 * v + 2] + weights[4 * v + 3];
      for (int k = 4 * v; sum > 0 && k < 4 * v + 4; k++) {
        weights[k] /= sum;
      }
    }
    put(out, joints);
    put(out, weights);
  }

  private static float[] deltas(RenderPrimitive p, MorphTarget morph, int vertices) {
    float[] all = new float[3 * vertices];
    MorphTarget.Shape shape = morph.full();
    for (int i = 0; i < shape.deltas().length; i++) {
      int v = shape.vertices() == null ? i / 3 : shape.vertices()[i / 3];
      all[3 * v + i % 3] = shape.deltas()[i];
    }
    float[] result = new float[3 * p.vertexCount()];
    for (int i = 0; i < result.length; i++) {
      result[i] = all[3 * p.sourceVertex()[i / 3] + i % 3];
    }
    return result;
  }

  /**
   * The piece of each vertex of {@link #of}: float32, primitive after primitive. Pieces are
   * connected by shared vertices and numbered from the mesh's id, so that meshes side by side begin
   * with different ones.
   */
  public static byte[] pieces(PolygonMesh mesh) {
    Pieces pieces = Pieces.byVertex(mesh.faces(), mesh.points().count());
    List<RenderPrimitive> primitives = RenderMesh.of(mesh, Progress.NONE);
    int count = primitives.stream().mapToInt(RenderPrimitive::vertexCount).sum();
    ByteBuffer out = ByteBuffer.allocate(4 * count).order(ByteOrder.LITTLE_ENDIAN);
    for (RenderPrimitive p : primitives) {
      put(out, pieceOfVertex(p, pieces, mesh.id()));
    }
    return out.array();
  }

  /**
   * The set of each triangle of {@link #of}: float32, primitive after primitive; −1 for none. A
   * face in several sets shows the last. Sets are numbered in the order of the mesh.
   */
  public static byte[] faceSets(PolygonMesh mesh) {
    float[] ofFace = new float[mesh.faces().faceCount()];
    Arrays.fill(ofFace, -1);
    for (int s = 0; s < mesh.faceSets().size(); s++) {
      for (int face : mesh.faceSets().get(s).faces()) {
        ofFace[face] = s;
      }
    }
    List<RenderPrimitive> primitives = RenderMesh.of(mesh, Progress.NONE);
    int count = primitives.stream().mapToInt(RenderPrimitive::triangleCount).sum();
    ByteBuffer out = ByteBuffer.allocate(4 * count).order(ByteOrder.LITTLE_ENDIAN);
    for (RenderPrimitive p : primitives) {
      for (int t = 0; t < p.triangleCount(); t++) {
        out.putFloat(ofFace[p.triangleFace()[t]]);
      }
    }
    return out.array();
  }

  private static long offset(ObjectNode json, String name, long at, long count) {
    json.put(name, at);
    return at + 4 * count;
  }

  static byte[] padded(ObjectNode head) {
    try {
      byte[] json = JSON.writeValueAsBytes(head);
      byte[] result = Arrays.copyOf(json, (json.length + 3) & ~3);
      Arrays.fill(result, json.length, result.length, (byte) ' ');
      return result;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static void put(ByteBuffer out, float[] values) {
    out.asFloatBuffer().put(values);
    out.position(out.position() + 4 * values.length);
  }

  private static float[] uvs(float[] uv, Scene scene) {
    if (scene.uvOrigin() == UvOrigin.TOP_LEFT) {
      return uv;
    }
    float[] flipped = uv.clone();
    for (int i = 1; i < flipped.length; i += 2) {
      flipped[i] = 1 - flipped[i];
    }
    return flipped;
  }

  private static float[] colours(RenderPrimitive p, Scene scene) {
    float[] rgb = new float[3 * p.vertexCount()];
    for (int v = 0; v < p.vertexCount(); v++) {
      for (int k = 0; k < 3; k++) {
        float c = p.colours()[p.colourComponents() * v + k];
        rgb[3 * v + k] = scene.linearColours() ? c : (float) ColourSpace.toLinear(c);
      }
    }
    return rgb;
  }

  private static float[] pieceOfVertex(RenderPrimitive p, Pieces pieces, int first) {
    float[] result = new float[p.vertexCount()];
    for (int t = 0; t < p.triangleCount(); t++) {
      for (int k = 0; k < 3; k++) {
        result[p.indices()[3 * t + k]] = first + pieces.pieceOfFace()[p.triangleFace()[t]];
      }
    }
    return result;
  }
}
