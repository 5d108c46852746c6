package ferry.stone.core.format.gltf.raw;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.ReferenceFinder;
import ferry.stone.core.format.files.ReferenceReport;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.gltf.GltfFormat;
import ferry.stone.core.math.Figures;
import java.io.IOException;
import java.io.InputStream;
import java.net.URLDecoder;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** The JSON and the binary data of a glTF, however they are packed. */
public final class GltfContainer {
  private static final ObjectMapper JSON = new ObjectMapper();
  private static final int HEADER = 12;

  private final String resource;
  private final Resources resources;
  private final ReferenceFinder finder;
  private final Findings findings;
  private final Budget budget;
  private final Map<Integer, ByteBuffer> buffers = new HashMap<>();
  private final Map<Integer, ByteBuffer> unpacked = new HashMap<>();
  private JsonNode root;
  private ByteBuffer binChunk;

  private GltfContainer(
      String resource, Resources resources, ReferenceFinder finder, Findings findings) {
    this.findings = findings;
    this.resource = resource;
    this.resources = resources;
    this.finder = finder;
    budget = Budget.of(resource, resources);
  }

  /** What the file may make us allocate. */
  public Budget budget() {
    return budget;
  }

  public static GltfContainer open(
      String resource, Resources resources, ReferenceFinder finder, Findings findings)
      throws IOException, FormatException {
    GltfContainer container = new GltfContainer(resource, resources, finder, findings);
    byte[] file = container.bytes(resource);
    if (file.length == 0) {
      throw container.error(Kind.TRUNCATED, "", "the file is empty. Export or copy it again.");
    }
    ByteBuffer data = ByteBuffer.wrap(file).order(ByteOrder.LITTLE_ENDIAN);
    if (file.length >= 4 && data.getInt(0) == GltfFormat.MAGIC) {
      container.readGlb(data);
    } else {
      container.root = container.parse(file, 0, file.length);
    }
    String version = container.root.path("asset").path("version").asText("");
    if (!version.startsWith("2.")) {
      Kind kind = version.startsWith("1.") ? Kind.TOO_OLD : Kind.NOT_THIS_FORMAT;
      throw container.error(
          kind, "/asset/version", "expected glTF 2.x but found \"" + version + "\".");
    }
    container.checkShape();
    return container;
  }

  private void checkShape() throws FormatException {
    List<String> nulls;
    try {
      nulls = GltfShape.check(root);
    } catch (GltfShape.Mismatch e) {
      throw error(Kind.CORRUPT, e.path(), e.getMessage());
    }
    if (!nulls.isEmpty()) {
      findings.add(
          Finding.of(
                  "empty-values",
                  Severity.LOOK,
                  nulls.get(0),
                  "Values of the file are null, which glTF does not know; they are read as if they"
                      + " were not there. Other programs may refuse the file.")
              .measured(Figures.count(nulls.size(), "value")));
    }
  }

  private byte[] bytes(String path) throws IOException, FormatException {
    if (resources.size(path) > Integer.MAX_VALUE - 64) {
      throw new FormatException(
          Kind.TOO_LARGE, path, "", "files over 2 GB cannot be read yet. Split the asset.");
    }
    budget.claim(resources.size(path), "", path);
    try (InputStream in = resources.open(path)) {
      return in.readAllBytes();
    }
  }

  private void readGlb(ByteBuffer data) throws FormatException {
    if (data.capacity() < HEADER + 8) {
      throw error(Kind.TRUNCATED, "byte " + data.capacity(), "the GLB ends in its header.");
    }
    int version = data.getInt(4);
    if (version != 2) {
      throw error(
          version < 2 ? Kind.TOO_OLD : Kind.TOO_NEW,
          "byte 4",
          "expected GLB version 2 but found " + version + ".");
    }
    long length = data.getInt(8) & 0xffff_ffffL;
    if (length > data.capacity()) {
      throw error(
          Kind.TRUNCATED,
          "byte 8",
          "the GLB claims " + length + " bytes but has " + data.capacity() + ". Copy it again.");
    }
    int at = HEADER;
    while (at + 8 <= length) {
      long size = data.getInt(at) & 0xffff_ffffL;
      int type = data.getInt(at + 4);
      if (size > length - at - 8) {
        throw error(
            Kind.TRUNCATED,
            "byte " + at,
            "a chunk claims " + size + " bytes but " + (length - at - 8) + " are left.");
      }
      int from = at + 8;
      if (type == GltfFormat.CHUNK_JSON && root == null) {
        root = parse(data.array(), from, (int) size);
      } else if (type == GltfFormat.CHUNK_BIN && binChunk == null) {
        binChunk = data.slice(from, (int) size).order(ByteOrder.LITTLE_ENDIAN);
      }
      at = (int) (from + size);
    }
    if (root == null) {
      throw error(Kind.CORRUPT, "byte " + HEADER, "the GLB has no JSON chunk.");
    }
  }

  private JsonNode parse(byte[] file, int from, int length) throws FormatException {
    try {
      JsonNode node = JSON.readTree(file, from, length);
      if (node == null || !node.isObject()) {
        throw error(Kind.NOT_THIS_FORMAT, "", "expected a JSON object at the top.");
      }
      return node;
    } catch (JsonProcessingException e) {
      String place =
          e.getLocation() == null
              ? ""
              : "line " + e.getLocation().getLineNr() + ", column " + e.getLocation().getColumnNr();
      throw error(Kind.CORRUPT, place, "this is no valid JSON: " + e.getOriginalMessage() + ".");
    } catch (IOException e) {
      throw error(Kind.CORRUPT, "", "this is no valid JSON: " + e.getMessage() + ".");
    }
  }

  public JsonNode root() {
    return root;
  }

  public FormatException error(Kind kind, String place, String problem) {
    return new FormatException(kind, resource, place, problem);
  }

  /** An object of a top-level list, checked. */
  public JsonNode item(String list, int index, String from) throws FormatException {
    JsonNode array = root.path(list);
    if (index < 0 || index >= array.size()) {
      throw error(
          Kind.CORRUPT,
          from,
          "names /" + list + "/" + index + ", but there are " + array.size() + ".");
    }
    return array.get(index);
  }

  /** A required whole number of an object. */
  public int integer(JsonNode node, String key, int otherwise, String path) throws FormatException {
    JsonNode value = node.path(key);
    if (value.isMissingNode()) {
      return otherwise;
    }
    if (!value.isNumber()
        || value.asDouble() != Math.rint(value.asDouble())
        || Math.abs(value.asDouble()) > Integer.MAX_VALUE) {
      throw error(Kind.CORRUPT, path + "/" + key, "expected a whole number, found " + value + ".");
    }
    return value.asInt();
  }

  /** The bytes of a buffer view. */
  public ByteBuffer view(int index, String from) throws IOException, FormatException {
    JsonNode view = item("bufferViews", index, from);
    String path = "/bufferViews/" + index;
    JsonNode packed = view.at("/extensions/" + GltfExtensions.MESHOPT);
    if (packed.isObject()) {
      return unpacked(index, packed, path + "/extensions/" + GltfExtensions.MESHOPT);
    }
    return range(view, path);
  }

  /** Packed views are unpacked once. */
  private ByteBuffer unpacked(int index, JsonNode packed, String path)
      throws IOException, FormatException {
    ByteBuffer known = unpacked.get(index);
    if (known != null) {
      return known;
    }
    ByteBuffer source = range(packed, path);
    int count = integer(packed, "count", 0, path);
    int stride = integer(packed, "byteStride", 0, path);
    String mode = packed.path("mode").asText("");
    budget.claim((long) count * stride, path + "/count", "a packed buffer view");
    try {
      ByteBuffer result =
          MeshoptDecoder.decode(source, mode, count, stride, packed.path("filter").asText("NONE"));
      unpacked.put(index, result);
      return result;
    } catch (MeshoptDecoder.Damaged e) {
      throw error(Kind.CORRUPT, path, e.getMessage() + ". Export or copy the file again.");
    }
  }

  private ByteBuffer range(JsonNode view, String path) throws IOException, FormatException {
    ByteBuffer buffer = buffer(integer(view, "buffer", -1, path), path + "/buffer");
    long offset = integer(view, "byteOffset", 0, path);
    long length = integer(view, "byteLength", -1, path);
    if (offset < 0 || length < 0 || offset + length > buffer.capacity()) {
      throw error(
          Kind.CORRUPT,
          path,
          "reaches to byte " + (offset + length) + " of a buffer of " + buffer.capacity() + ".");
    }
    return buffer.slice((int) offset, (int) length).order(ByteOrder.LITTLE_ENDIAN);
  }

  private ByteBuffer buffer(int index, String from) throws IOException, FormatException {
    JsonNode json = item("buffers", index, from);
    ByteBuffer known = buffers.get(index);
    if (known != null) {
      return known;
    }
    String path = "/buffers/" + index;
    String uri = json.path("uri").asText("");
    ByteBuffer found;
    if (uri.isEmpty()) {
      if (index != 0 || binChunk == null) {
        throw error(Kind.CORRUPT, path, "has no uri, and there is no binary chunk.");
      }
      found = binChunk;
    } else {
      found = ByteBuffer.wrap(bufferBytes(json, uri, path));
    }
    int length = integer(json, "byteLength", -1, path);
    if (length < 0 || length > found.capacity()) {
      throw error(
          Kind.TRUNCATED,
          path + "/byteLength",
          "claims " + length + " bytes but " + found.capacity() + " are there.");
    }
    ByteBuffer result = found.slice(0, length).order(ByteOrder.LITTLE_ENDIAN);
    buffers.put(index, result);
    return result;
  }

  /**
   * A buffer's file. One that is missing is zeros, so that the rest can be seen while its file is
   * looked for: it is reported with the files that it may have become.
   */
  private byte[] bufferBytes(JsonNode json, String uri, String path)
      throws IOException, FormatException {
    String written = decodeUri(uri);
    if (uri.startsWith("data:") || finder.find(written, resource).isPresent()) {
      finder
          .find(written, resource)
          .ifPresent(m -> ReferenceReport.found(findings, path, written, m));
      return uriBytes(uri, path);
    }
    int length = integer(json, "byteLength", -1, path);
    if (!budget.allows(length)) {
      return uriBytes(uri, path);
    }
    budget.claim(length, path + "/byteLength", "a buffer without its file");
    ReferenceReport.missing(
        findings,
        "buffer-missing",
        path,
        "data file",
        written,
        resource + " needs " + length + " bytes of it for its meshes and motion",
        likely(written, length));
    return new byte[length];
  }

  /** Files with a like name, then data files of the very length. */
  private List<String> likely(String written, int length) {
    Set<String> likely = new LinkedHashSet<>(finder.propose(written));
    for (String path : resources.paths()) {
      boolean data = CargoPath.extension(path).equals("bin") || CargoPath.extension(path).isEmpty();
      if (data && resources.size(path) >= length && resources.size(path) < length + 4L) {
        likely.add(path);
      }
    }
    return List.copyOf(likely);
  }

  public byte[] uriBytes(String uri, String path) throws IOException, FormatException {
    if (uri.startsWith("data:")) {
      int comma = uri.indexOf(',');
      if (comma < 0 || !uri.substring(0, comma).endsWith(";base64")) {
        throw error(Kind.CORRUPT, path + "/uri", "expected base64 data.");
      }
      try {
        return Base64.getDecoder().decode(uri.substring(comma + 1));
      } catch (IllegalArgumentException e) {
        throw error(Kind.CORRUPT, path + "/uri", "the base64 data is damaged.");
      }
    }
    String file =
        finder
            .find(decodeUri(uri), resource)
            .orElseThrow(
                () ->
                    error(
                        Kind.MISSING,
                        path + "/uri",
                        "\"" + uri + "\" is not in the cargo: add it."))
            .resource();
    return bytes(file);
  }

  public static String decodeUri(String uri) {
    try {
      return URLDecoder.decode(uri.replace("+", "%2B"), StandardCharsets.UTF_8);
    } catch (IllegalArgumentException e) {
      return uri;
    }
  }
}
