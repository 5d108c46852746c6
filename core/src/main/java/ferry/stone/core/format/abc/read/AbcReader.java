package ferry.stone.core.format.abc.read;

import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.abc.raw.AbcArchive;
import ferry.stone.core.format.abc.raw.AbcCompound;
import ferry.stone.core.format.abc.raw.AbcObject;
import ferry.stone.core.format.abc.raw.AbcProperty;
import ferry.stone.core.format.abc.raw.TimeSampling;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.ReadReport;
import ferry.stone.core.format.motion.FileClip;
import ferry.stone.core.format.motion.PlaceTree;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.LengthUnit;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.CopySet;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.scene.node.Visibility;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Samples;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Reads an archive. Each object is a part of its own: nothing is merged. The format says neither
 * unit nor axes; centimetres and Y up are assumed until the user says otherwise: common practice,
 * no source.
 */
public final class AbcReader {
  private static final Frame USUAL =
      Frame.Y_UP_METRE.withMetresPerUnit(LengthUnit.CENTIMETRE.metres());

  private final ReadReport report;
  private final ReadContext context;
  private final AbcArchive archive;
  private final SceneBuilder scene;
  private final PlaceTree tree;
  private final AbcMeshes meshes;
  private final List<Clip.Track> tracks = new ArrayList<>();
  private final List<Clip.Words> words = new ArrayList<>();
  private final Map<String, AbcObject> originals = new HashMap<>();

  private final Map<String, Integer> nodeOf = new HashMap<>();

  /** Nodes that show a branch again, by its path. */
  private final Map<String, List<Integer>> copies = new LinkedHashMap<>();

  private int objects;

  private AbcReader(ReadReport report, ReadContext context, AbcArchive archive) {
    this.report = report;
    this.context = context;
    this.archive = archive;
    String name = CargoPath.stem(report.resource());
    scene =
        new SceneBuilder(name)
            .frame(USUAL, FrameSource.ASSUMED, FrameSource.ASSUMED)
            .uvOrigin(UvOrigin.BOTTOM_LEFT);
    tree = new PlaceTree(report);
    meshes = new AbcMeshes(report, scene, this::later);
  }

  /** For what is read when it is shown: it takes memory of its own and tells nothing again. */
  private ReadReport later() {
    return new ReadReport(
        report.resource(), new Findings(), Budget.of(report.resource(), context.resources()), true);
  }

  public static Scene read(String resource, ReadContext context)
      throws IOException, FormatException {
    if (context.resources().size(resource) == 0) {
      throw new FormatException(
          Kind.TRUNCATED, resource, "", "the file is empty (0 bytes). Export or copy it again.");
    }
    context.progress().report("reading " + resource, 0);
    Budget budget = Budget.of(resource, context.resources());
    AbcArchive archive = AbcArchive.open(resource, context.resources().random(resource), budget);
    return new AbcReader(
            new ReadReport(resource, context.findings(), budget, false), context, archive)
        .build();
  }

  private Scene build() throws IOException, FormatException {
    index(archive.top());
    for (AbcObject object : archive.top().children()) {
      walk(object, -1);
    }
    copies.forEach(
        (path, ids) -> {
          if (nodeOf.containsKey(path)) {
            ids.add(0, nodeOf.get(path));
            int[] all = ids.stream().mapToInt(Integer::intValue).toArray();
            scene.add(new CopySet(CopySet.Kind.BRANCHES, -1, all));
          }
        });
    tracks.addAll(0, tree.tracks());
    rate();
    scene.caches(meshes.caches());
    meshes.sequences().forEach(scene::add);
    List<Samples> samples = new ArrayList<>(meshes.caches());
    samples.addAll(meshes.sequences());
    FileClip.add(scene, CargoPath.stem(report.resource()), tracks, List.of(), words, samples, null);
    return scene.build();
  }

  /** Objects by their paths: what copies name, and materials. */
  private void index(AbcObject object) throws IOException, FormatException {
    context.progress().checkCancelled();
    for (AbcObject child : object.children()) {
      originals.put(child.path(), child);
      if (isMaterial(child)) {
        meshes.stands(child.path());
      }
      index(child);
    }
  }

  private void walk(AbcObject object, int parent) throws IOException, FormatException {
    context.progress().checkCancelled();
    context.progress().report("reading " + object.path(), 0.5);
    if (AbcShape.isFaceSet(object) || isMaterial(object) || holdsMaterials(object)) {
      return;
    }
    AbcProperty source = object.properties().value(".instanceSource").orElse(null);
    AbcObject shown = object;
    if (source != null) {
      String path = String.join("", source.texts(0));
      shown = originals.get(path);
      if (shown == null || (object.path() + "/").startsWith(path + "/")) {
        report.lost(
            "reference-broken",
            object.path(),
            "It should show \"" + path + "\" again, which is not there or holds it: left out.");
        return;
      }
    }
    node(object, shown, parent);
  }

  private static boolean isMaterial(AbcObject object) {
    return object.schema().startsWith("AbcMaterial");
  }

  /** A plain object that is there for materials alone is no part. */
  private static boolean holdsMaterials(AbcObject object) throws IOException, FormatException {
    return object.schema().isEmpty()
        && !object.children().isEmpty()
        && object.children().stream().allMatch(AbcReader::isMaterial);
  }

  /**
   * @param object names the part
   * @param shown says what it is: itself, or what it is a copy of
   */
  private void node(AbcObject object, AbcObject shown, int parent)
      throws IOException, FormatException {
    if (++objects > 1_000_000) {
      throw report.broken(object.path(), "more than 1,000,000 objects, copies included.");
    }
    AbcTransform transform = AbcTransform.of(shown, report);
    int id = scene.newId();
    tree.add(id, object.path(), parent, transform);
    AbcCompound properties = shown.properties();
    Node node =
        Node.of(id, object.name(), tree.lift() ? -1 : parent, content(shown))
            .withTransform(tree.rest())
            .withVisibility(visibility(properties, id))
            .withProperties(values(shown, id));
    int place = scene.add(node);
    if (object != shown) {
      copies.computeIfAbsent(shown.path(), k -> new ArrayList<>()).add(id);
    }
    nodeOf.putIfAbsent(object.path(), id);
    for (AbcObject child : shown.children()) {
      walk(child, place);
    }
  }

  private Content content(AbcObject object) throws IOException, FormatException {
    String schema = object.schema();
    if (AbcMeshes.isMesh(schema)) {
      return Content.MeshContent.of(meshes.mesh(object));
    }
    if (schema.startsWith("AbcGeom_Camera")) {
      int id = scene.newId();
      Camera camera = AbcCameras.read(report, object, id, tracks);
      if (camera != null) {
        scene.add(camera);
        return new Content.CameraContent(id);
      }
    } else if (schema.startsWith("AbcGeom_Light")) {
      report.lost(
          "light-not-read", object.path(), "Lights of the format say nothing: read as a group.");
    } else if (!schema.isEmpty() && !schema.startsWith("AbcGeom_Xform")) {
      report.lost(
          "geometry-not-read",
          object.path(),
          "What follows the schema \"" + schema + "\" is not read: it is a group here.");
    }
    return Content.GROUP;
  }

  /** −1 as its parent is, 0 hidden, 1 shown. */
  private Visibility visibility(AbcCompound properties, int id)
      throws IOException, FormatException {
    AbcProperty visible = properties.value("visible").orElse(null);
    if (visible == null) {
      return Visibility.INHERITED;
    }
    int samples = visible.isConstant() ? 1 : visible.sampleCount();
    report.claim(16L * samples, "", "visibility");
    double[] seconds = new double[samples];
    double[] seen = new double[samples];
    for (int s = 0; s < samples; s++) {
      seconds[s] = visible.seconds(s);
      seen[s] = visible.ints(s)[0] == 0 ? 0 : 1;
    }
    if (samples > 1) {
      tracks.add(
          new Clip.Track(id, Clip.VISIBLE, Clip.Interpolation.STEP, 1, seconds, seen, null, null));
    }
    return switch (visible.ints(0)[0]) {
      case 0 -> Visibility.HIDDEN;
      case -1 -> Visibility.INHERITED;
      default -> Visibility.SHOWN;
    };
  }

  /**
   * Values of users: those that a schema keeps for them, and what stands beside it. What a mesh
   * keeps over its elements is its own.
   */
  private Map<String, Object> values(AbcObject object, int id) throws IOException, FormatException {
    AbcCompound properties = object.properties();
    AbcValues values = new AbcValues(report, object.path());
    Map<String, Object> all = new LinkedHashMap<>(values.beside(properties));
    for (String name : properties.compounds()) {
      if (name.startsWith(".")) {
        AbcCompound schema = properties.compound(name).orElseThrow();
        List<String> holders = new ArrayList<>(List.of(".userProperties"));
        if (!AbcMeshes.isMesh(object.schema())) {
          holders.add(".arbGeomParams");
        }
        for (String holder : holders) {
          AbcCompound custom = schema.compound(holder).orElse(null);
          if (custom != null) {
            all.putAll(values.read(custom));
          }
        }
      }
    }
    values.tracks().forEach(t -> tracks.add(t.withTarget(id)));
    values.words().forEach(w -> words.add(w.withTarget(id)));
    return all;
  }

  /** The first steady sampling that more than one sample follows says how fast frames run. */
  private void rate() {
    for (TimeSampling sampling : archive.samplings()) {
      double rate = sampling.isUniform() ? 1 / sampling.perCycle() : 0;
      if (rate > 1 && rate <= 1000) {
        scene.framesPerSecond(Math.abs(rate - Math.rint(rate)) < 1e-6 ? Math.rint(rate) : rate);
        return;
      }
    }
  }
}
