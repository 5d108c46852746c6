package ferry.stone.e2e;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.geometry.triangle.Triangulate;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.math.Frame;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.CurveForm;
import ferry.stone.core.scene.mesh.LooseElements;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import ferry.stone.demo.DemoWorld;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** three's FBXLoader and fbx-parser on files that were landed as FBX. */
class FbxOthersIT {
  @TempDir Path folder;

  private Scene demo(DemoWorld.Cargo cargo) throws Exception {
    return CargoReader.read("demo", ReadContext.of(DemoCargo.unpack(cargo, folder)));
  }

  private Path land(Scene scene, CargoFolder cargo, LandingOptions options) throws Exception {
    Path out = Files.createTempDirectory(folder, "landed");
    Landing landing =
        Landing.write(
            scene,
            options,
            "landed",
            cargo,
            path -> {
              Files.createDirectories(out.resolve(path).getParent());
              return Files.newOutputStream(out.resolve(path));
            },
            Progress.NONE);
    return out.resolve(landing.mainFile());
  }

  /** What landing makes of a scene before it is written. */
  private static Scene arrived(Scene scene, LandingOptions fbx) {
    Scene cut =
        scene.toBuilder().meshes(scene.meshes().stream().map(Triangulate::of).toList()).build();
    Scene arrived = Rebase.intoData(cut, fbx.frame());
    return arrived.toBuilder()
        .skins(arrived.skins().stream().map(FbxOthersIT::strongest).toList())
        .build();
  }

  /** three takes the four strongest joints of a vertex, scaled to 1. */
  private static Skin strongest(Skin skin) {
    float[] weights = skin.weights().clone();
    for (int v = 0; v + 1 < skin.offsets().length; v++) {
      int from = skin.offsets()[v];
      int to = skin.offsets()[v + 1];
      float[] sorted = java.util.Arrays.copyOfRange(weights, from, to);
      java.util.Arrays.sort(sorted);
      float least = sorted.length > 4 ? sorted[sorted.length - 4] : 0;
      float sum = 0;
      for (int i = from; i < to; i++) {
        weights[i] = weights[i] < least ? 0 : weights[i];
        sum += weights[i];
      }
      for (int i = from; i < to; i++) {
        weights[i] /= sum;
      }
    }
    return new Skin(
        skin.id(),
        skin.name(),
        skin.meshId(),
        skin.jointNodeIds(),
        skin.inverseBind(),
        skin.offsets(),
        skin.joints(),
        weights,
        skin.method());
  }

  @ParameterizedTest
  @CsvSource({
    "HERON, binary, false",
    "HERON_FBX, binary64, false",
    "HERON_FBX, text, true",
    "CAPSTAN, binary, false",
    "CAPSTAN_FBX, binary, false",
    "CAPSTAN_FBX, text, true",
    "BOLLARD_FBX, text, false"
  })
  void threePosesTheSame(DemoWorld.Cargo which, String form, boolean bake) throws Exception {
    Scene near = demo(which);
    CargoFolder cargo = CargoFolder.of(folder.resolve(which.name()));
    LandingOptions options =
        LandingOptions.of("fbx")
            .with("form", form)
            .with("bake", bake)
            .with("triangulate", true)
            .with("embedTextures", false);
    JsonNode theirs = Node.run("pose-fbx.mjs", land(near, cargo, options));
    Scene ours = arrived(near, options);
    double size = ours.bounds().diagonal();
    assertEquals(1, theirs.at("/parsed/settings/UnitScaleFactor").asDouble());
    assertEquals(1, theirs.at("/parsed/settings/UpAxis").asInt());
    assertEquals(ours.nodes().size(), theirs.at("/parsed/models").size());
    for (int i = 0; i < ours.nodes().size(); i++) {
      assertEquals(ours.nodes().get(i).name(), theirs.at("/parsed/models/" + i).asText());
    }
    List<String> targets = new ArrayList<>();
    for (PolygonMesh mesh : ours.meshes()) {
      mesh.morphs().forEach(m -> targets.add(m.name()));
    }
    assertEquals(targets.size(), theirs.path("targets").size());
    for (int m = 0; m < targets.size(); m++) {
      assertEquals(targets.get(m), theirs.at("/targets/" + m).asText());
    }
    for (JsonNode pose : theirs.path("poses")) {
      pose(ours, pose, size);
    }
  }

  /** The heron from FBX to GLB and from there to FBX again: nothing is lost on either crossing. */
  @Test
  void theHeronCrossesToGlbAndBack() throws Exception {
    Scene near = demo(DemoWorld.Cargo.HERON_FBX);
    CargoFolder cargo = CargoFolder.of(folder.resolve(DemoWorld.Cargo.HERON_FBX.name()));
    LandingOptions all = LandingOptions.of("glb").with("influences", 0);
    Scene there = prove(near, cargo, all);
    CargoFolder landed = CargoFolder.of(folder.resolve("glb"));
    Scene back = prove(there, landed, LandingOptions.of("fbx"));
    assertEquals(near.meshes().get(0).morphs().size(), back.meshes().get(0).morphs().size());
    assertEquals(near.skins().get(0).mostInfluences(), back.skins().get(0).mostInfluences());
  }

  /** Lands, expects that nothing is lost, and reads what landed. */
  private Scene prove(Scene scene, CargoFolder cargo, LandingOptions options) throws Exception {
    Path out = Files.createDirectories(folder.resolve(options.format()));
    Landing landing =
        Landing.write(
            scene,
            options,
            "landed",
            cargo,
            path -> Files.newOutputStream(out.resolve(path)),
            Progress.NONE);
    CargoFolder landed = CargoFolder.of(out);
    Proof proof = Proof.of(scene, scene, landing.landed(options, landed), cargo, Progress.NONE);
    assertEquals(0, proof.lost(), proof.rows().toString());
    return CargoReader.read("landed", ReadContext.of(landed));
  }

  private static void pose(Scene ours, JsonNode theirs, double size) {
    String name = theirs.path("clip").asText();
    Clip clip = ours.clips().stream().filter(c -> c.name().equals(name)).findFirst().orElse(null);
    double t = 0;
    if (clip != null) {
      double length = clip.endSeconds() - clip.startSeconds();
      if (!clip.keys().isEmpty() && name.equals("turn")) {
        // three runs straight between keys, and halves a full turn between two of them.
        return;
      }
      assertEquals(length, theirs.path("duration").asDouble(), 1e-5);
      t = clip.startSeconds() + theirs.path("part").asDouble() * length;
    }
    Pose pose = Pose.at(ours, clip, t);
    String what = name + " at " + t;
    for (int i = 0; i < ours.nodes().size(); i++) {
      if (ours.nodes().get(i).content() instanceof Content.Joint) {
        JsonNode joint = theirs.path("joints").path(ours.nodes().get(i).name());
        Vector3d there = pose.world()[i].getTranslation(new Vector3d());
        for (int k = 0; k < 3; k++) {
          String bone = what + ", " + ours.nodes().get(i).name();
          assertEquals(there.get(k), joint.get(k).asDouble(), 1e-4 * size, bone);
        }
      }
    }
    if (name.equals("strike")) {
      // three does not hold values between keys: the blink would be half way.
      return;
    }
    meshes(ours, pose, theirs.path("meshes"), size, what);
  }

  private static void meshes(Scene ours, Pose pose, JsonNode theirs, double size, String what) {
    List<JsonNode> left = new ArrayList<>();
    theirs.forEach(left::add);
    for (int i = 0; i < ours.nodes().size(); i++) {
      double[] all = Deform.world(ours, pose, i);
      if (all.length == 0) {
        continue;
      }
      Content.MeshContent content = (Content.MeshContent) ours.nodes().get(i).content();
      PolygonMesh mesh = ours.mesh(content.meshId()).orElseThrow();
      double best = Double.POSITIVE_INFINITY;
      JsonNode match = null;
      for (JsonNode candidate : left) {
        double off = farthest(mesh, all, candidate.path("points"));
        if (off < best) {
          best = off;
          match = candidate;
        }
      }
      assertEquals(0, best, 1e-4 * size, what + ": " + ours.nodes().get(i).name());
      left.remove(match);
    }
    assertTrue(left.isEmpty(), what);
  }

  /** Their vertices are the corners of our triangles, each 17th of them. */
  private static double farthest(PolygonMesh mesh, double[] all, JsonNode points) {
    int corners = mesh.faces().cornerCount();
    if (points.size() != (corners + 16) / 17 * 3) {
      return Double.POSITIVE_INFINITY;
    }
    double most = 0;
    for (int k = 0; k < points.size(); k++) {
      int vertex = mesh.faces().vertex(k / 3 * 17);
      most = Math.max(most, Math.abs(points.get(k).asDouble() - all[3 * vertex + k % 3]));
    }
    return most;
  }

  @Test
  void ufbxSeesTheLinesOfAPartWithoutFaces() throws Exception {
    float[] xyz = {0, 0, 0, 1, 0, 0, 1, 1, 0, 5, 5, 5, 6, 5, 5};
    SceneBuilder builder = new SceneBuilder("rope");
    builder.nextId(10);
    builder.add(
        PolygonMesh.of(1, "rope", Coordinates.of(xyz), Polygons.triangles(new int[0])).toBuilder()
            .loose(new LooseElements(new int[] {0, 3, 5}, new int[] {0, 1, 2, 4, 3}, new int[0]))
            .build());
    builder.add(ferry.stone.core.scene.node.Node.of(2, "rope", -1, Content.MeshContent.of(1)));
    Scene scene = builder.frame(Frame.Y_UP_METRE, FrameSource.STATED, FrameSource.STATED).build();
    Path landed = land(scene, new CargoFolder(Map.of()), LandingOptions.of("fbx"));
    Path ufbx = Ufbx.built().orElse(null);
    if (ufbx == null) {
      System.out.println("ufbx was not asked: there is no cargo here to build it with.");
      return;
    }
    JsonNode seen = Ufbx.look(ufbx, List.of(landed)).get(0);
    assertEquals("[5]", seen.path("lines").toString());
    assertEquals("[]", seen.path("warnings").toString());
  }

  @Test
  void ufbxSeesACurveWithItsKnotsAndWeights() throws Exception {
    Path ufbx = Ufbx.built().orElse(null);
    if (ufbx == null) {
      System.out.println("ufbx was not asked: there is no cargo here to build it with.");
      return;
    }
    double[] knots = {0, 0, 0, 0.5, 1, 1, 1};
    double[] weights = {1, 0.25, 2, 1};
    float[] xyz = {0, 0, 0, 1, 2, 0, 3, 2, 1, 4, 0, 0};
    LooseElements loose =
        new LooseElements(
            new int[] {0, 4},
            new int[] {0, 1, 2, 3},
            new int[0],
            new CurveForm(CurveForm.Basis.NURBS, 2, knots, weights));
    SceneBuilder builder = new SceneBuilder("arc");
    builder.nextId(10);
    builder.add(
        PolygonMesh.of(1, "arc", Coordinates.of(xyz), Polygons.triangles(new int[0])).toBuilder()
            .loose(loose)
            .build());
    builder.add(ferry.stone.core.scene.node.Node.of(2, "arc", -1, Content.MeshContent.of(1)));
    Scene scene = builder.frame(Frame.Y_UP_METRE, FrameSource.STATED, FrameSource.STATED).build();
    LandingOptions options = LandingOptions.of("fbx").with("unit", "m");
    for (String form : List.of("binary", "binary64", "text")) {
      Path landed = land(scene, new CargoFolder(Map.of()), options.with("form", form));
      JsonNode seen = Ufbx.look(ufbx, List.of(landed)).get(0);
      assertEquals("[]", seen.path("warnings").toString(), form);
      assertEquals(1, seen.path("curves").size(), form);
      JsonNode curve = seen.path("curves").get(0);
      assertTrue(curve.path("valid").asBoolean(), form);
      assertEquals(3, curve.path("order").asInt());
      assertEquals(knots.length, curve.path("knots").asInt());
      for (int i = 0; i < 4; i++) {
        for (int k = 0; k < 3; k++) {
          assertEquals(xyz[3 * i + k], curve.at("/points/" + i + "/" + k).asDouble(), 1e-6);
        }
        assertEquals(weights[i], curve.at("/points/" + i + "/3").asDouble(), 1e-9);
      }
    }
  }
}
