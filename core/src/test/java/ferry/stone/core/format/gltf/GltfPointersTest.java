package ferry.stone.core.format.gltf;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.gltf.read.GltfReader;
import ferry.stone.core.format.gltf.write.GltfOptions;
import ferry.stone.core.format.gltf.write.GltfWriter;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Track;
import ferry.stone.core.work.Progress;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Test;

/** Looks to choose from, and motion of other values than nodes' transforms. */
class GltfPointersTest {
  private static final String[] POINTERS = {
    "/nodes/0/extensions/KHR_node_visibility/visible",
    "/cameras/0/perspective/yfov",
    "/extensions/KHR_lights_punctual/lights/0/color",
    "/extensions/KHR_lights_punctual/lights/0/range",
    "/materials/1/pbrMetallicRoughness/baseColorFactor",
    "/materials/1/extensions/KHR_materials_ior/ior",
    "/materials/1/normalTexture/scale",
    "/cameras/7/perspective/yfov"
  };

  /** Two triangles in one mesh, a camera and a light, two looks, and a clip of eight pointers. */
  private static String file(int variant) {
    ByteBuffer data = ByteBuffer.allocate(120).order(ByteOrder.LITTLE_ENDIAN);
    for (float f : new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 2}) {
      data.putFloat(f);
    }
    for (int i = 0; i < 8; i++) {
      data.putFloat(0.25f * (i + 1));
    }
    data.put(76, (byte) 1).put(77, (byte) 0);
    StringBuilder channels = new StringBuilder();
    StringBuilder samplers = new StringBuilder();
    int[] outputs = {2, 3, 4, 3, 5, 3, 3, 3};
    for (int i = 0; i < POINTERS.length; i++) {
      channels
          .append(i == 0 ? "" : ",")
          .append("{\"sampler\":" + i + ",\"target\":{\"path\":\"pointer\",\"extensions\":")
          .append("{\"KHR_animation_pointer\":{\"pointer\":\"" + POINTERS[i] + "\"}}}}");
      samplers
          .append(i == 0 ? "" : ",")
          .append("{\"input\":1,\"output\":" + outputs[i])
          .append(i == 0 ? ",\"interpolation\":\"STEP\"}" : "}");
    }
    String primitive =
        "{\"attributes\":{\"POSITION\":0},\"material\":0,\"extensions\":{\"KHR_materials_variants\":"
            + "{\"mappings\":[{\"material\":1,\"variants\":["
            + variant
            + "]}]}}}";
    return "{\"asset\":{\"version\":\"2.0\"},\"scene\":0,\"scenes\":[{\"nodes\":[0,1,2]}],"
        + "\"extensionsUsed\":[\"KHR_animation_pointer\",\"KHR_materials_variants\"],"
        + "\"extensions\":{\"KHR_materials_variants\":{\"variants\":[{\"name\":\"dry\"},{\"name\":\"wet\"}]},"
        + "\"KHR_lights_punctual\":{\"lights\":[{\"type\":\"point\",\"range\":5}]}},"
        + "\"buffers\":[{\"byteLength\":120,\"uri\":\"data:application/octet-stream;base64,"
        + Base64.getEncoder().encodeToString(data.array())
        + "\"}],\"bufferViews\":[{\"buffer\":0,\"byteLength\":120},{\"buffer\":0,\"byteOffset\":76,\"byteLength\":2}],"
        + "\"accessors\":[{\"bufferView\":0,\"componentType\":5126,\"count\":3,\"type\":\"VEC3\"},"
        + "{\"bufferView\":0,\"byteOffset\":36,\"componentType\":5126,\"count\":2,\"type\":\"SCALAR\"},"
        + "{\"bufferView\":1,\"componentType\":5121,\"count\":2,\"type\":\"SCALAR\"},"
        + "{\"bufferView\":0,\"byteOffset\":44,\"componentType\":5126,\"count\":2,\"type\":\"SCALAR\"},"
        + "{\"bufferView\":0,\"byteOffset\":44,\"componentType\":5126,\"count\":2,\"type\":\"VEC3\"},"
        + "{\"bufferView\":0,\"byteOffset\":44,\"componentType\":5126,\"count\":2,\"type\":\"VEC4\"}],"
        + "\"materials\":[{\"name\":\"sand\"},{\"name\":\"mud\"}],"
        + "\"meshes\":[{\"name\":\"shore\",\"primitives\":["
        + primitive
        + ",{\"attributes\":{\"POSITION\":0},\"material\":0}]}],"
        + "\"cameras\":[{\"type\":\"perspective\",\"perspective\":{\"yfov\":1,\"znear\":0.1}}],"
        + "\"nodes\":[{\"name\":\"shore\",\"mesh\":0},{\"camera\":0},{\"extensions\":{\"KHR_lights_punctual\":{\"light\":0}}}],"
        + "\"animations\":[{\"name\":\"tide\",\"channels\":["
        + channels
        + "],\"samplers\":["
        + samplers
        + "]}]}";
  }

  private static Scene read(String json, Findings findings) throws Exception {
    ReadContext context = ReadContext.of(TestFiles.of("a.gltf", json));
    Scene scene = GltfReader.read("a.gltf", context);
    context.findings().list().forEach(findings::add);
    return scene;
  }

  private static TestFiles written(Scene scene) throws Exception {
    TestFiles files = new TestFiles();
    GltfOptions options = new GltfOptions(GltfOptions.Container.GLTF, true, true, 0);
    GltfWriter.write(scene, options, "a", new TestFiles(), files, new Findings(), Progress.NONE);
    return files;
  }

  private static Track track(Scene scene, String property) {
    return scene.clips().get(0).tracks().stream()
        .filter(t -> t.property().equals(property))
        .findFirst()
        .orElseThrow(() -> new AssertionError(property + " is gone"));
  }

  @Test
  void theEndsOfAClipAreHeldByATrackThatAllReadersKnow() throws Exception {
    Scene read = read(file(1), new Findings());
    Clip tide = read.clips().get(0);
    int shore = read.nodes().get(0).id();
    double[] down = {0, 0, 0, 0, -1, 0};
    Track sinks =
        new Track(
            shore,
            Clip.TRANSLATION,
            Clip.Interpolation.LINEAR,
            3,
            new double[] {0.5, 1},
            down,
            null,
            null);
    // The first track is one that most programs do not know.
    List<Track> tracks = new ArrayList<>(tide.tracks());
    tracks.add(sinks);
    Clip longer = new Clip(tide.id(), tide.name(), 0, 4, tracks);
    Scene scene = read.toBuilder().clips(List.of(longer)).build();
    Scene back = read(new String(written(scene).bytes("a.gltf")), new Findings());
    assertArrayEquals(
        new double[] {0, 0.5, 1, 4}, track(back, Clip.TRANSLATION).timesSeconds(), 1e-6);
    assertEquals(4, back.clips().get(0).endSeconds(), 1e-6);
    assertEquals(2, track(back, Clip.VISIBLE).timesSeconds().length);
  }

  @Test
  void valuesOfCamerasLightsMaterialsAndVisibilityMove() throws Exception {
    Findings findings = new Findings();
    Scene first = read(file(1), findings);
    // Camera 7 is not there: said, not read.
    assertTrue(findings.list().stream().anyMatch(f -> f.code().equals("pointer-not-carried")));
    Scene again = read(new String(written(first).bytes("a.gltf")), new Findings());
    for (Scene scene : List.of(first, again)) {
      assertEquals(7, scene.clips().get(0).tracks().size());
      assertArrayEquals(new double[] {1, 0}, track(scene, Clip.VISIBLE).values());
      assertEquals(Clip.Interpolation.STEP, track(scene, Clip.VISIBLE).interpolation());
      assertEquals(scene.nodes().get(0).id(), track(scene, Clip.VISIBLE).targetId());
      assertArrayEquals(new double[] {0.25, 0.5}, track(scene, Clip.CAMERA_ANGLE).values());
      assertEquals(scene.cameras().get(0).id(), track(scene, Clip.CAMERA_ANGLE).targetId());
      assertEquals(6, track(scene, Clip.LIGHT_COLOUR).values().length);
      Track base = track(scene, Clip.MATERIAL + "BASE_COLOUR");
      assertEquals("mud", scene.material(base.targetId()).orElseThrow().name());
      assertEquals(2, base.values()[7], 1e-9);
      assertEquals(2, track(scene, Clip.MATERIAL + "IOR").values().length);
      assertEquals(2, track(scene, "gltf:/normalTexture/scale").values().length);
    }
    // Lengths change with the unit, other values do not.
    Scene centimetres =
        Rebase.intoData(
            first,
            new Frame(0.01, first.frame().up(), first.frame().front(), first.frame().handedness()));
    assertArrayEquals(new double[] {25, 50}, track(centimetres, Clip.LIGHT_RANGE).values(), 1e-6);
    assertArrayEquals(
        new double[] {0.25, 0.5}, track(centimetres, Clip.CAMERA_ANGLE).values(), 1e-9);
  }

  @Test
  void looksToChooseFromArrive() throws Exception {
    Scene first = read(file(1), new Findings());
    String json = new String(written(first).bytes("a.gltf"));
    Scene again = read(json, new Findings());
    for (Scene scene : List.of(first, again)) {
      assertEquals(List.of("dry", "wet"), scene.variants());
      PolygonMesh mesh = scene.meshes().get(0);
      // Both triangles are sand, but only the first becomes mud when it is wet.
      assertEquals(2, mesh.materialIds().length);
      assertEquals("sand", name(scene, mesh.materialOf(0)));
      assertEquals("sand", name(scene, mesh.materialOf(1)));
      assertEquals("sand", name(scene, mesh.materialOf(0, 0)));
      assertEquals("mud", name(scene, mesh.materialOf(0, 1)));
      assertEquals("sand", name(scene, mesh.materialOf(1, 1)));
    }
    JsonNode primitives = new ObjectMapper().readTree(json).at("/meshes/0/primitives");
    assertEquals(2, primitives.size());
    assertEquals(
        "{\"KHR_materials_variants\":{\"mappings\":[{\"material\":1,\"variants\":[1]}]}}",
        primitives.get(0).path("extensions").toString());
    assertTrue(primitives.get(1).path("extensions").isMissingNode());
  }

  private static String name(Scene scene, int material) {
    return scene.material(material).orElseThrow().name();
  }

  @Test
  void aLookThatIsNotThereIsRefused() {
    FormatException e =
        Assertions.assertThrows(FormatException.class, () -> read(file(2), new Findings()));
    assertTrue(
        e.getMessage().contains("/meshes/0/primitives/0/extensions/KHR_materials_variants"),
        e.getMessage());
  }
}
