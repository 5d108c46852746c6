package ferry.stone.core.landing;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.RandomRig;
import ferry.stone.core.TestFiles;
import ferry.stone.core.format.Format;
import ferry.stone.core.format.Formats;
import ferry.stone.core.format.Variants;
import ferry.stone.core.format.fbx.FbxCapabilities;
import ferry.stone.core.format.flat.Contents;
import ferry.stone.core.format.gltf.GltfCapabilities;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestFactory;

/**
 * Forecast and proof agree: nothing lost that was not forecast, nothing forecast that did not
 * happen.
 */
class ForecastTest {
  private static Map<String, LandingOptions> landings() {
    Map<String, LandingOptions> all = new TreeMap<>(Variants.all());
    all.put(
        "glb on a root", LandingOptions.of("glb").withTransforms(LandingOptions.Transforms.ROOT));
    all.put("stl in inches", LandingOptions.of("stl").with("encoding", "text").with("unit", "in"));
    all.put("ply, Z up", LandingOptions.of("ply").with("encoding", "text").with("up", "z"));
    all.put(
        "obj cut, rounded, classic, Z up",
        LandingOptions.of("obj")
            .with("triangulate", true)
            .with("decimals", "3")
            .with("pbrKeys", false)
            .with("unit", "cm")
            .with("up", "z"));
    all.put(
        "fbx baked, cut, Z up",
        LandingOptions.of("fbx")
            .with("form", "text")
            .with("bake", true)
            .with("triangulate", true)
            .with("unit", "m")
            .with("up", "z"));
    all.put(
        "usda, layers and parts apart",
        LandingOptions.of("usda").with("layers", "apart").with("parts", "references"));
    all.put(
        "usdc, payloads, every clip",
        LandingOptions.of("usdc").with("layers", "clips").with("parts", "payloads"));
    all.put("usdz, parts referenced", LandingOptions.of("usdz").with("parts", "references"));
    return all;
  }

  /** The worst that became of each capability. */
  private static Map<Capability, String> proved(Scene far, LandingOptions options, TestFiles cargo)
      throws Exception {
    TestFiles out = new TestFiles();
    Landing landing = Landing.write(far, options, "out", cargo, out, Progress.NONE);
    Proof proof = Proof.of(far, far, landing.landed(options, out), cargo, Progress.NONE);
    Map<Capability, String> worst = new TreeMap<>();
    for (LedgerRow row : proof.rows()) {
      if (row.verdict() != LedgerRow.Verdict.KEPT) {
        assertTrue(row.about() != null, options + ": no capability: " + row);
        worst.merge(row.about(), row.verdict().name(), (a, b) -> a.equals("LOST") ? a : b);
      }
    }
    return worst;
  }

  private static Map<Capability, String> forecast(
      Scene far, LandingOptions options, TestFiles cargo) {
    Map<Capability, String> worst = new TreeMap<>();
    for (Forecast.Item item : Forecast.of(far, options, cargo).items()) {
      worst.merge(item.capability(), item.fate().name(), (a, b) -> a.equals("LOST") ? a : b);
    }
    return worst;
  }

  @TestFactory
  List<DynamicTest> everyCapabilityInEveryFormat() {
    List<DynamicTest> tests = new ArrayList<>();
    for (Capability capability : Capability.values()) {
      landings()
          .forEach(
              (name, options) ->
                  tests.add(
                      DynamicTest.dynamicTest(
                          capability + " as " + name,
                          () -> {
                            Scene far = CapabilityScenes.of(capability);
                            TestFiles cargo = CapabilityFiles.all();
                            assertEquals(
                                forecast(far, options, cargo),
                                proved(far, options, cargo),
                                capability.name());
                          })));
    }
    return tests;
  }

  /** A scene holds what it is named for, so that no row of the table goes unlanded. */
  @TestFactory
  List<DynamicTest> everyLossOfTheTablesIsSeen() {
    List<DynamicTest> tests = new ArrayList<>();
    for (Capability capability : Capability.values()) {
      if (capability == Capability.PACKING || capability == Capability.ROOT_TRANSFORM) {
        // Told by what is chosen at the landing, not by the scene.
        continue;
      }
      tests.add(
          DynamicTest.dynamicTest(
              capability.name(),
              () -> {
                Scene far = CapabilityScenes.of(capability);
                TestFiles cargo = CapabilityFiles.all();
                seen(GltfCapabilities.TABLE.of(capability), far, LandingOptions.of("glb"), cargo);
                seen(FbxCapabilities.TABLE.of(capability), far, LandingOptions.of("fbx"), cargo);
                flat(capability, far, cargo);
              }));
    }
    return tests;
  }

  /** Flat formats are told by what the scene holds; what it cannot tell is part of materials. */
  private static void flat(Capability capability, Scene far, TestFiles cargo) throws Exception {
    for (Format format : Formats.written()) {
      LandingOptions options = LandingOptions.of(format.key());
      boolean told =
          capability != Capability.EMPTY_CLIPS && new Contents(far).find(capability).count() > 0;
      if (options.writer().holding(options.values()).isFlat() && told) {
        seen(format.losses().of(capability), far, options, cargo);
      }
    }
  }

  private static void seen(
      Capability.Support support, Scene far, LandingOptions options, TestFiles cargo)
      throws Exception {
    String wanted = support.written() == Capability.Fate.KEPT ? null : support.written().name();
    assertEquals(wanted, proved(far, options, cargo).get(support.capability()));
  }

  @Test
  void facesThatSomeReadersLeaveOutAreToldOfInPly() throws Exception {
    PolygonMesh disc =
        PolygonMesh.of(
            1,
            "disc",
            Coordinates.of(new float[] {0, 0, 0, 1, 0, 0, 2, 1, 0, 1, 2, 0, 0, 1, 0}),
            Polygons.of(new int[] {0, 1, 2, 3, 4}, new int[] {0, 5}));
    SceneBuilder scene = new SceneBuilder("disc");
    scene.nextId(5);
    scene.add(disc);
    scene.add(Node.of(2, "disc", -1, Node.Content.MeshContent.of(1)));
    Scene far = scene.build();
    for (boolean cut : new boolean[] {true, false}) {
      LandingOptions options = LandingOptions.of("ply").with("triangulate", cut);
      Map<Capability, String> told = forecast(far, options, new TestFiles());
      assertEquals("CHANGED", told.get(Capability.POLYGONS));
      assertEquals(told, proved(far, options, new TestFiles()));
    }
  }

  @Test
  void randomRigsArriveAsForecast() throws Exception {
    for (int seed = 0; seed < 25; seed++) {
      Scene far = RandomRig.of(new Random(seed), 6);
      TestFiles cargo = new TestFiles();
      for (var landing : landings().entrySet()) {
        assertEquals(
            forecast(far, landing.getValue(), cargo),
            proved(far, landing.getValue(), cargo),
            "seed " + seed + " as " + landing.getKey());
      }
    }
  }
}
