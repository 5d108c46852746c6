package ferry.stone.core.survey.motion;

import static org.assertj.core.api.Assertions.assertThat;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Skin;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.survey.Survey;
import ferry.stone.core.work.Progress;
import java.util.List;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;
import org.junit.jupiter.api.Test;

/** A prop that touches an arm at rest and stays behind when it is raised is found and hung on. */
class PropChecksTest {
  private static final int RINGS = 41;

  /** An arm along x of 4 m, of which joint b raises the far half. */
  private static PolygonMesh arm() {
    float[] points = new float[6 * RINGS];
    int[] corners = new int[4 * (RINGS - 1)];
    int[] offsets = new int[RINGS];
    for (int i = 0; i < RINGS; i++) {
      points[6 * i] = points[6 * i + 3] = i * 0.1f;
      points[6 * i + 4] = 0.2f;
    }
    for (int f = 0; f < RINGS - 1; f++) {
      int[] quad = {2 * f, 2 * f + 2, 2 * f + 3, 2 * f + 1};
      System.arraycopy(quad, 0, corners, 4 * f, 4);
      offsets[f + 1] = 4 * f + 4;
    }
    return PolygonMesh.of(1, "arm", Coordinates.of(points), Polygons.of(corners, offsets));
  }

  private static PolygonMesh lamp(int id, float x) {
    float[] points = {x, 0.2f, 0, x + 0.2f, 0.2f, 0, x, 0.5f, 0};
    return PolygonMesh.of(
        id, "lamp", Coordinates.of(points), Polygons.triangles(new int[] {0, 1, 2}));
  }

  private static LocalTransform at(double x) {
    return LocalTransform.Trs.of(new Vector3d(x, 0, 0), new Quaterniond(), new Vector3d(1, 1, 1));
  }

  private static Scene scene(int lampParent, float at) {
    SceneBuilder scene = new SceneBuilder("yard");
    scene.nextId(100);
    scene.add(arm());
    scene.add(lamp(2, at));
    int[] offsets = new int[2 * RINGS + 1];
    int[] joints = new int[2 * RINGS];
    float[] weights = new float[2 * RINGS];
    for (int v = 0; v < 2 * RINGS; v++) {
      offsets[v + 1] = v + 1;
      joints[v] = v / 2 < RINGS / 2 ? 0 : 1;
      weights[v] = 1;
    }
    double[] inverse = new double[32];
    new Matrix4d().get(inverse, 0);
    new Matrix4d().translation(-2, 0, 0).get(inverse, 16);
    scene.add(
        new Skin(30, "arm", 1, new int[] {11, 12}, inverse, offsets, joints, weights, "linear"));
    int root = scene.add(Node.of(10, "crane", -1, Node.Content.GROUP));
    int a = scene.add(Node.of(11, "a", root, new Node.Content.Joint(0.1)));
    scene.add(Node.of(12, "b", a, new Node.Content.Joint(0.1)).withTransform(at(2)));
    int skinned =
        scene.add(Node.of(13, "arm", root, new Node.Content.MeshContent(1, 30, null, null)));
    int parent = lampParent == 13 ? skinned : lampParent == 12 ? 2 : root;
    scene.add(
        Node.of(14, "lamp", parent, Node.Content.MeshContent.of(2))
            .withTransform(at(lampParent == 12 ? -2 : 0)));
    Quaterniond raised = new Quaterniond().rotationZ(1.2);
    Clip.Track turn =
        new Clip.Track(
            12,
            Clip.ROTATION,
            Clip.Interpolation.LINEAR,
            4,
            new double[] {0, 1},
            new double[] {0, 0, 0, 1, raised.x, raised.y, raised.z, raised.w},
            null,
            null);
    return scene.clips(List.of(new Clip(40, "raise", 0, 1, List.of(turn)))).build();
  }

  private static List<Finding> found(Scene scene) {
    return Survey.of(scene, List.of(), Progress.NONE).findings().stream()
        .filter(f -> f.code().equals("prop-leaves-surface"))
        .toList();
  }

  @Test
  void aPropOnTheMeshIsFoundAndHungOnTheJointThatMovesTheSurfaceThere() {
    for (int parent : new int[] {13, 10}) {
      Scene scene = scene(parent, 3);
      List<Finding> found = found(scene);
      assertThat(found).hasSize(1);
      assertThat(found.get(0).where()).isEqualTo("lamp");
      assertThat(found.get(0).message()).endsWith("hang it on the joint b.");
      Offer offer = found.get(0).offers().get(0);
      Step step = new Step("s", offer.kind(), offer.params(), true, offer.nodeIds());
      List<Handling.Stage> stages = Handling.run(scene, List.of(step), Progress.NONE);
      assertThat(stages.get(0).failure()).isNull();
      assertThat(found(Handling.result(scene, stages))).isEmpty();
    }
  }

  @Test
  void whatHangsOnTheJointOrWhereNothingMovesIsRight() {
    assertThat(found(scene(12, 3))).isEmpty();
    assertThat(found(scene(13, 0.5f))).isEmpty();
  }
}
