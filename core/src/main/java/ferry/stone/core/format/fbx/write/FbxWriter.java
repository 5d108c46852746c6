package ferry.stone.core.format.fbx.write;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.fbx.raw.FbxBinaryWriter;
import ferry.stone.core.format.fbx.raw.FbxBuild;
import ferry.stone.core.format.fbx.raw.FbxName;
import ferry.stone.core.format.fbx.raw.FbxRecord;
import ferry.stone.core.format.fbx.raw.FbxTextWriter;
import ferry.stone.core.format.files.Output;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.files.SeekableOutput;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content.DetailGroup;
import ferry.stone.core.scene.node.NodeSet;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Writes a scene as FBX 7, in the frame that the scene has. The same scene gives the same bytes.
 */
public final class FbxWriter {
  private static final double PERCENT = 100;

  private final Scene scene;
  private final FbxOptions options;
  private final Findings findings;
  private final Progress progress;
  private final FbxObjects objects = new FbxObjects();
  private final Map<Integer, Map<String, Long>> channels = new HashMap<>();
  private final Map<Integer, Long> lenses = new HashMap<>();
  private final Map<Integer, List<Object>> morphMotion;
  private long bare;

  private FbxWriter(Scene scene, FbxOptions options, Findings findings, Progress progress) {
    this.scene = scene;
    this.options = options;
    this.findings = findings;
    this.progress = progress;
    morphMotion = morphMotion();
  }

  /**
   * @param stem name of the file without ending
   * @param resources where the scene's textures are
   * @return the name of the main file
   */
  public static String write(
      Scene scene,
      FbxOptions options,
      String stem,
      Resources resources,
      Output output,
      Findings findings,
      Progress progress)
      throws IOException, FormatException {
    Scene plain = FbxModelWriter.unsheared(scene, options, findings);
    FbxWriter writer = new FbxWriter(plain, options, findings, progress);
    FbxRecord root = writer.build(resources, output);
    progress.report("writing the file", 0.7);
    String name = stem + ".fbx";
    if (options.form() == FbxOptions.Form.TEXT) {
      try (OutputStream out = output.create(name)) {
        FbxTextWriter.write(root, out);
      }
      return name;
    }
    try (SeekableOutput out = output.seekable(name)) {
      FbxBinaryWriter.write(root, options.version(), true, out);
      out.complete();
    }
    return name;
  }

  private FbxRecord build(Resources resources, Output output) throws IOException {
    progress.report("writing parts", 0);
    List<FbxModelWriter.Written> models =
        new FbxModelWriter(scene, objects, options, findings).write();
    progress.report("writing materials", 0.05);
    FbxMediaWriter media =
        new FbxMediaWriter(scene, objects, options.texturesInside(), resources, output, findings);
    FbxMaterialWriter dresser = new FbxMaterialWriter(scene, objects, media);
    Map<Integer, Long> materials = dresser.write();
    meshes(models, materials, dresser);
    if (bare != 0) {
      findings.add(
          Finding.of(
                  "faces-given-a-material",
                  Severity.LOOK,
                  "",
                  "Faces without a material stand beside others that have one: readers of FBX would"
                      + " give them the first. They got one of their own, \""
                      + BareFaces.name(scene)
                      + "\".")
              .measured(Figures.count(BareFaces.meshes(scene).size(), "mesh")));
    }
    lenses(models);
    progress.report("writing motion", 0.5);
    new FbxTakeWriter(scene, objects, options, findings, models, channels, lenses, materials)
        .write();
    sets(models);
    if (!scene.variants().isEmpty()) {
      findings.add(
          Finding.of(
                  "variants-not-carried",
                  Severity.FIX,
                  "",
                  "FBX has no looks to choose from: each part lands with its own materials.")
              .measured(Figures.count(scene.variants().size(), "look")));
    }
    FbxRecord root = FbxBuild.list("");
    root.children().addAll(FbxHeader.before(options));
    root.children().add(FbxHeader.settings(scene));
    root.children().addAll(FbxHeader.documents(scene.name()));
    root.children().add(objects.definitions());
    root.children().add(objects.objects());
    root.children().add(objects.connections());
    root.children().add(FbxHeader.takes(scene.clips()));
    return root;
  }

  /** A geometry is written once for all nodes that show it alike. */
  private record Alike(
      int mesh, int skin, List<Double> weights, List<Integer> slots, List<Object> motion) {}

  /** What moves the targets of each node, in a form that can be compared. */
  private Map<Integer, List<Object>> morphMotion() {
    Map<Integer, List<Object>> motion = new HashMap<>();
    for (Clip clip : scene.clips()) {
      for (Clip.Track t : clip.tracks()) {
        if (t.isMorph()) {
          motion
              .computeIfAbsent(t.targetId(), k -> new ArrayList<>())
              .addAll(
                  List.of(
                      clip.id(),
                      t.property(),
                      Arrays.hashCode(t.timesSeconds()),
                      Arrays.hashCode(t.values())));
        }
      }
    }
    return motion;
  }

  private void meshes(
      List<FbxModelWriter.Written> models,
      Map<Integer, Long> materials,
      FbxMaterialWriter dresser) {
    Map<Integer, PolygonMesh> byId = scene.meshesById();
    FbxRigWriter rigs = new FbxRigWriter(scene, objects, models);
    Map<Alike, Long> written = new HashMap<>();
    Map<Alike, List<Long>> channelsOf = new HashMap<>();
    for (int i = 0; i < models.size(); i++) {
      Node node = scene.nodes().get(i);
      if (!(node.content() instanceof Node.Content.MeshContent content)) {
        continue;
      }
      progress.checkCancelled();
      progress.report("writing " + node.name(), 0.1 + 0.4 * i / models.size());
      PolygonMesh mesh = byId.get(content.meshId());
      int[] own = content.slotMaterials() != null ? content.slotMaterials() : mesh.materialIds();
      List<Integer> shown = new ArrayList<>();
      int[] slots = slots(own, materials, shown);
      boolean dressed = BareFaces.areDressed(mesh, slots);
      boolean mixed = dressed && BareFaces.areBare(mesh, slots);
      if (mixed && bare == 0) {
        bare = dresser.none(BareFaces.name(scene));
      }
      if (!dressed) {
        shown.clear();
        Arrays.fill(slots, -1);
      }
      Alike alike = alike(node, content, mesh, slots);
      Long geometry = written.get(alike);
      if (geometry == null) {
        geometry =
            objects.add(
                "Geometry",
                new FbxName(mesh.name(), "Geometry"),
                FbxLineWriter.type(mesh),
                FbxLineWriter.holds(mesh)
                    ? FbxLineWriter.write(mesh, findings)
                    : new FbxMeshWriter(scene, mesh, findings)
                        .write(slots, mixed ? shown.size() : -1));
        written.put(alike, geometry);
        channelsOf.put(alike, rigs.morphs(mesh, geometry, content.morphWeights()));
        Skin skin = scene.skin(content.skinId()).orElse(null);
        if (skin != null) {
          rigs.skin(skin, geometry, i);
        }
      }
      objects.connect(geometry, models.get(i).shown());
      for (int id : shown) {
        objects.connect(materials.get(id), models.get(i).shown());
      }
      if (mixed) {
        objects.connect(bare, models.get(i).shown());
      }
      List<String> keys = MorphTarget.keys(mesh.morphs());
      for (int m = 0; m < keys.size(); m++) {
        channels
            .computeIfAbsent(node.id(), k -> new HashMap<>())
            .put(keys.get(m), channelsOf.get(alike).get(m));
      }
    }
    rigs.bindPose();
  }

  /**
   * The place of each slot's material among those that are shown, −1 for a bare one.
   *
   * @param shown takes the materials, each once
   */
  private static int[] slots(int[] own, Map<Integer, Long> materials, List<Integer> shown) {
    int[] slots = new int[own.length];
    for (int s = 0; s < own.length; s++) {
      boolean bare = own[s] < 0 || !materials.containsKey(own[s]);
      if (!bare && !shown.contains(own[s])) {
        shown.add(own[s]);
      }
      slots[s] = bare ? -1 : shown.indexOf(own[s]);
    }
    return slots;
  }

  private Alike alike(Node node, Node.Content.MeshContent content, PolygonMesh mesh, int[] slots) {
    List<Double> weights = new ArrayList<>();
    for (int m = 0; m < mesh.morphs().size(); m++) {
      weights.add(
          content.morphWeights() != null && m < content.morphWeights().length
              ? content.morphWeights()[m]
              : mesh.morphs().get(m).weight());
    }
    return new Alike(
        mesh.id(),
        content.skinId(),
        weights,
        Arrays.stream(slots).boxed().toList(),
        morphMotion.getOrDefault(node.id(), List.of()));
  }

  private void lenses(List<FbxModelWriter.Written> models) {
    for (int i = 0; i < models.size(); i++) {
      Node node = scene.nodes().get(i);
      long model = models.get(i).shown();
      if (node.content() instanceof Node.Content.CameraContent c) {
        var camera = scene.camera(c.cameraId()).orElseThrow();
        List<FbxRecord> written = FbxLensWriter.camera(camera, scene.frame());
        objects.connect(lens(camera.id(), camera.name(), "Camera", written), model);
      } else if (node.content() instanceof Node.Content.LightContent l) {
        var light = scene.light(l.lightId()).orElseThrow();
        objects.connect(lens(light.id(), light.name(), "Light", FbxLensWriter.light(light)), model);
      } else if (node.content() instanceof DetailGroup group) {
        objects.connect(levels(node, group), model);
      }
    }
  }

  private long lens(int id, String name, String type, List<FbxRecord> children) {
    return lenses.computeIfAbsent(
        id, k -> objects.add("NodeAttribute", new FbxName(name, "NodeAttribute"), type, children));
  }

  private long levels(Node node, DetailGroup group) {
    boolean distances = group.measure() == DetailGroup.Measure.DISTANCE;
    List<FbxRecord> p = new ArrayList<>();
    p.add(FbxBuild.flag("ThresholdsUsedAsPercentage", !distances));
    p.add(FbxBuild.flag("MinMaxDistance", false));
    for (int i = 0; i < group.thresholds().length; i++) {
      double value = group.thresholds()[i];
      if (Double.isFinite(value)) {
        double written = distances ? value : PERCENT * value;
        p.add(FbxBuild.number("Thresholds|Level" + i, written));
      }
      p.add(FbxBuild.choice("DisplayLevels|Level" + i, 0));
    }
    return objects.add(
        "NodeAttribute",
        new FbxName(node.name(), "NodeAttribute"),
        "LodGroup",
        List.of(FbxBuild.properties(p), FbxBuild.record("TypeFlags", "LodGroup")));
  }

  private void sets(List<FbxModelWriter.Written> models) {
    Map<Integer, Integer> places = scene.nodePlaces();
    for (NodeSet set : scene.sets()) {
      boolean layer = set.kind() == NodeSet.Kind.LAYER;
      long id =
          layer
              ? objects.add(
                  "CollectionExclusive",
                  new FbxName(set.name(), "DisplayLayer"),
                  "DisplayLayer",
                  List.of(FbxBuild.properties(List.of(FbxBuild.flag("Show", set.visible())))))
              : objects.add(
                  "Collection",
                  new FbxName(set.name(), "SelectionSet"),
                  "SelectionSet",
                  List.of(FbxBuild.record("Version", 100)));
      for (int node : set.nodeIds()) {
        Integer place = places.get(node);
        if (place == null) {
          continue;
        }
        long model = models.get(place).model();
        if (layer) {
          objects.connect(model, id);
          continue;
        }
        long member =
            objects.add(
                "SelectionNode",
                new FbxName(scene.nodes().get(place).name(), "SelectionNode"),
                "SelectionNode",
                List.of(FbxBuild.record("Version", 100), FbxBuild.record("IsTheNodeInSet", 1)));
        objects.connect(model, member);
        objects.connect(member, id);
      }
    }
  }
}
