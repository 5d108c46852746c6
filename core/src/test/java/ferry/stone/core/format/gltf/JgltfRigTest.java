package ferry.stone.core.format.gltf;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import de.javagl.jgltf.model.AccessorModel;
import de.javagl.jgltf.model.GltfAnimations;
import de.javagl.jgltf.model.GltfModel;
import de.javagl.jgltf.model.MeshPrimitiveModel;
import de.javagl.jgltf.model.NodeModel;
import de.javagl.jgltf.model.SkinModel;
import de.javagl.jgltf.model.animation.Animation;
import de.javagl.jgltf.model.io.GltfModelReader;
import ferry.stone.core.RandomRig;
import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.gltf.read.GltfReader;
import ferry.stone.core.format.gltf.write.GltfBuffer;
import ferry.stone.core.format.gltf.write.GltfOptions;
import ferry.stone.core.format.gltf.write.GltfWriter;
import ferry.stone.core.motion.Deform;
import ferry.stone.core.motion.Pose;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.work.Progress;
import java.io.ByteArrayInputStream;
import java.lang.reflect.Method;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.List;
import java.util.Random;
import org.joml.Matrix4d;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/**
 * Rigs that are written here, as jgltf-model 2.0.4 reads and moves them: its node matrices, inverse
 * binds, joints, weights and animation, skinned after glTF 2.0 section 3.7.3.3 in this test. It has
 * no cubic splines; three's mixer is held against those.
 */
class JgltfRigTest {
  private int compared;

  @Test
  void vertexPositionsAgreeInEveryPose() throws Exception {
    for (long seed = 1; seed <= 25; seed++) {
      byte[] glb = written(straight(RandomRig.of(new Random(seed), 4)));
      Scene ours = GltfReader.read("a.glb", ReadContext.of(new TestFiles().with("a.glb", glb)));
      same(ours, Pose.rest(ours), read(glb), "seed " + seed);
      for (int c = 0; c < ours.clips().size(); c++) {
        for (double t : new double[] {0.1, 0.77, 1.4}) {
          GltfModel theirs = read(glb);
          for (Animation animation :
              GltfAnimations.createModelAnimations(List.of(theirs.getAnimationModels().get(c)))) {
            Method update = Animation.class.getDeclaredMethod("update", float.class);
            update.setAccessible(true);
            update.invoke(animation, (float) t);
          }
          Pose pose = Pose.at(ours, ours.clips().get(c), t);
          same(ours, pose, theirs, "seed " + seed + ", clip " + c + " at " + t);
        }
      }
    }
    assertTrue(compared > 10_000, compared + " vertices");
  }

  private static Scene straight(Scene scene) {
    return scene.toBuilder()
        .clips(
            scene.clips().stream()
                .map(
                    clip ->
                        clip.withTracks(
                            clip.tracks().stream()
                                .filter(t -> t.interpolation() != Clip.Interpolation.CUBIC)
                                .toList()))
                .filter(clip -> !clip.tracks().isEmpty())
                .toList())
        .build();
  }

  private static byte[] written(Scene scene) throws Exception {
    TestFiles files = new TestFiles();
    GltfWriter.write(
        scene, GltfOptions.glb(), "a", new TestFiles(), files, new Findings(), Progress.NONE);
    return files.bytes("a.glb");
  }

  private static GltfModel read(byte[] glb) throws Exception {
    return new GltfModelReader().readWithoutReferences(new ByteArrayInputStream(glb));
  }

  private void same(Scene ours, Pose pose, GltfModel theirs, String what) {
    double size = Math.max(1, ours.bounds().diagonal());
    List<NodeModel> nodes = theirs.getNodeModels();
    for (NodeModel node : nodes) {
      if (node.getMeshModels().isEmpty()) {
        continue;
      }
      int place = 0;
      while (!ours.nodes().get(place).name().equals(node.getName())) {
        place++;
      }
      double[] wanted = Deform.world(ours, pose, place);
      int first = 0;
      for (MeshPrimitiveModel p : node.getMeshModels().get(0).getMeshPrimitiveModels()) {
        int count = p.getAttributes().get("POSITION").getCount();
        for (int v = 0; v < count; v++) {
          Vector3d found = placed(node, p, v);
          int at = 3 * (first + v);
          double off = found.distance(wanted[at], wanted[at + 1], wanted[at + 2]);
          assertEquals(0, off, 1e-5 * size, what + ", " + node.getName() + ", vertex " + v);
          compared++;
        }
        first += count;
      }
      assertEquals(wanted.length / 3, first);
    }
  }

  private static Vector3d placed(NodeModel node, MeshPrimitiveModel p, int v) {
    Vector3d position = vector(p.getAttributes().get("POSITION"), v);
    float[] weights =
        node.getWeights() != null ? node.getWeights() : node.getMeshModels().get(0).getWeights();
    for (int t = 0; t < p.getTargets().size(); t++) {
      position.fma(weights[t], vector(p.getTargets().get(t).get("POSITION"), v));
    }
    SkinModel skin = node.getSkinModel();
    if (skin == null) {
      return matrix(node).transformPosition(position);
    }
    Vector3d sum = new Vector3d();
    AccessorModel joints = p.getAttributes().get("JOINTS_0");
    for (int k = 0; k < 4; k++) {
      int joint =
          joints.getComponentType() == GltfBuffer.UNSIGNED_BYTE
              ? bytes(joints).get(4 * v + k) & 0xff
              : bytes(joints).getShort(8 * v + 2 * k) & 0xffff;
      double weight = bytes(p.getAttributes().get("WEIGHTS_0")).getFloat(16 * v + 4 * k);
      Matrix4d m = matrix(skin.getJoints().get(joint));
      m.mul(doubles(skin.getInverseBindMatrix(joint, null)));
      sum.fma(weight, m.transformPosition(new Vector3d(position)));
    }
    return sum;
  }

  private static ByteBuffer bytes(AccessorModel accessor) {
    return accessor.getAccessorData().createByteBuffer().order(ByteOrder.LITTLE_ENDIAN);
  }

  private static Vector3d vector(AccessorModel accessor, int element) {
    ByteBuffer all = bytes(accessor);
    return new Vector3d(
        all.getFloat(12 * element), all.getFloat(12 * element + 4), all.getFloat(12 * element + 8));
  }

  /** World matrix from the local ones in doubles: floats would hide what differs. */
  private static Matrix4d matrix(NodeModel node) {
    Matrix4d local = doubles(node.computeLocalTransform(null));
    return node.getParent() == null ? local : matrix(node.getParent()).mul(local);
  }

  private static Matrix4d doubles(float[] m) {
    double[] d = new double[16];
    for (int i = 0; i < 16; i++) {
      d[i] = m[i];
    }
    return new Matrix4d().set(d);
  }
}
