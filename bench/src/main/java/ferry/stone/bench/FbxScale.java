package ferry.stone.bench;

import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.fbx.read.FbxReader;
import ferry.stone.core.format.fbx.write.FbxOptions;
import ferry.stone.core.format.fbx.write.FbxWriter;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.node.LocalTransform;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.Clip;
import ferry.stone.core.scene.time.Clip.Interpolation;
import ferry.stone.core.scene.time.Clip.Track;
import ferry.stone.core.work.Progress;
import java.io.BufferedOutputStream;
import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.Deflater;
import java.util.zip.DeflaterOutputStream;
import java.util.zip.Inflater;
import java.util.zip.InflaterOutputStream;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * A mesh of a million triangles and a rig of 500 joints with 2,000 frames as binary FBX: time as a
 * ratio to deflating and inflating the same numbers, which no reader or writer can do without, and
 * to three's FBXLoader under Node.js on the same file. Each figure is the best of seven in one run.
 */
final class FbxScale {
  private static final int JOINTS = 500;
  private static final int FRAMES = 2000;
  private static final double RATE = 30;

  private FbxScale() {}

  static void print(Path checks) throws Exception {
    Scene sheet = GltfScale.sheet(707);
    print("mesh of a million triangles", sheet, numbers(sheet.meshes().get(0)), checks);
    print("500 joints, 2,000 frames", rig(), keys(), checks);
  }

  private static void print(String what, Scene scene, byte[] numbers, Path checks)
      throws Exception {
    Path folder = Files.createTempDirectory("scale");
    Path file = folder.resolve("a.fbx");
    double[] write = GltfScale.best(() -> write(scene, file));
    double[] read = GltfScale.best(() -> FbxReader.read("a.fbx", context(folder)));
    byte[] packed = deflated(numbers);
    double[] deflate = GltfScale.best(() -> deflated(numbers));
    double[] inflate = GltfScale.best(() -> inflated(packed));
    System.out.printf(
        "%nFBX 7.4 binary, %s: %.0f MB, of numbers %.0f MB unpacked%n",
        what, Files.size(file) / 1e6, numbers.length / 1e6);
    line("write", write, numbers.length, deflate[0], "deflating");
    line("read", read, numbers.length, inflate[0], "inflating");
    double theirs = three(file, checks);
    System.out.printf(
        "  three's FBXLoader        %6.0f MB/s, %.1f times our reading%n",
        numbers.length / 1e6 / theirs, theirs / read[0]);
    Files.delete(file);
    Files.delete(folder);
  }

  private static ReadContext context(Path folder) throws Exception {
    return ReadContext.of(CargoFolder.of(folder));
  }

  private static void line(String what, double[] figures, long bytes, double floor, String how) {
    System.out.printf(
        "  %-24s %6.0f MB/s, %.1f times %s the numbers; memory at most %.0f MB%n",
        what, bytes / 1e6 / figures[0], figures[0] / floor, how, figures[1]);
  }

  private static double three(Path file, Path checks) throws Exception {
    Process process =
        new ProcessBuilder("node", "--max-old-space-size=6000", "time-fbx.mjs", file.toString())
            .directory(checks.toFile())
            .redirectError(ProcessBuilder.Redirect.INHERIT)
            .start();
    String out = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    return process.waitFor() == 0 ? Double.parseDouble(out.strip()) : Double.NaN;
  }

  private static Object write(Scene scene, Path file) throws Exception {
    return FbxWriter.write(
        scene,
        FbxOptions.USUAL,
        "a",
        new GltfBench.OneFile("none", new byte[0]),
        path -> new BufferedOutputStream(Files.newOutputStream(file), 1 << 16),
        new Findings(),
        Progress.NONE);
  }

  private static byte[] deflated(byte[] bytes) throws Exception {
    ByteArrayOutputStream out = new ByteArrayOutputStream(bytes.length);
    Deflater deflater = new Deflater(Deflater.BEST_SPEED);
    try (DeflaterOutputStream zip = new DeflaterOutputStream(out, deflater, 1 << 16)) {
      zip.write(bytes);
    }
    return out.toByteArray();
  }

  private static byte[] inflated(byte[] bytes) throws Exception {
    ByteArrayOutputStream out = new ByteArrayOutputStream(bytes.length * 2);
    try (InflaterOutputStream zip = new InflaterOutputStream(out, new Inflater(), 1 << 16)) {
      zip.write(bytes);
    }
    return out.toByteArray();
  }

  /** Positions and normals as doubles, corners as integers: what the file holds. */
  private static byte[] numbers(PolygonMesh mesh) {
    int corners = mesh.faces().cornerCount();
    float[] normals = mesh.attributes().get(0).values();
    ByteBuffer out =
        ByteBuffer.allocate(24 * mesh.points().count() + 4 * corners + 8 * normals.length);
    for (int i = 0; i < 3 * mesh.points().count(); i++) {
      out.putDouble(mesh.points().at(i));
    }
    for (int c = 0; c < corners; c++) {
      out.putInt(mesh.faces().vertex(c));
    }
    for (float n : normals) {
      out.putDouble(n);
    }
    return out.array();
  }

  private static double angle(int joint, int frame) {
    return 40 * Math.sin(0.05 * frame + joint);
  }

  /** Times as 64-bit ticks and values as floats of three curves a joint. */
  private static byte[] keys() {
    ByteBuffer out = ByteBuffer.allocate(JOINTS * FRAMES * 3 * 12);
    for (int j = 0; j < 3 * JOINTS; j++) {
      for (int f = 0; f < FRAMES; f++) {
        out.putLong(Math.round(f / RATE * 46_186_158_000.0));
      }
      for (int f = 0; f < FRAMES; f++) {
        out.putFloat((float) (j % 3 == 0 ? angle(j / 3, f) : 0));
      }
    }
    return out.array();
  }

  static Scene rig() {
    SceneBuilder scene =
        new SceneBuilder("rig").frame(Frame.Y_UP_METRE, FrameSource.FORMAT, FrameSource.FORMAT);
    scene.framesPerSecond(RATE);
    double[] times = new double[FRAMES];
    for (int f = 0; f < FRAMES; f++) {
      times[f] = f / RATE;
    }
    List<Track> tracks = new ArrayList<>();
    for (int j = 0; j < JOINTS; j++) {
      int id = scene.newId();
      scene.add(
          Node.of(id, "joint_" + j, j == 0 ? -1 : (j - 1) / 2, new Node.Content.Joint(1))
              .withTransform(
                  LocalTransform.Trs.of(
                      new Vector3d(0, 1, 0), new Quaterniond(), new Vector3d(1))));
      double[] values = new double[4 * FRAMES];
      for (int f = 0; f < FRAMES; f++) {
        double half = Math.toRadians(angle(j, f)) / 2;
        values[4 * f] = Math.sin(half);
        values[4 * f + 3] = Math.cos(half);
      }
      tracks.add(new Track(id, Clip.ROTATION, Interpolation.LINEAR, 4, times, values, null, null));
    }
    scene.add(new Clip(scene.newId(), "march", 0, times[FRAMES - 1], tracks));
    return scene.build();
  }
}
