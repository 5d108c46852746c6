package ferry.stone.core.format.gltf.read;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.format.gltf.raw.GltfExtensions;
import ferry.stone.core.format.gltf.raw.GltfExtras;
import ferry.stone.core.scene.SceneBuilder;
import java.util.Iterator;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/**
 * Extensions and extras in places from which they are not carried. Those of nodes, meshes,
 * materials, cameras, lights, the scene and the asset are kept by {@link GltfExtras}.
 */
final class GltfUnread {
  private static final Set<String> LISTS =
      Set.of(
          "accessors",
          "animations",
          "buffers",
          "bufferViews",
          "images",
          "samplers",
          "skins",
          "textures");

  private GltfUnread() {}

  static void tell(JsonNode root, SceneBuilder scene) {
    Map<String, String> found = new TreeMap<>();
    look(root, "the file", "", found, Set.of("extras"));
    for (String list : LISTS) {
      JsonNode items = root.path(list);
      for (int i = 0; i < items.size(); i++) {
        look(items.get(i), list, "/" + list + "/" + i, found, Set.of());
      }
    }
    JsonNode meshes = root.path("meshes");
    for (int m = 0; m < meshes.size(); m++) {
      JsonNode primitives = meshes.get(m).path("primitives");
      for (int p = 0; p < primitives.size(); p++) {
        String place = "/meshes/" + m + "/primitives/" + p;
        look(primitives.get(p), "primitives", place, found, Set.of());
      }
    }
    JsonNode materials = root.path("materials");
    for (int m = 0; m < materials.size(); m++) {
      infos(materials.get(m), "/materials/" + m, found);
    }
    found.forEach((what, place) -> scene.unread(what + ", first at " + place));
  }

  /** Uses of textures, wherever a material has one. */
  private static void infos(JsonNode json, String path, Map<String, String> found) {
    for (Iterator<Map.Entry<String, JsonNode>> i = json.fields(); i.hasNext(); ) {
      Map.Entry<String, JsonNode> member = i.next();
      String place = path + "/" + member.getKey();
      boolean extras = member.getKey().equals("extras");
      if (member.getKey().endsWith("Texture") && member.getValue().has("index")) {
        look(member.getValue(), "uses of textures", place, found, Set.of());
      } else if (member.getValue().isObject() && !extras) {
        infos(member.getValue(), place, found);
      }
    }
  }

  private static void look(
      JsonNode json, String kind, String place, Map<String, String> found, Set<String> taken) {
    json.path("extensions")
        .fieldNames()
        .forEachRemaining(
            name -> {
              if (!GltfExtensions.READ.contains(name)) {
                found.putIfAbsent("The extension " + name + " on " + kind, place + "/extensions");
              }
            });
    if (json.has("extras") && !json.path("extras").isEmpty() && !taken.contains("extras")) {
      found.putIfAbsent("Custom values of " + kind, place + "/extras");
    }
  }
}
