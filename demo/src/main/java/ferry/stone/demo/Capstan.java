package ferry.stone.demo;

import ferry.stone.core.format.files.Output;
import ferry.stone.core.format.gltf.write.GltfOptions;
import ferry.stone.core.geometry.mesh.Normals;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Interpolation;
import ferry.stone.core.scene.time.Clip.Track;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * A capstan with its twin: parts in parts, bars and pawls that share meshes and names. Faults: the
 * drum's pivot stands 12 cm beside its axis, so that the clip "turn" makes it wobble; the twin is
 * mirrored by a negative scale; pawls and bars have the same names; a pin hangs three levels deep.
 */
final class Capstan {
  private static final double OFF_AXIS = 12;

  private final SceneBuilder scene = new SceneBuilder("capstan");
  private final Parts parts = new Parts(scene);
  private int base;
  private int drum;
  private int bar;
  private int grip;
  private int pawl;
  private int pin;

  private Capstan() {}

  static void write(Output output) throws IOException {
    Capstan capstan = new Capstan();
    capstan.meshes();
    int turning = capstan.assembly("capstan", new Vector3d(), new Vector3d(1));
    capstan.assembly("capstan_twin", new Vector3d(280, 0, 0), new Vector3d(-1, 1, 1));
    capstan.clip(turning);
    SceneCargo.write(
        capstan.scene.build(),
        new GltfOptions(GltfOptions.Container.GLTF, false, false, 4),
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
    // The drum's points stand beside its node by the wrong pivot.
    drum =
        mesh(
            new Shape()
                .lathe(
                    -OFF_AXIS, 0, 36, false, 0, 0, 34, 0, 30, 8, 24, 30, 24, 70, 32, 84, 42, 92, 42,
                    108, 0, 112),
            "drum",
            oak);
    bar = mesh(new Shape().box(0, -4, -4, 120, 4, 4), "bar", oak);
    grip = mesh(new Shape().torus(0, 5, 1.6, 20, 8), "grip", iron);
    pawl = mesh(new Shape().box(-3, -2, 0, 22, 2, 6), "pawl", iron);
    pin = mesh(new Shape().lathe(0, 0, 12, false, 0, -4, 2, -4, 2, 9, 0, 9), "pin", iron);
  }

  private int mesh(Shape shape, String name, int material) {
    PolygonMesh mesh = shape.build(scene.newId(), name, material);
    scene.add(mesh.withFirst(Semantic.NORMAL, Normals.byAngle(mesh, 35, Progress.NONE)));
    return mesh.id();
  }

  /** The id of the part that turns. */
  private int assembly(String name, Vector3d at, Vector3d scale) {
    int root = group(name, -1, at, new Quaterniond(), scale);
    show("base", root, new Vector3d(), new Quaterniond(), base);
    for (int i = 0; i < 4; i++) {
      Quaterniond turn = new Quaterniond().rotateZ(i * Math.PI / 2 + 0.4);
      int held = show("pawl", root, turn.transform(new Vector3d(46, 0, 18)), turn, pawl);
      show("pin", held, new Vector3d(0, 0, 2), new Quaterniond(), pin);
    }
    Vector3d beside = new Vector3d(OFF_AXIS, 0, 22);
    int turning = show("drum", root, beside, new Quaterniond(), drum);
    for (int i = 0; i < 6; i++) {
      Quaterniond turn = new Quaterniond().rotateZ(i * Math.PI / 3);
      Vector3d socket = turn.transform(new Vector3d(38, 0, 0)).add(-OFF_AXIS, 0, 100);
      int held = show("bar", turning, socket, turn, bar);
      show("grip", held, new Vector3d(104, 0, 0), new Quaterniond().rotateY(Math.PI / 2), grip);
    }
    return scene.build().nodes().get(turning).id();
  }

  private int group(String name, int parent, Vector3d t, Quaterniond r, Vector3d s) {
    return scene.add(
        Node.of(scene.newId(), name, parent, Node.Content.GROUP)
            .withTransform(LocalTransform.Trs.of(t, r, s))
            .withProperties(Map.of("workshop", "Karrow", "inventory", 417)));
  }

  private int show(String name, int parent, Vector3d t, Quaterniond r, int mesh) {
    return scene.add(
        Node.of(scene.newId(), name, parent, Node.Content.MeshContent.of(mesh))
            .withTransform(LocalTransform.Trs.of(t, r, new Vector3d(1))));
  }

  private void clip(int turning) {
    double[] times = new double[9];
    double[] values = new double[36];
    for (int k = 0; k < times.length; k++) {
      times[k] = 0.5 * k;
      values[4 * k + 2] = Math.sin(k * Math.PI / 8);
      values[4 * k + 3] = Math.cos(k * Math.PI / 8);
    }
    Track turn =
        new Track(turning, Clip.ROTATION, Interpolation.LINEAR, 4, times, values, null, null);
    scene.add(new Clip(scene.newId(), "turn", 0, 4, List.of(turn)));
  }
}
