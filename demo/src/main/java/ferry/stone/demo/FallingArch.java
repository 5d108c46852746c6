package ferry.stone.demo;

import ferry.stone.core.format.abc.write.AbcOptions;
import ferry.stone.core.format.fbx.write.FbxOptions;
import ferry.stone.core.format.files.Output;
import ferry.stone.core.geometry.mesh.Normals;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.Handedness;
import ferry.stone.core.math.SignedAxis;
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
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * An arch of forty stones that falls, each stone a node with its own path: what a rigid simulation
 * writes. Faces along which stones touch have a material of their own. Faults: the header says
 * metres, but the numbers are centimetres, as the fall tells; a helper group is left empty.
 */
final class FallingArch {
  private static final long SEED = 40_440;
  private static final int STONES = 40;
  private static final double INNER = 190;
  private static final double OUTER = 250;
  private static final double DEPTH = 70;
  private static final double FOOT = 60;
  private static final double RATE = 30;
  private static final double SECONDS = 3;

  /** Centimetres per second squared. */
  private static final double GRAVITY = 980.665;

  private final Random random = new Random(SEED);
  private final SceneBuilder scene = new SceneBuilder("falling_arch");
  private final Parts parts = new Parts(scene);
  private final List<Track> tracks = new ArrayList<>();

  private FallingArch() {}

  /** As a cache: each stone's points over time, whatever moved it. */
  static void writeAbc(Output output) throws IOException {
    AbcOptions points = new AbcOptions(0, 0, 0, "", true, true, true, false, true);
    SceneCargo.writeAbc(built().scene.build(), points, "falling_arch", output);
  }

  private static FallingArch built() {
    FallingArch arch = new FallingArch();
    arch.scene.framesPerSecond(RATE);
    arch.stones();
    arch.scene.add(new Clip(arch.scene.newId(), "fall", 0, SECONDS, arch.tracks));
    return arch;
  }

  static void write(Output output) throws IOException {
    FallingArch arch = built();
    // The header speaks of metres.
    Frame wrong = new Frame(1, SignedAxis.PLUS_Z, SignedAxis.MINUS_Y, Handedness.RIGHT);
    SceneCargo.writeFbx(
        arch.scene.build(),
        wrong,
        new FbxOptions(FbxOptions.Form.BINARY, 7500, true, false, 1e-5),
        "falling_arch",
        Map.of("granite_face.png", Paint.stone(SEED, 512, 0xb7afa3, 0x6d665c, 0.5)),
        output);
  }

  private void stones() {
    int granite =
        parts.phong(
            "granite", new double[] {0.8, 0.77, 0.72}, 0.1, 12, parts.found("granite_face.png"));
    int core = parts.phong("broken_core", new double[] {0.42, 0.36, 0.31}, 0.02, 4, null);
    int root = scene.add(Node.of(scene.newId(), "arch", -1, Node.Content.GROUP));
    scene.add(Node.of(scene.newId(), "solver_helpers", root, Node.Content.GROUP));
    for (int i = 0; i < STONES; i++) {
      stone(i, root, granite, core);
    }
  }

  private void stone(int index, int root, int granite, int core) {
    double from = Math.PI * index / STONES;
    double to = Math.PI * (index + 1) / STONES;
    double middle = (from + to) / 2;
    double radius = (INNER + OUTER) / 2;
    Vector3d place = new Vector3d(-radius * Math.cos(middle), 0, FOOT + radius * Math.sin(middle));
    double depth = DEPTH * (0.92 + 0.16 * random.nextDouble());
    Shape shape = new Shape();
    int[] p = new int[8];
    for (int k = 0; k < 8; k++) {
      double angle = (k & 1) == 0 ? from : to;
      double r = (k & 2) == 0 ? INNER : OUTER * (0.98 + 0.05 * random.nextDouble());
      double y = (k & 4) == 0 ? -depth / 2 : depth / 2;
      p[k] = shape.point(-r * Math.cos(angle) - place.x, y, FOOT + r * Math.sin(angle) - place.z);
    }
    int[] t = {shape.uv(0, 0), shape.uv(1, 0), shape.uv(1, 1), shape.uv(0, 1)};
    int[][] sides = {
      {0, 4, 5, 1}, {2, 3, 7, 6}, {0, 1, 3, 2}, {4, 6, 7, 5}, {0, 2, 6, 4}, {1, 5, 7, 3}
    };
    for (int[] s : sides) {
      shape.face(p[s[0]], t[0], p[s[1]], t[1], p[s[2]], t[2], p[s[3]], t[3]);
    }
    PolygonMesh mesh = shape.build(scene.newId(), "stone", granite, core);
    // The last two sides touch the neighbours.
    mesh =
        mesh.withFirst(Semantic.NORMAL, Normals.byAngle(mesh, 30, Progress.NONE)).toBuilder()
            .materials(new int[] {granite, core}, new int[] {0, 0, 0, 0, 1, 1})
            .build();
    scene.add(mesh);
    int id = scene.newId();
    scene.add(
        Node.of(
                id,
                String.format("stone_%02d", index + 1),
                root,
                Node.Content.MeshContent.of(mesh.id()))
            .withTransform(LocalTransform.Trs.of(place, new Quaterniond(), new Vector3d(1))));
    path(id, index, place);
  }

  /** Stands, falls freely while it turns, lies where it lands. */
  private void path(int id, int index, Vector3d place) {
    double begin = 0.3 + 0.02 * Math.abs(index - STONES / 2.0) + 0.1 * random.nextDouble();
    double drift = 90 * (random.nextDouble() - 0.5);
    double push = 60 * (random.nextDouble() - 0.5);
    Vector3d spin = new Vector3d(random.nextDouble() - 0.5, random.nextDouble() - 0.5, 0.2).mul(4);
    double floor = 32;
    double land = begin + Math.sqrt(2 * Math.max(0, place.z - floor) / GRAVITY);
    int frames = (int) Math.round(SECONDS * RATE) + 1;
    double[] times = new double[frames];
    double[] places = new double[3 * frames];
    double[] turns = new double[4 * frames];
    for (int f = 0; f < frames; f++) {
      times[f] = f / RATE;
      double t = Math.max(0, Math.min(times[f], land) - begin);
      places[3 * f] = place.x + drift * t;
      places[3 * f + 1] = place.y + push * t;
      places[3 * f + 2] = place.z - GRAVITY * t * t / 2;
      Quaterniond q = new Quaterniond().rotationXYZ(spin.x * t, spin.y * t, spin.z * t).normalize();
      turns[4 * f] = q.x;
      turns[4 * f + 1] = q.y;
      turns[4 * f + 2] = q.z;
      turns[4 * f + 3] = q.w;
    }
    tracks.add(new Track(id, Clip.TRANSLATION, Interpolation.LINEAR, 3, times, places, null, null));
    tracks.add(new Track(id, Clip.ROTATION, Interpolation.LINEAR, 4, times, turns, null, null));
  }
}
