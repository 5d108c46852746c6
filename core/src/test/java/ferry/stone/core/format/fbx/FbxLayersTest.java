package ferry.stone.core.format.fbx;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.fbx.read.FbxReader;
import ferry.stone.core.format.fbx.write.FbxOptions;
import ferry.stone.core.format.fbx.write.FbxWriter;
import ferry.stone.core.geometry.triangle.RenderMesh;
import ferry.stone.core.geometry.triangle.RenderPrimitive;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.look.Material;
import ferry.stone.core.scene.look.TextureUse;
import ferry.stone.core.scene.look.Wrap;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.mesh.Subdivision;
import ferry.stone.core.scene.node.Camera;
import ferry.stone.core.scene.node.Light;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.NodeSet;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** What lies over meshes and beside the hierarchy, written and read back. */
class FbxLayersTest {
  private static Scene back(Scene scene, FbxOptions.Form form) throws Exception {
    TestFiles files = new TestFiles();
    FbxOptions options = new FbxOptions(form, 7400, true, false, FbxOptions.TOLERANCE);
    FbxWriter.write(scene, options, "a", new TestFiles(), files, new Findings(), Progress.NONE);
    return FbxReader.read("a.fbx", ReadContext.of(files));
  }

  /** Two quads folded along an edge. */
  private static PolygonMesh fold(int id) {
    float[] xyz = {0, 0, 0, 1, 0, 0, 1, 0, 1, 0, 0, 1, 0, 1, 1, 1, 1, 1};
    int[] corners = {0, 3, 2, 1, 3, 4, 5, 2};
    return PolygonMesh.of(
        id, "fold", Coordinates.of(xyz), Polygons.of(corners, new int[] {0, 4, 8}));
  }

  private static Scene scene(PolygonMesh mesh, SceneBuilder scene) {
    scene.add(mesh);
    scene.add(Node.of(scene.newId(), "fold", -1, Node.Content.MeshContent.of(mesh.id())));
    return scene.build();
  }

  @ParameterizedTest
  @EnumSource(FbxOptions.Form.class)
  void sharpEdgesCreasesHolesAndLayersComeBack(FbxOptions.Form form) throws Exception {
    SceneBuilder builder = new SceneBuilder("a");
    Subdivision surface =
        new Subdivision(
            "catmullClark",
            3,
            new int[] {2, 3},
            new float[] {0.5f},
            new int[] {4},
            new float[] {0.75f},
            new int[] {1});
    float[] tangents = {1, 0, 0, -1};
    PolygonMesh mesh =
        fold(builder.newId()).toBuilder()
            .hardEdges(new int[] {2, 3})
            .smoothing(new int[] {1, 2})
            .subdivision(surface)
            .attributes(
                List.of(
                    new Attribute(
                        "side",
                        Attribute.Semantic.TANGENT,
                        Attribute.Domain.CONSTANT,
                        4,
                        tangents,
                        null)))
            .properties(Map.of("berth", 4L, "note", List.of("a", "b")))
            .build();
    builder.add(new NodeSet("tide", NodeSet.Kind.LAYER, new int[] {2}, false));
    builder.add(new NodeSet("picked", NodeSet.Kind.SELECTION, new int[] {2}, true));
    Scene found = back(scene(mesh, builder), form);
    PolygonMesh there = found.meshes().get(0);
    assertArrayEquals(new int[] {1, 2}, there.smoothing());
    assertEquals(2, there.hardEdges().length);
    assertEquals(5, there.hardEdges()[0] + there.hardEdges()[1]);
    assertEquals(3, there.subdivision().level());
    assertArrayEquals(new float[] {0.5f}, there.subdivision().creaseSharpness());
    assertArrayEquals(new int[] {4}, there.subdivision().creaseVertices());
    assertArrayEquals(new float[] {0.75f}, there.subdivision().vertexSharpness());
    assertArrayEquals(new int[] {1}, there.subdivision().holes());
    assertArrayEquals(tangents, there.attributes().get(0).values());
    assertEquals(4L, there.properties().get("berth"));
    assertEquals(List.of("a", "b"), there.properties().get("note"));
    assertEquals(2, found.sets().size());
    assertEquals(NodeSet.Kind.LAYER, found.sets().get(0).kind());
    assertTrue(!found.sets().get(0).visible());
    int node = found.nodes().get(0).id();
    assertArrayEquals(new int[] {node}, found.sets().get(1).nodeIds());
  }

  /** Without normals, shading breaks where an edge is hard and nowhere else. */
  @Test
  void hardEdgesShade() {
    PolygonMesh soft = fold(1).toBuilder().hardEdges(new int[0]).build();
    PolygonMesh hard = fold(1).toBuilder().hardEdges(new int[] {3, 2}).build();
    RenderPrimitive a = RenderMesh.of(soft, Progress.NONE).get(0);
    RenderPrimitive b = RenderMesh.of(hard, Progress.NONE).get(0);
    assertEquals(6, a.vertexCount());
    assertEquals(8, b.vertexCount());
  }

  @ParameterizedTest
  @EnumSource(FbxOptions.Form.class)
  void camerasLightsAndMaterialsMoveAndComeBack(FbxOptions.Form form) throws Exception {
    SceneBuilder builder = new SceneBuilder("a").linearColours(true);
    int camera = builder.newId();
    int light = builder.newId();
    int paint = builder.newId();
    double open = Double.POSITIVE_INFINITY;
    builder.add(new Camera(camera, "eye", 0.7, 0, 0, 0.1, open, Map.of("lens", "prime")));
    float[] warm = {1, 0.5f, 0.25f};
    builder.add(new Light(light, "lamp", Light.Kind.SPOT, warm, 40, 12, 0.2, 0.6, Map.of()));
    Map<Channel, Material.Value> channels =
        Map.of(
            Channel.BASE_COLOUR, new Material.Value(new double[] {0.2, 0.4, 0.6, 1}, null),
            Channel.METALLIC, new Material.Value(new double[] {0.3}, null),
            Channel.ROUGHNESS, new Material.Value(new double[] {0.6}, null),
            Channel.CLEARCOAT, new Material.Value(new double[] {0.5}, null),
            Channel.EMISSIVE, new Material.Value(new double[] {2, 0.1, 0}, null));
    builder.add(
        new Material(
            paint,
            "paint",
            Material.Shading.METALLIC_ROUGHNESS,
            channels,
            Material.Alpha.MASK,
            0.3,
            true,
            Map.of("coat", 2L)));
    builder.add(Node.of(builder.newId(), "eye", -1, new Node.Content.CameraContent(camera)));
    builder.add(Node.of(builder.newId(), "lamp", -1, new Node.Content.LightContent(light)));
    double[] times = {0, 1};
    builder.add(
        new Clip(
            builder.newId(),
            "dusk",
            0,
            1,
            List.of(
                line(camera, Clip.CAMERA_ANGLE, times, 0.7, 0.9),
                line(light, Clip.LIGHT_INTENSITY, times, 40, 10),
                line(paint, Clip.MATERIAL + Channel.ROUGHNESS, times, 0.6, 0.2))));
    Scene found = back(builder.build(), form);
    Camera eye = found.cameras().get(0);
    assertEquals(0.7, eye.verticalAngleRadians(), 1e-9);
    assertEquals(0, eye.aspect());
    assertEquals(open, eye.far());
    assertEquals("prime", eye.properties().get("lens"));
    Light lamp = found.lights().get(0);
    assertEquals(40, lamp.intensity(), 1e-9);
    assertEquals(12, lamp.range(), 1e-9);
    assertArrayEquals(warm, lamp.linearColour(), 1e-6f);
    Material there = found.materials().get(0);
    assertEquals(Material.Alpha.MASK, there.alpha());
    assertEquals(0.3, there.alphaCutoff());
    assertTrue(there.doubleSided());
    assertEquals(0.5, there.factor(Channel.CLEARCOAT)[0]);
    assertEquals(2L, there.properties().get("coat"));
    // Colours come back as sRGB: 0.2 in linear light is 0.4845.
    assertEquals(0.4845, there.factor(Channel.BASE_COLOUR)[0], 1e-4);
    assertEquals(3, found.clips().get(0).tracks().size());
    for (Clip.Track track : found.clips().get(0).tracks()) {
      double end = track.values()[track.values().length - 1];
      double wanted =
          track.property().equals(Clip.CAMERA_ANGLE)
              ? 0.9
              : track.property().equals(Clip.LIGHT_INTENSITY) ? 10 : 0.2;
      assertEquals(wanted, end, 1e-6, track.property());
    }
  }

  private static Clip.Track line(int target, String what, double[] times, double a, double b) {
    return new Clip.Track(
        target, what, Clip.Interpolation.LINEAR, 1, times, new double[] {a, b}, null, null);
  }

  /** A use of a texture counted from the other end of V, twice, is the use. */
  @Test
  void flippedTwiceIsTheSame() {
    TextureUse use = new TextureUse(1, 0, 0.2, 0.3, 2, 0.5, 0.7, Wrap.REPEATED, (char) 0, 1, "");
    TextureUse twice =
        use.flipped(ferry.stone.core.scene.UvOrigin.BOTTOM_LEFT)
            .flipped(ferry.stone.core.scene.UvOrigin.TOP_LEFT);
    assertEquals(use.offsetU(), twice.offsetU(), 1e-12);
    assertEquals(use.offsetV(), twice.offsetV(), 1e-12);
  }
}
