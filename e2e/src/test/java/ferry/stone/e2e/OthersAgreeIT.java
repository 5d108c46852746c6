package ferry.stone.e2e;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.geometry.mesh.MeshMeasure;
import ferry.stone.core.geometry.triangle.RenderMesh;
import ferry.stone.core.geometry.triangle.RenderPrimitive;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.landing.LandingOptions.Transforms;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.CopySet;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import ferry.stone.demo.DemoWorld;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

/** Our files before gltf-validator 2.0.0-dev.3.10 and three 0.187.0. */
class OthersAgreeIT {
  @TempDir Path folder;

  private static final String ODD =
      """
      mtllib odd.mtl
      o größe & "quote" \\
       joined
      v 0 0 0 1 0 0
      v 1 0 0 0 1 0
      v 1 1 0 0 0 1
      v .5 .2 0
      v 0 1 0
      v nan 0 0
      vt 0 0
      vt 1 0
      vt 1 1
      vn 0 0 0
      vn 0 0 2
      usemtl a
      f 1/1/1 2/2/2 3/3/2 4/1/2 5/2/2
      usemtl
      f 1 3 2
      f 1 1 1
      f 1 2 6
      l 1 2 3
      p 1
      o empty
      v 9 9 9
      """;

  private CargoFolder demo(DemoWorld.Cargo cargo) throws Exception {
    return DemoCargo.unpack(cargo, folder);
  }

  private Path land(Scene near, CargoFolder cargo, LandingOptions options) throws Exception {
    List<Step> steps =
        List.of(
            new Step("1", "sourceUnit", Map.of("unit", "cm"), true, List.of()),
            new Step("2", "sourceUp", Map.of("up", "z"), true, List.of()),
            new Step("3", "ground", Map.of(), true, List.of()),
            new Step("4", "normals", Map.of("angle", 40), true, List.of()));
    Scene far = Handling.result(near, Handling.run(near, steps, Progress.NONE));
    Path out = Files.createTempDirectory(folder, "landed");
    Landing landing =
        Landing.write(
            far,
            options,
            "landed file",
            cargo,
            path -> {
              Files.createDirectories(out.resolve(path).getParent());
              return Files.newOutputStream(out.resolve(path));
            },
            Progress.NONE);
    return out.resolve(landing.mainFile());
  }

  private static void valid(Path file) throws Exception {
    JsonNode report = Node.run("validate-gltf.mjs", file);
    assertEquals(0, report.path("errors").asInt(), report.toString());
    assertEquals(0, report.path("warnings").asInt(), report.toString());
  }

  @ParameterizedTest
  @CsvSource({
    "BOLLARD_SET, glb, true, DATA, false",
    "BOLLARD_SET, gltf, false, ROOT, true",
    "LANTERN_STRING, glb, false, DATA, true",
    "LANTERN_STRING, gltf, true, ROOT, false"
  })
  void theValidatorHasNothingToSay(
      DemoWorld.Cargo which, String format, boolean embed, Transforms transforms, boolean both)
      throws Exception {
    CargoFolder cargo = demo(which);
    Scene near = CargoReader.read("demo", ReadContext.of(cargo));
    valid(
        land(near, cargo, options(format, embed).withTransforms(transforms).withDoubleSided(both)));
  }

  @Test
  void theValidatorHasNothingToSayOfOddFiles() throws Exception {
    Path source = Files.createDirectories(folder.resolve("odd"));
    Files.writeString(source.resolve("odd.obj"), ODD);
    Files.writeString(
        source.resolve("odd.mtl"),
        "newmtl a\nKd 2 -1 .5\nKe 9 0 0\nd 0.5\nmap_Kd -s 2 2 -o .1 .2 no picture.png\nmap_Bump b.png\n");
    Files.writeString(source.resolve("no picture.png"), "none");
    CargoFolder cargo = CargoFolder.of(source);
    Scene near = CargoReader.read("odd", ReadContext.of(cargo));
    valid(land(near, cargo, LandingOptions.of("glb")));
    valid(
        land(
            near,
            cargo,
            LandingOptions.of("gltf").withTransforms(Transforms.ROOT).withDoubleSided(true)));
  }

  @ParameterizedTest
  @EnumSource(names = {"BOLLARD_SET", "LANTERN_STRING"})
  void threeReadsTheSameGlb(DemoWorld.Cargo which) throws Exception {
    CargoFolder cargo = demo(which);
    Scene near = CargoReader.read("demo", ReadContext.of(cargo));
    Path file = land(near, cargo, LandingOptions.of("glb").with("embedTextures", false));
    JsonNode theirs = Node.run("read-glb.mjs", file);
    Bounds b = near.bounds();
    // Z up centimetres to Y up metres, the lowest point at 0.
    double height = b.size(2) / 100;
    assertEquals(0, theirs.at("/min/1").asDouble(), 1e-5);
    assertEquals(height, theirs.at("/max/1").asDouble(), 1e-5);
    assertEquals(b.maxX() / 100, theirs.at("/max/0").asDouble(), 1e-5);
    assertEquals(-b.minY() / 100, theirs.at("/max/2").asDouble(), 1e-5);
    double area = near.meshes().stream().mapToDouble(m -> MeshMeasure.of(m).area()).sum() / 1e4;
    assertEquals(area, theirs.path("area").asDouble(), area * 1e-3);
    long triangles = near.meshes().stream().mapToLong(m -> m.faces().triangleCount()).sum();
    assertEquals(triangles, theirs.path("triangles").asLong());
  }

  @ParameterizedTest
  @EnumSource(names = {"BOLLARD_SET", "LANTERN_STRING"})
  void threeReadsTheSameObj(DemoWorld.Cargo which) throws Exception {
    CargoFolder cargo = demo(which);
    for (String path : cargo.paths()) {
      if (!path.endsWith(".obj")) {
        continue;
      }
      Scene ours = CargoReader.read("demo", List.of(path), ReadContext.of(cargo));
      JsonNode theirs = Node.run("read-obj.mjs", folder.resolve(which.name()).resolve(path));
      assertEquals(ours.meshes().size(), theirs.size());
      for (int m = 0; m < theirs.size(); m++) {
        sameTriangles(ours.meshes().get(m), theirs.get(m));
      }
    }
  }

  @ParameterizedTest
  @CsvSource({"CAPSTAN, glb, DATA", "CAPSTAN, gltf, ROOT", "HERON, glb, DATA", "HERON, glb, ROOT"})
  void theValidatorHasNothingToSayOfRigs(
      DemoWorld.Cargo which, String format, Transforms transforms) throws Exception {
    CargoFolder cargo = demo(which);
    Scene near = CargoReader.read("demo", ReadContext.of(cargo));
    boolean embed = format.equals("glb");
    // Turned, moved and scaled by the same steps as the others: motion and joints go along.
    valid(land(near, cargo, options(format, embed).withTransforms(transforms)));
    valid(
        land(near, cargo, options(format, embed).withTransforms(transforms).with("influences", 0)));
  }

  private static LandingOptions options(String format, boolean embed) {
    LandingOptions options = LandingOptions.of(format).with("embedTextures", embed);
    return format.equals("gltf") ? options.with("embedGeometry", embed) : options;
  }

  private static LandingOptions with(LandingOptions options, Map<String, Object> more) {
    LandingOptions all = options;
    for (Map.Entry<String, Object> one : more.entrySet()) {
      all = all.with(one.getKey(), one.getValue());
    }
    return all;
  }

  private static final Map<String, Object> PACKED =
      Map.of("quantize", true, "compress", true, "drawOrder", true, "largestTexture", 256);

  @ParameterizedTest
  @EnumSource(DemoWorld.Cargo.class)
  void theValidatorHasNothingToSayOfPackedFiles(DemoWorld.Cargo which) throws Exception {
    CargoFolder cargo = demo(which);
    Scene near = CargoReader.read("demo", ReadContext.of(cargo));
    List<Map<String, Object>> packings =
        List.of(
            Map.of(
                "quantize", true, "indexBits", "short", "largestTexture", 64, "gatherCopies", true),
            Map.of("compress", true, "indexBits", "long", "drawOrder", true),
            PACKED);
    for (Map<String, Object> packing : packings) {
      valid(land(near, cargo, with(LandingOptions.of("glb"), packing)));
    }
    LandingOptions apart =
        LandingOptions.of("gltf").withTransforms(Transforms.ROOT).with("influences", 0);
    valid(land(near, cargo, with(apart, PACKED)));
  }

  /** glTF-Transform unpacks the same numbers that are read here. */
  @ParameterizedTest
  @EnumSource(DemoWorld.Cargo.class)
  void anotherReaderUnpacksTheSame(DemoWorld.Cargo which) throws Exception {
    CargoFolder cargo = demo(which);
    Scene near = CargoReader.read("demo", ReadContext.of(cargo));
    for (Map<String, Object> packing : List.of(Map.<String, Object>of(), PACKED)) {
      Path file = land(near, cargo, with(LandingOptions.of("glb"), packing));
      Scene ours = CargoReader.read("landed", ReadContext.of(CargoFolder.of(file.getParent())));
      JsonNode theirs = Node.run("transform-glb.mjs", file);
      // What one node lists as places are parts here alone.
      int listed =
          ours.copies().stream()
              .filter(set -> set.kind() == CopySet.Kind.PLACES)
              .mapToInt(set -> set.nodeIds().length)
              .sum();
      assertEquals(ours.nodes().size() - listed, theirs.path("nodes").size());
      assertEquals(ours.meshes().size(), theirs.path("meshes").size());
      assertEquals(ours.clips().size(), theirs.path("clips").size());
      for (int m = 0; m < ours.meshes().size(); m++) {
        sameNumbers(ours.meshes().get(m), theirs.path("meshes").get(m));
      }
      for (int c = 0; c < ours.clips().size(); c++) {
        JsonNode clip = theirs.path("clips").get(c);
        assertEquals(ours.clips().get(c).name(), clip.path("name").asText());
        assertEquals(ours.clips().get(c).endSeconds(), clip.path("end").asDouble(), 1e-5);
      }
    }
  }

  private static void sameNumbers(PolygonMesh mesh, JsonNode primitives) {
    int first = 0;
    int corner = 0;
    for (JsonNode primitive : primitives) {
      JsonNode positions = primitive.path("positions");
      for (int i = 0; i < positions.size(); i++) {
        int vertex = first + i;
        double wanted = mesh.points().at(9 * (i / 3) + i % 3 + 3 * first);
        assertEquals(wanted, positions.get(i).asDouble(), 1e-6, mesh.name() + ", " + vertex);
      }
      JsonNode indices = primitive.path("indices");
      for (int i = 0; i < indices.size(); i += 3) {
        boolean same = false;
        for (int turn = 0; turn < 3; turn++) {
          boolean all = true;
          for (int k = 0; k < 3; k++) {
            int theirs = first + indices.get(i + (k + turn) % 3).asInt();
            all &= theirs == mesh.faces().vertex(corner + k);
          }
          same |= all;
        }
        assertTrue(same, mesh.name() + ", triangle " + corner / 3);
        corner += 3;
      }
      assertEquals(mesh.morphs().size(), primitive.path("targets").asInt());
      assertEquals(0, primitive.path("weightsOff").asDouble(), 1e-6);
      first += primitive.path("vertices").asInt();
    }
    assertEquals(mesh.points().count(), first);
  }

  @ParameterizedTest
  @CsvSource({"CAPSTAN, false", "HERON, false", "CAPSTAN, true", "HERON, true"})
  void threePosesTheSame(DemoWorld.Cargo which, boolean packed) throws Exception {
    CargoFolder cargo = demo(which);
    Scene near = CargoReader.read("demo", ReadContext.of(cargo));
    LandingOptions options = LandingOptions.of("glb");
    Path file = land(near, cargo, packed ? with(options, PACKED) : options);
    Scene ours = CargoReader.read("landed", ReadContext.of(CargoFolder.of(file.getParent())));
    JsonNode theirs = Node.run("pose-glb.mjs", file);
    if (which == DemoWorld.Cargo.HERON) {
      assertEquals(24, theirs.path("joints").size());
      assertEquals("hips", theirs.at("/joints/0").asText());
      assertEquals("beak_open", theirs.at("/targets/1").asText());
    }
    double size = ours.bounds().diagonal();
    for (JsonNode pose : theirs.path("poses")) {
      String name = pose.path("clip").asText();
      Clip clip = ours.clips().stream().filter(c -> c.name().equals(name)).findFirst().orElse(null);
      double t = 0;
      if (clip != null) {
        double length = clip.endSeconds() - clip.startSeconds();
        assertEquals(length, pose.path("duration").asDouble(), 1e-5);
        t = clip.startSeconds() + pose.path("part").asDouble() * length;
      }
      samePose(ours, Pose.at(ours, clip, t), pose.path("meshes"), size, name + " at " + t);
    }
  }

  /** three makes names its own: each of our parts is found among theirs by where it is. */
  private static void samePose(Scene scene, Pose pose, JsonNode theirs, double size, String what) {
    java.util.List<double[]> left = new java.util.ArrayList<>();
    for (JsonNode mesh : theirs) {
      double[] points = new double[mesh.size()];
      for (int i = 0; i < points.length; i++) {
        points[i] = mesh.get(i).asDouble();
      }
      left.add(points);
    }
    for (int i = 0; i < scene.nodes().size(); i++) {
      double[] all = Deform.world(scene, pose, i);
      if (all.length == 0) {
        continue;
      }
      double best = Double.POSITIVE_INFINITY;
      double[] match = null;
      for (double[] points : left) {
        double off = points.length == (all.length / 3 + 16) / 17 * 3 ? 0 : 1e9;
        for (int k = 0; k < points.length && off < best; k++) {
          off = Math.max(off, Math.abs(points[k] - all[51 * (k / 3) + k % 3]));
        }
        if (off < best) {
          best = off;
          match = points;
        }
      }
      assertEquals(0, best, 1e-5 * size, what + ": " + scene.nodes().get(i).name());
      left.remove(match);
    }
    assertTrue(left.isEmpty(), what);
  }

  /** three cuts polygons its own way: all corners of ours are among theirs, with their UVs. */
  private static void sameTriangles(PolygonMesh mesh, JsonNode theirs) {
    java.util.Set<String> corners = new java.util.HashSet<>();
    JsonNode p = theirs.path("position");
    JsonNode uv = theirs.path("uv");
    for (int i = 0; i * 3 < p.size(); i++) {
      corners.add(
          key(
              p.get(3 * i).asDouble(),
              p.get(3 * i + 1).asDouble(),
              p.get(3 * i + 2).asDouble(),
              uv.get(2 * i).asDouble(),
              uv.get(2 * i + 1).asDouble()));
    }
    int ours = 0;
    for (RenderPrimitive r : RenderMesh.of(mesh, Progress.NONE)) {
      ours += r.triangleCount();
      for (int i = 0; i < r.vertexCount(); i++) {
        String key =
            key(
                r.positions()[3 * i],
                r.positions()[3 * i + 1],
                r.positions()[3 * i + 2],
                r.uvs().get(0)[2 * i],
                r.uvs().get(0)[2 * i + 1]);
        assertTrue(corners.contains(key), mesh.name() + ": " + key);
      }
    }
    assertEquals(p.size() / 9, ours, mesh.name());
  }

  private static String key(double x, double y, double z, double u, double v) {
    return (float) x + " " + (float) y + " " + (float) z + " " + (float) u + " " + (float) v;
  }
}
