package ferry.stone.demo;

import ferry.stone.core.format.files.Output;
import ferry.stone.core.format.obj.write.ObjWriter;
import ferry.stone.core.geometry.mesh.Normals;
import ferry.stone.core.math.IntList;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.FaceSet;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/**
 * A sail of twelve panels as a cloth tool writes them: triangles in one layer, each panel with
 * vertices of its own, UV islands in true proportion. Faults: numbers are millimetres and the file
 * does not say so; the panels are not sewn along their seams, whose vertices lie up to 0.02 mm
 * apart; one panel faces backwards; the island of another lies outside the square; a few vertices
 * are used by nothing.
 */
final class PatchworkSail {
  private static final long SEED = 88_017;
  private static final int COLUMNS = 3;
  private static final int ROWS = 4;
  private static final int CELLS = 18;
  private static final double WIDTH = 2400;
  private static final double HEIGHT = 3000;
  private static final double BILLOW = 340;

  /** The UV square is this many millimetres wide: all islands have one scale. */
  private static final double SQUARE = 3200;

  private static final double SEAM = 0.01;
  private static final int TURNED = 7;
  private static final int OUTSIDE = 10;

  private final Random random = new Random(SEED);
  private final Shape shape = new Shape();
  private final List<FaceSet> panels = new ArrayList<>();

  private PatchworkSail() {}

  static void write(Output output) throws IOException {
    PatchworkSail sail = new PatchworkSail();
    SceneBuilder scene = new SceneBuilder("patchwork_sail");
    Parts parts = new Parts(scene);
    int canvas =
        parts.phong(
            "canvas", new double[] {0.9, 0.86, 0.76}, 0.04, 8, parts.texture("canvas_weave.png"));
    for (int panel = 0; panel < COLUMNS * ROWS; panel++) {
      sail.panel(panel);
    }
    for (int i = 0; i < 5; i++) {
      sail.shape.point(40 * i, 0, 400);
    }
    PolygonMesh mesh = sail.shape.build(scene.newId(), "patchwork_sail", canvas);
    PolygonMesh shaded =
        mesh.withFirst(Semantic.NORMAL, Normals.byAngle(mesh, 180, Progress.NONE)).toBuilder()
            .faceSets(sail.panels)
            .build();
    parts.part(shaded, "patchwork_sail");
    ObjWriter.write(scene.build(), "patchwork_sail", "patchwork_sail", output);
    try (OutputStream out = output.create("canvas_weave.png")) {
      out.write(Paint.stone(SEED, 256, 0xe9dfc4, 0xb9a67c, 0.2));
    }
  }

  /** Where a point of the flat sail hangs: Y is up, the wind blows along +Z. */
  private static double[] hung(double u, double v) {
    double belly = Math.sin(Math.PI * u) * Math.sin(Math.PI * (0.15 + 0.8 * v));
    return new double[] {(u - 0.5) * WIDTH, v * HEIGHT, BILLOW * belly};
  }

  private void panel(int index) {
    int column = index % COLUMNS;
    int row = index / COLUMNS;
    int[][] points = new int[CELLS + 1][CELLS + 1];
    int[][] uvs = new int[CELLS + 1][CELLS + 1];
    double shift = index == OUTSIDE ? 1.05 : 0;
    for (int i = 0; i <= CELLS; i++) {
      for (int j = 0; j <= CELLS; j++) {
        double u = (column + (double) i / CELLS) / COLUMNS;
        double v = (row + (double) j / CELLS) / ROWS;
        double[] p = hung(u, v);
        boolean seam = i == 0 || j == 0 || i == CELLS || j == CELLS;
        for (int k = 0; seam && k < 3; k++) {
          p[k] += SEAM * (2 * random.nextDouble() - 1) / Math.sqrt(3);
        }
        points[i][j] = shape.point(p[0], p[1], p[2]);
        // A hand's breadth between the islands.
        uvs[i][j] =
            shape.uv(
                (u * WIDTH + 60 * column + 100) / SQUARE + shift, (v * HEIGHT + 30 * row) / SQUARE);
      }
    }
    IntList faces = new IntList(2 * CELLS * CELLS);
    for (int i = 0; i < CELLS; i++) {
      for (int j = 0; j < CELLS; j++) {
        int[] a = {points[i][j], points[i + 1][j], points[i + 1][j + 1], points[i][j + 1]};
        int[] t = {uvs[i][j], uvs[i + 1][j], uvs[i + 1][j + 1], uvs[i][j + 1]};
        // Diagonals run both ways, as cloth is cut.
        int turn = (i + j) % 2;
        triangle(faces, index, a, t, turn, turn + 1, turn + 2);
        triangle(faces, index, a, t, turn, turn + 2, turn + 3);
      }
    }
    panels.add(new FaceSet(String.format("panel_%02d", index + 1), faces.toArray()));
  }

  private void triangle(IntList faces, int panel, int[] a, int[] t, int x, int y, int z) {
    faces.add(shape.faceCount());
    int second = (panel == TURNED ? z : y) % 4;
    int third = (panel == TURNED ? y : z) % 4;
    shape.face(a[x % 4], t[x % 4], a[second], t[second], a[third], t[third]);
  }
}
