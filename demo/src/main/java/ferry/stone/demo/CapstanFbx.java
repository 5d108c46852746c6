package ferry.stone.demo;

import ferry.stone.core.format.fbx.write.FbxOptions;
import ferry.stone.core.format.files.Output;
import ferry.stone.core.geometry.mesh.Normals;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.LocalTransform.EulerOrder;
import ferry.stone.core.scene.node.LocalTransform.InheritedTransform;
import ferry.stone.core.scene.node.LocalTransform.PivotTransform;
import ferry.stone.core.scene.node.LocalTransform.ScaleInheritance;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.NodeSet;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Interpolation;
import ferry.stone.core.scene.time.Clip.Track;
import ferry.stone.core.scene.time.KeyCurve;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.joml.Matrix4d;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * The capstan as its makers drew it, in FBX: the drum turns about a pivot that stands 12 cm beside
 * its axis, bars are turned by pre-rotations and take no part in the drum's stretch, and the twin
 * is mirrored by a negative scale. The clip "turn" has two eased keys.
 */
final class CapstanFbx {
  private static final double OFF_AXIS = 12;
  private static final double STRETCH = 1.1;
  private static final int FULL_TURN = 360;
  private static final double SECONDS = 4;

  private final SceneBuilder scene = new SceneBuilder("capstan");
  private final Parts parts = new Parts(scene);
  private int base;
  private int drum;
  private int bar;
  private int grip;

  private CapstanFbx() {}

  static void write(Output output) throws IOException {
    CapstanFbx capstan = new CapstanFbx();
    capstan.scene.framesPerSecond(24);
    capstan.meshes();
    int turning = capstan.assembly("capstan", new Vector3d(), new Vector3d(1));
    capstan.assembly("capstan_twin", new Vector3d(280, 0, 0), new Vector3d(-1, 1, 1));
    capstan.clip(turning);
    capstan.sets();
    SceneCargo.writeFbx(
        capstan.scene.build(),
        FbxOptions.USUAL,
        "capstan",
        Map.of("oak_grain.png", Paint.stone(733, 256, 0x9a7448, 0x5d4224, 0.35)),
        output);
  }

  private void meshes() {
    int iron = parts.pbr("wrought_iron", new double[] {0.2, 0.21, 0.23}, 1, 0.55, null, null, null);
    int oak =
        parts.pbr(
            "oiled_oak", new double[] {1, 1, 1}, 0, 0.7, parts.found("oak_grain.png"), null, null);
    base =
        mesh(
            new Shape().lathe(0, 0, 40, false, 0, 0, 70, 0, 70, 10, 55, 18, 30, 22, 0, 22),
            "base",
            iron);
    drum =
        mesh(
            new Shape()
                .lathe(
                    0, 0, 36, false, 0, 0, 34, 0, 30, 8, 24, 30, 24, 70, 32, 84, 42, 92, 42, 108, 0,
                    112),
            "drum",
            oak);
    bar = mesh(new Shape().box(0, -4, -4, 120, 4, 4), "bar", oak);
    grip = mesh(new Shape().torus(0, 5, 1.6, 20, 8), "grip", iron);
  }

  private int mesh(Shape shape, String name, int material) {
    PolygonMesh mesh = shape.build(scene.newId(), name, material);
    scene.add(mesh.withFirst(Semantic.NORMAL, Normals.byAngle(mesh, 35, Progress.NONE)));
    return mesh.id();
  }

  /** The id of the part that turns. */
  private int assembly(String name, Vector3d at, Vector3d scale) {
    int root =
        scene.add(
            Node.of(scene.newId(), name, -1, Node.Content.GROUP)
                .withTransform(own(at, new Vector3d(), scale, ScaleInheritance.NORMAL))
                .withProperties(Map.of("workshop", "Karrow", "inventory", 417)));
    show("base", root, own(new Vector3d(), new Vector3d(), new Vector3d(1), normal()), base);
    Vector3d stretch = new Vector3d(1, 1, STRETCH);
    Vector3d none = new Vector3d();
    PivotTransform turning =
        new PivotTransform(
            new Vector3d(0, 0, 22),
            none,
            new Vector3d(OFF_AXIS, 0, 0),
            none,
            none,
            none,
            none,
            new Vector3d(0, 0, 40),
            stretch,
            EulerOrder.XYZ,
            normal());
    int held = show("drum", root, turning, drum);
    for (int i = 0; i < 6; i++) {
      int socket = show("bar", held, bar(i), bar);
      PivotTransform ring =
          own(new Vector3d(104, 0, 0), new Vector3d(0, 90, 0), new Vector3d(1), normal());
      show("grip", socket, ring, grip);
    }
    return scene.build().nodes().get(held).id();
  }

  private static ScaleInheritance normal() {
    return ScaleInheritance.NORMAL;
  }

  private static PivotTransform own(
      Vector3d t, Vector3d degrees, Vector3d s, ScaleInheritance inheritance) {
    return pre(t, new Vector3d(), degrees, s, inheritance);
  }

  private static PivotTransform pre(
      Vector3d t, Vector3d pre, Vector3d degrees, Vector3d s, ScaleInheritance inheritance) {
    Vector3d none = new Vector3d();
    return new PivotTransform(
        t, none, none, pre, degrees, none, none, none, s, EulerOrder.ZYX, inheritance);
  }

  /** A bar in its socket: a pre-rotation turns it, and the drum's stretch does not reach it. */
  private static LocalTransform bar(int place) {
    Vector3d turn = new Vector3d(0, 0, place * FULL_TURN / 6.0);
    Quaterniond q = EulerOrder.XYZ.quaternion(turn);
    Vector3d socket = q.transform(new Vector3d(38, 0, 0)).add(0, 0, 100);
    PivotTransform own = pre(socket, turn, new Vector3d(), new Vector3d(1), ScaleInheritance.NONE);
    Matrix4d there = new Matrix4d().translation(socket).scale(1, 1, 1 / STRETCH).rotate(q);
    return new InheritedTransform(own, there);
  }

  private int show(String name, int parent, LocalTransform transform, int mesh) {
    return scene.add(
        Node.of(scene.newId(), name, parent, Node.Content.MeshContent.of(mesh))
            .withTransform(transform));
  }

  private void clip(int turning) {
    KeyCurve eased = KeyCurve.of(new double[] {0, SECONDS}, new double[] {0, FULL_TURN});
    Arrays.fill(eased.modes(), KeyCurve.CURVE);
    int samples = 97;
    double[] times = new double[samples];
    double[] values = new double[4 * samples];
    for (int k = 0; k < samples; k++) {
      times[k] = SECONDS * k / (samples - 1);
      double half = Math.toRadians(eased.at(times[k])) / 2;
      values[4 * k + 2] = Math.sin(half);
      values[4 * k + 3] = Math.cos(half);
    }
    Track turn =
        new Track(turning, Clip.ROTATION, Interpolation.LINEAR, 4, times, values, null, null);
    Clip.Keys keys = new Clip.Keys(turning, Clip.ROTATION, 2, eased);
    Clip clip = new Clip(scene.newId(), "turn", 0, SECONDS, List.of(turn));
    scene.add(clip.withKeys(List.of(keys)));
  }

  private void sets() {
    int[] bars =
        scene.build().nodes().stream()
            .filter(n -> n.name().equals("bar"))
            .mapToInt(Node::id)
            .toArray();
    scene.add(new NodeSet("oak bars", NodeSet.Kind.SELECTION, bars, true));
  }
}
