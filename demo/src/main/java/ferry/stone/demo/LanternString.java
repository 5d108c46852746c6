package ferry.stone.demo;

import ferry.stone.core.format.files.Output;
import ferry.stone.core.format.obj.write.ObjWriter;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Sixty paper lanterns on a rope between two posts, in metres and Y up. Faults: all lanterns share
 * one name, each falls into loose pieces, and the texture folder was renamed after export, one of
 * its files as well.
 */
final class LanternString {
  private static final long SEED = 60_117;
  private static final int LANTERNS = 60;
  private static final double LENGTH = 18;
  private static final double HEIGHT = 3.6;
  private static final double SAG = 1.1;

  private LanternString() {}

  static void write(Output output) throws IOException {
    SceneBuilder scene = new SceneBuilder("lantern_string");
    Parts parts = new Parts(scene);
    double[] white = {1, 1, 1};
    int paper =
        parts.pbr(
            "rice_paper",
            white,
            0,
            0.85,
            parts.texture("lantern_tex/paper_panels.png"),
            null,
            new double[] {0.35, 0.22, 0.08});
    int brass = parts.phong("brass_cap", new double[] {0.02, 0.015, 0.008}, 0, 120, null);
    int rope =
        parts.phong("tarred_rope", white, 0.02, 4, parts.texture("lantern_tex/RopeStrands.png"));
    int timber =
        parts.phong("post_timber", white, 0.05, 10, parts.texture("lantern_tex/timber_color.png"));
    posts(scene, parts, timber);
    parts.part(ropeShape(), "rope", rope);
    for (int i = 0; i < LANTERNS; i++) {
      double t = (i + 0.5) / LANTERNS;
      parts.part(
          lantern(scene.newId(), (t - 0.5) * LENGTH, height(t) - 0.16, i, paper, brass), "lantern");
    }
    ObjWriter.write(scene.build(), "lantern_string", "lantern_string", output);
    texture(output, "lantern textures/paper_panels.png", Paint.paper(SEED, 256));
    texture(output, "lantern textures/ropestrands.PNG", Paint.rope(128));
    texture(
        output,
        "lantern textures/timber_colour.png",
        Paint.stone(SEED + 3, 256, 0x8a6a48, 0x4a3420, 0.3));
  }

  private static void texture(Output output, String path, byte[] bytes) throws IOException {
    try (OutputStream out = output.create(path)) {
      out.write(bytes);
    }
  }

  private static double height(double t) {
    double x = 2 * t - 1;
    return HEIGHT - SAG * (1 - x * x);
  }

  /** Shapes are made with Z up; here Y is. */
  private static PolygonMesh turned(PolygonMesh mesh, double dx, double dy, double dz) {
    return mesh.withPoints(
        mesh.points()
            .transform(new org.joml.Matrix4d().translation(dx, dy, dz).rotateX(-Math.PI / 2)));
  }

  private static PolygonMesh lantern(int id, double x, double y, int i, int paper, int brass) {
    Shape body = new Shape();
    double r = 0.1 + 0.014 * Math.sin(i * 2.4);
    body.lathe(
        0, 0, 16, false, 0.03, -0.13, r * 0.75, -0.105, r, -0.05, r, 0.03, r * 0.75, 0.09, 0.03,
        0.115);
    int paperFaces = body.faceCount();
    body.lathe(0, 0, 12, false, 0, 0.118, 0.034, 0.118, 0.034, 0.135, 0.006, 0.14, 0, 0.16);
    body.lathe(0, 0, 12, false, 0, -0.15, 0.034, -0.147, 0.034, -0.13, 0, -0.13);
    PolygonMesh mesh = body.build(id, "lantern", paper, brass);
    int[] slots = new int[mesh.faces().faceCount()];
    Arrays.fill(slots, paperFaces, slots.length, 1);
    return turned(mesh.toBuilder().materials(mesh.materialIds(), slots).build(), x, y, 0);
  }

  private static void posts(SceneBuilder scene, Parts parts, int timber) {
    for (int side = -1; side <= 1; side += 2) {
      Shape post = new Shape();
      double x = side * (LENGTH / 2 + 0.1);
      post.lathe(
          0, 0, 12, false, 0, 0, 0.11, 0, 0.08, HEIGHT, 0.1, HEIGHT + 0.04, 0, HEIGHT + 0.16);
      PolygonMesh mesh = post.build(scene.newId(), side < 0 ? "post_west" : "post_east", timber);
      parts.part(turned(mesh, x, 0, 0), mesh.name());
    }
  }

  /** A round bar along the sagging line, open at both ends. */
  private static Shape ropeShape() {
    Shape rope = new Shape();
    int steps = 120;
    int sides = 8;
    List<int[]> rings = new ArrayList<>();
    for (int i = 0; i <= steps; i++) {
      double t = (double) i / steps;
      int[] ring = new int[sides];
      for (int s = 0; s < sides; s++) {
        double a = 2 * Math.PI * s / sides;
        ring[s] =
            rope.point(
                (t - 0.5) * (LENGTH + 0.1), height(t) + 0.012 * Math.cos(a), 0.012 * Math.sin(a));
      }
      rings.add(ring);
    }
    int[][] uv = new int[steps + 1][sides + 1];
    for (int i = 0; i <= steps; i++) {
      for (int s = 0; s <= sides; s++) {
        uv[i][s] = rope.uv(120.0 * i / steps, (double) s / sides);
      }
    }
    for (int i = 0; i < steps; i++) {
      for (int s = 0; s < sides; s++) {
        int n = (s + 1) % sides;
        rope.face(
            rings.get(i)[s],
            uv[i][s],
            rings.get(i)[n],
            uv[i][s + 1],
            rings.get(i + 1)[n],
            uv[i + 1][s + 1],
            rings.get(i + 1)[s],
            uv[i + 1][s]);
      }
    }
    return rope;
  }
}
