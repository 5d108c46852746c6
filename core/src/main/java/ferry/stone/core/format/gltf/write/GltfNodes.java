package ferry.stone.core.format.gltf.write;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.format.gltf.raw.GltfExtensions;
import ferry.stone.core.format.gltf.raw.GltfExtras;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.Light;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Quaterniondc;
import org.joml.Vector3dc;

/** Writes the hierarchy with cameras and lights. */
final class GltfNodes {
  private final Scene scene;
  private final ObjectNode root;
  private final Set<String> extensions;
  private final Map<Integer, Integer> cameraIndex = new HashMap<>();
  private final Map<Integer, Integer> lightIndex = new HashMap<>();
  private final Set<Integer> moving = new HashSet<>();
  private final Map<Integer, List<LocalTransform.Trs>> copies;
  private final GltfBuffer buffer;

  /**
   * @param gathered the scene, with the nodes that stand for many copies
   */
  GltfNodes(GltfGathered gathered, ObjectNode root, GltfBuffer buffer, Set<String> extensions) {
    scene = gathered.scene();
    copies = gathered.places();
    this.buffer = buffer;
    this.root = root;
    this.extensions = extensions;
    scene.clips().stream()
        .flatMap(c -> c.tracks().stream())
        .filter(t -> t.isTransform())
        .forEach(t -> moving.add(t.targetId()));
  }

  private int targets(Node.Content.MeshContent content) {
    return scene.mesh(content.meshId()).map(m -> m.morphs().size()).orElse(0);
  }

  /**
   * @param meshIndex place of the mesh to show, by the place of the node
   * @param skinIndex place of each skin, by its id
   */
  void write(ObjectNode glScene, Map<Integer, Integer> meshIndex, Map<Integer, Integer> skinIndex) {
    if (scene.nodes().isEmpty()) {
      return;
    }
    cameras();
    lights();
    ArrayNode nodes = root.putArray("nodes");
    ArrayNode roots = JsonNodeFactory.instance.arrayNode();
    Map<Integer, List<Integer>> levels = new HashMap<>();
    for (int i = 0; i < scene.nodes().size(); i++) {
      Node node = scene.nodes().get(i);
      ObjectNode json = nodes.addObject();
      if (!node.name().isEmpty()) {
        json.put("name", node.name());
      }
      transform(json, node);
      content(json, node, meshIndex.get(i), skinIndex);
      if (!node.visible()) {
        extensions.add(GltfExtensions.VISIBILITY);
        json.withObject("/extensions/" + GltfExtensions.VISIBILITY).put("visible", false);
      }
      GltfExtras.write(json, node.properties(), extensions);
      if (node.parent() < 0) {
        roots.add(i);
      } else if (!isCoarser(node, i, levels)) {
        ((ObjectNode) nodes.get(node.parent())).withArray("children").add(i);
      }
    }
    if (!roots.isEmpty()) {
      glScene.set("nodes", roots);
    }
    levels.forEach((group, list) -> levels(nodes, group, list));
  }

  /** Levels after the finest stand outside the hierarchy: MSFT_lod names them. */
  private boolean isCoarser(Node node, int place, Map<Integer, List<Integer>> levels) {
    if (!(scene.nodes().get(node.parent()).content() instanceof Node.Content.DetailGroup)) {
      return false;
    }
    List<Integer> list = levels.computeIfAbsent(node.parent(), k -> new ArrayList<>());
    list.add(place);
    return list.size() > 1;
  }

  private void levels(ArrayNode nodes, int group, List<Integer> list) {
    if (list.size() < 2) {
      return;
    }
    extensions.add(GltfExtensions.LEVELS);
    ObjectNode finest = (ObjectNode) nodes.get(list.get(0));
    ArrayNode ids = finest.withObject("/extensions/" + GltfExtensions.LEVELS).putArray("ids");
    list.stream().skip(1).forEach(ids::add);
    Node.Content.DetailGroup content =
        (Node.Content.DetailGroup) scene.nodes().get(group).content();
    if (content.measure() == Node.Content.DetailGroup.Measure.SCREEN) {
      ArrayNode coverage = finest.withObject("/extras").putArray("MSFT_screencoverage");
      for (double threshold : content.thresholds()) {
        coverage.add(threshold);
      }
    }
  }

  private void content(ObjectNode json, Node node, Integer mesh, Map<Integer, Integer> skinIndex) {
    if (node.content() instanceof Node.Content.MeshContent content && mesh != null) {
      json.put("mesh", mesh);
      if (copies.containsKey(node.id())) {
        copies(json, copies.get(node.id()));
      }
      Integer skin = skinIndex.get(content.skinId());
      if (skin != null) {
        json.put("skin", skin);
      }
      if (content.morphWeights() != null && content.morphWeights().length == targets(content)) {
        ArrayNode weights = json.putArray("weights");
        for (double weight : content.morphWeights()) {
          weights.add(weight);
        }
      }
    } else if (node.content() instanceof Node.Content.CameraContent content
        && cameraIndex.containsKey(content.cameraId())) {
      json.put("camera", cameraIndex.get(content.cameraId()));
    } else if (node.content() instanceof Node.Content.LightContent content
        && lightIndex.containsKey(content.lightId())) {
      json.withObject("/extensions/" + GltfExtensions.LIGHTS)
          .put("light", lightIndex.get(content.lightId()));
    }
  }

  private void copies(ObjectNode json, List<LocalTransform.Trs> places) {
    float[] t = new float[3 * places.size()];
    float[] r = new float[4 * places.size()];
    float[] s = new float[3 * places.size()];
    for (int i = 0; i < places.size(); i++) {
      LocalTransform.Trs place = places.get(i);
      Quaterniond turn = new Quaterniond(place.rotation()).normalize();
      for (int k = 0; k < 3; k++) {
        t[3 * i + k] = (float) place.translation().get(k);
        s[3 * i + k] = (float) place.scale().get(k);
      }
      r[4 * i] = (float) turn.x;
      r[4 * i + 1] = (float) turn.y;
      r[4 * i + 2] = (float) turn.z;
      r[4 * i + 3] = (float) turn.w;
    }
    extensions.add(GltfExtensions.INSTANCING);
    json.withObject("/extensions/" + GltfExtensions.INSTANCING + "/attributes")
        .put("TRANSLATION", buffer.addNumbers(t, 3, false))
        .put("ROTATION", buffer.addNumbers(r, 4, false))
        .put("SCALE", buffer.addNumbers(s, 3, false));
  }

  /** A node that a clip moves has translation, rotation and scale; others what the source had. */
  private void transform(ObjectNode json, Node node) {
    LocalTransform transform = node.transform();
    Matrix4d m = transform.toMatrix();
    if (transform instanceof LocalTransform.Trs trs) {
      trs(json, trs.translation(), trs.rotation(), trs.scale());
    } else if (moving.contains(node.id())) {
      LocalTransform.Trs rest = LocalTransform.Trs.nearest(m);
      trs(json, rest.translation(), rest.rotation(), rest.scale());
    } else if (!m.equals(new Matrix4d(), 0)) {
      ArrayNode array = json.putArray("matrix");
      for (double value : m.get(new double[16])) {
        array.add(value + 0.0);
      }
    }
  }

  private static void trs(ObjectNode json, Vector3dc t, Quaterniondc written, Vector3dc s) {
    Quaterniond r = new Quaterniond(written).normalize();
    if (t.lengthSquared() != 0) {
      json.putArray("translation").add(t.x()).add(t.y()).add(t.z());
    }
    if (r.x() != 0 || r.y() != 0 || r.z() != 0) {
      json.putArray("rotation").add(r.x()).add(r.y()).add(r.z()).add(r.w());
    }
    if (s.x() != 1 || s.y() != 1 || s.z() != 1) {
      json.putArray("scale").add(s.x()).add(s.y()).add(s.z());
    }
  }

  /** Where cameras and lights were written, by their ids. */
  GltfPlaces places(Map<Integer, Integer> materials) {
    return new GltfPlaces(scene.nodePlaces(), cameraIndex, lightIndex, materials);
  }

  private void cameras() {
    for (Camera camera : scene.cameras()) {
      ArrayNode list = root.withArray("cameras");
      cameraIndex.put(camera.id(), list.size());
      ObjectNode json = list.addObject();
      if (!camera.name().isEmpty()) {
        json.put("name", camera.name());
      }
      boolean perspective = camera.verticalAngleRadians() > 0;
      json.put("type", perspective ? "perspective" : "orthographic");
      ObjectNode values = json.putObject(perspective ? "perspective" : "orthographic");
      if (perspective) {
        values.put("yfov", Math.min(camera.verticalAngleRadians(), Math.PI - 1e-3));
        if (camera.aspect() > 0) {
          values.put("aspectRatio", camera.aspect());
        }
      } else {
        double half = camera.height() / 2;
        values.put("xmag", camera.aspect() > 0 ? half * camera.aspect() : half).put("ymag", half);
      }
      CameraSpan span = CameraSpan.of(camera);
      values.put("znear", span.near());
      if (!Double.isInfinite(span.far())) {
        values.put("zfar", span.far());
      }
      Map<String, Object> custom = new HashMap<>(camera.properties());
      if (camera.lens() != null && perspective) {
        custom.putAll(camera.lens().values(camera.verticalAngleRadians()));
      }
      GltfExtras.write(json, custom, extensions);
    }
  }

  private void lights() {
    for (Light light : scene.lights()) {
      if (light.kind() == Light.Kind.AREA || light.kind() == Light.Kind.DOME) {
        continue;
      }
      extensions.add(GltfExtensions.LIGHTS);
      ArrayNode list = root.withObject("/extensions/" + GltfExtensions.LIGHTS).withArray("lights");
      lightIndex.put(light.id(), list.size());
      ObjectNode json = list.addObject();
      if (!light.name().isEmpty()) {
        json.put("name", light.name());
      }
      json.put("type", light.kind().name().toLowerCase(java.util.Locale.ROOT));
      GltfMaterials.numbers(
          json.putArray("color"),
          light.linearColour()[0],
          light.linearColour()[1],
          light.linearColour()[2]);
      json.put("intensity", light.intensity());
      if (!Double.isInfinite(light.range()) && light.kind() != Light.Kind.DIRECTIONAL) {
        json.put("range", light.range());
      }
      if (light.kind() == Light.Kind.SPOT) {
        json.putObject("spot")
            // The inner cone must be the smaller one.
            .put(
                "innerConeAngle",
                Math.max(0, Math.min(light.innerAngleRadians(), light.outerAngleRadians() - 1e-6)))
            .put("outerConeAngle", light.outerAngleRadians());
      }
      GltfExtras.write(json, light.properties(), extensions);
    }
  }
}
