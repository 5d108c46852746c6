package ferry.stone.core.format.gltf;

import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.RandomRig;
import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.gltf.read.GltfReader;
import ferry.stone.core.format.gltf.write.GltfOptions;
import ferry.stone.core.format.gltf.write.GltfWriter;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/** Damaged rigs: what is read of them must also pose, be looked at and land. */
class DamagedRigsTest {
  private static byte[] rig(long seed, GltfOptions.Container container) throws Exception {
    TestFiles out = new TestFiles();
    GltfWriter.write(
        RandomRig.of(new Random(seed), 6),
        new GltfOptions(container, true, true, 0),
        "a",
        new TestFiles(),
        out,
        new Findings(),
        Progress.NONE);
    return out.bytes(container == GltfOptions.Container.GLB ? "a.glb" : "a.gltf");
  }

  /** What was read must also pose, be looked at and land without a fault. */
  private static void use(String file, byte[] content) throws Exception {
    TestFiles files = new TestFiles().with(file, content);
    Scene scene;
    try {
      scene = GltfReader.read(file, ReadContext.of(files));
    } catch (FormatException e) {
      assertFalse(e.getMessage().contains("Exception"), e.getMessage());
      return;
    }
    for (Clip clip : scene.clips()) {
      Pose pose = Pose.at(scene, clip, clip.startSeconds() + 0.3);
      for (int i = 0; i < scene.nodes().size(); i++) {
        Deform.world(scene, pose, i);
      }
    }
    GltfWriter.write(
        scene,
        GltfOptions.glb(),
        "b",
        new TestFiles(),
        new TestFiles(),
        new Findings(),
        Progress.NONE);
  }

  @Test
  void damagedRigsEndInASceneOrASentence() throws Exception {
    Random random = new Random(17);
    for (int round = 0; round < 8; round++) {
      byte[] whole = rig(round, GltfOptions.Container.GLB);
      for (int i = 0; i < 250; i++) {
        byte[] bad = whole.clone();
        bad[random.nextInt(bad.length)] ^= (byte) (1 << random.nextInt(8));
        use("a.glb", bad);
      }
    }
  }

  @Test
  void changedNumbersEndInASceneOrASentence() throws Exception {
    Random random = new Random(23);
    String[] numbers = {
      "-1", "0", "1", "7", "99999999", "2147483648", "1e30", "null", "\"x\"", "[]"
    };
    for (int round = 0; round < 6; round++) {
      String json = new String(rig(round, GltfOptions.Container.GLTF), StandardCharsets.UTF_8);
      List<int[]> places = new ArrayList<>();
      Matcher matcher =
          Pattern.compile("(?<=[:\\[,] ?)-?\\d[-+.eE\\d]*(?= ?[,\\]\\s}])").matcher(json);
      while (matcher.find()) {
        places.add(new int[] {matcher.start(), matcher.end()});
      }
      assertTrue(places.size() > 100);
      for (int i = 0; i < 250; i++) {
        int[] place = places.get(random.nextInt(places.size()));
        String bad =
            json.substring(0, place[0])
                + numbers[random.nextInt(numbers.length)]
                + json.substring(place[1]);
        use("a.gltf", bad.getBytes(StandardCharsets.UTF_8));
      }
    }
  }
}
