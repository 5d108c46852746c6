package ferry.stone.core.landing;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.format.CargoRole;
import ferry.stone.core.format.Formats;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.ToyFormat;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.shore.Shores;
import ferry.stone.core.work.Progress;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** A format is its class and a line: everything else follows. */
class OneDoorTest {
  private static final String TOY =
      "toy\npart a\n0 0 0 1 0 0 0 1 0\n0 0 0 0 1 0 0 0 1\npart b\n2 0 0 3 0 0 2 1 0\n";

  @Test
  void aToyIsReadForecastLandedAndProved() throws Exception {
    try (AutoCloseable open = ToyFormat.open()) {
      TestFiles cargo = TestFiles.of("thing.dat", TOY);
      assertEquals(CargoRole.SCENE, CargoRole.of("thing.dat", cargo));
      Scene scene = CargoReader.read("thing", ReadContext.of(cargo));
      assertEquals(List.of("a", "b"), scene.paths());
      LandingOptions options = LandingOptions.of("toy");
      assertEquals(Map.of("loud", false), options.options());
      assertEquals(List.of(), Forecast.of(scene, options, cargo).items());
      TestFiles out = new TestFiles();
      Landing landing = Landing.write(scene, options, "thing", cargo, out, Progress.NONE);
      assertEquals("thing.toy", landing.mainFile());
      Proof proof = Proof.of(scene, scene, landing.landed(options, out), cargo, Progress.NONE);
      assertEquals(0, proof.lost() + proof.changed(), proof.rows().toString());
      assertTrue(proof.kept() > 5, proof.rows().toString());
    }
    assertThrows(IllegalArgumentException.class, () -> LandingOptions.of("toy"));
  }

  @Test
  void whatItCannotCarryIsForecastAndProved() throws Exception {
    try (AutoCloseable open = ToyFormat.open()) {
      for (Capability capability : List.of(Capability.POLYGONS, Capability.SUBDIVISION)) {
        Scene scene = CapabilityScenes.of(capability);
        LandingOptions options = LandingOptions.of("toy");
        var forecast = Forecast.of(scene, options, CapabilityFiles.all()).items();
        assertTrue(
            forecast.stream().anyMatch(i -> i.capability() == capability), forecast.toString());
        TestFiles out = new TestFiles();
        Landing landing =
            Landing.write(scene, options, "a", CapabilityFiles.all(), out, Progress.NONE);
        Proof proof =
            Proof.of(
                scene, scene, landing.landed(options, out), CapabilityFiles.all(), Progress.NONE);
        assertTrue(proof.rows().stream().anyMatch(r -> r.about() == capability));
      }
    }
  }

  @Test
  void atlasAndShoresTakeIt() throws Exception {
    try (AutoCloseable open = ToyFormat.open()) {
      assertTrue(Formats.tables().stream().anyMatch(t -> t.format().equals("toy")));
      assertTrue(Formats.readNames().endsWith("or Toy"));
      Formats.checkWritten(List.of("toy", "glb"));
      assertEquals("toy", LandingOptions.on(Shores.usual(), "toy").format());
    }
  }
}
