package ferry.stone.core.format.collada;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import java.util.List;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/** Skins, morphs and motion; what is expected was worked out by hand. */
class ColladaRigTest {
  private static String source(String id, String names, int stride, String numbers) {
    int count = numbers.strip().split("\\s+").length;
    StringBuilder params = new StringBuilder();
    for (String name : names.split(" ")) {
      params.append(
          name.equals("M")
              ? "<param name=\"TRANSFORM\" type=\"float4x4\"/>"
              : "<param name=\"" + name + "\" type=\"float\"/>");
    }
    return "<source id=\""
        + id
        + "\"><float_array id=\""
        + id
        + "-a\" count=\""
        + count
        + "\">"
        + numbers
        + "</float_array><technique_common><accessor source=\"#"
        + id
        + "-a\" count=\""
        + count / stride
        + "\" stride=\""
        + stride
        + "\">"
        + params
        + "</accessor></technique_common></source>";
  }

  private static String words(String id, String kind, String words) {
    int count = words.strip().split("\\s+").length;
    return "<source id=\""
        + id
        + "\"><"
        + kind
        + " id=\""
        + id
        + "-a\" count=\""
        + count
        + "\">"
        + words
        + "</"
        + kind
        + "><technique_common><accessor source=\"#"
        + id
        + "-a\" count=\""
        + count
        + "\" stride=\"1\"><param name=\"N\"/></accessor></technique_common></source>";
  }

  private static String inputs(String... pairs) {
    StringBuilder all = new StringBuilder();
    for (int i = 0; i < pairs.length; i += 2) {
      all.append("<input semantic=\"" + pairs[i] + "\" source=\"#" + pairs[i + 1] + "\"/>");
    }
    return all.toString();
  }

  /** A stick of two vertices, one a joint, and a taller one as its morph target. */
  private static String stick(String id, double height) {
    return "<geometry id=\""
        + id
        + "\" name=\""
        + id
        + "\"><mesh>"
        + source(id + "-p", "X Y Z", 3, "0 0 0 1 0 0 0 " + height + " 0")
        + "<vertices id=\""
        + id
        + "-v\">"
        + inputs("POSITION", id + "-p")
        + "</vertices>"
        + "<triangles count=\"1\"><input semantic=\"VERTEX\" source=\"#"
        + id
        + "-v\" offset=\"0\"/><p>0 1 2</p></triangles></mesh></geometry>";
  }

  private static final String IDENTITY = "1 0 0 0  0 1 0 0  0 0 1 0  0 0 0 1";

  static final String RIG =
      "<library_geometries>"
          + stick("stick", 1)
          + stick("tall", 3)
          + "</library_geometries>"
          + "<library_controllers>"
          + "<controller id=\"bend\"><skin source=\"#stick\">"
          + "<bind_shape_matrix>1 0 0 0  0 1 0 2  0 0 1 0  0 0 0 1</bind_shape_matrix>"
          + words("bend-j", "Name_array", "root tip")
          + source("bend-m", "M", 16, IDENTITY + " 1 0 0 0  0 1 0 -2  0 0 1 0  0 0 0 1")
          + source("bend-w", "WEIGHT", 1, "1 0.25 0.75")
          + "<joints>"
          + inputs("JOINT", "bend-j", "INV_BIND_MATRIX", "bend-m")
          + "</joints>"
          + "<vertex_weights count=\"3\">"
          + "<input semantic=\"JOINT\" source=\"#bend-j\" offset=\"0\"/>"
          + "<input semantic=\"WEIGHT\" source=\"#bend-w\" offset=\"1\"/>"
          + "<vcount>1 1 2</vcount><v>0 0  1 0  0 1 1 2</v></vertex_weights></skin></controller>"
          + "<controller id=\"grow\"><morph source=\"#stick\" method=\"NORMALIZED\">"
          + words("grow-t", "IDREF_array", "tall")
          + source("grow-w", "MORPH_WEIGHT", 1, "0.5")
          + "<targets>"
          + inputs("MORPH_TARGET", "grow-t", "MORPH_WEIGHT", "grow-w")
          + "</targets></morph></controller></library_controllers>";

  static final String ARM =
      "<node id=\"j0\" sid=\"root\" name=\"shoulder\" type=\"JOINT\">"
          + "<translate sid=\"t\">0 0 0</translate><rotate sid=\"r\">0 0 1 0</rotate>"
          + "<node id=\"j1\" sid=\"tip\" name=\"hand\" type=\"JOINT\">"
          + "<matrix sid=\"m\">1 0 0 0  0 1 0 2  0 0 1 0  0 0 0 1</matrix></node></node>"
          + "<node id=\"skinned\" name=\"sleeve\"><instance_controller url=\"#bend\">"
          + "<skeleton>#j0</skeleton></instance_controller></node>"
          + "<node id=\"grown\" name=\"reed\"><instance_controller url=\"#grow\"/></node>";

  private static String animation(
      String id, String target, String kind, int stride, String times, String values, String more) {
    String[] names = {"", "V", "A B", "X Y Z"};
    return "<animation id=\""
        + id
        + "\">"
        + source(id + "-i", "TIME", 1, times)
        + source(id + "-o", stride == 16 ? "M" : names[stride], stride, values)
        + words(id + "-n", "Name_array", kind)
        + more
        + "<sampler id=\""
        + id
        + "-s\">"
        + inputs("INPUT", id + "-i", "OUTPUT", id + "-o", "INTERPOLATION", id + "-n")
        + (more.isEmpty() ? "" : inputs("IN_TANGENT", id + "-it", "OUT_TANGENT", id + "-ot"))
        + "</sampler><channel source=\"#"
        + id
        + "-s\" target=\""
        + target
        + "\"/></animation>";
  }

  static final String MOTION =
      "<library_animations>"
          + animation("turn", "j0/r.ANGLE", "LINEAR LINEAR", 1, "0 2", "0 180", "")
          + animation("lift", "j0/t.Y", "STEP STEP", 1, "0 1", "0 5", "")
          + animation("sway", "grow-w(0)", "LINEAR LINEAR", 1, "0 2", "0 1", "")
          + "</library_animations>";

  private static Scene rig() throws Exception {
    return DaeText.read(DaeText.file("", RIG + MOTION, ARM));
  }

  private static int place(Scene scene, String name) {
    return scene.nodes().stream().map(n -> n.name()).toList().indexOf(name);
  }

  @Test
  void skinsAreBoundWhereTheyWere() throws Exception {
    Scene scene = rig();
    Skin skin = scene.skins().get(0);
    assertArrayEquals(new int[] {0, 1, 2, 4}, skin.offsets());
    assertArrayEquals(new float[] {1, 1, 0.25f, 0.75f}, skin.weights());
    double[] points = Deform.world(scene, Pose.rest(scene), place(scene, "sleeve"));
    // The bind shape lifts the stick by 2; joint and inverse bind cancel out. The shape's weight
    // of 0.5 between heights 1 and 3 makes the stick 2 high.
    assertArrayEquals(new double[] {0, 2, 0, 1, 2, 0, 0, 4, 0}, points, 1e-6);
  }

  @Test
  void morphTargetsAreWhatTheyAdd() throws Exception {
    PolygonMesh mesh = rig().meshes().get(0);
    assertEquals("tall", mesh.morphs().get(0).name());
    assertEquals(0.5, mesh.morphs().get(0).weight());
    assertArrayEquals(new int[] {2}, mesh.morphs().get(0).full().vertices());
    assertArrayEquals(new float[] {0, 2, 0}, mesh.morphs().get(0).full().deltas());
  }

  @Test
  void nodesTurnAndJumpAtTheirTimes() throws Exception {
    Scene scene = rig();
    Clip clip = scene.clips().get(0);
    assertEquals(0, clip.startSeconds());
    assertEquals(2, clip.endSeconds());
    for (double[] wanted : new double[][] {{0.5, 45, 0}, {0.99, 89.1, 0}, {1.5, 135, 5}}) {
      Pose pose = Pose.at(scene, clip, wanted[0]);
      Vector3d tip = pose.world()[place(scene, "hand")].transformPosition(new Vector3d());
      double angle = Math.toRadians(wanted[1]);
      assertEquals(
          0,
          tip.distance(-2 * Math.sin(angle), wanted[2] + 2 * Math.cos(angle), 0),
          2e-3,
          "at " + wanted[0] + " s");
    }
    Pose half = Pose.at(scene, clip, 1);
    assertEquals(0.5, half.morphWeights()[place(scene, "reed")][0], 1e-9);
  }

  @Test
  void curvesBendAndMatricesAreBlendedByParts() throws Exception {
    String handles = source("b-it", "X Y", 2, "0 0 1 10") + source("b-ot", "X Y", 2, "1 0 3 10");
    String more =
        "<library_animations>"
            + animation("b", "j0/t.X", "BEZIER BEZIER", 1, "0 2", "0 10", handles)
            + animation(
                "m",
                "j1/m",
                "LINEAR LINEAR",
                16,
                "0 2",
                IDENTITY + " 0 -1 0 0  1 0 0 4  0 0 1 0  0 0 0 1",
                "")
            + "</library_animations>";
    Scene scene = DaeText.read(DaeText.file("", RIG + more, ARM));
    Clip clip = scene.clips().get(0);
    Pose pose = Pose.at(scene, clip, 1);
    // Handles of half the span, flat at both ends: 5 in the middle.
    Vector3d root = pose.world()[place(scene, "shoulder")].transformPosition(new Vector3d());
    assertEquals(5, root.x, 1e-3);
    // u where 3·u·(1−u)²·½ + 3·u²·(1−u)·½ + u³ = ¼ is u ≈ 0.2063; value 10·(3u² − 2u³).
    Vector3d early =
        Pose.at(scene, clip, 0.5)
            .world()[place(scene, "shoulder")]
            .transformPosition(new Vector3d());
    double u = 0;
    for (double step = 0.25; step > 1e-12; step /= 2) {
      double v = u + step;
      double time = 2 * (1.5 * v * (1 - v) * (1 - v) + 1.5 * v * v * (1 - v) + v * v * v);
      u = time < 0.5 ? v : u;
    }
    assertEquals(10 * (3 * u * u - 2 * u * u * u), early.x, 2e-2);
    // Half of a quarter turn, half of the way.
    Vector3d axis = pose.world()[place(scene, "hand")].transformDirection(new Vector3d(1, 0, 0));
    assertEquals(0, axis.distance(Math.sqrt(0.5), Math.sqrt(0.5), 0), 1e-6);
    Vector3d hand = pose.world()[place(scene, "hand")].transformPosition(new Vector3d());
    assertEquals(2, hand.y, 1e-6);
  }

  @Test
  void clipsAreThoseThatTheFileNames() throws Exception {
    String clips =
        "<library_animation_clips><animation_clip name=\"wave\" start=\"0.5\" end=\"1.5\">"
            + "<instance_animation url=\"#turn\"/></animation_clip></library_animation_clips>";
    Scene scene = DaeText.read(DaeText.file("", RIG + MOTION + clips, ARM));
    assertEquals(List.of("wave", "a"), scene.clips().stream().map(Clip::name).toList());
    assertEquals(0.5, scene.clips().get(0).startSeconds());
    assertEquals(1.5, scene.clips().get(0).endSeconds());
  }

  @Test
  void motionOfOtherValuesIsTold() throws Exception {
    Findings findings = new Findings();
    String other =
        "<library_animations>"
            + animation("x", "lamp/color.R", "LINEAR LINEAR", 1, "0 2", "0 1", "")
            + "</library_animations>";
    DaeText.read(DaeText.file("", RIG + other, ARM), findings);
    assertEquals(
        List.of("motion-outside-scene"), findings.list().stream().map(Finding::code).toList());
  }

  @Test
  void damagedFilesEndInASceneOrASentence() throws Exception {
    byte[] whole = DaeText.whole().getBytes(java.nio.charset.StandardCharsets.UTF_8);
    java.util.Random random = new java.util.Random(5);
    for (int i = 0; i < 1500; i++) {
      byte[] bad =
          i % 3 == 0
              ? java.util.Arrays.copyOf(whole, 1 + random.nextInt(whole.length))
              : whole.clone();
      bad[random.nextInt(bad.length)] ^= (byte) (1 << random.nextInt(7));
      try {
        Scene scene =
            ColladaReader.read(
                "a.dae",
                ferry.stone.core.format.ReadContext.of(
                    new ferry.stone.core.TestFiles().with("a.dae", bad)));
        for (int n = 0; n < scene.nodes().size(); n++) {
          Deform.world(scene, Pose.rest(scene), n);
        }
      } catch (ferry.stone.core.format.FormatException e) {
        assertTrue(e.getMessage().startsWith("a.dae"), e.getMessage());
      }
    }
  }
}
