package ferry.stone.core.format.gltf.raw;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.files.BinaryCursor;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.RandomBytes;
import ferry.stone.core.format.files.ReferenceFinder;
import ferry.stone.core.format.files.ReferenceReport;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.gltf.GltfFormat;
import ferry.stone.core.math.Figures;
import java.io.IOException;
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

  /** JSON numbers are exact up to here: 2 to the power of 53. */
  private static final double MOST_EXACT = 9007199254740992.0;

  private final String resource;
  private final Resources resources;
  private final ReferenceFinder finder;
  private final Findings findings;
  private final Budget budget;
  private final Map<Integer, GltfData> buffers = new HashMap<>();
  private final Map<Integer, ByteBuffer> views = new HashMap<>();
  private final Map<Integer, ByteBuffer> unpacked = new HashMap<>();
  private GltfDraco draco;
  private JsonNode root;
  private GltfData binChunk;

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
    RandomBytes file = resources.random(resource);
    if (file.size() == 0) {
      throw container.error(Kind.TRUNCATED, "", "the file is empty. Export or copy it again.");
    }
    BinaryCursor in = new BinaryCursor(resource, file, ByteOrder.LITTLE_ENDIAN);
    if (file.size() >= 4 && in.readInt() == GltfFormat.MAGIC) {
      container.readGlb(in, file);
    } else {
      container.root = container.parse(container.bytes(resource));
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
    budget.claim(resources.size(path), "", path);
    return GltfData.of(path, resources.random(path), 0, resources.size(path))
        .bytes(0, resources.size(path), path);
  }

  private void readGlb(BinaryCursor in, RandomBytes file) throws IOException, FormatException {
    if (in.size() < HEADER + 8) {
      throw error(Kind.TRUNCATED, "byte " + in.size(), "the GLB ends in its header.");
    }
    int version = in.readInt();
    if (version != 2) {
      throw error(
          version < 2 ? Kind.TOO_OLD : Kind.TOO_NEW,
          "byte 4",
          "expected GLB version 2 but found " + version + ".");
    }
    long length = in.readUnsignedInt();
    if (length > in.size()) {
      throw error(
          Kind.TRUNCATED,
          "byte 8",
          "the GLB claims " + length + " bytes but has " + in.size() + ". Copy it again.");
    }
    while (in.position() + 8 <= length) {
      long at = in.position();
      long size = in.readUnsignedInt();
      int type = in.readInt();
      if (size > length - at - 8) {
        throw error(
            Kind.TRUNCATED,
            "byte " + at,
            "a chunk claims " + size + " bytes but " + (length - at - 8) + " are left.");
      }
      long from = in.position();
      if (type == GltfFormat.CHUNK_JSON && root == null) {
        budget.claim(size, "byte " + at, "the JSON chunk");
        root = parse(in.bytes(size, "the JSON chunk"));
      } else if (type == GltfFormat.CHUNK_BIN && binChunk == null) {
        binChunk = GltfData.of(resource, file, from, size);
      }
      in.position(from + size);
    }
    if (root == null) {
      throw error(Kind.CORRUPT, "byte " + HEADER, "the GLB has no JSON chunk.");
    }
  }

  private JsonNode parse(byte[] text) throws FormatException {
    try {
      JsonNode node = JSON.readTree(text);
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

  /** As {@link #integer} for places in data, which may be larger than 2 GB. */
  private long whole(JsonNode node, String key, long otherwise, String path)
      throws FormatException {
    JsonNode value = node.path(key);
    if (value.isMissingNode()) {
      return otherwise;
    }
    double number = value.asDouble();
    if (!value.isNumber() || number != Math.rint(number) || Math.abs(number) > MOST_EXACT) {
      throw error(Kind.CORRUPT, path + "/" + key, "expected a whole number, found " + value + ".");
    }
    return value.asLong();
  }

  /** The bytes of a buffer view. */
  public ByteBuffer view(int index, String from) throws IOException, FormatException {
    JsonNode view = item("bufferViews", index, from);
    String path = "/bufferViews/" + index;
    JsonNode packed = view.at("/extensions/" + GltfExtensions.MESHOPT);
    if (packed.isObject()) {
      return unpacked(index, packed, path + "/extensions/" + GltfExtensions.MESHOPT);
    }
    ByteBuffer known = views.get(index);
    if (known == null) {
      known = range(view, path);
      views.put(index, known);
    }
    return known.duplicate().order(ByteOrder.LITTLE_ENDIAN);
  }

  /** Accessors that are packed with their primitive. */
  public GltfDraco draco() throws FormatException {
    if (draco == null) {
      draco = new GltfDraco(this);
    }
    return draco;
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

  /** Buffers in memory are looked into; of others the range is read. */
  private ByteBuffer range(JsonNode view, String path) throws IOException, FormatException {
    GltfData buffer = buffer(integer(view, "buffer", -1, path), path + "/buffer");
    long offset = whole(view, "byteOffset", 0, path);
    long length = whole(view, "byteLength", -1, path);
    if (offset < 0 || length < 0 || offset + length > buffer.size()) {
      throw error(
          Kind.CORRUPT,
          path,
          "reaches to byte " + (offset + length) + " of a buffer of " + buffer.size() + ".");
    }
    if (!buffer.inMemory()) {
      budget.claim(length, path + "/byteLength", "a buffer view");
    }
    return buffer.range(offset, length, path);
  }

  private GltfData buffer(int index, String from) throws IOException, FormatException {
    JsonNode json = item("buffers", index, from);
    GltfData known = buffers.get(index);
    if (known != null) {
      return known;
    }
    String path = "/buffers/" + index;
    String uri = json.path("uri").asText("");
    GltfData found;
    if (uri.isEmpty()) {
      if (index != 0 || binChunk == null) {
        throw error(Kind.CORRUPT, path, "has no uri, and there is no binary chunk.");
      }
      found = binChunk;
    } else {
      found = bufferData(json, uri, path);
    }
    long length = whole(json, "byteLength", -1, path);
    if (length < 0 || length > found.size()) {
      throw error(
          Kind.TRUNCATED,
          path + "/byteLength",
          "claims " + length + " bytes but " + found.size() + " are there.");
    }
    GltfData result = found.upTo(length);
    buffers.put(index, result);
    return result;
  }

  /**
   * A buffer's file. One that is missing is zeros, so that the rest can be seen while its file is
   * looked for: it is reported with the files that it may have become.
   */
  private GltfData bufferData(JsonNode json, String uri, String path)
      throws IOException, FormatException {
    String written = decodeUri(uri);
    if (uri.startsWith("data:")) {
      return GltfData.of(uriBytes(uri, path));
    }
    var match = finder.find(written, resource);
    if (match.isPresent()) {
      ReferenceReport.found(findings, path, written, match.get());
      String file = match.get().resource();
      return GltfData.of(file, resources.random(file), 0, resources.size(file));
    }
    int length = integer(json, "byteLength", -1, path);
    if (!budget.allows(length)) {
      return GltfData.of(uriBytes(uri, path));
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
    return GltfData.of(new byte[length]);
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
