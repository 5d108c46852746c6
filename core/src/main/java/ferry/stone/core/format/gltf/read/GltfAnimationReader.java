package ferry.stone.core.format.gltf.read;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.gltf.raw.GltfContainer;
import ferry.stone.core.format.gltf.raw.GltfExtensions;
import ferry.stone.core.format.gltf.raw.GltfPointers;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Interpolation;
import ferry.stone.core.scene.time.Clip.Track;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Reads animations as clips. The weights of morph targets become one track for each target. */
final class GltfAnimationReader {
  private final GltfContainer container;
  private final GltfAccessors accessors;
  private final SceneBuilder scene;
  private final int[] nodeIds;
  private final List<GltfMeshReader.ReadMesh> meshes;
  private final Elements elements;
  private final Findings findings;

  /**
   * The scene's ids of elements of the file.
   *
   * @param materials id of each material
   * @param cameras ids of those cameras that the scene shows, by their place
   * @param lights ids of those lights that the scene shows, by their place
   */
  record Elements(
      List<Integer> materials, Map<Integer, Integer> cameras, Map<Integer, Integer> lights) {}

  /**
   * @param nodeIds id of each node of the file, −1 for those outside the scene
   */
  GltfAnimationReader(
      GltfContainer container,
      GltfAccessors accessors,
      SceneBuilder scene,
      int[] nodeIds,
      List<GltfMeshReader.ReadMesh> meshes,
      Elements elements,
      Findings findings) {
    this.elements = elements;
    this.container = container;
    this.accessors = accessors;
    this.scene = scene;
    this.nodeIds = nodeIds;
    this.meshes = meshes;
    this.findings = findings;
  }

  void read() throws IOException, FormatException {
    JsonNode list = container.root().path("animations");
    for (int a = 0; a < list.size(); a++) {
      JsonNode json = list.get(a);
      List<Track> tracks = new ArrayList<>();
      Set<String> taken = new HashSet<>();
      for (int c = 0; c < json.path("channels").size(); c++) {
        String path = "/animations/" + a + "/channels/" + c;
        channel(json, json.path("channels").get(c), path, "/animations/" + a, tracks, taken);
      }
      if (tracks.isEmpty()) {
        findings.add(
            Finding.of(
                "clip-without-motion",
                Severity.LOOK,
                "/animations/" + a,
                "The clip \"" + json.path("name").asText("") + "\" moves nothing that is read."));
        scene.add(new Clip(scene.newId(), json.path("name").asText(""), 0, 0, tracks));
        continue;
      }
      double start = Double.POSITIVE_INFINITY;
      double end = Double.NEGATIVE_INFINITY;
      for (Track track : tracks) {
        start = Math.min(start, track.timesSeconds()[0]);
        end = Math.max(end, track.timesSeconds()[track.timesSeconds().length - 1]);
      }
      scene.add(new Clip(scene.newId(), json.path("name").asText(""), start, end, tracks));
    }
  }

  private void channel(
      JsonNode animation,
      JsonNode channel,
      String path,
      String animationPath,
      List<Track> tracks,
      Set<String> taken)
      throws IOException, FormatException {
    JsonNode target = channel.path("target");
    String property = target.path("path").asText("");
    int node = container.integer(target, "node", -1, path + "/target");
    if (property.equals("pointer")) {
      String pointer = target.at("/extensions/" + GltfExtensions.POINTER + "/pointer").asText("");
      var match =
          java.util.regex.Pattern.compile("/nodes/(\\d{1,8})/(translation|rotation|scale|weights)")
              .matcher(pointer);
      if (!match.matches()) {
        pointer(animation, channel, pointer, path, animationPath, tracks, taken);
        return;
      }
      node = Integer.parseInt(match.group(1));
      property = match.group(2);
    }
    if (node < 0) {
      return;
    }
    JsonNode nodeJson = container.item("nodes", node, path + "/target/node");
    if (nodeIds[node] < 0) {
      lost("motion-outside-scene", path, "Node " + node + " is not in the scene that is read.");
      return;
    }
    if (!taken.add(node + "/" + property)) {
      lost(
          "motion-twice",
          path,
          "Node " + node + " has its " + property + " moved twice in one clip; the first is read.");
      return;
    }
    JsonNode sampler = sampler(animation, channel, path, animationPath);
    String at = animationPath + "/samplers/" + channel.path("sampler").asInt();
    switch (property) {
      case "translation", "scale" -> tracks.add(track(sampler, at, nodeIds[node], property, 3));
      case "rotation" -> tracks.add(track(sampler, at, nodeIds[node], property, 4));
      case "weights" -> weights(sampler, at, node, nodeJson, path, tracks);
      default ->
          throw container.error(
              Kind.CORRUPT,
              path + "/target/path",
              "expected translation, rotation, scale or weights, found \"" + property + "\".");
    }
  }

  private JsonNode sampler(JsonNode animation, JsonNode channel, String path, String animationPath)
      throws FormatException {
    int index = container.integer(channel, "sampler", -1, path);
    JsonNode sampler = animation.path("samplers").path(index);
    if (!sampler.isObject()) {
      throw container.error(
          Kind.CORRUPT, path + "/sampler", animationPath + "/samplers/" + index + " is not there.");
    }
    return sampler;
  }

  /** Motion of a value of a camera, a light, a material or of a node's visibility. */
  private void pointer(
      JsonNode animation,
      JsonNode channel,
      String pointer,
      String path,
      String animationPath,
      List<Track> tracks,
      Set<String> taken)
      throws IOException, FormatException {
    GltfPointers.Target target = GltfPointers.read(pointer).orElse(null);
    int id = target == null ? -1 : id(target);
    if (id < 0) {
      lost(
          "pointer-not-carried",
          path,
          "The motion of " + pointer + " is not read: it names nothing in the scene that is read.");
      return;
    }
    if (!taken.add(pointer)) {
      lost("motion-twice", path, pointer + " is moved twice in one clip; the first is read.");
      return;
    }
    JsonNode sampler = sampler(animation, channel, path, animationPath);
    String at = animationPath + "/samplers/" + channel.path("sampler").asInt();
    int output = container.integer(sampler, "output", -1, at);
    int components = accessors.components(output, at + "/output");
    if (components > 4) {
      lost("pointer-not-carried", path, "The motion of " + pointer + " is no number or colour.");
      return;
    }
    tracks.add(track(sampler, at, id, target.property(), components).scaled(target.factor()));
  }

  /** Id of the element in the scene, −1 when it is not there. */
  private int id(GltfPointers.Target target) {
    int index = target.index();
    return switch (target.kind()) {
      case NODE -> index < nodeIds.length ? nodeIds[index] : -1;
      case CAMERA -> elements.cameras().getOrDefault(index, -1);
      case LIGHT -> elements.lights().getOrDefault(index, -1);
      case MATERIAL -> index < elements.materials().size() ? elements.materials().get(index) : -1;
    };
  }

  private void lost(String code, String where, String message) {
    findings.add(Finding.of(code, Severity.LOOK, where, message));
  }

  private void weights(
      JsonNode sampler, String at, int node, JsonNode nodeJson, String path, List<Track> tracks)
      throws IOException, FormatException {
    int mesh = container.integer(nodeJson, "mesh", -1, "/nodes/" + node);
    List<MorphTarget> morphs = mesh < 0 ? List.of() : meshes.get(mesh).mesh().morphs();
    if (morphs.isEmpty()) {
      throw container.error(
          Kind.CORRUPT, path + "/target", "moves weights of a node without morph targets.");
    }
    Track all = track(sampler, at, nodeIds[node], "weights", morphs.size());
    List<String> keys = MorphTarget.keys(morphs);
    for (int m = 0; m < keys.size(); m++) {
      tracks.add(
          new Track(
              all.targetId(),
              Clip.MORPH + keys.get(m),
              all.interpolation(),
              1,
              all.timesSeconds(),
              every(all.values(), m, keys.size()),
              every(all.inSlopes(), m, keys.size()),
              every(all.outSlopes(), m, keys.size())));
    }
  }

  private static double[] every(double[] values, int first, int step) {
    if (values == null) {
      return null;
    }
    double[] result = new double[values.length / step];
    for (int i = 0; i < result.length; i++) {
      result[i] = values[first + i * step];
    }
    return result;
  }

  private Track track(JsonNode sampler, String at, int nodeId, String property, int components)
      throws IOException, FormatException {
    float[] times = accessors.floats(container.integer(sampler, "input", -1, at), 1, at + "/input");
    int output = container.integer(sampler, "output", -1, at);
    boolean scalar = property.equals("weights");
    float[] values = accessors.floats(output, scalar ? 1 : components, at + "/output");
    Interpolation interpolation =
        switch (sampler.path("interpolation").asText("LINEAR")) {
          case "LINEAR" -> Interpolation.LINEAR;
          case "STEP" -> Interpolation.STEP;
          case "CUBICSPLINE" -> Interpolation.CUBIC;
          default ->
              throw container.error(
                  Kind.CORRUPT,
                  at + "/interpolation",
                  "expected LINEAR, STEP or CUBICSPLINE, found "
                      + sampler.path("interpolation")
                      + ".");
        };
    int parts = interpolation == Interpolation.CUBIC ? 3 : 1;
    if (times.length == 0 || (long) times.length * components * parts != values.length) {
      throw container.error(
          Kind.CORRUPT,
          at + "/output",
          "has "
              + values.length
              + " numbers for "
              + times.length
              + " keys of "
              + components * parts
              + ".");
    }
    int[] kept = rising(times, at);
    int n = components;
    double[] keyTimes = new double[kept.length];
    double[] keyValues = new double[n * kept.length];
    double[] in = parts == 3 ? new double[n * kept.length] : null;
    double[] out = parts == 3 ? new double[n * kept.length] : null;
    for (int k = 0; k < kept.length; k++) {
      keyTimes[k] = times[kept[k]];
      for (int c = 0; c < n; c++) {
        int from = n * parts * kept[k] + c;
        keyValues[n * k + c] = values[from + (parts == 3 ? n : 0)];
        if (parts == 3) {
          in[n * k + c] = values[from];
          out[n * k + c] = values[from + 2 * n];
        }
      }
    }
    return new Track(nodeId, property, interpolation, n, keyTimes, keyValues, in, out);
  }

  /** Keys whose time rises; others are passed over and reported. */
  private int[] rising(float[] times, String at) throws FormatException {
    int[] kept = new int[times.length];
    int count = 0;
    for (int i = 0; i < times.length; i++) {
      if (!Float.isFinite(times[i])) {
        throw container.error(Kind.CORRUPT, at + "/input", "key " + i + " has no time.");
      }
      if (count == 0 || times[i] > times[kept[count - 1]]) {
        kept[count++] = i;
      }
    }
    if (count < times.length) {
      lost("keys-out-of-order", at, "Keys whose time does not rise are left out.");
    }
    return Arrays.copyOf(kept, count);
  }
}
