package ferry.stone.e2e;

import static org.junit.jupiter.api.Assertions.assertEquals;

import com.fasterxml.jackson.databind.JsonNode;
import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import ferry.stone.demo.DemoWorld;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * Our stages before three 0.187.0 and tinyusdz 0.9.0-rc10: neither has a line of the standard's own
 * library. three follows no references inside a file, and tinyusdz draws classes too: they get the
 * landings in which each part has a mesh of its own. Parts in files of their own are for tinyusdz
 * alone, which takes what stronger layers add for all of a prim: sublayers are left to the
 * standard's library.
 */
class UsdOthersIT {
  private static final double NEAR = 1e-4;

  @TempDir Path folder;

  private Path land(Scene far, CargoFolder cargo, LandingOptions options, String stem)
      throws Exception {
    Path out = Files.createTempDirectory(folder, "landed");
    Landing landing =
        Landing.write(
            far,
            options,
            stem,
            cargo,
            path -> {
              Files.createDirectories(out.resolve(path).getParent());
              return Files.newOutputStream(out.resolve(path));
            },
            Progress.NONE);
    return out.resolve(landing.mainFile());
  }

  private static int triangles(Scene scene) {
    return scene.shownMeshes().stream()
        .mapToInt(s -> s.mesh().faces().cornerCount() - 2 * s.mesh().faces().faceCount())
        .sum();
  }

  private static void same(JsonNode theirs, Bounds box, int triangles, String what) {
    assertEquals("", theirs.path("error").asText(), what + theirs.path("said"));
    assertEquals(triangles, theirs.path("triangles").asInt(), what);
    double near = NEAR * box.diagonal();
    for (int axis = 0; axis < 3; axis++) {
      assertEquals(box.min(axis), theirs.at("/min/" + axis).asDouble(), near, what + " min");
      assertEquals(box.max(axis), theirs.at("/max/" + axis).asDouble(), near, what + " max");
    }
  }

  @ParameterizedTest
  @CsvSource({"HERON", "CAPSTAN", "LANTERN_STRING", "BOLLARD_SET", "ARCH"})
  void theySeeTheSameShapesInEachContainer(DemoWorld.Cargo which) throws Exception {
    CargoFolder cargo = DemoCargo.unpack(which, folder);
    Scene far = CargoReader.read("demo", ReadContext.of(cargo));
    List<Path> whole = new ArrayList<>();
    List<Path> divided = new ArrayList<>();
    for (String format : List.of("usda", "usdc", "usdz")) {
      LandingOptions options = LandingOptions.of(format).with("copies", false).with("unit", "m");
      whole.add(land(far, cargo, options, "whole"));
      divided.add(land(far, cargo, options.with("parts", "references"), "apart"));
    }
    Scene arrived = Rebase.intoData(far, Frame.Y_UP_METRE);
    Bounds box = arrived.bounds();
    int triangles = triangles(arrived);
    for (JsonNode theirs : Node.lines("read-usd.mjs", whole)) {
      String file = theirs.path("file").asText();
      same(theirs.path("three"), box, triangles, file + " by three");
      same(theirs.path("tiny"), box, triangles, file + " by tinyusdz");
    }
    for (JsonNode theirs : Node.lines("read-usd.mjs", divided)) {
      same(theirs.path("tiny"), box, triangles, "divided " + theirs.path("file").asText());
    }
  }
}
