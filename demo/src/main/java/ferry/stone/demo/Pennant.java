package ferry.stone.demo;

import ferry.stone.core.format.abc.write.AbcOptions;
import ferry.stone.core.format.files.Output;
import ferry.stone.core.format.obj.write.ObjWriter;
import ferry.stone.core.geometry.mesh.Normals;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Attribute.Semantic;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.work.Progress;
import java.io.BufferedOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.util.List;
import java.util.Map;

/**
 * A pennant on its pole in the wind: the mesh as OBJ, the motion as an MDD point cache of the cloth
 * alone, as a cloth tool writes it; and both as Alembic. Faults: numbers of the mesh are
 * centimetres with Y up, those of the cache metres with Y and Z changed for each other, which
 * mirrors, and no file says so.
 */
final class Pennant {
  private static final int COLUMNS = 48;
  private static final int ROWS = 18;
  private static final double LENGTH = 220;
  private static final double HOIST = 80;
  private static final double TOP = 390;
  private static final double POLE = 6;
  private static final int SAMPLES = 72;
  private static final float RATE = 24;
  private static final int POINTS = (COLUMNS + 1) * (ROWS + 1);
  private static final double CENTIMETRES = 100;

  private Pennant() {}

  static void write(Output output) throws IOException {
    SceneBuilder scene = new SceneBuilder("pennant");
    build(scene);
    ObjWriter.write(scene.build(), "pennant", "pennant", output);
    try (OutputStream out = output.create("pennant_stripes.png")) {
      out.write(textures().get("pennant_stripes.png"));
    }
    try (DataOutputStream out =
        new DataOutputStream(new BufferedOutputStream(output.create("pennant_wind.mdd")))) {
      out.writeInt(SAMPLES);
      out.writeInt(POINTS);
      for (int s = 0; s < SAMPLES; s++) {
        out.writeFloat(s / RATE);
      }
      for (int s = 0; s < SAMPLES; s++) {
        for (int i = 0; i < POINTS; i++) {
          double[] p = blown(i % (COLUMNS + 1), i / (COLUMNS + 1), s);
          out.writeFloat((float) (p[0] / CENTIMETRES));
          out.writeFloat((float) (p[2] / CENTIMETRES));
          out.writeFloat((float) (p[1] / CENTIMETRES));
        }
      }
    }
  }

  static void writeAbc(Output output) throws IOException {
    SceneCargo.writeAbc(windy(), AbcOptions.STANDARD, "pennant", output);
  }

  /** With the wind in it, in centimetres with Y up. */
  static Scene windy() {
    SceneBuilder scene = new SceneBuilder("pennant").framesPerSecond(RATE);
    int flag = build(scene);
    scene.caches(List.of(new Wind(scene.newId(), flag)));
    return scene.build();
  }

  static Map<String, byte[]> textures() {
    return Map.of("pennant_stripes.png", Paint.stone(4_711, 128, 0xc24b32, 0xe8dcc0, 0.6));
  }

  /** The cloth's motion by its closed form. */
  private record Wind(int id, int meshId) implements PointCache {
    @Override
    public String name() {
      return "pennant";
    }

    @Override
    public int sampleCount() {
      return SAMPLES;
    }

    @Override
    public int pointCount() {
      return POINTS;
    }

    @Override
    public double timeSeconds(int sample) {
      return sample / (double) RATE;
    }

    @Override
    public void read(int sample, int from, int count, float[] target) {
      for (int i = 0; i < count; i++) {
        double[] p = blown((from + i) % (COLUMNS + 1), (from + i) / (COLUMNS + 1), sample);
        for (int c = 0; c < 3; c++) {
          target[3 * i + c] = (float) p[c];
        }
      }
    }
  }

  /** The pole and the cloth, whose mesh's id it gives. */
  private static int build(SceneBuilder scene) {
    Parts parts = new Parts(scene);
    int oak = parts.phong("oak_pole", new double[] {0.42, 0.31, 0.2}, 0.05, 20, null);
    int cloth =
        parts.phong(
            "pennant_cloth", new double[] {1, 1, 1}, 0.03, 6, parts.texture("pennant_stripes.png"));
    PolygonMesh pole = pole().build(scene.newId(), "pole", oak);
    parts.part(pole.withFirst(Semantic.NORMAL, Normals.byAngle(pole, 40, Progress.NONE)), "pole");
    PolygonMesh flag = cloth(0).build(scene.newId(), "pennant", cloth);
    parts.part(
        flag.withFirst(Semantic.NORMAL, Normals.byAngle(flag, 180, Progress.NONE)), "pennant");
    return flag.id();
  }

  /** Where a corner of the cloth is in a sample; the whole motion comes round after the last. */
  static double[] blown(int column, int row, int sample) {
    double u = (double) column / COLUMNS;
    double v = (double) row / ROWS;
    double phase = 2 * Math.PI * sample / SAMPLES;
    double wave = 26 * u * Math.sin(3 * phase - 7.5 * u - 0.8 * v);
    double lift = 7 * u * Math.sin(4 * u - 2 * phase);
    double narrow = 1 - 0.75 * u;
    return new double[] {
      POLE + u * (LENGTH - 9 * u * Math.abs(Math.sin(phase))),
      TOP - HOIST / 2 + (v - 0.5) * HOIST * narrow + lift - 12 * u * u,
      wave
    };
  }

  private static Shape cloth(int sample) {
    Shape shape = new Shape();
    for (int row = 0; row <= ROWS; row++) {
      for (int column = 0; column <= COLUMNS; column++) {
        double[] p = blown(column, row, sample);
        shape.point(p[0], p[1], p[2]);
        shape.uv((double) column / COLUMNS, (double) row / ROWS);
      }
    }
    for (int row = 0; row < ROWS; row++) {
      for (int column = 0; column < COLUMNS; column++) {
        int a = row * (COLUMNS + 1) + column;
        int b = a + COLUMNS + 1;
        shape.face(a, a, a + 1, a + 1, b + 1, b + 1, b, b);
      }
    }
    return shape;
  }

  /** Eight sides, standing on the ground. */
  private static Shape pole() {
    Shape shape = new Shape();
    int sides = 8;
    for (int ring = 0; ring < 2; ring++) {
      for (int side = 0; side < sides; side++) {
        double angle = 2 * Math.PI * side / sides;
        double radius = POLE * (ring == 0 ? 1 : 0.6);
        shape.point(radius * Math.cos(angle), ring * (TOP + 12), radius * Math.sin(angle));
        shape.uv((double) side / sides, ring);
      }
    }
    for (int side = 0; side < sides; side++) {
      int next = (side + 1) % sides;
      shape.face(side, side, sides + side, sides + side, sides + next, sides + next, next, next);
    }
    int[] cap = new int[2 * sides];
    for (int side = 0; side < sides; side++) {
      cap[2 * side] = 2 * sides - 1 - side;
      cap[2 * side + 1] = 2 * sides - 1 - side;
    }
    shape.face(cap);
    int[] foot = new int[2 * sides];
    for (int side = 0; side < sides; side++) {
      foot[2 * side] = side;
      foot[2 * side + 1] = side;
    }
    shape.face(foot);
    return shape;
  }
}
