package ferry.stone.core.format.abc.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.SceneWriter.Target;
import ferry.stone.core.format.abc.raw.AbcOut;
import ferry.stone.core.format.abc.raw.AbcProperty.Type;
import ferry.stone.core.format.abc.raw.CompoundOut;
import ferry.stone.core.format.abc.raw.ObjectOut;
import ferry.stone.core.format.abc.raw.Pod;
import ferry.stone.core.format.abc.raw.PropertyOut;
import ferry.stone.core.format.files.FreeNames;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.scene.node.Visibility;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;

/**
 * Writes an archive: each node as an object with its place, each mesh once however often it is
 * shown. Samples go to the file as they are read; nothing of a cache is held but one.
 */
public final class AbcWriter {
  private static final String FACE_SET =
      "schema=AbcGeom_FaceSet_v1;schemaBaseType=AbcGeom_GeomBase_v1";
  private static final String FACES = ".faceset";
  private static final String MATERIAL = "schema=AbcMaterial_Material_v1";
  private static final String HOLDER = "materials";
  private static final Type TEXT = new Type(false, Pod.STRING, 1);

  private final Scene scene;
  private final AbcOptions options;
  private final AbcArrangement arrangement;
  private final Progress progress;
  private final AbcOut archive;
  private final Map<Integer, PolygonMesh> meshes;
  private final Map<Integer, PointCache> caches = new HashMap<>();
  private final Map<Integer, MeshSequence> sequences = new HashMap<>();
  private final Map<Integer, Map<String, Clip.Track>> tracks = new HashMap<>();
  private final Map<Integer, Map<String, Clip.Words>> words = new HashMap<>();
  private final Map<Integer, Camera> cameras = new HashMap<>();
  private final Map<Integer, String> written = new HashMap<>();
  private final Map<Integer, Boxes> boxes = new HashMap<>();
  private final CompoundOut[] xforms;
  private final Map<Integer, String> materials = new HashMap<>();
  private final String holder;

  private AbcWriter(Scene held, AbcOptions options, AbcOut archive, Progress progress) {
    scene = held;
    this.options = options;
    this.archive = archive;
    this.progress = progress;
    arrangement = new AbcArrangement(held);
    holder = arrangement.unique(-1, HOLDER);
    xforms = new CompoundOut[held.nodes().size()];
    meshes = held.meshesById();
    held.caches().forEach(c -> caches.put(c.meshId(), c));
    held.sequences().forEach(s -> sequences.put(s.meshId(), s));
    held.cameras().forEach(c -> cameras.put(c.id(), c));
    for (Clip clip : held.clips()) {
      clip.tracks()
          .forEach(
              t -> tracks.computeIfAbsent(t.targetId(), k -> new HashMap<>()).put(t.property(), t));
      clip.words()
          .forEach(
              w -> words.computeIfAbsent(w.targetId(), k -> new HashMap<>()).put(w.property(), w));
    }
  }

  /**
   * @param arrived in the frame of the file
   */
  public static String write(Scene arrived, AbcOptions options, Target target)
      throws IOException, FormatException {
    AbcPlan plan = new AbcPlan(arrived, options);
    Scene held = plan.held(target.stem());
    plan.said().forEach(target.findings()::add);
    plan.notCarried().forEach(target.findings()::add);
    arranged(held).forEach(target.findings()::add);
    String name = target.stem() + ".abc";
    try (AbcOut archive =
        new AbcOut(target.output().seekable(name), "_ai_Application=Stone Ferry")) {
      new AbcWriter(held, options, archive, target.progress()).run();
      archive.finish();
    }
    return name;
  }

  /** What is said of how the scene is arranged and of what has no place. */
  public static List<Finding> arranged(Scene held) {
    Findings said = new Findings();
    said.addAll(new AbcArrangement(held).said());
    for (PolygonMesh mesh : held.meshes()) {
      boolean faces = mesh.faces().faceCount() > 0;
      boolean lines = mesh.loose() != null && mesh.loose().lineCount() > 0;
      boolean points = mesh.loose() != null && mesh.loose().points().length > 0;
      if (faces && lines) {
        said.add(
            lost("lines-not-carried", mesh, "A mesh has faces or lines: its lines do not land."));
      }
      if (points && (faces || lines)) {
        said.add(lost("points-not-carried", mesh, "Points beside faces or lines do not land."));
      }
    }
    Set<String> names = new HashSet<>();
    for (Material material : held.materials()) {
      String name = material.name();
      if (!names.add(name) || name.isEmpty() || !AbcNames.plain(name).equals(name)) {
        said.add(
            Finding.of(
                "material-names-changed",
                Severity.LOOK,
                name,
                "Names of materials have no slash there and are unlike each other."));
      }
    }
    for (PolygonMesh mesh : held.meshes()) {
      Set<String> sets = new HashSet<>();
      for (FaceSet set : mesh.faceSets()) {
        String name = set.name();
        if (!sets.add(name) || name.isEmpty() || !AbcNames.plain(name).equals(name)) {
          said.add(
              Finding.of(
                  "set-names-changed",
                  Severity.LOOK,
                  mesh.name(),
                  "Names of sets of faces have no slash there and are unlike each other: \""
                      + name
                      + "\" becomes another."));
        }
      }
    }
    return said.list();
  }

  private static Finding lost(String code, PolygonMesh mesh, String message) {
    return Finding.of(code, Severity.FIX, mesh.name(), message);
  }

  private void run() throws IOException {
    nameMaterials();
    int count = scene.nodes().size();
    ObjectOut[] objects = new ObjectOut[count];
    for (int i = 0; i < count; i++) {
      progress.checkCancelled();
      Node node = scene.nodes().get(i);
      progress.report("writing " + node.name(), (double) i / count);
      ObjectOut above = node.parent() < 0 ? archive.top() : objects[node.parent()];
      objects[i] = object(above, node, i);
    }
    writeMaterials();
    new ChildBounds(scene, xforms, shapes()).write(archive.top().properties(), progress);
    // Children stand after their parents, so each is closed before what holds it.
    for (int i = count - 1; i >= 0; i--) {
      objects[i].close();
    }
  }

  /** Boxes of what each node shows. */
  private Boxes[] shapes() {
    Boxes[] shapes = new Boxes[scene.nodes().size()];
    for (int i = 0; i < shapes.length; i++) {
      if (scene.nodes().get(i).content() instanceof Content.MeshContent content) {
        shapes[i] = boxes.get(content.meshId());
      }
    }
    return shapes;
  }

  private ObjectOut object(ObjectOut above, Node node, int place) throws IOException {
    if (arrangement.isBare(place)) {
      // What stands below it in the scene has names beside those of its sets.
      return shape(above, arrangement.name(place), node, true, n -> arrangement.unique(place, n));
    }
    ObjectOut object =
        above.child(arrangement.name(place), ObjectOut.metaData(XformOut.SCHEMA, XformOut.TITLE));
    CompoundOut xform = object.schema(XformOut.SCHEMA, XformOut.TITLE);
    xforms[place] = xform;
    Map<String, Clip.Track> own = tracks.getOrDefault(node.id(), Map.of());
    XformOut.write(xform, node, own);
    values(object, xform, node);
    if (AbcArrangement.isShape(node)) {
      shape(object, arrangement.shape(place), node, false, new FreeNames()::take).close();
    }
    return object;
  }

  /** Custom values, and whether the object is seen. */
  private void values(ObjectOut object, CompoundOut schema, Node node) throws IOException {
    Map<String, Clip.Track> own = tracks.getOrDefault(node.id(), Map.of());
    ValuesOut.write(schema, node.properties(), own, words.getOrDefault(node.id(), Map.of()));
    Clip.Track seen = own.get(Clip.VISIBLE);
    int shown = node.visibility() == Visibility.SHOWN ? 1 : -1;
    Type small = new Type(false, Pod.INT8, 1);
    if (seen != null) {
      PropertyOut out = object.properties().property("visible", small, "", seen.timesSeconds());
      for (double value : seen.values()) {
        out.add(value < 0.5 ? 0 : shown);
      }
    } else if (node.visibility() != Visibility.INHERITED) {
      int value = node.visibility() == Visibility.HIDDEN ? 0 : 1;
      object.properties().property("visible", small, "", null).add(value);
    }
  }

  /**
   * @param names gives those of objects below it
   */
  private ObjectOut shape(
      ObjectOut above, String name, Node node, boolean bare, UnaryOperator<String> names)
      throws IOException {
    if (node.content() instanceof Content.CameraContent content) {
      ObjectOut object = above.child(name, ObjectOut.metaData(CameraOut.SCHEMA, ShapeOut.TITLE));
      CompoundOut geometry = object.schema(CameraOut.SCHEMA, ShapeOut.TITLE);
      Map<String, Clip.Track> own =
          new HashMap<>(tracks.getOrDefault(content.cameraId(), Map.of()));
      own.putAll(tracks.getOrDefault(node.id(), Map.of()));
      CameraOut.write(geometry, cameras.get(content.cameraId()), own.get(Clip.CAMERA_ANGLE));
      if (bare) {
        values(object, geometry, node);
      }
      return object;
    }
    int meshId = ((Content.MeshContent) node.content()).meshId();
    String known = written.get(meshId);
    if (known != null) {
      ObjectOut copy = above.child(name, "isInstance=1");
      copy.properties().property(".instanceSource", TEXT, "", null).add(List.of(known));
      return copy;
    }
    PolygonMesh mesh = meshes.get(meshId);
    boolean loose = LooseOut.is(mesh);
    String schema = loose ? LooseOut.schema(mesh) : ShapeOut.schema(mesh);
    ObjectOut object = above.child(name, ObjectOut.metaData(schema, ShapeOut.TITLE));
    written.put(meshId, object.path());
    CompoundOut geometry = object.schema(schema, ShapeOut.TITLE);
    if (loose) {
      LooseOut out = new LooseOut(scene, options, progress);
      out.write(geometry, mesh, caches.get(meshId));
      boxes.put(meshId, out.boxes());
    } else {
      ShapeOut out = new ShapeOut(scene, options, progress);
      if (sequences.containsKey(meshId)) {
        out.changing(geometry, sequences.get(meshId));
      } else {
        out.still(geometry, mesh, caches.get(meshId));
      }
      boxes.put(meshId, out.boxes());
    }
    if (bare) {
      values(object, geometry, node);
    }
    sets(object, mesh, sequences.get(meshId), names);
    return object;
  }

  /** Sets of faces as objects below the mesh, and the materials of these and of the mesh. */
  private void sets(
      ObjectOut object, PolygonMesh mesh, MeshSequence sequence, UnaryOperator<String> names)
      throws IOException {
    Map<String, Integer> dressed = new HashMap<>();
    int[][] bySlot = mesh.facesOfSlots();
    for (int slot = 0; slot < bySlot.length; slot++) {
      int[] faces = bySlot[slot];
      FaceSet set = faces.length == 0 ? null : MaterialSets.of(mesh, faces);
      if (set != null && mesh.materialIds()[slot] >= 0) {
        dressed.putIfAbsent(set.name(), mesh.materialIds()[slot]);
      }
    }
    if (MaterialSets.isSingle(mesh)) {
      assign(object, mesh.materialIds()[0]);
    }
    for (FaceSet set : mesh.faceSets()) {
      String clean = AbcNames.plain(set.name());
      String name = names.apply(clean.isEmpty() ? "set" : clean);
      ObjectOut child = object.child(name, ObjectOut.metaData(FACE_SET, FACES));
      faces(child.schema(FACE_SET, FACES), set, sequence);
      if (dressed.containsKey(set.name())) {
        assign(child, dressed.get(set.name()));
      }
    }
  }

  private static void faces(CompoundOut schema, FaceSet set, MeshSequence sequence)
      throws IOException {
    double[] seconds = PointsOut.seconds(sequence);
    double most = Double.MAX_VALUE;
    PropertyOut bounds =
        schema.property(
            ".selfBnds", new Type(false, Pod.FLOAT64, 6), "interpretation=box", seconds);
    bounds.add(most, most, most, -most, -most, -most);
    PropertyOut members = schema.property(".faces", new Type(true, Pod.INT32, 1), "", seconds);
    if (sequence == null) {
      members.add(set.faces());
      return;
    }
    bounds.repeat(seconds.length - 1);
    for (int s = 0; s < seconds.length; s++) {
      int[] faces = new int[0];
      for (FaceSet there : sequence.mesh(s).faceSets()) {
        faces = there.name().equals(set.name()) ? there.faces() : faces;
      }
      members.add(faces);
    }
  }

  private void assign(ObjectOut object, int materialId) throws IOException {
    String path = "/" + holder + "/" + materials.get(materialId);
    object.properties().property(".material.assign", TEXT, "", null).add(List.of(path));
  }

  private void nameMaterials() {
    FreeNames names = new FreeNames();
    for (Material material : scene.materials()) {
      String clean = AbcNames.plain(material.name());
      materials.put(material.id(), names.take(clean.isEmpty() ? "material" : clean));
    }
  }

  /** Each material as an object that has a name only: what is assigned is there. */
  private void writeMaterials() {
    if (scene.materials().isEmpty()) {
      return;
    }
    ObjectOut all = archive.top().child(holder, "");
    for (Material material : scene.materials()) {
      ObjectOut object =
          all.child(materials.get(material.id()), ObjectOut.metaData(MATERIAL, ".material"));
      object.schema(MATERIAL, ".material");
    }
  }
}
