package ferry.stone.core.motion;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;

import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.MorphTarget;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import java.util.List;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

class DeformTest {
  /**
   * glTF 2.0 section 3.7.3.3: the vertex (1, 0, 0) half on a joint that stays and half on one that
   * is turned by 90° about Z at (0, 0, 0) and bound there: half of (1, 0, 0) and half of (0, 1, 0).
   * The node's own place does not count.
   */
  @Test
  void skinningIsTheWeightedSumOfJointMatrices() {
    SceneBuilder scene = new SceneBuilder("s");
    scene.add(Node.of(1, "still", -1, new Node.Content.Joint(0)));
    scene.add(
        Node.of(2, "turned", 0, new Node.Content.Joint(0))
            .withTransform(
                LocalTransform.Trs.of(
                    new Vector3d(), new Quaterniond().rotateZ(Math.PI / 2), new Vector3d(1))));
    PolygonMesh mesh =
        PolygonMesh.of(
            3,
            "m",
            Coordinates.of(new float[] {1, 0, 0, 2, 0, 0, 0, 0, 5}),
            Polygons.triangles(new int[] {0, 1, 2}));
    scene.add(mesh);
    scene.add(
        Node.of(4, "n", -1, Node.Content.MeshContent.of(3).withSkin(5))
            .withTransform(
                new LocalTransform.MatrixTransform(new Matrix4d().translation(9, 9, 9))));
    double[] identities = new double[32];
    for (int i = 0; i < 8; i++) {
      identities[16 * (i / 4) + 5 * (i % 4)] = 1;
    }
    scene.add(
        new Skin(
            5,
            "skin",
            3,
            new int[] {1, 2},
            identities,
            new int[] {0, 2, 3, 3},
            new int[] {0, 1, 1},
            new float[] {0.5f, 0.5f, 1},
            "linear"));
    Scene built = scene.build();
    double[] p = Deform.world(built, Pose.rest(built), 2);
    // The last vertex follows no joint: it stands where its node stands.
    assertArrayEquals(new double[] {0.5, 0.5, 0, 0, 2, 0, 9, 9, 14}, p, 1e-12);
  }

  @Test
  void inBetweensRunFromShapeToShape() {
    MorphTarget smile =
        new MorphTarget(
            "smile",
            0,
            List.of(
                new MorphTarget.Shape(0.5, new int[] {1}, new float[] {0, 3, 0}, null),
                new MorphTarget.Shape(1, new int[] {1}, new float[] {0, 4, 0}, null)));
    PolygonMesh mesh =
        PolygonMesh.of(
                3,
                "m",
                Coordinates.of(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0}),
                Polygons.triangles(new int[] {0, 1, 2}))
            .toBuilder()
            .morphs(List.of(smile))
            .build();
    double[][] wanted = {{0, 0}, {0.25, 1.5}, {0.5, 3}, {0.75, 3.5}, {1, 4}, {1.5, 5}};
    for (double[] pair : wanted) {
      double[] p = Deform.morphed(mesh, new double[] {pair[0]});
      assertArrayEquals(new double[] {0, 0, 0, 1, pair[1], 0, 0, 1, 0}, p, 1e-12);
    }
  }
}
