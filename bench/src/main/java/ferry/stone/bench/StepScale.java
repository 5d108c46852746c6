package ferry.stone.bench;

import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.Handedness;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.shore.Shores;
import ferry.stone.core.survey.Survey;
import ferry.stone.core.survey.SurveyMemo;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * Every kind of step that touches a mesh, and the survey, at one and at five million triangles:
 * time a triangle, how it grows, and the ratio to a plain copy of the same arrays. The mesh is a
 * sheet of 100 panels that are not sewn together, every third with its faces the other way, with
 * normals and UVs, two materials and a set of faces for each panel. Each figure is the best of
 * three in one run.
 */
final class StepScale {
  private static final int PANELS = 10;
  private static final int[] SIDES = {707, 1581};

  private static final Frame Z_UP =
      new Frame(0.01, SignedAxis.PLUS_Z, SignedAxis.MINUS_Y, Handedness.RIGHT);

  private record Case(String name, Scene scene, Step... steps) {}

  private StepScale() {}

  static void print() throws Exception {
    Map<String, double[]> nanos = new LinkedHashMap<>();
    Map<String, double[]> copies = new LinkedHashMap<>();
    for (int i = 0; i < SIDES.length; i++) {
      List<Case> cases = cases(SIDES[i]);
      long triangles = triangles(cases.get(0).scene());
      for (Case one : cases) {
        double[] copy = GltfScale.best(() -> copy(one.scene()));
        double[] time = GltfScale.best(() -> work(one));
        nanos.computeIfAbsent(one.name(), k -> new double[2])[i] = time[0] * 1e9 / triangles;
        copies.computeIfAbsent(one.name(), k -> new double[2])[i] = time[0] / copy[0];
      }
      cases.clear();
      survey(SIDES[i], nanos, copies, i);
    }
    System.out.printf(
        "%n%-34s %10s %10s %8s %16s%n",
        "step", "1 M: ns/tri", "5 M: ns/tri", "growth", "plain copies");
    nanos.forEach(
        (name, n) ->
            System.out.printf(
                "%-34s %10.1f %10.1f %8.2f %8.0f %7.0f%n",
                name, n[0], n[1], n[1] / n[0], copies.get(name)[0], copies.get(name)[1]));
    System.out.printf(
        "%nsurvey of 5,000,000 triangles: %.1f s%n", nanos.get("survey")[1] * 5e6 / 1e9);
  }

  private static void survey(
      int side, Map<String, double[]> nanos, Map<String, double[]> copies, int i) throws Exception {
    Scene panels = panels(side, 0);
    long triangles = triangles(panels);
    double[] copy = GltfScale.best(() -> copy(panels));
    double[] time =
        GltfScale.best(
            () -> Survey.of(panels, List.of(), Shores.usual(), new SurveyMemo(), Progress.NONE));
    nanos.computeIfAbsent("survey", k -> new double[2])[i] = time[0] * 1e9 / triangles;
    copies.computeIfAbsent("survey", k -> new double[2])[i] = time[0] / copy[0];
  }

  private static long triangles(Scene scene) {
    return scene.meshes().stream().mapToLong(m -> m.faces().triangleCount()).sum();
  }

  private static Object work(Case one) {
    if (one.steps().length == 0) {
      return Rebase.intoData(one.scene(), Z_UP);
    }
    var stages = Handling.run(one.scene(), List.of(one.steps()), Progress.NONE);
    for (var stage : stages) {
      if (stage.failure() != null) {
        throw new IllegalStateException(stage.step().kind() + ": " + stage.failure());
      }
    }
    Scene result = Handling.result(one.scene(), stages);
    // Points and attributes that are worked out when they are asked for are asked for.
    for (PolygonMesh mesh : result.meshes()) {
      mesh.points().toFloats();
    }
    return result;
  }

  private static Object copy(Scene scene) {
    List<Object> arrays = new ArrayList<>();
    for (PolygonMesh mesh : scene.meshes()) {
      arrays.add(mesh.points().toFloats());
      int[] corners = new int[mesh.faces().cornerCount()];
      for (int c = 0; c < corners.length; c++) {
        corners[c] = mesh.faces().vertex(c);
      }
      arrays.add(corners);
      mesh.attributes().forEach(a -> arrays.add(a.values().clone()));
    }
    return arrays;
  }

  private static Step step(String kind, Map<String, Object> params) {
    return new Step(kind, kind, params, true, List.of());
  }

  private static Case of(Scene scene, String kind, Map<String, Object> params) {
    String words = params.isEmpty() ? "" : " " + new TreeMap<>(params).values();
    return new Case(kind + words, scene, step(kind, params));
  }

  private static List<Case> cases(int side) {
    Scene panels = panels(side, 0);
    Scene parts =
        Handling.result(
            panels,
            Handling.run(panels, List.of(step("split", Map.of("by", "set"))), Progress.NONE));
    Scene rig = rig(panels);
    List<Case> all = new ArrayList<>();
    all.add(of(panels, "sourceUnit", Map.of("unit", "cm")));
    all.add(of(panels, "sourceUp", Map.of("up", "z")));
    all.add(of(panels, "scale", Map.of("factor", 2)));
    all.add(of(panels, "rotate", Map.of("degrees", 90)));
    all.add(of(panels, "centre", Map.of()));
    all.add(of(panels, "ground", Map.of()));
    all.add(of(panels, "pivot", Map.of("to", "box")));
    all.add(new Case("another frame, in the numbers", panels));
    all.add(of(panels, "scaleTo", Map.of()));
    all.add(of(stretched(panels), "reset", Map.of("what", "scale")));
    all.add(of(panels(side, 1), "split", Map.of("by", "places")));
    for (String by : new String[] {"pieces", "material", "set", "islands"}) {
      all.add(of(panels, "split", Map.of("by", by)));
    }
    all.add(of(parts, "merge", Map.of()));
    all.add(of(parts, "instances", Map.of()));
    all.add(of(panels, "mirror", Map.of()));
    all.add(of(panels, "weld", Map.of("distance", 0.1)));
    all.add(of(panels, "weld", Map.of("distance", 0.1, "where", "borders")));
    all.add(of(panels, "triangulate", Map.of()));
    all.add(of(panels, "normals", Map.of("angle", 40)));
    all.add(of(panels, "flip", Map.of()));
    all.add(of(panels, "unify", Map.of("seams", 0.1)));
    for (String what : new String[] {"degenerateFaces", "duplicateFaces", "unusedVertices"}) {
      all.add(of(panels, "remove", Map.of("what", what)));
    }
    all.add(of(rig, "morphShift", Map.of("named", "lift")));
    all.add(of(rig, "influences", Map.of("most", 2)));
    more(all, panels, parts, rig);
    return all;
  }

  /** Steps that were added later, and those that change no mesh. */
  private static void more(List<Case> all, Scene panels, Scene parts, Scene rig) {
    all.add(of(panels, "sourceFront", Map.of("front", "-z")));
    all.add(of(parts, "group", Map.of("name", "sheet")));
    all.add(onTops(parts, "parent", Map.of("parent", 0)));
    all.add(onTops(parts, "levels", Map.of("name", "sheet")));
    all.add(of(parts, "rename", Map.of("how", "affix", "prefix", "s_")));
    all.add(of(panels, "materialFlags", Map.of("sides", "both")));
    Scene equal = equal(parts);
    all.add(new Case("instances [equal]", equal, step("instances", Map.of("to", "share"))));
    all.add(of(panels, "fill", Map.of("largest", 100_000)));
    all.add(of(panels, "cutApart", Map.of()));
    all.add(new Case("cutApart [every edge]", doubled(panels), step("cutApart", Map.of())));
    for (String how : new String[] {"box", "tile", "pack", "tiles", "fit"}) {
      all.add(of(panels, "uvs", Map.of("how", how)));
    }
    all.add(of(panels, "material", Map.of("name", "plain", "faces", "all")));
    all.add(of(rig, "morphRest", Map.of("how", "bake")));
    all.add(of(rig, "joints", Map.of("keep", "most", "most", 2)));
    all.add(new Case("strays [half]", strays(rig), step("strays", Map.of())));
    for (String what : new String[] {"brokenVertices", "normals", "uvs", "parts"}) {
      all.add(what.equals("parts") ? half(parts) : of(panels, "remove", Map.of("what", what)));
    }
  }

  /** A step on all parts that show a mesh. */
  private static Case onTops(Scene parts, String kind, Map<String, Object> params) {
    return new Case(kind, parts, new Step(kind, kind, params, true, shown(parts)));
  }

  private static List<Integer> shown(Scene scene) {
    return scene.nodes().stream()
        .filter(n -> n.content() instanceof Node.Content.MeshContent)
        .map(Node::id)
        .toList();
  }

  private static Case half(Scene parts) {
    List<Integer> all = shown(parts);
    List<Integer> some = all.subList(0, all.size() / 2);
    return new Case(
        "remove [half of the parts]",
        parts,
        new Step("remove", "remove", Map.of("what", "parts"), true, some));
  }

  /** Each part with a mesh of its own that is the same as the first. */
  private static Scene equal(Scene parts) {
    PolygonMesh first = parts.meshes().get(0);
    return parts.toBuilder()
        .meshes(
            parts.meshes().stream()
                .map(
                    m ->
                        first.toBuilder()
                            .id(m.id())
                            .points(Coordinates.of(first.points().toFloats().clone()))
                            .build())
                .toList())
        .build();
  }

  /** Every face twice, so that four faces meet at every edge inside. */
  private static Scene doubled(Scene panels) {
    PolygonMesh mesh = panels.meshes().get(0);
    int faces = mesh.faces().faceCount();
    int[] corners = new int[2 * mesh.faces().cornerCount()];
    for (int c = 0; c < corners.length; c++) {
      corners[c] = mesh.faces().vertex(c % mesh.faces().cornerCount());
    }
    int[] starts = new int[2 * faces + 1];
    int[] slots = new int[2 * faces];
    Arrays.setAll(starts, f -> 4 * f);
    Arrays.setAll(slots, f -> mesh.slot(f % faces));
    return panels.toBuilder()
        .meshes(
            List.of(
                mesh.toBuilder()
                    .faces(Polygons.of(corners, starts))
                    .materials(mesh.materialIds(), slots)
                    .build()))
        .build();
  }

  /** Half of the vertices without a joint. */
  private static Scene strays(Scene rig) {
    Skin skin = rig.skins().get(0);
    float[] weights = skin.weights().clone();
    Arrays.fill(weights, weights.length / 2, weights.length, 0);
    return rig.toBuilder()
        .skins(List.of(skin.withWeights(skin.offsets(), skin.joints(), weights)))
        .build();
  }

  /** Panels of quads that share no vertices, so many quads apart. */
  private static Scene panels(int side, int gap) {
    int each = side / PANELS;
    int n = each + 1;
    int count = PANELS * PANELS;
    float[] xyz = new float[3 * count * n * n];
    float[] normals = new float[xyz.length];
    float[] uvs = new float[2 * count * n * n];
    int[] corners = new int[4 * count * each * each];
    int[] slots = new int[count * each * each];
    List<FaceSet> sets = new ArrayList<>();
    for (int p = 0; p < count; p++) {
      int left = p % PANELS * (each + gap);
      int back = p / PANELS * (each + gap);
      for (int v = 0; v < n * n; v++) {
        int at = p * n * n + v;
        int x = left + v % n;
        int z = back + v / n;
        xyz[3 * at] = 0.01f * x;
        double bulge = Math.sin(Math.PI * (v % n) / each) * Math.sin(Math.PI * (v / n) / each);
        xyz[3 * at + 1] = (float) (0.002 * each * bulge);
        xyz[3 * at + 2] = 0.01f * z;
        normals[3 * at + 1] = 1;
        uvs[2 * at] = (float) x / side;
        uvs[2 * at + 1] = (float) z / side;
      }
      int[] faces = new int[each * each];
      for (int q = 0; q < each * each; q++) {
        int face = p * each * each + q;
        int a = p * n * n + q / each * n + q % each;
        boolean turned = p % 3 == 0;
        corners[4 * face] = a;
        corners[4 * face + 1] = turned ? a + 1 : a + n;
        corners[4 * face + 2] = a + n + 1;
        corners[4 * face + 3] = turned ? a + n : a + 1;
        slots[face] = p % 2;
        faces[q] = face;
      }
      sets.add(new FaceSet(String.format("panel_%03d", p), faces));
    }
    SceneBuilder scene =
        new SceneBuilder("panels").frame(Frame.Y_UP_METRE, FrameSource.FORMAT, FrameSource.FORMAT);
    int[] materials = {material(scene, "canvas"), material(scene, "cord")};
    int[] starts = new int[slots.length + 1];
    Arrays.setAll(starts, f -> 4 * f);
    PolygonMesh mesh =
        PolygonMesh.of(scene.newId(), "panels", Coordinates.of(xyz), Polygons.of(corners, starts))
            .toBuilder()
            .attributes(
                List.of(
                    layer("NORMAL", Attribute.Semantic.NORMAL, 3, normals),
                    layer("TEXCOORD_0", Attribute.Semantic.UV, 2, uvs)))
            .materials(materials, slots)
            .faceSets(sets)
            .build();
    scene.add(mesh);
    scene.add(Node.of(scene.newId(), "panels", -1, Node.Content.MeshContent.of(mesh.id())));
    return scene.build();
  }

  private static int material(SceneBuilder scene, String name) {
    int id = scene.newId();
    scene.add(
        new Material(
            id,
            name,
            Material.Shading.PHONG,
            Map.of(),
            Material.Alpha.OPAQUE,
            0.5,
            false,
            Map.of()));
    return id;
  }

  private static Attribute layer(
      String name, Attribute.Semantic semantic, int components, float[] values) {
    return new Attribute(name, semantic, Attribute.Domain.VERTEX, components, values, null);
  }

  /** The sheet under an uneven scale. */
  private static Scene stretched(Scene panels) {
    Node shown = panels.nodes().get(0);
    LocalTransform stretch =
        LocalTransform.Trs.of(new Vector3d(), new Quaterniond(), new Vector3d(2, 1, 1));
    return panels.toBuilder().nodes(List.of(shown.withTransform(stretch))).build();
  }

  /** The sheet with a target that lifts it all, and three joints at each vertex. */
  private static Scene rig(Scene panels) {
    SceneBuilder scene = panels.toBuilder();
    PolygonMesh mesh = panels.meshes().get(0);
    int count = mesh.points().count();
    float[] lift = new float[3 * count];
    for (int v = 0; v < count; v++) {
      lift[3 * v + 1] = 0.5f;
    }
    MorphTarget target =
        new MorphTarget("lift", 0, List.of(new MorphTarget.Shape(1, null, lift, null)));
    int[] joints = new int[3];
    double[] binds = new double[48];
    for (int j = 0; j < 3; j++) {
      joints[j] = scene.newId();
      int parent = j == 0 ? -1 : j;
      scene.add(Node.of(joints[j], "joint_" + j, parent, new Node.Content.Joint(0.1)));
      for (int k = 0; k < 4; k++) {
        binds[16 * j + 5 * k] = 1;
      }
    }
    int[] offsets = new int[count + 1];
    int[] of = new int[3 * count];
    float[] weights = new float[3 * count];
    for (int v = 0; v < count; v++) {
      offsets[v + 1] = 3 * (v + 1);
      for (int k = 0; k < 3; k++) {
        of[3 * v + k] = k;
        weights[3 * v + k] = new float[] {0.5f, 0.3f, 0.2f}[k];
      }
    }
    Skin skin =
        new Skin(scene.newId(), "skin", mesh.id(), joints, binds, offsets, of, weights, "linear");
    Node shown = panels.nodes().get(0);
    List<Node> nodes = new ArrayList<>(scene.build().nodes());
    nodes.set(
        0,
        shown.withContent(
            new Node.Content.MeshContent(mesh.id(), skin.id(), null, new double[] {0.5})));
    return scene
        .meshes(List.of(mesh.toBuilder().morphs(List.of(target)).build()))
        .skins(List.of(skin))
        .nodes(nodes)
        .build();
  }
}
