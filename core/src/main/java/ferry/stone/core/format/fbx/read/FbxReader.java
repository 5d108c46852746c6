package ferry.stone.core.format.fbx.read;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.fbx.raw.FbxDocument;
import ferry.stone.core.format.fbx.raw.FbxProperties;
import ferry.stone.core.format.fbx.raw.FbxSettings;
import ferry.stone.core.format.fbx.raw.FbxTransforms;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.RandomBytes;
import ferry.stone.core.format.files.ReferenceFinder;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.node.Visibility;
import java.io.IOException;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/** Reads an FBX file of version 7 in either form. */
public final class FbxReader {
  private static final double TOLERANCE = 1e-9;

  private final FbxDocument document;
  private final Budget budget;
  private final ReadContext context;
  private final String resource;
  private final SceneBuilder scene;
  private final FbxRigReader rigs;
  private final FbxSettings settings;
  private final Set<Integer> dressed = new HashSet<>();
  private final Map<Long, Integer> nodeIds = new HashMap<>();
  private final Map<Long, PolygonMesh> meshes = new HashMap<>();
  private final Set<Long> joints = new HashSet<>();
  private final List<FbxClipReader.Model> models = new ArrayList<>();
  private final List<Node> nodes = new ArrayList<>();
  private final List<Take> takes = new ArrayList<>();
  private final Map<FbxDocument.Item, Integer> lenses = new LinkedHashMap<>();
  private final Map<FbxDocument.Item, Integer> materialIds = new LinkedHashMap<>();

  private record Take(String name, FbxMotion motion) {}

  private FbxReader(FbxDocument document, String resource, Budget budget, ReadContext context) {
    this.budget = budget;
    this.document = document;
    this.resource = resource;
    this.context = context;
    scene = new SceneBuilder(CargoPath.stem(resource));
    settings = FbxSettings.of(document);
    rigs = new FbxRigReader(document, context.findings());
  }

  public static Scene read(String resource, ReadContext context)
      throws IOException, FormatException {
    RandomBytes file = context.resources().random(resource);
    if (file.size() == 0) {
      throw new FormatException(
          FormatException.Kind.TRUNCATED,
          resource,
          "",
          "the file is empty (0 bytes). Export or copy it again.");
    }
    Budget budget = Budget.of(resource, context.resources());
    FbxDocument document = FbxDocument.parse(resource, file, budget, context.findings());
    return new FbxReader(document, resource, budget, context).build();
  }

  private Scene build() throws FormatException {
    FrameSource source = settings.stated() ? FrameSource.STATED : FrameSource.ASSUMED;
    scene
        .frame(settings.frame(), source, source)
        .uvOrigin(UvOrigin.BOTTOM_LEFT)
        .framesPerSecond(settings.framesPerSecond());
    if (settings.originalUp() != null && settings.originalUp() != settings.frame().up()) {
      context
          .findings()
          .add(
              Finding.of(
                      "turned-by-its-tool",
                      Severity.NOTE,
                      "whole scene",
                      "The tool that made the scene had another axis up than the file says.")
                  .measured(settings.originalUp().label() + " up")
                  .evidence("the header says " + settings.frame().up().label() + " up"));
    }
    ReferenceFinder finder = new ReferenceFinder(context.resources(), context.bindings());
    Map<Long, Integer> materials =
        new FbxMaterialReader(
                document, scene, finder, resource, context.resources(), context.findings())
            .read();
    document.all("Material").forEach(m -> materialIds.put(m, materials.get(m.id())));
    List<FbxDocument.Item> geometries =
        document.all("Geometry").stream().filter(g -> !g.type().equals("Shape")).toList();
    for (int g = 0; g < geometries.size(); g++) {
      context.progress().checkCancelled();
      context.progress().report("reading meshes", 0.2 + 0.5 * g / geometries.size());
      geometry(geometries.get(g));
    }
    for (FbxDocument.Item stack : document.all("AnimationStack")) {
      takes.add(new Take(stack.name(), new FbxMotion(document, stack)));
    }
    order();
    Matrix4d[] local = locals();
    for (int i = 0; i < models.size(); i++) {
      addNode(i, local[i], materials);
    }
    nodes.forEach(scene::add);
    List<PolygonMesh> own = new ArrayList<>(meshes.values());
    own.sort(java.util.Comparator.comparingInt(PolygonMesh::id));
    own.forEach(scene::add);
    skins();
    new FbxSets(document, nodeIds).addTo(scene);
    new FbxProperties(document.root().at("GlobalSettings"), Map.of())
        .custom()
        .forEach(scene::property);
    clips(settings.framesPerSecond());
    return scene.build();
  }

  private void geometry(FbxDocument.Item item) throws FormatException {
    if (item.type().equals(FbxLineReader.LINE) || item.type().equals(FbxLineReader.CURVE)) {
      meshes.put(item.id(), new FbxLineReader(resource, item).read(scene.newId()));
      return;
    }
    if (!item.type().equals("Mesh")) {
      context
          .findings()
          .add(
              Finding.of(
                  "geometry-not-read",
                  Severity.FIX,
                  item.name(),
                  "Geometry of the kind " + item.type() + " is not read: turn it into a mesh."));
      return;
    }
    PolygonMesh mesh = new FbxMeshReader(resource, item, context.findings()).read(scene.newId());
    List<MorphTarget> morphs = rigs.morphs(item, mesh.points().count());
    meshes.put(item.id(), mesh.toBuilder().morphs(morphs).build());
    rigs.joints(item).forEach(j -> joints.add(j.id()));
  }

  /** Lists all models, parents first; loops and models without a parent become roots. */
  private void order() {
    Map<Long, Integer> placeOf = new HashMap<>();
    Deque<FbxDocument.Item> stack = new ArrayDeque<>();
    List<FbxDocument.Item> all = document.all("Model");
    List<FbxDocument.Item> roots =
        new ArrayList<>(document.tops().stream().filter(i -> i.kind().equals("Model")).toList());
    roots.addAll(all);
    int lost = 0;
    for (int r = 0; r < roots.size(); r++) {
      FbxDocument.Item root = roots.get(r);
      if (placeOf.containsKey(root.id())) {
        continue;
      }
      lost += r >= roots.size() - all.size() ? 1 : 0;
      Map<Long, Integer> parentOf = new HashMap<>();
      parentOf.put(root.id(), -1);
      stack.push(root);
      while (!stack.isEmpty()) {
        FbxDocument.Item item = stack.pop();
        if (placeOf.containsKey(item.id())) {
          continue;
        }
        int place = models.size();
        placeOf.put(item.id(), place);
        int id = scene.newId();
        nodeIds.put(item.id(), id);
        models.add(
            new FbxClipReader.Model(
                item, id, parentOf.get(item.id()), FbxTransforms.rest(item.properties())));
        List<FbxDocument.Item> children = document.sources(item, "Model");
        for (int c = children.size() - 1; c >= 0; c--) {
          if (!placeOf.containsKey(children.get(c).id())) {
            parentOf.put(children.get(c).id(), place);
            stack.push(children.get(c));
          }
        }
      }
    }
    if (lost > 0) {
      context
          .findings()
          .add(
              Finding.of(
                      "model-without-parent",
                      Severity.LOOK,
                      resource,
                      "Some models hang on nothing; they are read as roots.")
                  .measured(Figures.count(lost, "model")));
    }
  }

  /** Where each model stands in its parent, with scale as its inheritance brings it down. */
  private Matrix4d[] locals() {
    Matrix4d[] local = new Matrix4d[models.size()];
    FbxTransforms.World[] world = new FbxTransforms.World[models.size()];
    for (int i = 0; i < local.length; i++) {
      FbxClipReader.Model model = models.get(i);
      FbxTransforms.World parent = model.parent() < 0 ? null : world[model.parent()];
      world[i] = FbxTransforms.world(parent, model.rest());
      boolean flat = parent == null || Math.abs(parent.matrix().determinant3x3()) < 1e-30;
      local[i] =
          flat
              ? model.rest().toMatrix()
              : parent.matrix().invert(new Matrix4d()).mul(world[i].matrix());
    }
    return local;
  }

  private void addNode(int place, Matrix4d local, Map<Long, Integer> materials) {
    FbxClipReader.Model model = models.get(place);
    FbxDocument.Item item = model.item();
    Matrix4d own = model.rest().toMatrix();
    double size = Math.max(1, own.getScale(new Vector3d()).length());
    boolean asWritten =
        own.equals(
            local, TOLERANCE * size * Math.max(1, own.getTranslation(new Vector3d()).length()));
    LocalTransform transform =
        asWritten ? model.rest() : new LocalTransform.InheritedTransform(model.rest(), local);
    Node node =
        Node.of(model.nodeId(), item.name(), model.parent(), Node.Content.GROUP)
            .withTransform(transform)
            .withVisibility(visibility(item))
            .withProperties(item.properties().custom());
    nodes.add(content(node, item, materials));
  }

  private static Visibility visibility(FbxDocument.Item item) {
    FbxProperties p = item.properties();
    if (p.number("Visibility", 1) <= 0 || !p.flag("Show", true)) {
      return Visibility.HIDDEN;
    }
    return p.flag("Visibility Inheritance", true) ? Visibility.INHERITED : Visibility.SHOWN;
  }

  private Node content(Node node, FbxDocument.Item item, Map<Long, Integer> materials) {
    for (FbxDocument.Item geometry : document.sources(item, "Geometry")) {
      PolygonMesh mesh = meshes.get(geometry.id());
      if (mesh != null) {
        return node.withContent(shown(geometry, mesh, item, materials))
            .withGeometric(FbxTransforms.geometric(item.properties()));
      }
    }
    for (FbxDocument.Item attribute : document.sources(item, "NodeAttribute")) {
      String name = attribute.name().isEmpty() ? item.name() : attribute.name();
      switch (attribute.type()) {
        case "Camera" -> {
          int id = scene.newId();
          lenses.put(attribute, id);
          scene.add(FbxLensReader.camera(id, name, attribute.properties(), settings.frame()));
          // The scene's cameras look along −Z.
          return node.withContent(new Node.Content.CameraContent(id))
              .withGeometric(turned(new Quaterniond().rotationY(-Math.PI / 2)));
        }
        case "Light" -> {
          int id = scene.newId();
          lenses.put(attribute, id);
          scene.add(FbxLensReader.light(id, name, attribute.properties()));
          return node.withContent(new Node.Content.LightContent(id))
              .withGeometric(turned(new Quaterniond().rotationX(-Math.PI / 2)));
        }
        case "LodGroup" -> {
          return node.withContent(levels(attribute, item));
        }
        default -> {
          // Nulls and joints are told by their models.
        }
      }
    }
    boolean joint = joints.contains(item.id()) || item.type().equals("LimbNode");
    return joint ? node.withContent(new Node.Content.Joint(0)) : node;
  }

  private static LocalTransform turned(Quaterniond turn) {
    return Trs.of(new Vector3d(), turn, new Vector3d(1));
  }

  private Node.Content levels(FbxDocument.Item attribute, FbxDocument.Item item) {
    int count = document.sources(item, "Model").size();
    double[] thresholds = new double[count];
    boolean distances = !attribute.properties().flag("ThresholdsUsedAsPercentage", false);
    for (int i = 0; i < count; i++) {
      double value = attribute.properties().number("Thresholds|Level" + i, Double.NaN);
      thresholds[i] =
          Double.isFinite(value)
              ? (distances ? value : value / 100)
              : distances ? Double.POSITIVE_INFINITY : 0;
    }
    return new Node.Content.DetailGroup(
        thresholds,
        distances
            ? Node.Content.DetailGroup.Measure.DISTANCE
            : Node.Content.DetailGroup.Measure.SCREEN);
  }

  /** A mesh as a model shows it: the model's own list of materials fills the slots. */
  private Node.Content shown(
      FbxDocument.Item geometry,
      PolygonMesh mesh,
      FbxDocument.Item model,
      Map<Long, Integer> materials) {
    int[] slots = new int[mesh.materialIds().length];
    Arrays.fill(slots, -1);
    int at = 0;
    for (FbxDocument.Item material : document.sources(model, "Material")) {
      if (at < slots.length) {
        slots[at++] = materials.getOrDefault(material.id(), -1);
      }
    }
    Node.Content.MeshContent content = Node.Content.MeshContent.of(mesh.id());
    if (dressed.add(mesh.id())) {
      // The first model that shows the mesh gives it its materials and, unnamed, its name.
      String name = mesh.name().isEmpty() ? model.name() : mesh.name();
      meshes.put(
          geometry.id(), mesh.toBuilder().name(name).materials(slots, mesh.faceSlot()).build());
      return content;
    }
    return Arrays.equals(slots, mesh.materialIds())
        ? content
        : new Node.Content.MeshContent(mesh.id(), -1, slots, null);
  }

  private void skins() {
    List<Node> withSkins = new ArrayList<>(nodes);
    Map<Integer, Long> geometryOf = new HashMap<>();
    meshes.forEach((geometry, mesh) -> geometryOf.put(mesh.id(), geometry));
    Map<Long, FbxDocument.Item> items = new HashMap<>();
    document.all("Geometry").forEach(g -> items.put(g.id(), g));
    Map<Integer, Integer> skinOf = new HashMap<>();
    for (int i = 0; i < withSkins.size(); i++) {
      Node node = withSkins.get(i);
      if (!(node.content() instanceof Node.Content.MeshContent content)) {
        continue;
      }
      Long geometry = geometryOf.get(content.meshId());
      Integer skinId = skinOf.get(content.meshId());
      if (skinId == null) {
        Skin skin =
            rigs.skin(
                items.get(geometry),
                meshes.get(geometry),
                scene.newId(),
                nodeIds,
                node.geometric().toMatrix());
        skinId = skin == null ? -1 : skin.id();
        skinOf.put(content.meshId(), skinId);
        if (skin != null) {
          scene.add(skin);
        }
      }
      if (skinId >= 0) {
        withSkins.set(i, node.withContent(content.withSkin(skinId)));
      }
    }
    scene.nodes(withSkins);
  }

  private void clips(double framesPerSecond) throws FormatException {
    FbxMovingValues values = new FbxMovingValues(document);
    for (FbxDocument.Item geometry : document.all("Geometry")) {
      PolygonMesh mesh = meshes.get(geometry.id());
      if (mesh != null && !mesh.morphs().isEmpty()) {
        List<Integer> showing =
            nodes.stream()
                .filter(
                    n ->
                        n.content() instanceof Node.Content.MeshContent m
                            && m.meshId() == mesh.id())
                .map(Node::id)
                .toList();
        values.morphs(mesh, rigs.channels(geometry), showing);
      }
    }
    models.forEach(m -> values.node(m.item(), m.nodeId()));
    lenses.forEach((item, id) -> values.lens(item, id, settings.frame()));
    materialIds.forEach(values::material);
    List<FbxMotion> motions = takes.stream().map(Take::motion).toList();
    FbxClipReader reader =
        new FbxClipReader(
            models,
            values.of(motions),
            framesPerSecond,
            settings.span(),
            takes.isEmpty() ? 0 : scene.build().bounds().diagonal(),
            budget,
            context.findings());
    for (Take take : takes) {
      context.progress().checkCancelled();
      scene.add(reader.clip(scene.newId(), take.name(), take.motion()));
    }
  }
}
