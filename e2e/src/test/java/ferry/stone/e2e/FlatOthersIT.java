package ferry.stone.e2e;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.geometry.mesh.MeshClean;
import ferry.stone.core.geometry.mesh.MeshMeasure;
import ferry.stone.core.geometry.triangle.Triangulate;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.proof.LedgerRow.Verdict;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;
import ferry.stone.demo.DemoWorld;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/**
 * three's STLLoader, PLYLoader and OBJLoader with MTLLoader find in what is landed what is found
 * here.
 */
class FlatOthersIT {
  private static final List<LandingOptions> LANDINGS =
      List.of(
          LandingOptions.of("obj").with("triangulate", true),
          LandingOptions.of("stl"),
          LandingOptions.of("stl").with("encoding", "text"),
          LandingOptions.of("ply"),
          LandingOptions.of("ply").with("encoding", "binarybig"),
          LandingOptions.of("ply").with("encoding", "text"));

  @TempDir static Path folder;

  @ParameterizedTest
  @EnumSource(DemoWorld.Cargo.class)
  void threeReadsTheSame(DemoWorld.Cargo which) throws Exception {
    CargoFolder cargo = DemoCargo.unpack(which, folder);
    Scene near = CargoReader.read("demo", ReadContext.of(cargo));
    for (LandingOptions options : LANDINGS) {
      Path out = Files.createTempDirectory(folder, "landed");
      Landing landing =
          Landing.write(
              near,
              options,
              "landed",
              cargo,
              path -> {
                Files.createDirectories(out.resolve(path).getParent());
                return Files.newOutputStream(out.resolve(path));
              },
              Progress.NONE);
      CargoFolder written = CargoFolder.of(out);
      String what = which + " as " + options.format() + " " + options.options();
      Proof proof = Proof.of(near, near, landing.landed(options, written), cargo, Progress.NONE);
      // What differs is what the format does not hold, and nothing of what it does.
      assertTrue(
          proof.rows().stream()
              .filter(r -> r.verdict() != Verdict.KEPT)
              .filter(r -> r.about() != Capability.MISSING_TEXTURES)
              .allMatch(r -> r.group().equals("What the format does not hold")),
          what + proof.rows());
      same(
          CargoReader.read("landed", ReadContext.of(written)),
          out.resolve(landing.mainFile()),
          what);
    }
  }

  /** Each material by name with its colour, and the same ones used. */
  private static void materials(Scene ours, JsonNode theirs, String what) {
    Map<String, JsonNode> found = new HashMap<>();
    theirs.path("materials").forEach(m -> found.put(m.path("name").asText(), m));
    assertEquals(ours.materials().size(), found.size(), what);
    Set<String> used = new HashSet<>();
    for (PolygonMesh mesh : ours.meshes()) {
      for (int f = 0; f < mesh.faces().faceCount(); f++) {
        ours.material(mesh.materialOf(f)).ifPresent(m -> used.add(m.name()));
      }
    }
    Set<String> theirUsed = new HashSet<>();
    theirs.path("used").forEach(name -> theirUsed.add(name.asText()));
    theirUsed.remove("");
    assertEquals(used, theirUsed, what);
    for (Material material : ours.materials()) {
      JsonNode other = found.get(material.name());
      double[] colour = material.factor(Channel.BASE_COLOUR, 1, 1, 1);
      for (int k = 0; k < 3; k++) {
        assertEquals(colour[k], other.at("/kd/" + k).asDouble(), 1e-4, what + material.name());
      }
      assertEquals(
          material.texture(Channel.BASE_COLOUR).isPresent(), !other.path("map").isNull(), what);
    }
  }

  private static void same(Scene ours, Path file, String what) throws Exception {
    JsonNode theirs = Node.run("read-flat.mjs", file);
    long triangles = ours.meshes().stream().mapToLong(m -> m.faces().triangleCount()).sum();
    assertEquals(triangles, theirs.path("triangles").asLong(), what);
    // Three shows faces alone, not the vertices that none of them uses.
    Bounds box = Bounds.EMPTY;
    for (PolygonMesh mesh : ours.meshes()) {
      PolygonMesh faces = mesh.toBuilder().loose(null).build();
      box = box.union(MeshClean.unusedVertices(faces).mesh().points().bounds());
    }
    double size = box.diagonal();
    for (int k = 0; k < 3; k++) {
      assertEquals(box.min(k), theirs.at("/min/" + k).asDouble(), 1e-6 * size, what);
      assertEquals(box.max(k), theirs.at("/max/" + k).asDouble(), 1e-6 * size, what);
    }
    double area = ours.meshes().stream().mapToDouble(m -> MeshMeasure.of(m).area()).sum();
    assertEquals(area, theirs.path("area").asDouble(), 1e-3 * area, what);
    if (file.toString().endsWith(".obj")) {
      materials(ours, theirs, what);
    } else if (file.toString().endsWith(".ply")) {
      PolygonMesh mesh = Triangulate.of(ours.meshes().get(0));
      assertEquals(mesh.points().count(), theirs.path("vertices").asInt(), what);
      assertEquals(mesh.first(Semantic.UV).isPresent(), !theirs.path("uv").isNull(), what);
      assertEquals(mesh.first(Semantic.COLOUR).isPresent(), !theirs.path("colour").isNull(), what);
      mesh.first(Semantic.NORMAL)
          .ifPresent(
              n -> {
                double[] mean = new double[3];
                int corners = mesh.faces().cornerCount();
                for (int c = 0; c < corners; c++) {
                  for (int k = 0; k < 3; k++) {
                    mean[k] += n.values()[3 * mesh.faces().vertex(c) + k] / (double) corners;
                  }
                }
                for (int k = 0; k < 3; k++) {
                  assertEquals(mean[k], theirs.at("/normal/" + k).asDouble(), 0.01, what);
                }
              });
    } else if (what.contains("text")) {
      assertEquals(ours.meshes().size(), Math.max(1, theirs.path("solids").asInt()), what);
    }
  }
}
