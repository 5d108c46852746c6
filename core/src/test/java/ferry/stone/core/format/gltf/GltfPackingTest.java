package ferry.stone.core.format.gltf;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertSame;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.PoseDifference;
import ferry.stone.core.RandomRig;
import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.gltf.read.GltfReader;
import ferry.stone.core.format.gltf.write.GltfBuffer;
import ferry.stone.core.format.gltf.write.GltfOptions;
import ferry.stone.core.format.gltf.write.GltfPacking;
import ferry.stone.core.format.gltf.write.GltfPacking.IndexBits;
import ferry.stone.core.format.gltf.write.GltfTangents;
import ferry.stone.core.format.gltf.write.GltfWriter;
import ferry.stone.core.geometry.triangle.RenderPrimitive;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.ImageInfo;
import ferry.stone.core.texture.ImageSize;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.work.Progress;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/** What makes a glTF smaller: nothing but what is stated may change by it. */
class GltfPackingTest {
  private static final GltfPacking COMPRESSED =
      new GltfPacking(false, true, IndexBits.FITTING, false, 0, false);
  private static final GltfPacking QUANTIZED =
      new GltfPacking(true, false, IndexBits.FITTING, false, 0, false);
  private static final GltfPacking BOTH =
      new GltfPacking(true, true, IndexBits.LONG, false, 0, false);

  private static final class Written {
    final TestFiles files = new TestFiles();
    final Findings findings = new Findings();

    Written(Scene scene, GltfPacking packing) throws Exception {
      this(scene, packing, new TestFiles());
    }

    Written(Scene scene, GltfPacking packing, TestFiles cargo) throws Exception {
      GltfOptions options =
          new GltfOptions(GltfOptions.Container.GLTF, true, false, 0).withPacking(packing);
      GltfWriter.write(scene, options, "a", cargo, files, findings, Progress.NONE);
    }

    Scene back() throws Exception {
      return GltfReader.read("a.gltf", ReadContext.of(files));
    }

    JsonNode json() throws Exception {
      return new ObjectMapper().readTree(files.bytes("a.gltf"));
    }

    int data() {
      return files.bytes("a.bin").length;
    }

    Finding finding(String code) {
      return findings.list().stream().filter(f -> f.code().equals(code)).findFirst().orElseThrow();
    }
  }

  /** A wavy sheet of {@code n × n} vertices, its triangles in a shuffled order if asked for. */
  private static PolygonMesh sheet(int n, Random shuffle) {
    float[] xyz = new float[3 * n * n];
    for (int v = 0; v < n * n; v++) {
      xyz[3 * v] = v % n;
      xyz[3 * v + 1] = (float) Math.sin(v * 0.01);
      xyz[3 * v + 2] = v / n;
    }
    int[] corners = new int[6 * (n - 1) * (n - 1)];
    int[] order = new int[corners.length / 3];
    Arrays.setAll(order, i -> i);
    for (int i = order.length - 1; shuffle != null && i > 0; i--) {
      int j = shuffle.nextInt(i + 1);
      int swapped = order[i];
      order[i] = order[j];
      order[j] = swapped;
    }
    for (int i = 0; i < order.length; i++) {
      int cell = order[i] / 2;
      int a = cell / (n - 1) * n + cell % (n - 1);
      int[] t =
          order[i] % 2 == 0 ? new int[] {a, a + n, a + 1} : new int[] {a + 1, a + n, a + n + 1};
      System.arraycopy(t, 0, corners, 3 * i, 3);
    }
    return PolygonMesh.of(1, "sheet", Coordinates.of(xyz), Polygons.triangles(corners));
  }

  private static SceneBuilder builder() {
    return new SceneBuilder("pier").frame(Frame.Y_UP_METRE, FrameSource.FORMAT, FrameSource.FORMAT);
  }

  private static Scene showing(PolygonMesh mesh) {
    SceneBuilder scene = builder();
    PolygonMesh own = mesh.toBuilder().id(scene.newId()).build();
    scene.add(own);
    scene.add(Node.of(scene.newId(), "pier", -1, Node.Content.MeshContent.of(own.id())));
    return scene.build();
  }

  @Test
  void compressionLosesNothing() throws Exception {
    for (long seed = 1; seed <= 40; seed++) {
      Scene scene = RandomRig.of(new Random(seed), 6);
      Written plain = new Written(scene, GltfPacking.NONE);
      Written packed = new Written(scene, COMPRESSED);
      double off = PoseDifference.of(plain.back(), packed.back(), new Matrix4d(), "seed " + seed);
      assertEquals(0, off, "seed " + seed);
    }
    Scene sheet = showing(sheet(120, null));
    Written plain = new Written(sheet, GltfPacking.NONE);
    Written packed = new Written(sheet, COMPRESSED);
    assertTrue(packed.data() < plain.data() / 2, packed.data() + " of " + plain.data());
    assertEquals(
        "EXT_meshopt_compression", packed.json().path("extensionsRequired").get(0).asText());
    assertArrayEquals(
        packed.files.bytes("a.bin"), new Written(sheet, COMPRESSED).files.bytes("a.bin"));
  }

  @Test
  void quantizedVerticesStayWithinTheStatedFigure() throws Exception {
    for (GltfPacking packing : new GltfPacking[] {QUANTIZED, BOTH}) {
      for (long seed = 1; seed <= 40; seed++) {
        Scene scene = RandomRig.of(new Random(seed), 6);
        double off =
            PoseDifference.of(
                scene, new Written(scene, packing).back(), new Matrix4d(), "seed " + seed);
        // Weights of 16 bits add to the rounding of the vertices.
        assertTrue(off < 1e-4, "seed " + seed + ": " + off + " of the size");
      }
    }
    Scene sheet = showing(sheet(50, null));
    Written written = new Written(sheet, QUANTIZED);
    double stated = Double.parseDouble(written.finding("quantized").measured());
    Scene back = written.back();
    Scene.ShownMesh shown = back.shownMeshes().get(0);
    double most = 0;
    for (int v = 0; v < 2500; v++) {
      Vector3d p =
          shown
              .world()
              .transformPosition(
                  new Vector3d(
                      shown.mesh().points().x(v),
                      shown.mesh().points().y(v),
                      shown.mesh().points().z(v)));
      Coordinates wanted = sheet.meshes().get(0).points();
      most = Math.max(most, p.distance(wanted.x(v), wanted.y(v), wanted.z(v)));
    }
    // Coordinates near 50 are floats themselves.
    assertTrue(most <= stated + 5e-6 && most > stated / 100, most + " and stated " + stated);
    // 8 bytes a vertex instead of 12.
    assertEquals(new Written(sheet, GltfPacking.NONE).data() - 4 * 2500, written.data());
  }

  @Test
  void shortIndicesReachAllVertices() throws Exception {
    Scene scene = showing(sheet(300, null));
    GltfPacking packing = new GltfPacking(false, false, IndexBits.SHORT, false, 0, false);
    Written written = new Written(scene, packing);
    JsonNode json = written.json();
    assertEquals(2, json.at("/meshes/0/primitives").size());
    for (JsonNode primitive : json.at("/meshes/0/primitives")) {
      JsonNode accessor = json.path("accessors").get(primitive.path("indices").asInt());
      assertEquals(GltfBuffer.UNSIGNED_SHORT, accessor.path("componentType").asInt());
    }
    assertEquals(corners(scene), corners(written.back()));
    Written wide = new Written(showing(sheet(4, null)), BOTH);
    int indices = wide.json().at("/meshes/0/primitives/0/indices").asInt();
    assertEquals(
        GltfBuffer.UNSIGNED_INT,
        wide.json().path("accessors").get(indices).path("componentType").asInt());
  }

  /** Where the corners of all triangles are, in order. */
  private static List<Float> corners(Scene scene) {
    PolygonMesh mesh = scene.meshes().get(0);
    Float[] all = new Float[3 * mesh.faces().cornerCount()];
    for (int c = 0; c < all.length / 3; c++) {
      int v = mesh.faces().vertex(c);
      all[3 * c] = (float) mesh.points().x(v);
      all[3 * c + 1] = (float) mesh.points().y(v);
      all[3 * c + 2] = (float) mesh.points().z(v);
    }
    return Arrays.asList(all);
  }

  @Test
  void theDrawOrderHasTheSameTrianglesAndFewerMisses() throws Exception {
    PolygonMesh sheet = sheet(120, new Random(4));
    GltfPacking packing = new GltfPacking(false, false, IndexBits.FITTING, true, 0, false);
    RenderPrimitive plain =
        GltfPacking.NONE.primitives(sheet, GltfTangents.NONE, Progress.NONE).get(0);
    RenderPrimitive ordered = packing.primitives(sheet, GltfTangents.NONE, Progress.NONE).get(0);
    assertEquals(triangles(plain), triangles(ordered));
    assertEquals(plain.triangleCount(), ordered.triangleCount());
    // A regular sheet needs 0.5 vertices a triangle at best, a shuffled one nearly 3.
    assertTrue(misses(plain.indices()) > 2.5);
    assertTrue(misses(ordered.indices()) < 0.8, misses(ordered.indices()) + " a triangle");
    int next = 0;
    for (int index : ordered.indices()) {
      assertTrue(index <= next, "vertices stand in the order of their first use");
      next = Math.max(next, index + 1);
    }
    Written written = new Written(showing(sheet), packing);
    assertEquals(triangles(plain).size(), written.back().meshes().get(0).faces().faceCount());
  }

  private static Set<List<Integer>> triangles(RenderPrimitive p) {
    Set<List<Integer>> all = new HashSet<>();
    for (int t = 0; t < p.triangleCount(); t++) {
      all.add(
          List.of(
              p.triangleFace()[t],
              p.sourceVertex()[p.indices()[3 * t]],
              p.sourceVertex()[p.indices()[3 * t + 1]],
              p.sourceVertex()[p.indices()[3 * t + 2]]));
    }
    return all;
  }

  /** Vertices fetched for each triangle through a cache of 16, first in first out. */
  private static double misses(int[] indices) {
    int[] cache = new int[16];
    Arrays.fill(cache, -1);
    int misses = 0;
    for (int index : indices) {
      boolean found = false;
      for (int c : cache) {
        found |= c == index;
      }
      if (!found) {
        cache[misses++ % 16] = index;
      }
    }
    return 3.0 * misses / indices.length;
  }

  @Test
  void copiesStandWhereTheyStood() throws Exception {
    for (boolean small : new boolean[] {false, true}) {
      SceneBuilder scene = builder();
      PolygonMesh bollard = sheet(4, null).toBuilder().id(scene.newId()).name("bollard").build();
      scene.add(bollard);
      scene.add(
          Node.of(scene.newId(), "row", -1, Node.Content.GROUP)
              .withTransform(
                  LocalTransform.Trs.of(
                      new Vector3d(5, 0, 1), new Quaterniond(), new Vector3d(2))));
      Random random = new Random(1);
      for (int i = 0; i < 12; i++) {
        scene.add(
            Node.of(
                    scene.newId(),
                    "bollard_" + i,
                    i < 9 ? 0 : -1,
                    Node.Content.MeshContent.of(bollard.id()))
                .withTransform(
                    LocalTransform.Trs.of(
                        new Vector3d(3 * i, 0, random.nextDouble()),
                        new Quaterniond().rotateXYZ(i, 2 * i, 1),
                        new Vector3d(1, i % 2 == 0 ? 1 : -1, 2))));
      }
      Scene wanted = scene.build();
      Written written =
          new Written(wanted, new GltfPacking(small, false, IndexBits.FITTING, false, 0, true));
      assertEquals(2, written.json().path("nodes").size());
      assertEquals("12 parts in 2 nodes", written.finding("copies-gathered").measured());
      List<Scene.ShownMesh> found = written.back().shownMeshes();
      assertEquals(12, found.size());
      for (int i = 0; i < 12; i++) {
        Vector3d a = corner(wanted.shownMeshes().get(i));
        Vector3d b = corner(found.get(i));
        assertEquals(0, a.distance(b), 1e-3, i + ": " + a + " and " + b);
      }
    }
  }

  private static Vector3d corner(Scene.ShownMesh shown) {
    Coordinates p = shown.mesh().points();
    return shown.world().transformPosition(new Vector3d(p.x(7), p.y(7), p.z(7)));
  }

  @Test
  void imagesAreMadeSmallerInTheirOwnProportions() throws Exception {
    int[] argb = new int[64 * 32];
    for (int i = 0; i < argb.length; i++) {
      // Left half red, right half clear blue: nothing of the blue may bleed in.
      argb[i] = i % 64 < 32 ? 0xffff0000 : 0x000000ff;
    }
    Pixels pixels = new Pixels(64, 32, argb, true);
    Pixels small = ImageSize.atMost(pixels, 5);
    assertEquals(5, small.width());
    assertEquals(3, small.height());
    assertEquals(0xffff0000, small.argb()[0]);
    assertEquals(0x80ff0000, small.argb()[2]);
    assertEquals(0, small.argb()[4]);
    assertSame(pixels, ImageSize.atMost(pixels, 64));

    SceneBuilder scene = showing(sheet(3, null)).toBuilder();
    TestFiles cargo = new TestFiles();
    cargo.with("wide.png", ImageCodec.encodePng(pixels));
    cargo.with("photo.jpg", ImageCodec.encodeJpeg(pixels));
    for (String file : List.of("wide.png", "photo.jpg")) {
      Texture texture = new Texture(scene.newId(), file, file, file, null);
      scene.add(texture);
      Material.Value value = new Material.Value(null, TextureUse.of(texture.id()));
      scene.add(
          new Material(
              scene.newId(),
              file,
              Material.Shading.METALLIC_ROUGHNESS,
              Map.of(Channel.BASE_COLOUR, value),
              Material.Alpha.OPAQUE,
              0.5,
              false,
              Map.of()));
    }
    Written written =
        new Written(
            scene.build(),
            new GltfPacking(false, false, IndexBits.FITTING, false, 16, false),
            cargo);
    JsonNode images = written.json().path("images");
    assertEquals(2, images.size());
    for (JsonNode image : images) {
      String[] uri = image.path("uri").asText().split(",");
      ImageInfo info = ImageCodec.probe(java.util.Base64.getDecoder().decode(uri[1]), "a");
      assertEquals(16, info.width());
      assertEquals(8, info.height());
      assertTrue(uri[0].contains(info.kind()));
    }
    assertEquals("64 × 32 to 16 × 8 pixels", written.finding("image-made-smaller").measured());
  }
}
