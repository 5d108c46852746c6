package ferry.stone.core.format.gltf;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.RandomRig;
import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.gltf.read.GltfReader;
import ferry.stone.core.format.gltf.write.GltfOptions;
import ferry.stone.core.format.gltf.write.GltfWriter;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Bundles with broken references, several scenes, extensions, levels and instances. */
class GltfBundleTest {
  private static final String TRIANGLE =
      "\"asset\":{\"version\":\"2.0\"},\"buffers\":[{\"byteLength\":36,\"uri\":\"data:"
          + "application/octet-stream;base64,AAAAAAAAAAAAAAAAAACAPwAAAAAAAAAAAAAAAAAAgD8AAAAA\"}],"
          + "\"bufferViews\":[{\"buffer\":0,\"byteLength\":36}],\"accessors\":[{\"bufferView\":0,"
          + "\"componentType\":5126,\"count\":3,\"type\":\"VEC3\",\"min\":[0,0,0],\"max\":[1,1,0]}],"
          + "\"meshes\":[{\"primitives\":[{\"attributes\":{\"POSITION\":0}}]}]";

  private static Scene read(String json, Map<String, Object> options, Findings findings)
      throws Exception {
    return GltfReader.read(
        "a.gltf",
        new ReadContext(
                TestFiles.of("a.gltf", "{" + TRIANGLE + "," + json + "}"),
                Map.of(),
                findings,
                Progress.NONE)
            .withOptions(options));
  }

  @Test
  void aRenamedBufferIsProposedAndUsedWhenChosen() throws Exception {
    Scene scene = RandomRig.of(new Random(2), 4);
    TestFiles written = new TestFiles();
    GltfWriter.write(
        scene,
        new GltfOptions(GltfOptions.Container.GLTF, true, false, 0),
        "crane",
        new TestFiles(),
        written,
        new Findings(),
        Progress.NONE);
    TestFiles moved =
        new TestFiles()
            .with("crane.gltf", written.bytes("crane.gltf"))
            .with("data/part one.bin", written.bytes("crane.bin"))
            .with("other.bin", new byte[64]);
    Findings findings = new Findings();
    GltfReader.read("crane.gltf", new ReadContext(moved, Map.of(), findings, Progress.NONE));
    Finding missing =
        findings.list().stream()
            .filter(f -> f.code().equals("buffer-missing"))
            .findFirst()
            .orElseThrow();
    Offer offer = missing.offers().get(0);
    assertEquals("crane.bin", offer.kind());
    assertEquals("data/part one.bin", offer.params().get("file"));
    Findings mended = new Findings();
    Scene read =
        GltfReader.read(
            "crane.gltf",
            new ReadContext(
                moved, Map.of("crane.bin", "data/part one.bin"), mended, Progress.NONE));
    assertFalse(mended.list().stream().anyMatch(f -> f.code().equals("buffer-missing")));
    assertEquals(scene.bounds().diagonal(), read.bounds().diagonal(), 1);
  }

  @Test
  void theSceneToReadCanBeChosen() throws Exception {
    String json =
        "\"nodes\":[{\"name\":\"a\",\"mesh\":0},{\"name\":\"b\",\"mesh\":0}],\"scene\":1,"
            + "\"scenes\":[{\"name\":\"quay\",\"nodes\":[0]},{\"nodes\":[1]}]";
    Findings findings = new Findings();
    assertEquals(List.of("b"), read(json, Map.of(), findings).paths());
    Finding several =
        findings.list().stream()
            .filter(f -> f.code().equals("several-scenes"))
            .findFirst()
            .orElseThrow();
    Offer offer = several.offers().get(0);
    Scene other = read(json, Map.of(offer.kind(), offer.params().get("value")), new Findings());
    assertEquals(List.of("a"), other.paths());
    assertEquals("quay", other.name());
  }

  @Test
  void theScenesThatAreNotReadAreLostInTheProof() throws Exception {
    String json =
        "\"nodes\":[{\"name\":\"a\",\"mesh\":0},{\"name\":\"b\",\"mesh\":0}],"
            + "\"scenes\":[{\"nodes\":[0]},{\"name\":\"weir\",\"nodes\":[1]}]";
    TestFiles cargo = TestFiles.of("a.gltf", "{" + TRIANGLE + "," + json + "}");
    Scene scene = CargoReader.read("a", ReadContext.of(cargo));
    TestFiles out = new TestFiles();
    LandingOptions options = LandingOptions.of("glb");
    Landing landing = Landing.write(scene, options, "b", cargo, out, Progress.NONE);
    Proof proof = Proof.of(scene, scene, landing.landed(options, out), cargo, Progress.NONE);
    assertEquals(1, proof.lost(), proof.rows().toString());
    LedgerRow lost =
        proof.rows().stream()
            .filter(r -> r.verdict() == LedgerRow.Verdict.LOST)
            .findFirst()
            .orElseThrow();
    assertTrue(lost.toString().contains("\"weir\""), lost.toString());
  }

  @Test
  void unknownExtensionsAreCarriedWhenOptionalAndRefusedWhenRequired() throws Exception {
    String node =
        "\"extensionsUsed\":[\"EXT_weir\"],\"nodes\":[{\"mesh\":0,\"extras\":{\"tide\":3},"
            + "\"extensions\":{\"EXT_weir\":{\"gate\":[1,2]}}}]";
    Findings findings = new Findings();
    Scene scene = read(node, Map.of(), findings);
    assertTrue(findings.list().stream().anyMatch(f -> f.code().equals("extension-carried")));
    assertEquals(3, scene.nodes().get(0).properties().get("tide"));
    TestFiles out = new TestFiles();
    GltfWriter.write(
        scene,
        new GltfOptions(GltfOptions.Container.GLTF, true, true, 0),
        "b",
        new TestFiles(),
        out,
        new Findings(),
        Progress.NONE);
    String json = new String(out.bytes("b.gltf"), StandardCharsets.UTF_8).replaceAll("\\s", "");
    assertTrue(json.contains("\"extensionsUsed\":[\"EXT_weir\"]"), json);
    assertTrue(json.contains("\"EXT_weir\":{\"gate\":[1,2]}"), json);
    assertTrue(json.contains("\"tide\":3"), json);
    FormatException refused =
        assertThrows(
            FormatException.class,
            () -> read("\"extensionsRequired\":[\"EXT_weir_packing\"]", Map.of(), new Findings()));
    assertEquals("/extensionsRequired/0", refused.place());
    assertTrue(refused.getMessage().contains("EXT_weir_packing"));
  }

  @Test
  void levelsBecomeAGroupAndLandAsLevels() throws Exception {
    String json =
        "\"nodes\":[{\"name\":\"post\",\"mesh\":0,\"extensions\":{\"MSFT_lod\":{\"ids\":[1,2]}},"
            + "\"extras\":{\"MSFT_screencoverage\":[0.5,0.2,0.01]}},{\"name\":\"mid\",\"mesh\":0},"
            + "{\"name\":\"low\",\"mesh\":0}]";
    Scene scene = read(json, Map.of(), new Findings());
    assertEquals(List.of("post", "post/post", "post/mid", "post/low"), scene.paths());
    Node.Content.DetailGroup group = (Node.Content.DetailGroup) scene.nodes().get(0).content();
    assertEquals(0.2, group.thresholds()[1]);
    TestFiles out = new TestFiles();
    GltfWriter.write(
        scene, GltfOptions.glb(), "b", new TestFiles(), out, new Findings(), Progress.NONE);
    Scene again = GltfReader.read("b.glb", ReadContext.of(out));
    assertEquals(scene.paths(), again.paths());
    assertEquals("detail levels", again.nodes().get(0).content().kind());
  }

  @Test
  void instancesBecomeParts() throws Exception {
    String json =
        "\"nodes\":[{\"name\":\"pile\",\"mesh\":0,\"extensions\":{\"EXT_mesh_gpu_instancing\":"
            + "{\"attributes\":{\"TRANSLATION\":0}}}}]";
    Scene scene = read(json, Map.of(), new Findings());
    assertEquals(List.of("pile", "pile/pile_1", "pile/pile_2", "pile/pile_3"), scene.paths());
    assertEquals(2.0, scene.bounds().maxX());
  }

  @Test
  void structuralFaultsAreToldWithTheirPlace() {
    Map<String, String> faults =
        Map.of(
            "\"nodes\":[{\"children\":[1]},{\"children\":[0]}]",
            "/nodes/",
            "\"nodes\":[{\"mesh\":9}]",
            "/nodes/0/mesh",
            "\"nodes\":[{\"rotation\":[0,0,1]}]",
            "/nodes/0/rotation",
            "\"nodes\":[{\"children\":[7]}]",
            "/nodes/0/children/0",
            "\"nodes\":[{}],\"skins\":[{\"joints\":[]}]",
            "/skins/0/joints",
            "\"nodes\":[{\"skin\":3,\"mesh\":0}]",
            "/nodes/0/skin",
            "\"nodes\":[{\"camera\":0}]",
            "/nodes/0/camera",
            "\"nodes\":[{\"weights\":[1],\"mesh\":0}]",
            "/nodes/0/weights",
            "\"nodes\":[{}],\"animations\":[{\"channels\":[{\"sampler\":0,\"target\":"
                + "{\"node\":0,\"path\":\"scale\"}}],\"samplers\":[]}]",
            "/animations/0/channels/0/sampler");
    faults.forEach(
        (json, place) -> {
          FormatException e =
              assertThrows(FormatException.class, () -> read(json, Map.of(), new Findings()), json);
          assertTrue(e.place().startsWith(place), json + " gave " + e.place());
        });
  }
}
