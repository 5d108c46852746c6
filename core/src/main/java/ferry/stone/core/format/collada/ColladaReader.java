package ferry.stone.core.format.collada;

import ferry.stone.core.field.Field;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.ReferenceFinder;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Reads a COLLADA file, or the one that a zipped archive names. */
final class ColladaReader {
  private static final String SCENE = "scene";

  /** What can be chosen. */
  static final List<Field> FIELDS =
      List.of(
          Field.number(
              SCENE,
              "Which scene of the file",
              "",
              0,
              1_000_000,
              0,
              "Counted from 1. 0 for the one that the file names."));

  private final DaeDocument document;
  private final DaeFrames frames;
  private final SceneBuilder scene;
  private final DaeMaterials materials;
  private final DaeShapes shapes;
  private final DaeNodes nodes;
  private final DaeMotion motion;
  private final ReadContext context;
  private final String name;

  private ColladaReader(DaeDocument document, String resource, Budget budget, ReadContext context) {
    this.document = document;
    this.context = context;
    name = CargoPath.stem(resource);
    scene = new SceneBuilder(name);
    frames = new DaeFrames(document.root);
    ReferenceFinder finder = new ReferenceFinder(context.resources(), context.bindings());
    materials = new DaeMaterials(document, scene, finder);
    shapes = new DaeShapes(document, frames, materials, scene);
    nodes = new DaeNodes(document, frames, shapes, scene, budget);
    motion = new DaeMotion(document, nodes, shapes, scene, budget);
  }

  static Scene read(String resource, ReadContext context) throws IOException, FormatException {
    if (context.resources().size(resource) == 0) {
      throw new FormatException(
          Kind.TRUNCATED, resource, "", "the file is empty (0 bytes). Export or copy it again.");
    }
    if (ZaeArchive.isZip(resource, context.resources())) {
      return ZaeArchive.read(resource, context);
    }
    return read(resource, Budget.of(resource, context.resources()), context);
  }

  static Scene read(String resource, Budget budget, ReadContext context)
      throws IOException, FormatException {
    DaeElement root;
    try (InputStream in = context.resources().open(resource)) {
      root =
          DaeParser.parse(
              resource, context.resources().size(resource), in, budget, context.progress());
    }
    DaeDocument document = new DaeDocument(root, resource, context.findings());
    return new ColladaReader(document, resource, budget, context).build();
  }

  private Scene build() throws FormatException {
    scene
        .frame(
            frames.file(),
            frames.isUnitStated() ? FrameSource.STATED : FrameSource.FORMAT,
            frames.isAxesStated() ? FrameSource.STATED : FrameSource.FORMAT)
        .uvOrigin(UvOrigin.BOTTOM_LEFT);
    context.progress().report("building the scene", 0.6);
    DaeElement visual = visualScene();
    if (visual != null) {
      rate(visual);
      nodes.read(visual);
    }
    skins();
    nodes.nodes().forEach(scene::add);
    nodes.copies().forEach(scene::add);
    shapes.add();
    materials.add();
    context.progress().report("reading motion", 0.8);
    context.progress().checkCancelled();
    motion.read(name);
    unread();
    return scene.build();
  }

  private DaeElement visualScene() {
    List<DaeElement> all = document.library("library_visual_scenes", "visual_scene");
    DaeElement instance = document.root.at("scene", "instance_visual_scene");
    DaeElement named = instance == null ? null : document.named(instance, "url", "visual_scene");
    int chosen = context.values(FIELDS).whole(SCENE);
    DaeElement read = named != null ? named : all.isEmpty() ? null : all.get(0);
    read = chosen > 0 && chosen <= all.size() ? all.get(chosen - 1) : read;
    if (all.size() > 1) {
      document.findings.add(otherScenes(all, read));
    }
    return read;
  }

  private Finding otherScenes(List<DaeElement> all, DaeElement read) {
    List<Offer> offers = new ArrayList<>();
    for (int s = 0; s < Math.min(8, all.size()); s++) {
      if (all.get(s) != read) {
        offers.add(Offer.read("Read " + sceneName(all, s), SCENE, s + 1));
      }
    }
    return Finding.of(
            "other-scenes-not-read",
            Severity.LOOK,
            document.resource,
            "The file holds "
                + all.size()
                + " scenes; "
                + sceneName(all, all.indexOf(read))
                + " is read. Choose another to carry that one.")
        .offer(offers.toArray(new Offer[0]));
  }

  private static String sceneName(List<DaeElement> all, int scene) {
    String name = all.get(scene).attribute("name");
    return name == null || name.isBlank() ? "scene " + (scene + 1) : "\"" + name + "\"";
  }

  /** Frames a second in an extra technique: common practice, no source. */
  private void rate(DaeElement visual) {
    for (DaeElement extra : visual.all("extra")) {
      for (DaeElement technique : extra.all("technique")) {
        DaeElement rate = technique.child("frame_rate");
        double value = rate == null ? 0 : rate.scalar(0);
        if (value > 0 && value < 10_000) {
          scene.framesPerSecond(value);
        }
      }
    }
  }

  private void skins() throws FormatException {
    Map<List<Object>, Integer> known = new HashMap<>();
    List<Node> all = nodes.nodes();
    Map<Integer, Integer> places = new HashMap<>();
    for (int i = 0; i < all.size(); i++) {
      places.put(all.get(i).id(), i);
    }
    for (DaeShapes.Skinned each : shapes.skinned()) {
      List<DaeElement> roots = new ArrayList<>();
      for (DaeElement skeleton : each.instance().all("skeleton")) {
        DaeElement root = document.byReference(skeleton, skeleton.text, "node");
        if (root != null) {
          roots.add(root);
        }
      }
      if (roots.isEmpty()) {
        document.library("library_visual_scenes", "visual_scene").forEach(roots::add);
      }
      List<Object> key = List.of(each.skin(), each.meshId(), roots);
      Integer skinId = known.get(key);
      if (skinId == null) {
        Skin skin = skin(each, roots, places);
        skinId = skin == null ? -1 : skin.id();
        known.put(key, skinId);
        if (skin != null) {
          scene.add(skin);
        }
      }
      int place = places.get(each.nodeId());
      Node node = all.get(place);
      if (skinId >= 0 && node.content() instanceof Node.Content.MeshContent content) {
        all.set(place, node.withContent(content.withSkin(skinId)));
      }
    }
  }

  private Skin skin(DaeShapes.Skinned each, List<DaeElement> roots, Map<Integer, Integer> places)
      throws FormatException {
    int vertices = shapes.mesh(each.meshId()).points().count();
    DaeControllers.Bound bound = shapes.controllers().skin(each.skin(), vertices);
    int[] ids = new int[bound.joints().size()];
    for (int j = 0; j < ids.length; j++) {
      DaeElement joint = nodes.joint(bound.joints().get(j), roots);
      if (joint == null) {
        throw document.broken(
            each.skin(),
            "the joint \""
                + bound.joints().get(j)
                + "\" is no node of the scene."
                + " Export the file again with its skeleton.");
      }
      ids[j] = nodes.of(joint).get(0).nodeId();
      List<Node> all = nodes.nodes();
      Node node = all.get(places.get(ids[j]));
      if (node.content() instanceof Node.Content.Group) {
        all.set(places.get(ids[j]), node.withContent(new Node.Content.Joint(0)));
      }
    }
    DaeElement controller = each.skin().parent;
    return new Skin(
        scene.newId(),
        controller.label("skin"),
        each.meshId(),
        ids,
        bound.inverseBind(),
        bound.offsets(),
        bound.jointOf(),
        bound.weights(),
        "linear",
        bound.bindShape());
  }

  /** Whole libraries that there is no place for. */
  private void unread() {
    Map<String, String> words =
        Map.of(
            "library_physics_models", "physics",
            "library_physics_scenes", "physics",
            "library_force_fields", "force fields",
            "library_kinematics_models", "kinematics",
            "library_formulas", "formulas");
    words.forEach(
        (library, what) -> {
          for (DaeElement found : document.root.all(library)) {
            if (!found.children.isEmpty()) {
              document.say("statements-not-read", found, "The file holds " + what + ": not read.");
            }
          }
        });
  }
}
