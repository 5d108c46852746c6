package ferry.stone.core.format.gltf.read;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.gltf.raw.GltfContainer;
import ferry.stone.core.format.gltf.raw.GltfExtensions;
import ferry.stone.core.format.gltf.raw.GltfExtras;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.Lens;
import ferry.stone.core.scene.node.Light;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;

/** Reads cameras and lights, each once however many nodes show it. */
final class GltfCameraReader {
  private final GltfContainer container;
  private final SceneBuilder scene;
  private final Map<Integer, Integer> cameraIds = new HashMap<>();
  private final Map<Integer, Integer> lightIds = new HashMap<>();

  GltfCameraReader(GltfContainer container, SceneBuilder scene) {
    this.container = container;
    this.scene = scene;
  }

  /** Ids of the cameras read so far, by their place in the file. */
  Map<Integer, Integer> cameraIds() {
    return cameraIds;
  }

  /** Ids of the lights read so far, by their place in the file. */
  Map<Integer, Integer> lightIds() {
    return lightIds;
  }

  /** Id of a camera of the file. */
  int camera(int index, String from) throws FormatException {
    JsonNode json = container.item("cameras", index, from);
    Integer known = cameraIds.get(index);
    if (known != null) {
      return known;
    }
    String path = "/cameras/" + index;
    JsonNode p = json.path("perspective");
    JsonNode o = json.path("orthographic");
    boolean perspective = json.path("type").asText().equals("perspective");
    if (!(perspective ? p : o).isObject()) {
      throw container.error(
          Kind.CORRUPT, path, "expected a perspective or orthographic camera with its values.");
    }
    int id = scene.newId();
    Map<String, Object> properties = GltfExtras.properties(json, GltfExtensions.READ, Set.of());
    String name = json.path("name").asText("");
    Lens lens = Lens.take(properties);
    double near = (perspective ? p : o).path("znear").asDouble(0);
    if (perspective) {
      scene.add(
          new Camera(
              id,
              name,
              p.path("yfov").asDouble(0),
              0,
              p.path("aspectRatio").asDouble(0),
              near,
              p.path("zfar").asDouble(Double.POSITIVE_INFINITY),
              lens,
              properties));
    } else {
      double ymag = o.path("ymag").asDouble(1);
      scene.add(
          new Camera(
              id,
              name,
              0,
              2 * ymag,
              ymag == 0 ? 0 : o.path("xmag").asDouble(1) / ymag,
              near,
              o.path("zfar").asDouble(Double.POSITIVE_INFINITY),
              properties));
    }
    cameraIds.put(index, id);
    return id;
  }

  /** Id of a light of the file. */
  int light(int index, String from) throws FormatException {
    JsonNode list = container.root().at("/extensions/" + GltfExtensions.LIGHTS + "/lights");
    if (index < 0 || index >= list.size()) {
      throw container.error(
          Kind.CORRUPT, from, "names light " + index + ", but there are " + list.size() + ".");
    }
    Integer known = lightIds.get(index);
    if (known != null) {
      return known;
    }
    JsonNode json = list.get(index);
    int id = scene.newId();
    Light.Kind kind =
        switch (json.path("type").asText()) {
          case "directional" -> Light.Kind.DIRECTIONAL;
          case "point" -> Light.Kind.POINT;
          case "spot" -> Light.Kind.SPOT;
          default ->
              throw container.error(
                  Kind.CORRUPT,
                  "/extensions/KHR_lights_punctual/lights/" + index + "/type",
                  "expected directional, point or spot, found " + json.path("type") + ".");
        };
    float[] colour = new float[3];
    for (int k = 0; k < 3; k++) {
      colour[k] = (float) json.path("color").path(k).asDouble(1);
    }
    JsonNode spot = json.path("spot");
    scene.add(
        new Light(
            id,
            json.path("name").asText(""),
            kind,
            colour,
            json.path("intensity").asDouble(1),
            json.path("range").asDouble(Double.POSITIVE_INFINITY),
            spot.path("innerConeAngle").asDouble(0),
            spot.path("outerConeAngle").asDouble(Math.PI / 4),
            GltfExtras.properties(json, GltfExtensions.READ, Set.of())));
    lightIds.put(index, id);
    return id;
  }
}
