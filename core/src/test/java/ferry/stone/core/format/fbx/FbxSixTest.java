package ferry.stone.core.format.fbx;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;

import ferry.stone.core.TestFiles;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.fbx.raw.FbxTextParser;
import ferry.stone.core.format.fbx.read.FbxReader;
import ferry.stone.core.motion.Curves;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.look.Channel;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.Clip;
import java.io.InputStream;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A file of version 6.1, written by hand, as text and as binary. */
class FbxSixTest {
  /** World matrices that the ufbx crate 0.11.5 finds, three columns and the place. */
  private static final double[][] KEEL = {
    {0.53376, 0.46985, -0.7031, -0.60061, 1.76513, 0.7236, 0.79052, 0.01803, 0.61217},
    {0.44084, 0.61958, -0.64945, -0.88415, 1.55915, 0.88731, 0.78117, 0.09153, 0.61757},
    {0.03962, 0.90767, -0.4178, -1.45782, 0.62451, 1.21851, 0.68346, 0.2804, 0.67398},
    {-0.40214, 0.901, -0.16275, -1.50153, -0.44551, 1.24375, 0.52405, 0.37227, 0.76602}
  };

  private static final double[][] PLACE = {
    {1.8852, 3.4941, 6.47875},
    {2.69994, 3.19736, 6.41431},
    {5.59345, 2.53152, 10.06984},
    {5.92704, 2.35446, 9.63072}
  };

  private static final double[] TIMES = {Double.NaN, 0.25, 1, 1.7};

  private static byte[] file(boolean binary) throws Exception {
    byte[] text;
    try (InputStream in = FbxSixTest.class.getResourceAsStream("/fbx/six.fbx")) {
      text = in.readAllBytes();
    }
    return binary ? FbxEncoder.binary(FbxTextParser.parse("six.fbx", text), 6100, true) : text;
  }

  private static Scene read(byte[] file) throws Exception {
    return FbxReader.read("six.fbx", ReadContext.of(new TestFiles().with("six.fbx", file)));
  }

  @ParameterizedTest
  @ValueSource(booleans = {false, true})
  void everythingIsRead(boolean binary) throws Exception {
    Scene scene = read(file(binary));
    Clip drift = scene.clips().get(0);
    assertEquals("drift", drift.name());
    assertEquals(2, drift.endSeconds(), 1e-9);
    for (int i = 0; i < TIMES.length; i++) {
      boolean rest = Double.isNaN(TIMES[i]);
      Pose pose = Pose.at(scene, rest ? null : drift, rest ? 0 : TIMES[i]);
      double[] m = pose.world()[0].get(new double[16]);
      for (int k = 0; k < 9; k++) {
        assertEquals(KEEL[i][k], m[4 * (k / 3) + k % 3], 1e-4, "moment " + i);
      }
      for (int k = 0; k < 3; k++) {
        assertEquals(PLACE[i][k], m[12 + k], 1e-4, "moment " + i);
      }
    }
    assertEquals("rib", scene.nodes().get(1).name());
    assertEquals("east 4", scene.nodes().get(0).properties().get("berth"));
    PolygonMesh keel = scene.meshes().get(0);
    assertEquals(3, keel.faces().faceCount());
    assertEquals("chart", keel.attributes().get(0).name());
    assertEquals("swell", keel.morphs().get(0).name());
    assertEquals(0.25, keel.morphs().get(0).weight(), 1e-12);
    assertArrayEquals(new float[] {0, 0, 1, 0.5f, 0, 2}, keel.morphs().get(0).full().deltas());
    double[] weight = new double[4];
    Clip.Track swell =
        drift.tracks().stream().filter(Clip.Track::isMorph).findFirst().orElseThrow();
    Curves.sample(swell, 1, weight);
    assertEquals(0.5, weight[0], 1e-9);
    assertArrayEquals(
        new double[] {0.5, 0.25, 0.125},
        scene.material(keel.materialIds()[0]).orElseThrow().factor(Channel.BASE_COLOUR));
  }

  @ParameterizedTest
  @ValueSource(booleans = {false, true})
  void damagedFilesEndInASceneOrASentence(boolean binary) throws Exception {
    byte[] whole = file(binary);
    Random random = new Random(5);
    for (int i = 0; i < 150; i++) {
      byte[] bad = whole.clone();
      bad[random.nextInt(bad.length)] ^= (byte) (1 << random.nextInt(8));
      try {
        read(i % 4 == 0 ? java.util.Arrays.copyOf(bad, random.nextInt(bad.length)) : bad);
      } catch (FormatException e) {
        assertFalse(e.getMessage().contains("Exception"), e.getMessage());
      }
    }
  }
}
