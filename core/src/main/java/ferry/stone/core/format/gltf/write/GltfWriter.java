package ferry.stone.core.format.gltf.write;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.Output;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.gltf.GltfFormat;
import ferry.stone.core.format.gltf.raw.GltfExtensions;
import ferry.stone.core.format.gltf.raw.GltfExtras;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.Frame;
import ferry.stone.core.motion.InBetweens;
import ferry.stone.core.scene.Copies;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Base64;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

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
  private final GltfBuffer buffer;
  private final GltfGathered gathered;
  private final GltfImages images;
  private Set<String> imageExtensions = Set.of();
  private final Set<String> extensions = new TreeSet<>();
  private final Map<Integer, Integer> materialIndex = new HashMap<>();

  private GltfWriter(
      GltfGathered gathered,
      GltfOptions options,
      Resources resources,
      Findings findings,
      Progress progress) {
    this.gathered = gathered;
    scene = gathered.scene();
    buffer = new GltfBuffer(views, accessors, options.packing());
    this.options = options;
    this.findings = findings;
    this.progress = progress;
    images = new GltfImages(scene, resources, options.packing(), findings);
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
    GltfWriter writer =
        new GltfWriter(
            arranged(scene, options.packing(), findings), options, resources, findings, progress);
    writer.build();
    return writer.save(stem, output);
  }

  /** The scene as glTF can hold it, and what is said of that: forecast and writer ask the same. */
  public static Scene forecast(Scene scene, GltfPacking packing, Findings findings) {
    return arranged(scene, packing, findings).scene();
  }

  private static GltfGathered arranged(Scene scene, GltfPacking packing, Findings findings) {
    Scene whole = InBetweens.asTargets(scene);
    if (whole != scene) {
      findings.add(
          Finding.of(
              "in-betweens-as-targets",
              Severity.LOOK,
              "",
              "glTF has no shapes between off and fully on: each became a target of its own, and"
                  + " clips move it so that the sum is the same. Cubic motion of such targets became"
                  + " lines at "
                  + (int) InBetweens.RATE
                  + " samples a second."));
    }
    Scene arranged = UvlessTextures.leaveOut(GltfArrangement.arrange(whole, findings), findings);
    List<String> bumpy = GltfTangents.of(arranged, packing.tangents()).needed(arranged);
    if (!bumpy.isEmpty()) {
      findings.add(
          Finding.of(
                  "tangents-computed",
                  Severity.NOTE,
                  bumpy.get(0),
                  "Normal maps need tangents, and these parts had none: they were computed by the"
                      + " method that most programs share.")
              .measured(Figures.count(bumpy.size(), "part")));
    }
    GltfGathered gathered = GltfGathered.listed(arranged, Copies.listed(scene));
    gathered = packing.instanced() ? gathered.gather(findings) : gathered;
    return packing.quantized() ? GltfQuantization.apply(gathered, findings) : gathered;
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
    GltfSkins skins = new GltfSkins(scene, buffer, options, findings);
    ArrayNode meshNodes = JsonNodeFactory.instance.arrayNode();
    Map<Integer, Integer> meshOfNode = writeMeshes(meshNodes, skins);
    Map<Integer, Integer> skinIndex = skins.write(root);
    skins.report();
    GltfNodes nodes = new GltfNodes(gathered, root, buffer, extensions);
    nodes.write(glScene, meshOfNode, skinIndex);
    if (!meshNodes.isEmpty()) {
      root.set("meshes", meshNodes);
    }
    if (!scene.variants().isEmpty()) {
      extensions.add(GltfExtensions.VARIANTS);
      ArrayNode names =
          root.withObject("/extensions/" + GltfExtensions.VARIANTS).putArray("variants");
      scene.variants().forEach(name -> names.addObject().put("name", name));
    }
    GltfPlaces places = nodes.places(materialIndex);
    new GltfAnimations(scene, buffer, places, extensions, findings).write(root);
    Map<String, Object> properties = new HashMap<>(scene.properties());
    properties.keySet().removeAll(Set.of("generator", "copyright"));
    if (scene.properties().get("copyright") instanceof String copyright) {
      root.withObject("/asset").put("copyright", copyright);
    }
    GltfExtras.write(glScene, properties, extensions);
    packingExtensions();
    if (extensions.isEmpty()) {
      root.remove("extensionsUsed");
    } else {
      extensions.forEach(extensionsUsed::add);
    }
  }

  /** What a viewer must know to read this at all. */
  private void packingExtensions() {
    Set<String> required = new TreeSet<>();
    if (options.packing().quantized() && !scene.meshes().isEmpty()) {
      required.add(GltfExtensions.QUANTIZATION);
    }
    required.addAll(imageExtensions);
    if (buffer.unpackedLength() > 0) {
      required.add(GltfExtensions.MESHOPT);
    }
    if (!gathered.places().isEmpty()) {
      // Without it each of the nodes would show one copy at a wrong place.
      required.add(GltfExtensions.INSTANCING);
    }
    extensions.addAll(required);
    if (!required.isEmpty()) {
      ArrayNode list = root.putArray("extensionsRequired");
      required.forEach(list::add);
    }
  }

  private void writeMaterials() {
    GltfMaterials writer = new GltfMaterials(root, scene, images, extensions, findings);
    ArrayNode list = JsonNodeFactory.instance.arrayNode();
    int done = 0;
    for (Material material : scene.materials()) {
      progress.report("writing materials", 0.1 * done++ / scene.materials().size());
      materialIndex.put(material.id(), list.size());
      writer.write(material, list.addObject());
    }
    imageExtensions = writer.required();
    if (!list.isEmpty()) {
      root.set("materials", list);
    }
  }

  /**
   * Writes the meshes that nodes show, each once for every skin and set of materials it is shown
   * with, then those that no node shows.
   *
   * @return place of the mesh by the place of the node that shows it
   */
  private Map<Integer, Integer> writeMeshes(ArrayNode list, GltfSkins skins) {
    GltfMeshes meshes =
        new GltfMeshes(
            scene, buffer, materialIndex, skins, extensions, options.packing(), findings);
    Map<Integer, PolygonMesh> byId = scene.meshesById();
    Map<List<Object>, Integer> written = new HashMap<>();
    Map<Integer, Integer> ofNode = new HashMap<>();
    for (int i = 0; i < scene.nodes().size(); i++) {
      if (scene.nodes().get(i).content() instanceof Node.Content.MeshContent content
          && byId.containsKey(content.meshId())) {
        List<Object> key =
            List.of(content.meshId(), content.skinId(), Arrays.toString(content.slotMaterials()));
        Integer place = written.get(key);
        if (place == null) {
          progress.report(
              "writing " + byId.get(content.meshId()).name(), 0.8 * i / scene.nodes().size());
          progress.checkCancelled();
          place = write(meshes, content, byId.get(content.meshId()), list);
          written.put(key, place);
        }
        if (place >= 0) {
          ofNode.put(i, place);
        }
      }
    }
    Set<Integer> shown = new HashSet<>();
    written.keySet().forEach(key -> shown.add((Integer) key.get(0)));
    for (PolygonMesh mesh : scene.meshes()) {
      if (!shown.contains(mesh.id())) {
        write(meshes, Node.Content.MeshContent.of(mesh.id()), mesh, list);
      }
    }
    return ofNode;
  }

  private int write(
      GltfMeshes meshes, Node.Content.MeshContent content, PolygonMesh mesh, ArrayNode list) {
    PolygonMesh shown =
        content.slotMaterials() == null
            ? mesh
            : mesh.toBuilder().materials(content.slotMaterials(), mesh.faceSlot()).build();
    ObjectNode json = meshes.write(shown, scene.skin(content.skinId()).orElse(null), progress);
    if (json == null) {
      return -1;
    }
    list.add(json);
    return list.size() - 1;
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
      if (buffer.unpackedLength() > 0) {
        root.withArray("buffers")
            .addObject()
            .put("byteLength", buffer.unpackedLength())
            .withObject("/extensions/" + GltfExtensions.MESHOPT)
            .put("fallback", true);
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
    out.write("   ".substring(0, jsonPad).getBytes(StandardCharsets.US_ASCII));
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
    ByteArrayOutputStream all = new ByteArrayOutputStream();
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
