package ferry.stone.core.format.gltf;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Output;
import ferry.stone.core.format.Resources;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.LocalTransform;
import ferry.stone.core.scene.Material;
import ferry.stone.core.scene.Node;
import ferry.stone.core.scene.PolygonMesh;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.joml.Matrix4d;

/** Writes a scene as glTF 2.0. The same scene gives the same bytes. */
public final class GltfWriter {
  private static final ObjectMapper JSON = new ObjectMapper();
  private static final long LARGEST_GLB = 0xffff_ffffL;

  private final Scene scene;
  private final GltfOptions options;
  private final Findings findings;
  private final Progress progress;
  private final ObjectNode root = JsonNodeFactory.instance.objectNode();
  private final ArrayNode views = JsonNodeFactory.instance.arrayNode();
  private final ArrayNode accessors = JsonNodeFactory.instance.arrayNode();
  private final GltfBuffer buffer = new GltfBuffer(views, accessors);
  private final GltfImages images;
  private final Set<String> extensions = new TreeSet<>();
  private final Map<Integer, Integer> materialIndex = new HashMap<>();
  private final Map<Integer, Integer> meshIndex = new HashMap<>();

  private GltfWriter(
      Scene scene, GltfOptions options, Resources resources, Findings findings, Progress progress) {
    this.scene = scene;
    this.options = options;
    this.findings = findings;
    this.progress = progress;
    images = new GltfImages(scene, resources, findings);
  }

  /**
   * @param scene in the frame of glTF; see {@link Frame#Y_UP_METRE}
   * @param stem name of the files without ending
   * @param resources where the scene's textures are
   * @return the name of the main file
   */
  public static String write(
      Scene scene,
      GltfOptions options,
      String stem,
      Resources resources,
      Output output,
      Findings findings,
      Progress progress)
      throws IOException, FormatException {
    if (!scene.frame().equals(Frame.Y_UP_METRE)) {
      throw new IllegalArgumentException("glTF is Y up in metres, not " + scene.frame().label());
    }
    if (!scene.skins().isEmpty() || !scene.clips().isEmpty()) {
      throw new FormatException(
          FormatException.Kind.UNSUPPORTED,
          stem,
          "",
          "skins and clips cannot be written as glTF yet.");
    }
    GltfWriter writer = new GltfWriter(scene, options, resources, findings, progress);
    writer.build();
    return writer.save(stem, output);
  }

  private void build() {
    root.putObject("asset").put("version", "2.0").put("generator", "Stone Ferry");
    ArrayNode extensionsUsed = root.putArray("extensionsUsed");
    root.put("scene", 0);
    ObjectNode glScene = root.putArray("scenes").addObject();
    if (!scene.name().isEmpty()) {
      glScene.put("name", scene.name());
    }
    writeMaterials();
    GltfMeshes meshes = new GltfMeshes(scene, buffer, materialIndex, findings);
    ArrayNode meshNodes = JsonNodeFactory.instance.arrayNode();
    int done = 0;
    for (PolygonMesh mesh : scene.meshes()) {
      progress.report("writing " + mesh.name(), 0.8 * done++ / scene.meshes().size());
      progress.checkCancelled();
      ObjectNode json = meshes.write(mesh, progress);
      if (json != null) {
        meshIndex.put(mesh.id(), meshNodes.size());
        meshNodes.add(json);
      }
    }
    writeNodes(glScene);
    if (!meshNodes.isEmpty()) {
      root.set("meshes", meshNodes);
    }
    if (extensions.isEmpty()) {
      root.remove("extensionsUsed");
    } else {
      extensions.forEach(extensionsUsed::add);
    }
  }

  private void writeMaterials() {
    GltfMaterials writer = new GltfMaterials(root, scene, images, options, extensions, findings);
    ArrayNode list = JsonNodeFactory.instance.arrayNode();
    int done = 0;
    for (Material material : scene.materials()) {
      progress.report("writing materials", 0.1 * done++ / scene.materials().size());
      materialIndex.put(material.id(), list.size());
      writer.write(material, list.addObject());
    }
    if (!list.isEmpty()) {
      root.set("materials", list);
    }
  }

  private void writeNodes(ObjectNode glScene) {
    if (scene.nodes().isEmpty()) {
      return;
    }
    ArrayNode nodes = root.putArray("nodes");
    ArrayNode roots = glScene.putArray("nodes");
    for (int i = 0; i < scene.nodes().size(); i++) {
      Node node = scene.nodes().get(i);
      ObjectNode json = nodes.addObject();
      if (!node.name().isEmpty()) {
        json.put("name", node.name());
      }
      Matrix4d geometric = node.geometric().toMatrix();
      transform(
          json,
          node.geometric() == LocalTransform.IDENTITY
              ? node.transform()
              : new LocalTransform.MatrixTransform(node.transform().toMatrix().mul(geometric)));
      if (node.content() instanceof Node.Content.MeshContent content) {
        Integer mesh = meshIndex.get(content.meshId());
        if (mesh != null) {
          json.put("mesh", mesh);
        }
      }
      if (node.parent() < 0) {
        roots.add(i);
      } else {
        ((ObjectNode) nodes.get(node.parent())).withArray("children").add(i);
      }
    }
  }

  private static void transform(ObjectNode json, LocalTransform transform) {
    if (transform instanceof LocalTransform.Trs trs) {
      var t = trs.translation();
      var r = trs.rotation();
      var s = trs.scale();
      if (t.lengthSquared() != 0) {
        json.putArray("translation").add(t.x()).add(t.y()).add(t.z());
      }
      if (r.x() != 0 || r.y() != 0 || r.z() != 0) {
        json.putArray("rotation").add(r.x()).add(r.y()).add(r.z()).add(r.w());
      }
      if (s.x() != 1 || s.y() != 1 || s.z() != 1) {
        json.putArray("scale").add(s.x()).add(s.y()).add(s.z());
      }
      return;
    }
    Matrix4d m = transform.toMatrix();
    if (!m.equals(new Matrix4d(), 0)) {
      ArrayNode array = json.putArray("matrix");
      for (double value : m.get(new double[16])) {
        array.add(value + 0.0);
      }
    }
  }

  private String save(String stem, Output output) throws IOException, FormatException {
    boolean glb = options.container() == GltfOptions.Container.GLB;
    writeImages(output);
    if (buffer.length() > 0) {
      ObjectNode json = root.putArray("buffers").addObject();
      json.put("byteLength", buffer.length());
      if (!glb && options.embedBuffers()) {
        json.put("uri", "data:application/octet-stream;base64," + base64(buffer.parts()));
      } else if (!glb) {
        json.put("uri", uri(stem + ".bin"));
        try (OutputStream out = output.create(stem + ".bin")) {
          for (byte[] part : buffer.parts()) {
            out.write(part);
          }
        }
      }
      root.set("bufferViews", views);
      if (!accessors.isEmpty()) {
        root.set("accessors", accessors);
      }
    }
    progress.report("saving", 0.95);
    String name = stem + (glb ? ".glb" : ".gltf");
    try (OutputStream out = output.create(name)) {
      if (glb) {
        writeGlb(out, stem);
      } else {
        out.write(JSON.writerWithDefaultPrettyPrinter().writeValueAsBytes(root));
      }
    }
    return name;
  }

  private void writeImages(Output output) throws IOException {
    boolean glb = options.container() == GltfOptions.Container.GLB;
    for (GltfImages.Image image : images.all()) {
      ObjectNode json = root.withArray("images").addObject();
      json.put("name", image.name());
      if (options.embedTextures() && glb) {
        json.put("bufferView", buffer.addBytes(image.bytes())).put("mimeType", image.mediaType());
      } else if (options.embedTextures()) {
        json.put("uri", "data:" + image.mediaType() + ";base64," + base64(List.of(image.bytes())));
      } else {
        String path = "textures/" + fileName(image.name()) + "." + image.extension();
        json.put("uri", uri(path));
        try (OutputStream out = output.create(path)) {
          out.write(image.bytes());
        }
      }
    }
  }

  private void writeGlb(OutputStream out, String stem) throws IOException, FormatException {
    byte[] json = JSON.writeValueAsBytes(root);
    int jsonPad = -json.length & 3;
    long bin = buffer.length();
    long total = 12L + 8 + json.length + jsonPad + (bin > 0 ? 8 + bin : 0);
    if (total > LARGEST_GLB) {
      throw new FormatException(
          FormatException.Kind.TOO_LARGE,
          stem + ".glb",
          "",
          "a GLB holds at most 4 GB. Write glTF with separate files.");
    }
    ByteBuffer head = ByteBuffer.allocate(20).order(ByteOrder.LITTLE_ENDIAN);
    head.putInt(GltfFormat.MAGIC).putInt(2).putInt((int) total);
    head.putInt(json.length + jsonPad).putInt(GltfFormat.CHUNK_JSON);
    out.write(head.array());
    out.write(json);
    out.write("   ".substring(0, jsonPad).getBytes(java.nio.charset.StandardCharsets.US_ASCII));
    if (bin > 0) {
      ByteBuffer chunk = ByteBuffer.allocate(8).order(ByteOrder.LITTLE_ENDIAN);
      chunk.putInt((int) bin).putInt(GltfFormat.CHUNK_BIN);
      out.write(chunk.array());
      for (byte[] part : buffer.parts()) {
        out.write(part);
      }
    }
  }

  private static String base64(List<byte[]> parts) {
    java.io.ByteArrayOutputStream all = new java.io.ByteArrayOutputStream();
    parts.forEach(all::writeBytes);
    return Base64.getEncoder().encodeToString(all.toByteArray());
  }

  private static String fileName(String name) {
    return name.replaceAll("[\\\\/:*?\"<>|\\p{Cntrl}]", "_");
  }

  /** A relative path as a URI: spaces and other characters escaped (RFC 3986). */
  private static String uri(String path) {
    try {
      return new java.net.URI(null, null, path, null).toASCIIString();
    } catch (java.net.URISyntaxException e) {
      throw new IllegalArgumentException(path, e);
    }
  }
}
