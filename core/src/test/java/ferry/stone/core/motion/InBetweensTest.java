package ferry.stone.core.motion;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertSame;
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
import ferry.stone.core.scene.mesh.MorphTarget.Shape;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.joml.Matrix4d;
import org.junit.jupiter.api.Test;

/** Shapes between off and fully on, as targets of their own: nothing may move by it. */
class InBetweensTest {
  /** A random rig whose targets have shapes at 30 % and 70 % too. */
  private static Scene rig(long seed, boolean cubics) {
    Random random = new Random(seed);
    Scene scene = RandomRig.of(random, 4);
    List<PolygonMesh> meshes = new ArrayList<>();
    for (PolygonMesh mesh : scene.meshes()) {
      List<MorphTarget> morphs = new ArrayList<>();
      for (MorphTarget morph : mesh.morphs()) {
        Shape full = morph.full();
        morphs.add(
            new MorphTarget(
                morph.name(),
                morph.weight(),
                List.of(bent(full, 0.3, random), bent(full, 0.7, random), full)));
      }
      meshes.add(mesh.toBuilder().morphs(morphs).build());
    }
    List<Clip> clips = new ArrayList<>();
    for (Clip clip : scene.clips()) {
      clips.add(
          clip.withTracks(
              clip.tracks().stream()
                  .filter(
                      t -> cubics || !t.isMorph() || t.interpolation() != Clip.Interpolation.CUBIC)
                  .toList()));
    }
    return scene.toBuilder().meshes(meshes).clips(clips).build();
  }

  private static Shape bent(Shape full, double weight, Random random) {
    float[] deltas = full.deltas().clone();
    for (int i = 0; i < deltas.length; i++) {
      deltas[i] = (float) (weight * deltas[i] + 0.2 * (random.nextFloat() - 0.5f));
    }
    return new Shape(weight, full.vertices(), deltas, full.normalDeltas());
  }

  @Test
  void stepsAndLinesStayExact() {
    for (long seed = 1; seed <= 40; seed++) {
      Scene scene = rig(seed, false);
      Scene split = InBetweens.asTargets(scene);
      double off = PoseDifference.of(scene, split, new Matrix4d(), "seed " + seed);
      assertEquals(0, off, 1e-9, "seed " + seed);
    }
  }

  @Test
  void cubicsStayCloseAndAllArriveInAFile() throws Exception {
    for (long seed = 1; seed <= 20; seed++) {
      Scene scene = rig(seed, true);
      TestFiles files = new TestFiles();
      GltfOptions options = new GltfOptions(GltfOptions.Container.GLB, true, true, 0);
      GltfWriter.write(scene, options, "a", new TestFiles(), files, new Findings(), Progress.NONE);
      Scene read = GltfReader.read("a.glb", ReadContext.of(files));
      double off = PoseDifference.of(scene, read, new Matrix4d(), "seed " + seed);
      assertTrue(off < 2e-3, "seed " + seed + ": " + off + " of the size");
    }
  }

  @Test
  void inBetweensAreNamedAfterTheirWeight() {
    Shape shape = new Shape(1, new int[] {0}, new float[3], null);
    Shape half = new Shape(0.5, new int[] {0}, new float[3], null);
    MorphTarget smile = new MorphTarget("smile", 0.75, List.of(half, shape));
    MorphTarget taken = new MorphTarget("smile_50", 0, List.of(shape));
    PolygonMesh some = RandomRig.of(new Random(1), 4).meshes().get(0);
    Scene scene =
        new ferry.stone.core.scene.SceneBuilder("a")
            .add(some.toBuilder().morphs(List.of(smile, taken)).build())
            .build();
    List<MorphTarget> found = InBetweens.asTargets(scene).meshes().get(0).morphs();
    assertEquals(List.of("smile_between_2", "smile", "smile_50"), MorphTarget.keys(found));
    // Three quarters of the way: half of the shape in between and half of the full one.
    assertEquals(0.5, found.get(0).weight(), 1e-12);
    assertEquals(0.5, found.get(1).weight(), 1e-12);
    Scene without = scene.toBuilder().meshes(List.of(some)).build();
    assertSame(without, InBetweens.asTargets(without));
  }
}
