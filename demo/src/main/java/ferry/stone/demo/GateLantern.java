package ferry.stone.demo;

import ferry.stone.core.format.fbx.write.FbxOptions;
import ferry.stone.core.format.files.Output;
import ferry.stone.core.geometry.mesh.Normals;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.OutputStream;
import java.util.Arrays;
import java.util.Map;
import org.joml.Matrix4d;

/**
 * A lantern on its post at the gate of the weir, as FBX in centimetres without any image on its
 * materials, and the nine images that belong on them beside it: named by the habits of two people,
 * one normal map with its green down, one set packed into one image, one gloss map.
 */
final class GateLantern {
  private static final long SEED = 31_907;
  private static final int SIZE = 256;
  private static final double CM = 100;

  /** Edges flatter than so many degrees are smooth. */
  private static final double SMOOTH = 45;

  private GateLantern() {}

  static void write(Output output) throws IOException {
    SceneBuilder scene = new SceneBuilder("gate_lantern");
    Parts parts = new Parts(scene);
    int iron = parts.phong("lantern_iron", new double[] {0.35, 0.34, 0.33}, 0.4, 60, null);
    int glass = parts.phong("pane_glass", new double[] {0.9, 0.8, 0.55}, 0.6, 200, null);
    int oak = parts.phong("oak", new double[] {0.6, 0.5, 0.4}, 0.05, 8, null);
    Shape body = new Shape();
    body.lathe(0, 0, 8, false, 0, 0, 0.1, 0, 0.12, 0.03, 0.12, 0.05, 0.105, 0.05);
    body.lathe(0, 0, 8, false, 0.105, 0.33, 0.15, 0.33, 0.15, 0.35, 0.05, 0.44, 0.02, 0.46, 0, 0.5);
    int ironFaces = body.faceCount();
    body.lathe(0, 0, 8, false, 0.095, 0.05, 0.1, 0.33);
    PolygonMesh lantern = body.build(scene.newId(), "lantern", iron, glass);
    int[] slots = new int[lantern.faces().faceCount()];
    Arrays.fill(slots, ironFaces, slots.length, 1);
    lantern = lantern.toBuilder().materials(lantern.materialIds(), slots).build();
    Shape column = new Shape();
    column.lathe(
        0, 0, 24, false, 0, 0, 0.16, 0, 0.16, 0.12, 0.1, 0.18, 0.075, 1.9, 0.11, 1.96, 0.11, 2, 0,
        2);
    PolygonMesh post = column.build(scene.newId(), "post", oak);
    int top = scene.add(Node.of(scene.newId(), "gate_lantern", -1, Node.Content.GROUP));
    for (PolygonMesh mesh : new PolygonMesh[] {post, lantern}) {
      double up = mesh == lantern ? 2 : 0;
      Matrix4d place = new Matrix4d().scale(CM).translate(0, 0, up);
      PolygonMesh placed = mesh.withPoints(mesh.points().transform(place));
      scene.add(placed.withFirst(Semantic.NORMAL, Normals.byAngle(placed, SMOOTH, Progress.NONE)));
      scene.add(Node.of(scene.newId(), mesh.name(), top, Node.Content.MeshContent.of(mesh.id())));
    }
    SceneCargo.writeFbx(scene.build(), FbxOptions.USUAL, "gate_lantern", Map.of(), output);
    image(output, "T_Lantern_Iron_BaseColor.png", Paint.stone(SEED, SIZE, 0x6e6a64, 0x2c2926, 0.4));
    image(output, "T_Lantern_Iron_Normal_DX.png", Paint.bumps(SEED + 1, SIZE, 2.5, false));
    image(output, "T_Lantern_Iron_ORM.png", Paint.packed(SEED + 2, SIZE));
    image(output, "PaneGlass-albedo.png", Paint.paper(SEED + 3, SIZE));
    image(output, "PaneGlass-emissive.png", Paint.paper(SEED + 4, SIZE));
    image(output, "post_diffuse_1024.png", Paint.stone(SEED + 5, SIZE, 0xb08a5c, 0x5a3f22, 0.3));
    image(output, "post_nrm.png", Paint.bumps(SEED + 6, SIZE, 3, true));
    image(output, "post_gloss.png", Paint.grey(SEED + 7, SIZE, 20, 110));
    image(output, "post ambient occlusion.png", Paint.grey(SEED + 8, SIZE, 170, 255));
  }

  private static void image(Output output, String name, byte[] bytes) throws IOException {
    try (OutputStream out = output.create("textures/" + name)) {
      out.write(bytes);
    }
  }
}
