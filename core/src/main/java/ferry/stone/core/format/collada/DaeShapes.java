package ferry.stone.core.format.collada;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.Light;
import ferry.stone.core.scene.node.Node;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** What nodes show: meshes with their materials, cameras, lights. Each is read once. */
final class DaeShapes {
  private final DaeDocument document;
  private final DaeFrames frames;
  private final DaeMaterials materials;
  private final DaeControllers controllers;
  private final SceneBuilder scene;
  private final Map<DaeElement, DaeMeshReader.Result> geometries = new LinkedHashMap<>();
  private final Map<Integer, PolygonMesh> meshes = new LinkedHashMap<>();
  private final Map<Integer, DaeElement> morphOf = new HashMap<>();
  private final Map<DaeElement, Integer> lenses = new HashMap<>();
  private final List<Skinned> skinned = new ArrayList<>();
  private final Map<Integer, List<Integer>> showing = new HashMap<>();

  /**
   * What an instance shows.
   *
   * @param skin element of its skin, or {@code null}
   */
  record Shown(String name, Node.Content content, DaeElement instance, DaeElement skin) {}

  /** A node whose mesh a skin moves. */
  record Skinned(int nodeId, int meshId, DaeElement instance, DaeElement skin) {}

  DaeShapes(DaeDocument document, DaeFrames frames, DaeMaterials materials, SceneBuilder scene) {
    this.document = document;
    this.frames = frames;
    this.materials = materials;
    this.scene = scene;
    controllers = new DaeControllers(document);
  }

  List<Shown> shown(DaeElement node) throws FormatException {
    List<Shown> all = new ArrayList<>();
    for (DaeElement child : node.children) {
      Shown shown =
          switch (child.name) {
            case "instance_geometry" -> {
              DaeElement geometry = document.named(child, "url", "geometry");
              yield geometry == null ? null : mesh(child, geometry, null, null);
            }
            case "instance_controller" -> {
              DaeElement controller = document.named(child, "url", "controller");
              DaeControllers.Chain chain =
                  controller == null ? null : controllers.chain(controller);
              yield chain == null
                  ? null
                  : mesh(child, chain.geometry(), chain.skin(), chain.morph());
            }
            case "instance_camera" -> camera(document.named(child, "url", "camera"), child);
            case "instance_light" -> light(document.named(child, "url", "light"), child);
            default -> null;
          };
      if (shown != null) {
        all.add(shown);
      }
    }
    return all;
  }

  private DaeMeshReader.Result geometry(DaeElement geometry) throws FormatException {
    DaeMeshReader.Result known = geometries.get(geometry);
    if (known == null) {
      known = DaeMeshReader.read(document, geometry, frames.toFile(geometry), scene.newId());
      geometries.put(geometry, known);
      if (known.mesh() != null) {
        meshes.put(known.mesh().id(), known.mesh());
      }
    }
    return known;
  }

  private Shown mesh(DaeElement instance, DaeElement element, DaeElement skin, DaeElement morph)
      throws FormatException {
    DaeMeshReader.Result read = geometry(element);
    if (read.mesh() == null) {
      return null;
    }
    int id = read.mesh().id();
    PolygonMesh mesh = meshes.get(id);
    if (morph != null && mesh.morphs().isEmpty()) {
      List<MorphTarget> targets =
          controllers.morph(morph, mesh, geometry -> geometry(geometry).mesh());
      mesh = mesh.toBuilder().morphs(targets).build();
      meshes.put(id, mesh);
      morphOf.put(id, morph);
    }
    int[] slots = slots(instance, mesh, read.symbols());
    Node.Content.MeshContent content = Node.Content.MeshContent.of(id);
    if (!showing.containsKey(id)) {
      // The first part that shows the mesh gives it its materials.
      meshes.put(id, mesh.toBuilder().materials(slots, mesh.faceSlot()).build());
      showing.put(id, new ArrayList<>());
    } else if (!Arrays.equals(slots, mesh.materialIds())) {
      content = new Node.Content.MeshContent(id, -1, slots, null);
    }
    return new Shown(mesh.name(), content, instance, skin);
  }

  /** The material of each symbol where an instance binds it. */
  private int[] slots(DaeElement instance, PolygonMesh mesh, List<String> symbols) {
    int[] slots = new int[symbols.size()];
    Arrays.fill(slots, -1);
    DaeElement bound = instance.at("bind_material", "technique_common");
    for (DaeElement each : bound == null ? List.<DaeElement>of() : bound.all("instance_material")) {
      int slot = symbols.indexOf(each.attribute("symbol"));
      DaeElement material = document.named(each, "target", "material");
      int id = materials.id(material);
      if (slot >= 0) {
        slots[slot] = id;
      }
      for (DaeElement input : each.all("bind_vertex_input")) {
        if (input.attribute("input_semantic").startsWith("TEX")) {
          int set = set(mesh, input.number("input_set", 0));
          materials.bind(id, input.attribute("semantic"), set);
        }
      }
    }
    for (int s = 0; s < slots.length; s++) {
      // Without a binding some writers mean a material of the symbol's name.
      DaeElement same = slots[s] < 0 ? document.byId(symbols.get(s)) : null;
      slots[s] = same != null && same.name.equals("material") ? materials.id(same) : slots[s];
    }
    return slots;
  }

  /** Place of a numbered set among those of the mesh. */
  private static int set(PolygonMesh mesh, int number) {
    String name = "uv" + (number == 0 ? "" : number);
    List<String> names = mesh.all(Semantic.UV).stream().map(a -> a.name()).toList();
    return Math.max(0, names.indexOf(name));
  }

  private Shown camera(DaeElement element, DaeElement instance) {
    if (element == null) {
      return null;
    }
    Integer id = lenses.get(element);
    if (id == null) {
      id = scene.newId();
      Camera camera = DaeLenses.camera(element, id);
      if (camera == null) {
        document.say("camera-not-read", element, "Its projection is not read: left out.");
        return null;
      }
      lenses.put(element, id);
      scene.add(camera);
    }
    return new Shown(element.label("camera"), new Node.Content.CameraContent(id), instance, null);
  }

  private Shown light(DaeElement element, DaeElement instance) {
    if (element == null) {
      return null;
    }
    Integer id = lenses.get(element);
    if (id == null) {
      id = scene.newId();
      Light light = DaeLenses.light(element, id);
      if (light == null) {
        document.say(
            "light-not-read", element, "Light from everywhere has no place here: left out.");
        return null;
      }
      lenses.put(element, id);
      scene.add(light);
    }
    return new Shown(element.label("light"), new Node.Content.LightContent(id), instance, null);
  }

  /** Notes which node shows what. */
  void placed(Shown shown, int nodeId) {
    if (shown.content() instanceof Node.Content.MeshContent content) {
      showing.get(content.meshId()).add(nodeId);
      if (shown.skin() != null) {
        skinned.add(new Skinned(nodeId, content.meshId(), shown.instance(), shown.skin()));
      }
    }
  }

  List<Skinned> skinned() {
    return skinned;
  }

  PolygonMesh mesh(int id) {
    return meshes.get(id);
  }

  DaeControllers controllers() {
    return controllers;
  }

  /** Meshes with morph targets and the elements that give them. */
  Map<Integer, DaeElement> morphs() {
    return morphOf;
  }

  /** The nodes that show a mesh. */
  List<Integer> showing(int meshId) {
    return showing.getOrDefault(meshId, List.of());
  }

  /** Reads the geometries that no node shows, and adds all that are no mere morph targets. */
  void add() throws FormatException {
    for (PolygonMesh mesh : meshes.values()) {
      if (showing.containsKey(mesh.id())) {
        scene.add(mesh);
      }
    }
  }
}
