package ferry.stone.core.format.fbx;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import ferry.stone.core.PoseDifference;
import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.fbx.raw.FbxBinaryParser;
import ferry.stone.core.format.fbx.raw.FbxRecord;
import ferry.stone.core.format.fbx.read.FbxReader;
import ferry.stone.core.format.gltf.read.GltfReader;
import ferry.stone.core.format.gltf.write.GltfOptions;
import ferry.stone.core.format.gltf.write.GltfWriter;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.texture.ImageCodec;
import ferry.stone.core.texture.Pixels;
import ferry.stone.core.work.Progress;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Random;
import org.joml.Matrix4d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** FBX 7 in both forms. What another reader finds in the same files stands in the fixture. */
class FbxReaderTest {
  private static final int TEXT = 0;

  /** Made with the ufbx crate 0.11.5: see make-poses.rs beside it. */
  private static JsonNode fixture() throws Exception {
    try (InputStream in = FbxReaderTest.class.getResourceAsStream("/fbx/poses.json")) {
      return new ObjectMapper().readTree(in).path("samples");
    }
  }

  private static byte[] file(long seed, int version) {
    FbxRecord root = FbxSample.of(seed);
    return version == TEXT
        ? FbxEncoder.text(root)
        : FbxEncoder.binary(root, version, version < FbxBinaryParser.WIDE_HEADS);
  }

  private static Scene read(byte[] file, Findings findings) throws Exception {
    ReadContext context = ReadContext.of(new TestFiles().with("a.fbx", file));
    Scene scene = FbxReader.read("a.fbx", context);
    context.findings().list().forEach(findings::add);
    return scene;
  }

  @Test
  void aBinaryFileWithADamagedBeginningIsSaidToBeOne() {
    for (int damaged : new int[] {0, 5, 20, 22}) {
      byte[] bad = file(1, 7400);
      bad[damaged] ^= 0x55;
      FormatException e =
          assertThrows(FormatException.class, () -> read(bad, new Findings()), "byte " + damaged);
      assertEquals(FormatException.Kind.CORRUPT, e.kind());
      assertTrue(e.getMessage().contains("binary FBX whose beginning is damaged"), e.getMessage());
    }
    byte[] cut = java.util.Arrays.copyOf(file(1, 7400), 20);
    FormatException e = assertThrows(FormatException.class, () -> read(cut, new Findings()));
    assertEquals(FormatException.Kind.TRUNCATED, e.kind());
  }

  private static int meshPlace(Scene scene) {
    int place = 0;
    while (!(scene.nodes().get(place).content() instanceof Node.Content.MeshContent)) {
      place++;
    }
    return place;
  }

  /** Seed 7 nests sheared scales, which the two readers bring down differently; it is left out. */
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 8})
  void everythingStandsWhereAnotherReaderPutsIt(long seed) throws Exception {
    Findings findings = new Findings();
    Scene scene = read(file(seed, 7400), findings);
    boolean shears = findings.list().stream().anyMatch(f -> f.code().equals("motion-shears"));
    for (JsonNode wanted : fixture().path(String.valueOf(seed))) {
      boolean rest = wanted.path("t").isNull();
      if (shears && !rest) {
        continue;
      }
      double t = wanted.path("t").asDouble();
      Pose pose = Pose.at(scene, rest ? null : scene.clips().get(0), t);
      String what = "seed " + seed + (rest ? ", rest" : " at " + t + " s");
      for (int i = 0; i < scene.nodes().size(); i++) {
        String name = scene.nodes().get(i).name();
        same(wanted.path("nodes").path(name), pose.world()[i], what + ", " + name);
      }
      double[] points = Deform.world(scene, pose, meshPlace(scene));
      assertEquals(wanted.path("points").size(), points.length, what);
      for (int k = 0; k < points.length; k++) {
        double off = rest ? 1e-5 : 1e-3;
        assertEquals(wanted.path("points").get(k).asDouble(), points[k], off, what + ", " + k / 3);
      }
    }
  }

  private static void same(JsonNode wanted, Matrix4d found, String what) {
    assertEquals(12, wanted.size(), what);
    double[] m = found.get(new double[16]);
    for (int k = 0; k < 12; k++) {
      double size = Math.max(1, Math.abs(wanted.get(k).asDouble()));
      assertEquals(wanted.get(k).asDouble(), m[4 * (k / 3) + k % 3], 1e-4 * size, what);
    }
  }

  @ParameterizedTest
  @ValueSource(ints = {TEXT, 7400, 7500})
  void allFormsSayTheSame(int version) throws Exception {
    Scene wanted = read(file(3, 7400), new Findings());
    Scene found = read(file(3, version), new Findings());
    assertEquals(0, PoseDifference.of(wanted, found, new Matrix4d(), "form " + version), 1e-6);
    for (int m = 0; m < wanted.materials().size(); m++) {
      Material a = wanted.materials().get(m);
      Material b = found.materials().get(m);
      assertEquals(a.name(), b.name());
      assertEquals(a.texture(Channel.BASE_COLOUR), b.texture(Channel.BASE_COLOUR));
      assertArrayEquals(a.factor(Channel.SHININESS), b.factor(Channel.SHININESS), 1e-12);
    }
  }

  @Test
  void contentsAreRead() throws Exception {
    Findings findings = new Findings();
    Scene scene = read(file(3, TEXT), findings);
    assertEquals(0.025, scene.frame().metresPerUnit(), 1e-12);
    assertEquals(SignedAxis.PLUS_Z, scene.frame().up());
    assertEquals(SignedAxis.MINUS_Y, scene.frame().front());
    assertEquals(FrameSource.STATED, scene.unitSource());
    assertEquals(24, scene.framesPerSecond());
    PolygonMesh mesh = scene.meshes().get(0);
    assertEquals("sheet", mesh.name());
    assertEquals(13, mesh.faces().faceCount());
    assertEquals(5, mesh.faces().countOfSize(4));
    assertEquals(2, mesh.materialIds().length);
    assertEquals("chart", mesh.first(Attribute.Semantic.UV).orElseThrow().name());
    MorphTarget swell = mesh.morphs().get(0);
    assertEquals("swell", swell.name());
    assertEquals(0.3, swell.weight(), 1e-12);
    assertEquals(0.4, swell.shapes().get(0).fullWeight(), 1e-12);
    assertEquals(1, swell.full().fullWeight());
    assertEquals(3, scene.skins().get(0).jointNodeIds().length);
    assertEquals(3, scene.skins().get(0).mostInfluences());
    Clip heave = scene.clips().get(0);
    assertEquals("heave", heave.name());
    assertEquals(2, heave.endSeconds(), 1e-9);
    assertEquals(
        "fathom 4",
        scene.nodes().stream()
            .filter(n -> n.name().equals("part_4"))
            .findFirst()
            .orElseThrow()
            .properties()
            .get("depth_mark"));
    Material paint = scene.materials().get(1);
    assertArrayEquals(new double[] {0.125, 0.25, 0.375}, paint.factor(Channel.BASE_COLOUR), 1e-12);
    assertEquals(0.75, paint.get(Channel.OPACITY).orElseThrow().scalar(1), 1e-12);
    assertEquals("..\\textures\\planks.png", scene.textures().get(0).written());
    assertTrue(findings.list().stream().anyMatch(f -> f.code().equals("texture-missing")));
  }

  @Test
  void texturesAreFoundByTheEndOfTheirPath() throws Exception {
    TestFiles files =
        new TestFiles()
            .with("ship/a.fbx", file(3, 7400))
            .with("ship/Textures/PLANKS.PNG", new byte[] {1});
    Scene scene = FbxReader.read("ship/a.fbx", ReadContext.of(files));
    assertEquals("ship/Textures/PLANKS.PNG", scene.textures().get(0).resource());
  }

  @Test
  void oddTextIsRead() throws Exception {
    String text =
        "; FBX 7.3.0 project file\r\nFBXHeaderExtension:  {\r\n\tFBXVersion: 7300\r\n}\r\n"
            + "Objects:  {\n Geometry: 10, \"Geometry::\", \"Mesh\" {\n"
            + "  Vertices: *9 {\n a: 0,0,0,1e+00,-0,.5,\n0,1.5E0,-1.#IND\n }\n"
            + "  PolygonVertexIndex: *3 { a: 0,1,-3 }\n  Edges: *0 {\n }\n"
            + "  LayerElementUV: 0 {\n   MappingInformationType: \"ByEdge\"\n UV: *2 { a: 0,1 } }\n }\n"
            + " Model: 20, \"Model::quay &quot;east&quot;\", \"Mesh\" {\n  Shading: T\n  Culling: \"CullingOff\"\n }\n"
            + " Material: 30, \"Material::stone\", \"\" {\n  Properties70:  {\n"
            + "   P: \"yard|group|base_color\", \"Color\", \"\", \"\", 0.5,0.25,1\n"
            + "   P: \"yard|group|roughness\", \"Float\", \"\", \"\", 0.75\n  }\n }\n"
            + " Texture: 40, \"Texture::map\", \"\" {\n  FileName: \"D:/x/y.png\"\n }\n"
            + " Video: 50, \"Video::map\", \"Clip\" {\n  Content: ,\n   \"AQID\"\n }\n}\n"
            + "Connections:  {\n C: \"OO\",20,0\n C: \"OO\",10,20\n C: \"OO\",30,20\n"
            + " C: \"OP\",40,30, \"yard|group|base_color_map\"\n C: \"OO\",50,40\n C: \"OO\",77,20\n}\n";
    Findings findings = new Findings();
    Scene scene = read(text.getBytes(StandardCharsets.UTF_8), findings);
    List<String> codes = findings.list().stream().map(f -> f.code()).toList();
    assertTrue(codes.contains("connections-broken"), codes.toString());
    assertTrue(codes.contains("layer-mapping-unknown"), codes.toString());
    assertEquals("quay \"east\"", scene.nodes().get(0).name());
    assertEquals(FrameSource.ASSUMED, scene.unitSource());
    assertTrue(Double.isNaN(scene.meshes().get(0).points().z(2)));
    Material stone = scene.materials().get(0);
    assertEquals(Material.Shading.METALLIC_ROUGHNESS, stone.shading());
    assertArrayEquals(new double[] {0.5, 0.25, 1}, stone.factor(Channel.BASE_COLOUR), 0);
    assertEquals(0.75, stone.factor(Channel.ROUGHNESS)[0]);
    assertArrayEquals(new byte[] {1, 2, 3}, scene.textures().get(0).embedded());
    assertEquals(stone.id(), scene.meshes().get(0).materialIds()[0]);
  }

  /** Two models show one mesh; only the second has a material, and only there it is seen. */
  /** A second is 46,186,158,000 ticks; a take without a range lasts as long as the header says. */
  @Test
  void theHeaderTellsTheToolsAxisAndTheTime() throws Exception {
    String text =
        "FBXHeaderExtension: {\n FBXVersion: 7400\n}\nGlobalSettings: {\n Properties70: {\n"
            + "  P: \"UpAxis\", \"int\", \"Integer\", \"\",1\n"
            + "  P: \"UpAxisSign\", \"int\", \"Integer\", \"\",1\n"
            + "  P: \"OriginalUpAxis\", \"int\", \"Integer\", \"\",2\n"
            + "  P: \"OriginalUpAxisSign\", \"int\", \"Integer\", \"\",1\n"
            + "  P: \"TimeSpanStart\", \"KTime\", \"Time\", \"\",0\n"
            + "  P: \"TimeSpanStop\", \"KTime\", \"Time\", \"\",92372316000\n }\n}\n"
            + "Objects: {\n AnimationStack: 1, \"AnimStack::swing\", \"\" {\n }\n"
            + " AnimationLayer: 2, \"AnimLayer::base\", \"\" {\n }\n"
            + " Model: 3, \"Model::gate\", \"Null\" {\n }\n"
            + " AnimationCurveNode: 4, \"AnimCurveNode::T\", \"\" {\n }\n"
            + " AnimationCurve: 5, \"AnimCurve::\", \"\" {\n  KeyTime: *2 { a: 0,46186158000 }\n"
            + "  KeyValueFloat: *2 { a: 0,1 }\n }\n}\nConnections: {\n"
            + " C: \"OO\",3,0\n C: \"OO\",2,1\n C: \"OO\",4,2\n"
            + " C: \"OP\",4,3,\"Lcl Translation\"\n C: \"OP\",5,4,\"d|X\"\n}\n";
    Findings findings = new Findings();
    Scene scene = read(text.getBytes(StandardCharsets.UTF_8), findings);
    assertEquals(SignedAxis.PLUS_Y, scene.frame().up());
    Finding turned =
        findings.list().stream()
            .filter(f -> f.code().equals("turned-by-its-tool"))
            .findFirst()
            .orElseThrow();
    assertEquals("Z up", turned.measured());
    assertEquals(0, scene.clips().get(0).startSeconds(), 1e-9);
    assertEquals(2, scene.clips().get(0).endSeconds(), 1e-9);
  }

  @Test
  void eachModelShowsItsOwnMaterials() throws Exception {
    String text =
        "FBXHeaderExtension: {\n FBXVersion: 7400\n}\nObjects: {\n Geometry: 1, \"Geometry::\", \"Mesh\" {\n"
            + " Vertices: *9 { a: 0,0,0,1,0,0,0,1,0 }\n PolygonVertexIndex: *3 { a: 0,1,-3 }\n"
            + " LayerElementSmoothing: 0 {\n MappingInformationType: \"ByEdge\"\n Smoothing: *3 { a: 0,1,1 }\n }\n }\n"
            + " Model: 2, \"Model::bare\", \"Mesh\" {\n }\n Model: 3, \"Model::painted\", \"Mesh\" {\n }\n"
            + " Material: 4, \"Material::paint\", \"\" {\n }\n}\nConnections: {\n C: \"OO\",2,0\n C: \"OO\",3,0\n"
            + " C: \"OO\",1,2\n C: \"OO\",1,3\n C: \"OO\",4,3\n}\n";
    Findings findings = new Findings();
    Scene scene = read(text.getBytes(StandardCharsets.UTF_8), findings);
    assertEquals(1, scene.meshes().size());
    assertEquals(-1, scene.meshes().get(0).materialIds()[0]);
    Node.Content.MeshContent painted = (Node.Content.MeshContent) scene.nodes().get(1).content();
    assertEquals(scene.materials().get(0).id(), painted.slotMaterials()[0]);
    assertTrue(findings.list().stream().anyMatch(f -> f.code().equals("smoothing-not-read")));
  }

  /** Two images of one pixel: half of the upper one over the lower, added, multiplied. */
  @ParameterizedTest
  @CsvSource({"0, 0x60382c", "1, 0x90583c", "2, 0x422614"})
  void layersOfTexturesBecomeOneImage(int mode, String wanted) throws Exception {
    String text =
        "FBXHeaderExtension: {\n FBXVersion: 7400\n}\nObjects: {\n Material: 1, \"Material::hull\", \"\" {\n }\n"
            + " LayeredTexture: 2, \"LayeredTexture::\", \"\" {\n BlendModes: *2 { a: 0,"
            + mode
            + " }\n Alphas: *2 { a: 1,0.5 }\n }\n"
            + " Texture: 3, \"Texture::\", \"\" {\n RelativeFilename: \"low.png\"\n }\n"
            + " Texture: 4, \"Texture::\", \"\" {\n RelativeFilename: \"high.png\"\n }\n}\nConnections: {\n"
            + " C: \"OP\",2,1, \"DiffuseColor\"\n C: \"OO\",3,2\n C: \"OO\",4,2\n}\n";
    TestFiles files =
        new TestFiles()
            .with("a.fbx", text.getBytes(StandardCharsets.UTF_8))
            .with("low.png", pixel(0x604020))
            .with("high.png", pixel(0x603038));
    Scene scene = FbxReader.read("a.fbx", ReadContext.of(files));
    var use = scene.materials().get(0).texture(Channel.BASE_COLOUR).orElseThrow();
    byte[] image = scene.texture(use.textureId()).orElseThrow().embedded();
    int found = ImageCodec.decode(image, "layers").argb()[0] & 0xffffff;
    assertEquals(Integer.toHexString(Integer.decode(wanted)), Integer.toHexString(found));
  }

  /** A zoom keyed by focal length on a gate 25.4 mm high: 12.7 mm is 90°, 25.4 mm is 2·atan(½). */
  @Test
  void aZoomKeyedByFocalLengthMovesTheAngle() throws Exception {
    String text =
        "FBXHeaderExtension: {\n FBXVersion: 7400\n}\nObjects: {\n Model: 1, \"Model::eye\", \"Camera\" {\n }\n"
            + " NodeAttribute: 2, \"NodeAttribute::eye\", \"Camera\" {\n Properties70: {\n"
            + " P: \"ApertureMode\", \"enum\", \"\", \"\",3\n P: \"FilmHeight\", \"double\", \"\", \"\",1\n"
            + " P: \"FocalLength\", \"Number\", \"\", \"A\",12.7\n }\n }\n"
            + " AnimationStack: 3, \"AnimStack::zoom\", \"\" {\n }\n AnimationLayer: 4, \"AnimLayer::\", \"\" {\n }\n"
            + " AnimationCurveNode: 5, \"AnimCurveNode::\", \"\" {\n }\n AnimationCurve: 6, \"AnimCurve::\", \"\" {\n"
            + " KeyTime: *2 { a: 0,46186158000 }\n KeyValueFloat: *2 { a: 12.7,25.4 }\n }\n}\nConnections: {\n"
            + " C: \"OO\",1,0\n C: \"OO\",2,1\n C: \"OO\",4,3\n C: \"OO\",5,4\n C: \"OP\",5,2, \"FocalLength\"\n"
            + " C: \"OP\",6,5, \"d|FocalLength\"\n}\n";
    Scene scene = read(text.getBytes(StandardCharsets.UTF_8), new Findings());
    assertEquals(Math.PI / 2, scene.cameras().get(0).verticalAngleRadians(), 1e-9);
    Clip.Track zoom = scene.clips().get(0).tracks().get(0);
    assertEquals(Clip.CAMERA_ANGLE, zoom.property());
    assertEquals(Math.PI / 2, zoom.values()[0], 1e-6);
    assertEquals(2 * Math.atan(0.5), zoom.values()[zoom.values().length - 1], 1e-6);
  }

  private static byte[] pixel(int rgb) {
    return ImageCodec.encodePng(new Pixels(1, 1, new int[] {0xff000000 | rgb}, false));
  }

  /** A joint pulls a vertex with a quarter: the other three stay with the mesh's own place. */
  @Test
  void whatJointsLeaveStaysWithTheMesh() throws Exception {
    String text =
        "FBXHeaderExtension: {\n FBXVersion: 7400\n}\nObjects: {\n Geometry: 1, \"Geometry::\", \"Mesh\" {\n"
            + " Vertices: *9 { a: 0,0,0,1,0,0,0,1,0 }\n PolygonVertexIndex: *3 { a: 0,1,-3 }\n }\n"
            + " Model: 2, \"Model::sail\", \"Mesh\" {\n }\n Model: 3, \"Model::boom\", \"LimbNode\" {\n"
            + " Properties70: {\n P: \"Lcl Translation\", \"Lcl Translation\", \"\", \"A\",0,0,8\n }\n }\n"
            + " Deformer: 4, \"Deformer::\", \"Skin\" {\n }\n Deformer: 5, \"SubDeformer::\", \"Cluster\" {\n"
            + " Mode: \"Total1\"\n Indexes: *1 { a: 1 }\n Weights: *1 { a: 0.25 }\n"
            + " Transform: *16 { a: 1,0,0,0,0,1,0,0,0,0,1,0,0,0,0,1 }\n }\n}\nConnections: {\n C: \"OO\",2,0\n"
            + " C: \"OO\",3,0\n C: \"OO\",1,2\n C: \"OO\",4,1\n C: \"OO\",5,4\n C: \"OO\",3,5\n}\n";
    Scene scene = read(text.getBytes(StandardCharsets.UTF_8), new Findings());
    double[] p = Deform.world(scene, Pose.rest(scene), 0);
    assertArrayEquals(new double[] {0, 0, 0, 1, 0, 2, 0, 1, 0}, p, 1e-6);
  }

  /**
   * Skinned, morphed and moved vertices through GLB: FBX in centimetres and Z up, glTF in metres.
   */
  @Test
  void whatWasReadLandsAsGlb() throws Exception {
    for (long seed : List.of(3L, 6L)) {
      Scene scene = read(file(seed, 7400), new Findings());
      Scene arrived = Rebase.intoData(scene, Frame.Y_UP_METRE);
      TestFiles files = new TestFiles();
      GltfOptions options = new GltfOptions(GltfOptions.Container.GLB, true, true, 0);
      GltfWriter.write(
          arrived, options, "a", new TestFiles(), files, new Findings(), Progress.NONE);
      Scene back = GltfReader.read("a.glb", ReadContext.of(files));
      Matrix4d carry = scene.frame().matrixTo(Frame.Y_UP_METRE);
      double off = PoseDifference.of(scene, back, carry, "seed " + seed);
      assertTrue(off < 1e-4, "seed " + seed + ": " + off + " of the size");
    }
  }

  @Test
  void damagedFilesEndInASceneOrASentence() {
    Random random = new Random(11);
    for (int version : new int[] {TEXT, 7400, 7500}) {
      byte[] whole = file(2, version);
      for (int i = 0; i < 150; i++) {
        byte[] bad = whole.clone();
        if (i % 3 == 0) {
          bad = java.util.Arrays.copyOf(bad, random.nextInt(bad.length));
        } else {
          bad[random.nextInt(bad.length)] ^= (byte) (1 << random.nextInt(8));
        }
        try {
          Scene scene = read(bad, new Findings());
          for (Clip clip : scene.clips()) {
            Pose pose = Pose.at(scene, clip, 0.7);
            for (int n = 0; n < scene.nodes().size(); n++) {
              Deform.world(scene, pose, n);
            }
          }
        } catch (FormatException e) {
          assertFalse(e.getMessage().contains("Exception"), e.getMessage());
        } catch (Exception e) {
          throw new AssertionError("form " + version + ", change " + i, e);
        }
      }
    }
  }

  @Test
  void otherFilesAreRefusedInOneSentence() {
    FormatException e =
        assertThrows(
            FormatException.class,
            () -> read("solid cube".getBytes(StandardCharsets.UTF_8), new Findings()));
    assertEquals(FormatException.Kind.NOT_THIS_FORMAT, e.kind());
    byte[] old = file(1, 7400);
    old[23] = (byte) (5800 & 0xff);
    old[24] = (byte) (5800 >> 8);
    e = assertThrows(FormatException.class, () -> read(old, new Findings()));
    assertEquals(FormatException.Kind.TOO_OLD, e.kind());
    assertTrue(e.getMessage().contains("5800"), e.getMessage());
  }
}
