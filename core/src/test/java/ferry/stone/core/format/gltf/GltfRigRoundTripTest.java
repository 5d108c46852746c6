package ferry.stone.core.format.gltf;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import ferry.stone.core.PoseDifference;
import ferry.stone.core.RandomRig;
import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.gltf.read.GltfReader;
import ferry.stone.core.format.gltf.write.GltfOptions;
import ferry.stone.core.format.gltf.write.GltfWriter;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;
import java.util.Random;
import org.joml.Matrix4d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Rigs, morph targets and motion through glTF and back. */
class GltfRigRoundTripTest {
  private static final double TOLERANCE = 1e-5;

  private static Scene back(Scene scene, int influences) throws Exception {
    TestFiles files = write(scene, influences);
    return GltfReader.read("a.glb", ReadContext.of(files));
  }

  private static TestFiles write(Scene scene, int influences) throws Exception {
    TestFiles files = new TestFiles();
    GltfOptions options = new GltfOptions(GltfOptions.Container.GLB, true, true, influences);
    GltfWriter.write(scene, options, "a", new TestFiles(), files, new Findings(), Progress.NONE);
    return files;
  }

  @ParameterizedTest
  @ValueSource(ints = {4, 7})
  void everythingStandsWhereItStoodAtEveryTime(int influences) throws Exception {
    for (long seed = 1; seed <= 60; seed++) {
      Scene scene = RandomRig.of(new Random(seed), influences);
      Scene read = back(scene, 0);
      double off = PoseDifference.of(scene, read, new Matrix4d(), "seed " + seed);
      assertTrue(off < TOLERANCE, "seed " + seed + ": " + off + " of the size");
      // What was read is written and read again without any change.
      double again = PoseDifference.of(read, back(read, 0), new Matrix4d(), "seed " + seed);
      assertTrue(again < TOLERANCE, "seed " + seed + ", again: " + again);
    }
  }

  @Test
  void namesWeightsCamerasAndLightsArrive() throws Exception {
    for (long seed = 1; seed <= 20; seed++) {
      Scene scene = RandomRig.of(new Random(seed), 4);
      Scene read = back(scene, 0);
      for (int m = 0; m < scene.meshes().size(); m++) {
        PolygonMesh wanted = scene.meshes().get(m);
        PolygonMesh found =
            read.meshes().stream()
                .filter(f -> f.name().equals(wanted.name()))
                .findFirst()
                .orElseThrow();
        assertEquals(
            MorphTarget.keys(wanted.morphs()), MorphTarget.keys(found.morphs()), "seed " + seed);
      }
      assertEquals(0.8, read.cameras().get(0).verticalAngleRadians(), 1e-6);
      assertEquals(100, read.cameras().get(0).far(), 1e-4);
      assertEquals(30, read.lights().get(0).intensity(), 1e-6);
      assertEquals(0.6, read.lights().get(0).outerAngleRadians(), 1e-6);
    }
  }

  @Test
  void theSameRigGivesTheSameBytes() throws Exception {
    assertArrayEquals(
        write(RandomRig.of(new Random(3), 6), 0).bytes("a.glb"),
        write(RandomRig.of(new Random(3), 6), 0).bytes("a.glb"));
  }

  @Test
  void fewerInfluencesKeepTheStrongestAndSaySo() throws Exception {
    Scene scene = RandomRig.of(new Random(5), 7);
    int seed = 5;
    while (scene.skins().isEmpty() || scene.skins().get(0).mostInfluences() < 5) {
      scene = RandomRig.of(new Random(++seed), 7);
    }
    TestFiles files = new TestFiles();
    Findings findings = new Findings();
    GltfWriter.write(
        scene, GltfOptions.glb(), "a", new TestFiles(), files, findings, Progress.NONE);
    assertTrue(findings.list().stream().anyMatch(f -> f.code().equals("influences-reduced")));
    Scene read = GltfReader.read("a.glb", ReadContext.of(files));
    assertEquals(4, read.skins().get(0).mostInfluences());
  }
}
