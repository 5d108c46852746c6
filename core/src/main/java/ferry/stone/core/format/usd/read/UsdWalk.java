package ferry.stone.core.format.usd.read;

import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.files.ReadReport;
import ferry.stone.core.format.files.ReferenceFinder;
import ferry.stone.core.format.motion.PlaceTree;
import ferry.stone.core.format.usd.UsdNames;
import ferry.stone.core.format.usd.compose.UsdPrim;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.UsdFiles;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.read.look.Bindings;
import ferry.stone.core.format.usd.read.look.LookSets;
import ferry.stone.core.format.usd.read.look.ShadeGraph;
import ferry.stone.core.format.usd.read.look.UsdLooks;
import ferry.stone.core.format.usd.read.look.UsdTextures;
import ferry.stone.core.format.usd.read.rig.Skins;
import ferry.stone.core.format.usd.read.rig.UsdBlends;
import ferry.stone.core.format.usd.read.shape.Instances;
import ferry.stone.core.format.usd.read.shape.UsdMeshes;
import ferry.stone.core.format.usd.read.shape.UsdSubset;
import ferry.stone.core.format.usd.read.stage.Above;
import ferry.stone.core.format.usd.read.stage.Primvars;
import ferry.stone.core.format.usd.read.stage.Said;
import ferry.stone.core.format.usd.read.stage.UsdReading;
import ferry.stone.core.format.usd.read.stage.UsdValues;
import ferry.stone.core.scene.Copies;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.CopySet;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.scene.node.Purpose;
import ferry.stone.core.scene.node.Visibility;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Supplier;
import org.joml.Matrix4d;

/** Goes through all prims of a stage and makes the parts of the scene of them. */
final class UsdWalk {
  private static final int MOST = 1_000_000;

  /** Prims that stand for something that others use, and for no part of their own. */
  private static final Set<String> NO_PARTS =
      Set.of("Material", "Shader", "NodeGraph", "GeomSubset", "BlendShape", "SkelAnimation");

  private static final Set<String> OURS = Set.of("Skeleton", "PointInstancer", "Camera");
  private static final Set<String> GROUPS = Set.of("", "Xform", "Scope", "SkelRoot");

  private final UsdReading reading;
  private final Progress progress;
  private final PlaceTree tree;
  private final Compositions compositions;
  private final LookSets lookSets;
  private final UsdMeshes meshes;
  private final UsdLooks looks;
  private final List<String> materials = new ArrayList<>();
  private final Skins skins;
  private final Instances instances = new Instances();
  private final List<Node> nodes = new ArrayList<>();

  UsdWalk(
      UsdReading reading,
      UsdFiles files,
      ReferenceFinder finder,
      Supplier<ReadReport> later,
      Compositions compositions,
      LookSets lookSets,
      Progress progress) {
    this.reading = reading;
    this.progress = progress;
    this.compositions = compositions;
    this.lookSets = lookSets;
    tree = new PlaceTree(reading.report());
    ShadeGraph graph = new ShadeGraph(reading.stage());
    UsdTextures textures = new UsdTextures(reading, files, finder, graph);
    looks = new UsdLooks(reading, textures, graph);
    UsdBlends blends = new UsdBlends(reading);
    Bindings bindings = new Bindings(reading);
    meshes = new UsdMeshes(reading, bindings, looks, lookSets, blends, later);
    skins = new Skins(reading, nodes);
  }

  void all() throws IOException, FormatException {
    UsdPrim root = reading.stage().root();
    for (UsdPrim prim : root.children()) {
      prim(prim, Above.top(root));
      prim.forget();
    }
    for (String path : materials) {
      looks.unseen(path, instances.path(path));
    }
    skins.bind();
    reading.scene().nodes(nodes);
    instances.tell(reading.scene());
    meshes.tellLooks();
    reading.scene().compose(compositions.all());
    reading.tracks().addAll(0, tree.tracks());
  }

  private void prim(UsdPrim prim, Above above) throws IOException, FormatException {
    progress.checkCancelled();
    if (prim.specifier() != PrimSpec.Specifier.DEF) {
      return;
    }
    boolean kept = UsdSubset.is(prim) && !UsdSubset.isRead(prim, above.prim());
    if (NO_PARTS.contains(prim.typeName()) && !kept) {
      material(prim);
      return;
    }
    Content.DetailGroup levels = reading.asOthers() ? null : Levels.of(prim);
    List<UsdPrim> children = levels == null ? prim.children() : prim.allChildren();
    if (holdsLooks(prim, children)) {
      children.forEach(this::material);
      return;
    }
    progress.report("reading " + prim.path(), 0.5);
    if (prim.typeName().equals("Skeleton") && isHelper(prim)) {
      skeleton(prim, above, above.node());
    } else {
      node(prim, above, children, levels);
    }
    for (UsdPrim child : children) {
      child.forget();
    }
  }

  /** Remembers a material that nothing may show. */
  private void material(UsdPrim prim) {
    if (prim.typeName().equals("Material")) {
      materials.add(prim.path());
    }
  }

  /** A plain group that is there for materials alone is no part. */
  private static boolean holdsLooks(UsdPrim prim, List<UsdPrim> children) {
    return (prim.typeName().equals("Scope") || prim.typeName().isEmpty())
        && !children.isEmpty()
        && children.stream().allMatch(c -> NO_PARTS.contains(c.typeName()));
  }

  /**
   * @param levels what the prims below are, {@code null} for parts
   */
  private void node(UsdPrim prim, Above above, List<UsdPrim> children, Content levels)
      throws IOException, FormatException {
    if (nodes.size() >= MOST) {
      throw reading.report().broken(prim.path(), "more than 1,000,000 parts, copies included.");
    }
    int id = reading.scene().newId();
    String prototype = prim.prototype();
    if (prototype != null) {
      instances.add(prim, prototype, id);
    }
    compositions.add(prim, id, levels != null);
    lookSets.add(prim);
    for (String name : prim.curves()) {
      reading
          .report()
          .note(
              "curve-as-samples",
              prim.path(),
              "\"" + name + "\" moves by a curve: it is read at each time code and at its knots.");
    }
    XformOps transform = XformOps.of(reading, prim);
    tree.add(id, prim.path(), above.node(), transform);
    int parent = tree.lift() ? -1 : above.node();
    LocalTransform rest = tree.rest();
    if (transform != null) {
      transform.keys(id, reading.keys());
    }
    Primvars primvars = above.primvars().of(prim);
    UsdPrim shape = shape(prim, children);
    Above around = shape == prim ? above : new Above(above, prim, -1, primvars.constant());
    PolygonMesh mesh =
        shape == null ? null : mesh(shape, around, shape == prim ? children : shape.children());
    Content content =
        levels != null
            ? levels
            : mesh == null ? content(prim, above) : Content.MeshContent.of(mesh.id());
    int place = nodes.size();
    nodes.add(
        Node.of(id, Said.name(prim), parent, content)
            .withTransform(rest)
            .withGeometric(inside(prim, content))
            .withVisibility(visibility(prim, id))
            .withPurpose(purpose(prim))
            .withProperties(values(prim, id)));
    if (mesh != null) {
      skins.mesh(shape, around, place, mesh);
    }
    Above here = new Above(above, prim, place, primvars.constant());
    switch (prim.typeName()) {
      case "Skeleton" -> skeleton(prim, above, place);
      case "PointInstancer" -> instancer(prim, here, children);
      default -> {
        for (UsdPrim child : children) {
          if (child != shape) {
            prim(child, here);
          }
        }
      }
    }
  }

  /** What takes a kept shape out of the numbers of its source, where a landing of ours says so. */
  private static LocalTransform inside(UsdPrim prim, Content content)
      throws IOException, FormatException {
    UsdValue matrix =
        content instanceof Content.KeptShape ? Said.value(prim, UsdNames.SOURCE_FRAME) : null;
    return matrix == null || matrix.length() != 16
        ? LocalTransform.IDENTITY
        : new LocalTransform.MatrixTransform(new Matrix4d().set(matrix.doubles()));
  }

  private void skeleton(UsdPrim prim, Above above, int place) throws IOException, FormatException {
    skins.skeleton(prim, above, place);
    tree.skip(nodes.size());
  }

  /** The shape of a part: its own, or the one that stands below it because shapes hold no parts. */
  private UsdPrim shape(UsdPrim prim, List<UsdPrim> children) {
    if (UsdMeshes.isShape(prim.typeName())) {
      return prim;
    }
    for (UsdPrim child : children) {
      if (UsdMeshes.isShape(child.typeName()) && isHelper(child)) {
        return child;
      }
    }
    return null;
  }

  /** Whether a prim is there because the format needs it, as a landing of ours says. */
  private boolean isHelper(UsdPrim prim) {
    return !reading.asOthers()
        && prim.field("customData") instanceof Map<?, ?> map
        && map.containsKey(UsdNames.HELPER);
  }

  private PolygonMesh mesh(UsdPrim shape, Above above, List<UsdPrim> children)
      throws IOException, FormatException {
    List<UsdSubset> subsets = new ArrayList<>();
    for (UsdPrim child : children) {
      if (UsdSubset.is(child) && UsdSubset.isRead(child, shape)) {
        subsets.add(UsdSubset.of(child));
      }
    }
    return meshes.mesh(shape, above, above.primvars().of(shape), subsets, instances);
  }

  private Content content(UsdPrim prim, Above above) throws IOException, FormatException {
    String type = prim.typeName();
    if (type.equals("Camera")) {
      int id = reading.scene().newId();
      Camera camera = UsdCameras.read(reading, prim, id);
      if (camera != null) {
        reading.scene().add(camera);
        return new Content.CameraContent(id);
      }
    } else if (UsdLights.is(type)) {
      int id = reading.scene().newId();
      reading.scene().add(UsdLights.read(reading, prim, id));
      return new Content.LightContent(id);
    } else if (isOthers(type)) {
      reading
          .report()
          .note(
              "schema-kept",
              prim.path(),
              "What follows the schema \""
                  + type
                  + "\" is a group here: its values are kept as they are, in the numbers of the source, and land in USD again.");
    } else if (UsdNames.isKeptShape(type)) {
      reading
          .report()
          .note(
              "shape-kept",
              prim.path(),
              "What follows the schema \""
                  + type
                  + "\" is not drawn and not measured: it is kept as it is, and lands in USD again.");
      return new Content.KeptShape(type, meshes.materials(prim, above, instances));
    }
    return Content.GROUP;
  }

  /** Whether a prim follows a schema that has no place here and is no shape. */
  private static boolean isOthers(String type) {
    return !GROUPS.contains(type)
        && !UsdNames.isKeptShape(type)
        && !UsdMeshes.isShape(type)
        && !UsdLights.is(type)
        && !OURS.contains(type);
  }

  private Visibility visibility(UsdPrim prim, int id) throws IOException, FormatException {
    reading.track(
        id,
        Clip.VISIBLE,
        prim.property("visibility"),
        Clip.Interpolation.STEP,
        1,
        v -> new double[] {"invisible".equals(v.text()) ? 0 : 1});
    return Said.text(prim, "visibility", "inherited").equals("invisible")
        ? Visibility.HIDDEN
        : Visibility.INHERITED;
  }

  private static Purpose purpose(UsdPrim prim) throws IOException, FormatException {
    return switch (Said.text(prim, "purpose", "default")) {
      case "render" -> Purpose.RENDER;
      case "proxy" -> Purpose.PROXY;
      case "guide" -> Purpose.GUIDE;
      default -> Purpose.DEFAULT;
    };
  }

  private Map<String, Object> values(UsdPrim prim, int id) throws IOException, FormatException {
    Map<String, Object> all = new LinkedHashMap<>();
    UsdValues values = new UsdValues(reading, prim, id);
    values.fields(all);
    boolean shape = UsdNames.isKeptShape(prim.typeName());
    boolean light = UsdLights.is(prim.typeName());
    values.schemas(all, shape || isOthers(prim.typeName()));
    values.attributes(
        all,
        name ->
            shape
                ? !UsdNames.placesShape(prim.typeName(), name)
                : name.startsWith("collection:")
                    || !UsdNames.isSchema(name) && !(light && name.startsWith("inputs:")));
    if (Said.name(prim).equals(prim.name())
        && prim.field("displayName") instanceof UsdValue said
        && said.text() != null) {
      all.put("displayName", said.text());
    }
    return all;
  }

  private void instancer(UsdPrim prim, Above here, List<UsdPrim> children)
      throws IOException, FormatException {
    if (reading.asOthers()) {
      // They list what it shows, and not where.
      for (UsdPrim child : children) {
        prim(child, here);
      }
      return;
    }
    Instancer instancer = Instancer.of(reading, prim);
    List<String> targets = Said.targets(prim, "prototypes");
    Map<String, UsdPrim> prototypes = new HashMap<>();
    for (String target : targets) {
      UsdPrim prototype = reading.stage().prim(target);
      if (prototype == null) {
        reading
            .report()
            .lost(
                "reference-broken",
                prim.path(),
                "Its prototype \"" + target + "\" is not there: what shows it is left out.");
      } else {
        prototypes.put(target, prototype);
      }
    }
    UsdPrim only = targets.size() == 1 ? prototypes.get(targets.get(0)) : null;
    if (only != null && isBareShape(only)) {
      places(prim, here, instancer, only);
      return;
    }
    int[] ids = new int[instancer.count()];
    Map<Integer, List<Integer>> shown = new LinkedHashMap<>();
    for (int i = 0; i < ids.length; i++) {
      int index = instancer.prototype(i);
      UsdPrim prototype =
          index < 0 || index >= targets.size() ? null : prototypes.get(targets.get(index));
      if (prototype == null || !instancer.isActive(i)) {
        continue;
      }
      ids[i] = reading.scene().newId();
      int place = nodes.size();
      nodes.add(
          Node.of(ids[i], Copies.name(Said.name(prim), i), here.node(), Content.GROUP)
              .withTransform(instancer.place(i))
              .withVisible(instancer.isSeen(i)));
      tree.stand(ids[i], prim.path(), here.node(), instancer.place(i).toMatrix());
      shown.computeIfAbsent(index, k -> new ArrayList<>()).add(ids[i]);
      prim(prototype, new Above(here.parent(), prim, place, here.primvars()));
    }
    instancer.motion(ids);
    int holder = nodes.get(here.node()).id();
    for (List<Integer> same : shown.values()) {
      if (same.size() > 1) {
        int[] all = same.stream().mapToInt(Integer::intValue).toArray();
        reading.scene().add(new CopySet(CopySet.Kind.BRANCHES, holder, all));
      }
    }
  }

  /** Whether a prim is nothing but a shape where it stands. */
  private boolean isBareShape(UsdPrim prim) throws IOException, FormatException {
    boolean bare = UsdMeshes.isShape(prim.typeName()) && XformOps.of(reading, prim) == null;
    for (UsdPrim child : bare ? prim.children() : List.<UsdPrim>of()) {
      bare &=
          UsdSubset.is(child) && UsdSubset.isRead(child, prim)
              || holdsLooks(child, child.children());
    }
    return bare
        && Said.text(prim, "visibility", "inherited").equals("inherited")
        && purpose(prim) == Purpose.DEFAULT;
  }

  /** One shape at many places: parts that show it, known as a list. */
  private void places(UsdPrim prim, Above here, Instancer instancer, UsdPrim shape)
      throws IOException, FormatException {
    PolygonMesh mesh = mesh(shape, new Above(here, prim, -1, here.primvars()), shape.children());
    Content content = Content.MeshContent.of(mesh.id());
    int[] ids = new int[instancer.count()];
    List<Integer> there = new ArrayList<>();
    for (int i = 0; i < ids.length; i++) {
      if (instancer.prototype(i) != 0 || !instancer.isActive(i)) {
        continue;
      }
      ids[i] = reading.scene().newId();
      there.add(ids[i]);
      nodes.add(
          Node.of(ids[i], Copies.name(Said.name(prim), i), here.node(), content)
              .withTransform(instancer.place(i))
              .withVisible(instancer.isSeen(i)));
    }
    tree.skip(nodes.size());
    instancer.motion(ids);
    int[] all = there.stream().mapToInt(Integer::intValue).toArray();
    int holder = nodes.get(here.node()).id();
    reading.scene().add(new CopySet(CopySet.Kind.PLACES, holder, all));
  }
}
