package ferry.stone.core.format.gltf;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import de.javagl.jgltf.model.AccessorFloatData;
import de.javagl.jgltf.model.GltfModel;
import de.javagl.jgltf.model.io.GltfModelReader;
import ferry.stone.core.RandomScene;
import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.gltf.read.GltfReader;
import ferry.stone.core.format.gltf.write.GltfOptions;
import ferry.stone.core.format.gltf.write.GltfWriter;
import ferry.stone.core.geometry.triangle.RenderMesh;
import ferry.stone.core.geometry.triangle.RenderPrimitive;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;
import java.io.ByteArrayInputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class GltfRoundTripTest {
  private static TestFiles write(Scene scene, GltfOptions options) throws Exception {
    TestFiles files = new TestFiles();
    GltfWriter.write(scene, options, "a", new TestFiles(), files, new Findings(), Progress.NONE);
    return files;
  }

  @ParameterizedTest
  @CsvSource({"GLB,true,true", "GLTF,true,true", "GLTF,false,false"})
  void writtenIsReadBackTheSame(String container, boolean textures, boolean buffers)
      throws Exception {
    GltfOptions options =
        new GltfOptions(GltfOptions.Container.valueOf(container), textures, buffers, 4);
    for (long seed = 1; seed <= 10; seed++) {
      Scene scene = RandomScene.of(new Random(seed));
      TestFiles files = write(scene, options);
      Scene read = GltfReader.read("a." + container.toLowerCase(), ReadContext.of(files));
      assertEquals(scene.paths(), read.paths(), "seed " + seed);
      for (int m = 0; m < scene.meshes().size(); m++) {
        corners(scene.meshes().get(m), read.meshes().get(m), "seed " + seed);
      }
    }
  }

  /** Triangle by triangle in the written order, UVs counted from the top. */
  private static void corners(PolygonMesh wanted, PolygonMesh found, String what) {
    int corner = 0;
    var uv = found.first(ferry.stone.core.scene.mesh.Attribute.Semantic.UV).orElseThrow();
    for (RenderPrimitive p : RenderMesh.of(wanted, Progress.NONE)) {
      for (int i : p.indices()) {
        int v = found.faces().vertex(corner++);
        assertEquals(p.positions()[3 * i], found.points().x(v), what);
        assertEquals(p.positions()[3 * i + 2], found.points().z(v), what);
        assertEquals(p.uvs().get(0)[2 * i], uv.values()[2 * v], what);
        assertEquals(1 - p.uvs().get(0)[2 * i + 1], uv.values()[2 * v + 1], 1e-6, what);
      }
    }
    assertEquals(corner, found.faces().cornerCount(), what);
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5})
  void anIndependentReaderAgrees(long seed) throws Exception {
    Scene scene = RandomScene.of(new Random(seed));
    TestFiles files = write(scene, GltfOptions.glb());
    GltfModel model =
        new GltfModelReader().readWithoutReferences(new ByteArrayInputStream(files.bytes("a.glb")));
    for (int m = 0; m < scene.meshes().size(); m++) {
      List<RenderPrimitive> wanted = RenderMesh.of(scene.meshes().get(m), Progress.NONE);
      var primitives = model.getMeshModels().get(m).getMeshPrimitiveModels();
      assertEquals(wanted.size(), primitives.size());
      for (int i = 0; i < wanted.size(); i++) {
        AccessorFloatData p =
            (AccessorFloatData) primitives.get(i).getAttributes().get("POSITION").getAccessorData();
        assertEquals(wanted.get(i).vertexCount(), p.getNumElements());
        for (int v = 0; v < p.getNumElements(); v++) {
          for (int k = 0; k < 3; k++) {
            assertEquals(wanted.get(i).positions()[3 * v + k], p.get(v, k));
          }
        }
      }
    }
  }

  @Test
  void theSameSceneGivesTheSameBytes() throws Exception {
    Scene scene = RandomScene.of(new Random(9));
    assertArrayEquals(
        write(scene, GltfOptions.glb()).bytes("a.glb"),
        write(RandomScene.of(new Random(9)), GltfOptions.glb()).bytes("a.glb"));
  }

  @Test
  void positionsThatAreNoNumbersDoNotLand() throws Exception {
    String obj = "v 0 0 0\nv 1 0 0\nv 0 1 0\nv nan 0 0\nf 1 2 3\nf 1 2 4\n";
    Scene scene =
        ferry.stone.core.format.obj.read.ObjReader.read(
            "n.obj", ReadContext.of(TestFiles.of("n.obj", obj)));
    TestFiles files = new TestFiles();
    Findings findings = new Findings();
    GltfWriter.write(
        scene, GltfOptions.glb(), "a", new TestFiles(), files, findings, Progress.NONE);
    Scene read = GltfReader.read("a.glb", ReadContext.of(files));
    assertEquals(1, read.meshes().get(0).faces().faceCount());
    assertEquals(1.0, read.bounds().maxX());
    assertEquals("triangles-nowhere", findings.list().get(0).code());
  }

  @Test
  void readsSparseNormalisedAndStridedValues() throws Exception {
    // Three vertices, 20 bytes apart: position floats, then UVs as normalised unsigned shorts.
    ByteBuffer b = ByteBuffer.allocate(60 + 4 + 12 + 4).order(ByteOrder.LITTLE_ENDIAN);
    float[][] p = {{0, 0, 0}, {1, 0, 0}, {0, 1, 0}};
    for (float[] v : p) {
      b.putFloat(v[0]).putFloat(v[1]).putFloat(v[2]).putShort((short) 65535).putShort((short) 0);
      b.putInt(0);
    }
    b.putShort((short) 2).putShort((short) 0);
    b.putFloat(5).putFloat(6).putFloat(7);
    String uri = java.util.Base64.getEncoder().encodeToString(b.array());
    String json =
        """
        {"asset":{"version":"2.0"},"buffers":[{"byteLength":80,
        "uri":"data:application/octet-stream;base64,%s"}],
        "bufferViews":[{"buffer":0,"byteLength":60,"byteStride":20},
        {"buffer":0,"byteOffset":60,"byteLength":4},{"buffer":0,"byteOffset":64,"byteLength":12}],
        "accessors":[{"bufferView":0,"componentType":5126,"count":3,"type":"VEC3","sparse":{
        "count":1,"indices":{"bufferView":1,"componentType":5123},"values":{"bufferView":2}}},
        {"bufferView":0,"byteOffset":12,"componentType":5123,"normalized":true,"count":3,
        "type":"VEC2"}],
        "meshes":[{"primitives":[{"attributes":{"POSITION":0,"TEXCOORD_0":1},"mode":5}]}],
        "nodes":[{"mesh":0,"matrix":[1,0,0,0,0,1,0,0,0,0,1,0,1,2,3,1]}],"scenes":[{"nodes":[0]}]}
        """
            .formatted(uri);
    Scene scene = GltfReader.read("a.gltf", ReadContext.of(TestFiles.of("a.gltf", json)));
    PolygonMesh mesh = scene.meshes().get(0);
    assertEquals(7.0, mesh.points().z(2));
    assertEquals(
        1f,
        mesh.first(ferry.stone.core.scene.mesh.Attribute.Semantic.UV).orElseThrow().values()[0]);
    assertEquals(6 + 2, scene.bounds().maxY());
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{\"asset\":{\"version\":\"1.0\"}} | TOO_OLD | /asset/version",
        "{\"asset\":{\"version\":\"2.0\"},\"scenes\":[{\"nodes\":[4]}]} | CORRUPT | /scenes",
        "{\"asset\":{\"version\":\"2.0\"},\"extensionsRequired\":[\"EXT_x\"]} | UNSUPPORTED |"
            + " /extensionsRequired/0",
        "{\"asset\":{\"version\":\"2.0\"},\"nodes\":[{\"children\":[0]}],\"scenes\":[{\"nodes\":[0]}]}"
            + " | CORRUPT | /nodes/0",
        "not json | CORRUPT | line 1"
      })
  void refusesDamageWithItsPath(String json, String kind, String place) {
    FormatException e =
        assertThrows(
            FormatException.class,
            () -> GltfReader.read("a.gltf", ReadContext.of(TestFiles.of("a.gltf", json))));
    assertEquals(FormatException.Kind.valueOf(kind), e.kind());
    assertTrue(e.place().startsWith(place), e.place());
  }

  @Test
  void damagedFilesEndInASentence() throws Exception {
    byte[] good = write(RandomScene.of(new Random(2)), GltfOptions.glb()).bytes("a.glb");
    Random random = new Random(77);
    int refused = 0;
    for (int i = 0; i < 3000; i++) {
      byte[] bad = good.clone();
      if (i % 3 == 0) {
        bad = java.util.Arrays.copyOf(bad, random.nextInt(bad.length));
      } else {
        for (int k = 0; k < 1 + i % 5; k++) {
          bad[random.nextInt(i % 3 == 1 ? Math.min(900, bad.length) : bad.length)] =
              (byte) random.nextInt();
        }
      }
      try {
        GltfReader.read("a.glb", ReadContext.of(new TestFiles().with("a.glb", bad)));
      } catch (FormatException e) {
        refused++;
      }
    }
    // Anything but a FormatException has failed the test already.
    assertTrue(refused > 1000, refused + " were refused");
  }

  @Test
  void damagedObjsEndInASentence() {
    String good =
        "v 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvn 0 0 1\nusemtl a\ng b\nf 1/1/1 2/1/1 3/1/1\n";
    Random random = new Random(78);
    for (int i = 0; i < 5000; i++) {
      byte[] bad = good.getBytes(StandardCharsets.US_ASCII);
      for (int k = 0; k < 1 + i % 4; k++) {
        bad[random.nextInt(bad.length)] =
            (byte) (i % 2 == 0 ? random.nextInt() : 32 + random.nextInt(90));
      }
      byte[] file = bad;
      try {
        ferry.stone.core.format.obj.read.ObjReader.read(
            "a.obj", ReadContext.of(new TestFiles().with("a.obj", file)));
      } catch (FormatException e) {
        assertTrue(e.getMessage().startsWith("a.obj"), e.getMessage());
      } catch (java.io.IOException e) {
        throw new AssertionError(new String(file, StandardCharsets.ISO_8859_1), e);
      }
    }
  }
}
