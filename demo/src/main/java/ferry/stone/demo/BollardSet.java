package ferry.stone.demo;

import ferry.stone.core.format.fbx.write.FbxOptions;
import ferry.stone.core.format.files.Output;
import ferry.stone.core.format.obj.write.ObjWriter;
import ferry.stone.core.geometry.mesh.Normals;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.OutputStream;
import java.util.Map;

/**
 * A mooring bollard on its quay stone with a rope ring, three detail levels in files of their own
 * and a hull, set out in a row. Faults: numbers are centimetres, Z is up, the middle level has an
 * unwelded seam, and the roughness texture has another name than the material file says.
 */
final class BollardSet {
  private static final long SEED = 20_411;

  /** Radius and height of the bollard's outline, from its foot to the top. */
  private static final double[] OUTLINE = {
    21, 0, 21, 4, 19, 7, 14, 10, 12.5, 14, 12, 24, 12, 40, 12.5, 46, 15, 50, 19, 53, 21, 57, 21, 62,
    19, 67, 14, 71, 7, 73.5
  };

  private BollardSet() {}

  /** The same set as one group of detail levels: text FBX, textures in a folder beside it. */
  static void writeFbx(Output output) throws IOException {
    SceneBuilder scene = new SceneBuilder("bollard_set");
    Parts parts = new Parts(scene);
    int iron = parts.phong("cast_iron", new double[] {0.27, 0.31, 0.335}, 0.35, 48, null);
    int group =
        scene.add(
            Node.of(
                scene.newId(),
                "bollard",
                -1,
                new Node.Content.DetailGroup(
                    new double[] {600, 1500, 4000}, Node.Content.DetailGroup.Measure.DISTANCE)));
    String[] names = {"bollard_LOD0", "bollard_LOD1", "bollard_LOD2"};
    int[] sides = {96, 48, 14};
    int[] refine = {3, 1, 0};
    for (int level = 0; level < names.length; level++) {
      double[] outline = closed(refined(OUTLINE, refine[level]));
      Shape shape = new Shape().lathe(0, 0, sides[level], false, outline);
      PolygonMesh mesh = shape.build(scene.newId(), names[level], iron);
      scene.add(mesh.withFirst(Semantic.NORMAL, Normals.byAngle(mesh, 45, Progress.NONE)));
      scene.add(
          Node.of(scene.newId(), names[level], group, Node.Content.MeshContent.of(mesh.id())));
    }
    int granite =
        parts.pbr(
            "granite",
            new double[] {1, 1, 1},
            0,
            0.8,
            parts.found("granite_base.png"),
            parts.texture("D:\\quay\\maps\\granite_rough.png"),
            null);
    part(parts, scene, new Shape().box(-48, -48, -22.5, 48, 48, 0), "quay_stone", 30, granite);
    FbxOptions text = new FbxOptions(FbxOptions.Form.TEXT, 7400, false, false, 1e-5);
    byte[] stone = Paint.stone(SEED, 512, 0xb9b0a0, 0x6f675b, 0.5);
    SceneCargo.writeFbx(
        scene.build(), text, "bollard_set", Map.of("granite_base.png", stone), output);
  }

  static void write(Output output) throws IOException {
    level(output, "bollard_high", 0, 96, 3, false, true);
    level(output, "bollard_mid", 100, 48, 1, true, false);
    level(output, "bollard_low", 160, 14, 0, false, false);
    hull(output);
    texture(output, "Textures/granite_base.png", Paint.stone(SEED, 512, 0xb9b0a0, 0x6f675b, 0.5));
    texture(output, "Textures/granite_roughness.png", Paint.grey(SEED + 7, 256, 150, 235));
    texture(output, "Textures/rope_strands.png", Paint.rope(128));
  }

  private static void texture(Output output, String path, byte[] bytes) throws IOException {
    try (OutputStream out = output.create(path)) {
      out.write(bytes);
    }
  }

  private static Materials materials(Parts parts) {
    double[] white = {1, 1, 1};
    return new Materials(
        parts.phong("cast_iron", new double[] {0.27, 0.31, 0.335}, 0.35, 48, null),
        parts.pbr(
            "granite",
            white,
            0,
            1,
            parts.texture("Textures/granite_base.png"),
            parts.texture("tex/granite_rough.png"),
            null),
        parts.phong("hemp_rope", white, 0.05, 6, parts.texture("Textures/rope_strands.png")));
  }

  private record Materials(int iron, int granite, int rope) {}

  private static void level(
      Output output, String name, double x, int sides, int refine, boolean seam, boolean withStone)
      throws IOException {
    SceneBuilder scene = new SceneBuilder(name);
    Parts parts = new Parts(scene);
    Materials m = materials(parts);
    double[] outline = lifted(refined(OUTLINE, refine), withStone ? 22.5 : 0);
    Shape bollard = new Shape().lathe(x, 0, sides, seam, closed(outline));
    if (withStone) {
      Shape stone = new Shape().box(-48, -48, 0, 48, 48, 22.5);
      part(parts, scene, stone, "quay_stone", 30, m.granite());
    }
    part(parts, scene, bollard, name, 45, m.iron());
    if (withStone) {
      Shape ring = new Shape().torus(50, 16.5, 3, 72, 16);
      part(parts, scene, ring, "rope_ring", 180, m.rope());
    }
    ObjWriter.write(scene.build(), name, "bollard_set", output);
  }

  private static void hull(Output output) throws IOException {
    SceneBuilder scene = new SceneBuilder("bollard_hull");
    Parts parts = new Parts(scene);
    Materials m = materials(parts);
    Shape shape = new Shape().lathe(220, 0, 8, false, 0, 0, 22, 0, 22, 61.5, 10, 74, 0, 74);
    part(parts, scene, shape, "bollard_hull", 0, m.iron());
    ObjWriter.write(scene.build(), "bollard_hull", "bollard_set", output);
  }

  private static void part(
      Parts parts, SceneBuilder scene, Shape shape, String name, double angle, int material) {
    PolygonMesh mesh = shape.build(scene.newId(), name, material);
    parts.part(mesh.withFirst(Semantic.NORMAL, Normals.byAngle(mesh, angle, Progress.NONE)), name);
  }

  /** An outline with points at the axis below and above, so that it closes. */
  private static double[] closed(double[] outline) {
    double[] result = new double[outline.length + 4];
    result[1] = outline[1];
    System.arraycopy(outline, 0, result, 2, outline.length);
    result[result.length - 1] = outline[outline.length - 1] + 0.5;
    return result;
  }

  private static double[] lifted(double[] outline, double by) {
    double[] result = outline.clone();
    for (int i = 1; i < result.length; i += 2) {
      result[i] += by;
    }
    return result;
  }

  /** Points between, on a Catmull-Rom curve; {@code times} of 0 keeps every other point. */
  private static double[] refined(double[] outline, int times) {
    int n = outline.length / 2;
    if (times == 0) {
      double[] coarse = new double[(n + 1) / 2 * 2];
      for (int i = 0; i < coarse.length / 2; i++) {
        coarse[2 * i] = outline[4 * i];
        coarse[2 * i + 1] = outline[4 * i + 1];
      }
      return coarse;
    }
    double[] fine = new double[((n - 1) * times + 1) * 2];
    for (int i = 0; i < fine.length / 2; i++) {
      int at = Math.min(i / times, n - 2);
      double t = (double) i / times - at;
      for (int k = 0; k < 2; k++) {
        double p0 = outline[2 * Math.max(0, at - 1) + k];
        double p1 = outline[2 * at + k];
        double p2 = outline[2 * (at + 1) + k];
        double p3 = outline[2 * Math.min(n - 1, at + 2) + k];
        fine[2 * i + k] =
            0.5
                * (2 * p1
                    + (p2 - p0) * t
                    + (2 * p0 - 5 * p1 + 4 * p2 - p3) * t * t
                    + (3 * p1 - p0 - 3 * p2 + p3) * t * t * t);
      }
    }
    return fine;
  }
}
