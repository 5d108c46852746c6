package ferry.stone.core.format.usd.write;

import ferry.stone.core.format.files.FreeNames;
import ferry.stone.core.format.usd.UsdNames;
import ferry.stone.core.format.usd.ValidNames;
import ferry.stone.core.format.usd.layer.PrimSpec;
import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.write.look.ImagesOut;
import ferry.stone.core.format.usd.write.look.LooksOut;
import ferry.stone.core.format.usd.write.rig.Rig;
import ferry.stone.core.format.usd.write.rig.RigOut;
import ferry.stone.core.format.usd.write.rig.SkelRoots;
import ferry.stone.core.format.usd.write.shape.BlendsOut;
import ferry.stone.core.format.usd.write.shape.PlacesOut;
import ferry.stone.core.format.usd.write.shape.ShapeOut;
import ferry.stone.core.format.usd.write.spec.Spec;
import ferry.stone.core.format.usd.write.spec.TimeCodes;
import ferry.stone.core.format.usd.write.spec.ValuesOut;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.scene.BranchList;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.Light;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.scene.node.Purpose;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.node.Visibility;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.scene.time.PointCache;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.joml.Matrix4d;

/**
 * The parts of a scene as prims. A mesh that several parts show stands once in a class that they
 * refer to; a mesh with parts below it stands in a child of its own, since shapes hold none.
 */
final class NodesOut {
  private static final String LOOKS = "Looks";
  private static final String SHARED = "Meshes";

  private final Scene scene;
  private final UsdPlan plan;
  private final Rig rig;
  private final TimeCodes times;
  private final PrimSpec root;
  private final PrimSpec[] prims;
  private final String[] paths;
  private final Map<Integer, FreeNames> names = new HashMap<>();
  private final Map<Integer, PolygonMesh> meshes;
  private final Map<Integer, PointCache> caches = new HashMap<>();
  private final Map<Integer, MeshSequence> sequences = new HashMap<>();
  private final Map<Integer, Camera> cameras = new HashMap<>();
  private final Map<Integer, Light> lights = new HashMap<>();
  private final Map<Integer, Skin> skins = new HashMap<>();
  private final Map<Integer, Integer> shows = new HashMap<>();
  private final Map<Integer, String> shared = new HashMap<>();
  private final ShapeOut shapes;
  private final LensOut lenses;
  private final RigOut rigs;
  private final BlendsOut blends;
  private final ImagesOut images;
  private final Set<Integer> skelRoots;
  private final Instanced instanced;
  private final Map<Integer, PrimSpec> copyPrims = new HashMap<>();
  private final Map<Integer, String> copies = new HashMap<>();
  private final DressOut dress;
  private PrimSpec classes;
  private final List<RigOut.Skeleton> forShapes = new ArrayList<>();

  NodesOut(Scene scene, UsdPlan plan, TimeCodes times, ImagesOut images, PrimSpec root) {
    this.scene = scene;
    this.plan = plan;
    rig = plan.rig();
    this.times = times;
    this.images = images;
    this.root = root;
    int count = scene.nodes().size();
    prims = new PrimSpec[count];
    paths = new String[count];
    meshes = scene.meshesById();
    scene.caches().forEach(c -> caches.putIfAbsent(c.meshId(), c));
    scene.sequences().forEach(s -> sequences.putIfAbsent(s.meshId(), s));
    scene.cameras().forEach(c -> cameras.put(c.id(), c));
    scene.lights().forEach(l -> lights.put(l.id(), l));
    scene.skins().forEach(s -> skins.put(s.id(), s));
    shapes = new ShapeOut(times);
    dress = new DressOut(scene, shapes);
    lenses = new LensOut(scene.frame().metresPerUnit(), times);
    rigs = new RigOut(scene, rig, times);
    blends = new BlendsOut(times);
    skelRoots = plan.skelRoots();
    instanced = plan.instanced();
  }

  void write() throws IOException {
    boolean[] parents = new boolean[prims.length];
    for (Node node : scene.nodes()) {
      if (node.parent() >= 0) {
        parents[node.parent()] = true;
      }
    }
    for (int i = 0; i < prims.length; i++) {
      if (rig.isJoint(i) || instanced.isAgain(i) || instanced.isGroup(i) || isLater(i)) {
        continue;
      }
      prim(i);
      if (scene.nodes().get(i).content() instanceof Content.MeshContent content) {
        shows.merge(content.meshId(), 1, Integer::sum);
      }
    }
    looks();
    rigs.skeletons(holders());
    for (int i = 0; i < prims.length; i++) {
      if (prims[i] != null) {
        content(i, parents[i]);
      }
    }
    rigs.all().forEach(rigs::weights);
    forShapes.forEach(rigs::weights);
    // The first prim at the top is the default one: the class stands behind all parts.
    if (classes != null) {
      root.children().put(classes.name(), classes);
    }
    dress.variants(root);
  }

  /** Whether a node is a place of what the first of its list shows. */
  private boolean isLater(int place) {
    int[] list = instanced.isPlace(place) ? instanced.list(parent(place)) : null;
    return list != null && list[0] != place;
  }

  private int parent(int place) {
    return scene.nodes().get(place).parent();
  }

  private RigOut.Holders holders() {
    return new RigOut.Holders() {
      @Override
      public PrimSpec prim(int place) {
        return place < 0 ? root : prims[place];
      }

      @Override
      public String path(int place) {
        return place < 0 ? "" : paths[place];
      }

      @Override
      public FreeNames names(int place) {
        return NodesOut.this.names(place);
      }
    };
  }

  private FreeNames names(int place) {
    return names.computeIfAbsent(place, k -> new FreeNames());
  }

  /** The prim of a node with its name and its place. */
  private void prim(int place) {
    Node node = scene.nodes().get(place);
    boolean listed = instanced.isPlace(place);
    String own = listed ? mesh(node).name() : node.name();
    String name = names(holder(node)).take(ValidNames.of(own));
    int above = holder(node);
    int set = above < 0 ? -1 : instanced.set(above);
    PrimSpec parent = set >= 0 ? copied(set, above) : above < 0 ? root : prims[above];
    PrimSpec prim = Spec.def(parent, UsdNames.isSubset(node) ? UsdNames.SUBSET : "Xform", name);
    prims[place] = prim;
    String path = set >= 0 ? copies.get(set) : above < 0 ? "" : paths[above];
    paths[place] = path + "/" + name;
    if (!listed && !name.equals(node.name())) {
      prim.fields().put("displayName", Spec.text("string", node.name()));
    }
  }

  /** The node below which one is written: a list of branches says itself where they stand. */
  private int holder(Node node) {
    int parent = node.parent();
    return parent >= 0 && instanced.isGroup(parent) ? parent(parent) : parent;
  }

  private PolygonMesh mesh(Node node) {
    return meshes.get(((Content.MeshContent) node.content()).meshId());
  }

  /** The class that holds what is below the copies of a set, which is there from now on. */
  private PrimSpec copied(int set, int top) {
    PrimSpec there = copyPrims.get(set);
    if (there == null) {
      PrimSpec all = classes();
      String name = names(Integer.MIN_VALUE).take(ValidNames.of(scene.nodes().get(top).name()));
      there = Spec.def(all, "Xform", name);
      copyPrims.put(set, there);
      copies.put(set, "/" + all.name() + "/" + name);
    }
    return there;
  }

  /** The class that holds what several parts show. */
  private PrimSpec classes() {
    if (classes == null) {
      classes = new PrimSpec(names(-1).take(SHARED));
      dress.classes("/" + classes.name() + "/");
      classes.specifier(PrimSpec.Specifier.CLASS);
    }
    return classes;
  }

  /** Materials stand in the first part at the top, so that who refers to it has them too. */
  private void looks() throws IOException {
    if (scene.materials().isEmpty()) {
      return;
    }
    int first = -1;
    for (int i = 0; i < prims.length && first < 0; i++) {
      // What is said below an instance does not count.
      boolean holds = prims[i] != null && instanced.set(i) < 0;
      first = holds && scene.nodes().get(i).parent() < 0 ? i : -1;
    }
    PrimSpec holder = first < 0 ? root : prims[first];
    String name = names(first).take(LOOKS);
    PrimSpec scope = Spec.def(holder, "Scope", name);
    LooksOut looks =
        new LooksOut(scope, (first < 0 ? "" : paths[first]) + "/" + name, times, images);
    for (Material material : scene.materials()) {
      looks.write(material);
    }
    dress.looks(looks);
  }

  private void content(int place, boolean parent) {
    Node node = scene.nodes().get(place);
    PrimSpec prim = prims[place];
    if (skelRoots.contains(place)) {
      prim.typeName("SkelRoot");
    }
    int set = instanced.set(place);
    if (set >= 0 && copies.containsKey(set)) {
      Spec.reference(prim, copies.get(set));
      prim.fields().put("instanceable", Spec.number("bool", 1));
    }
    int[] list = instanced.list(place);
    if (list != null) {
      places(prim, list);
    }
    BranchList branches = instanced.branches(place);
    if (branches != null) {
      branches(prim, branches);
    }
    if (!instanced.isPlace(place) && !UsdNames.isSubset(node)) {
      XformOut.write(prim, node, times);
    }
    visibility(prim, node);
    if (node.purpose() != Purpose.DEFAULT) {
      Spec.token(prim, "purpose", node.purpose().name().toLowerCase(Locale.ROOT));
    }
    ValuesOut.write(prim, node.properties(), times, node.id(), images);
    if (node.content() instanceof Content.KeptShape kept) {
      prim.typeName(kept.schema());
      dress.kept(prim, paths[place], kept.materialIds());
    } else if (node.content() instanceof Content.Group
        && prim.typeName().equals("Xform")
        && node.properties().get(UsdNames.TYPE_NAME) instanceof String schema
        && !UsdNames.isKeptShape(schema)
        && ValidNames.isValid(schema)) {
      prim.typeName(schema);
    }
    if (node.content() instanceof Content.DetailGroup group) {
      levels(prim, place, group);
    } else if (node.content() instanceof Content.CameraContent content) {
      prim.typeName("Camera");
      lenses.camera(prim, cameras.get(content.cameraId()), node.name());
    } else if (node.content() instanceof Content.LightContent content) {
      Light light = lights.get(content.lightId());
      prim.typeName(LensOut.type(light));
      lenses.light(prim, light, node.name());
    } else if (node.content() instanceof Content.MeshContent content) {
      PrimSpec shape = prim;
      String path = paths[place];
      int namesOf = place;
      if (parent && hasPrimsBelow(place)) {
        String name = names(place).take(prim.name() + "_shape");
        shape = Spec.def(prim, "Mesh", name);
        Spec.custom(shape, UsdNames.HELPER, Spec.number("bool", 1));
        path = path + "/" + name;
        namesOf = -2 - place;
      }
      mesh(shape, path, namesOf, node, content);
    }
  }

  private void levels(PrimSpec prim, int place, Content.DetailGroup group) {
    List<PrimSpec> levels = new ArrayList<>();
    for (int i = place + 1; i < prims.length; i++) {
      if (parent(i) == place && prims[i] != null) {
        levels.add(prims[i]);
      }
    }
    if (!levels.isEmpty()) {
      LevelsOut.write(prim, levels, group);
    }
  }

  private void places(PrimSpec prim, int[] list) {
    List<Node> shown = Arrays.stream(list).mapToObj(scene.nodes()::get).toList();
    Bounds box = mesh(shown.get(0)).points().bounds();
    new PlacesOut(times, shown, new int[list.length], List.of(box))
        .write(prim, List.of(paths[list[0]]));
  }

  /** Branches below the prim that lists their places. */
  private void branches(PrimSpec prim, BranchList list) {
    List<String> prototypes = new ArrayList<>();
    List<Bounds> boxes = new ArrayList<>();
    Matrix4d[] world = scene.contentMatrices();
    for (int kind = 0; kind < list.kindCount(); kind++) {
      int group = list.first(kind);
      boolean[] inside = new boolean[prims.length];
      inside[group] = true;
      Bounds box = Bounds.EMPTY;
      Matrix4d back = scene.worldMatrices()[group].invert();
      for (int i = group + 1; i < prims.length; i++) {
        Node node = scene.nodes().get(i);
        inside[i] = node.parent() >= 0 && inside[node.parent()];
        if (inside[i] && node.parent() == group) {
          prototypes.add(paths[i]);
        }
        if (inside[i] && node.content() instanceof Content.MeshContent) {
          Bounds own = mesh(node).points().bounds();
          box = own.isEmpty() ? box : box.union(own.transform(new Matrix4d(back).mul(world[i])));
        }
      }
      boxes.add(box);
    }
    List<Node> shown = Arrays.stream(list.groups()).mapToObj(scene.nodes()::get).toList();
    new PlacesOut(times, shown, list.kinds(), boxes).write(prim, prototypes);
  }

  private boolean hasPrimsBelow(int place) {
    return prims[place].children().values().stream()
        .filter(p -> !p.typeName().equals(UsdNames.SUBSET))
        .anyMatch(p -> !p.typeName().equals("Scope") || !p.name().startsWith(LOOKS));
  }

  private void visibility(PrimSpec prim, Node node) {
    Clip.Track seen = times.track(node.id(), Clip.VISIBLE);
    boolean hidden = node.visibility() == Visibility.HIDDEN;
    if (!hidden && seen == null) {
      return;
    }
    PropertySpec property =
        Spec.set(prim, "visibility", Spec.text("token", hidden ? "invisible" : "inherited"));
    if (seen != null) {
      property.samples(
          times.samples(
              seen, true, v -> Spec.text("token", v[0] < 0.5 ? "invisible" : "inherited")));
    }
  }

  private void mesh(PrimSpec prim, String path, int place, Node node, Content.MeshContent content) {
    PolygonMesh mesh = meshes.get(content.meshId());
    prim.typeName(ShapeOut.type(mesh));
    boolean several = plan.keepsCopies() && shows.get(mesh.id()) > 1;
    if (several) {
      Spec.reference(prim, shared(mesh));
    } else {
      shapes.write(prim, mesh, caches.get(mesh.id()), sequences.get(mesh.id()));
    }
    dress.write(prim, path, mesh, content, names(place), several);
    Skin skin = skins.get(content.skinId());
    RigOut.Skeleton skeleton = skin == null ? null : rigs.bind(prim, skin);
    if (!mesh.morphs().isEmpty()) {
      if (skeleton == null) {
        int holder = skelRoot(node, place);
        skeleton = rigs.forShapes(prims[holder], paths[holder], names(holder), prim);
        forShapes.add(skeleton);
      }
      blends.write(prim, path, node, mesh, names(place), skeleton.weights);
    }
  }

  private int skelRoot(Node node, int place) {
    int at = place < -1 ? -2 - place : place;
    return SkelRoots.over(scene.nodes(), skelRoots, at);
  }

  /** Path of the class that a mesh stands in. */
  private String shared(PolygonMesh mesh) {
    String there = shared.get(mesh.id());
    if (there != null) {
      return there;
    }
    PrimSpec all = classes();
    String name = names(Integer.MIN_VALUE).take(ValidNames.of(mesh.name()));
    String path = "/" + all.name() + "/" + name;
    shared.put(mesh.id(), path);
    PrimSpec prim = Spec.def(all, ShapeOut.type(mesh), name);
    shapes.write(prim, mesh, caches.get(mesh.id()), sequences.get(mesh.id()));
    shapes.sets(
        prim, mesh, sequences.get(mesh.id()), new FreeNames(), DressOut.families(mesh, null));
    return path;
  }
}
