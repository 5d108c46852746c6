package ferry.stone.bench;

import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.format.Formats;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.time.PointCache;
import ferry.stone.core.work.Progress;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Random;

/**
 * A cloth of 200,000 points as Alembic, MDD and PC2, of two lengths: writing and reading all of it
 * as a ratio to a plain copy of the same bytes, and opening and reading any one sample, which must
 * not grow with the file. Each figure is the best of seven in one run.
 */
final class CacheScale {
  private static final int SIDE = 447;
  private static final int POINTS = SIDE * SIDE;
  private static final int[] LENGTHS = {50, 400};
  private static final int ANY = 40;
  private static final int BLOCK = 1 << 16;

  private CacheScale() {}

  private static Scene cloth(int samples) {
    float[] points = new float[3 * POINTS];
    int[] corners = new int[4 * (SIDE - 1) * (SIDE - 1)];
    int[] offsets = new int[corners.length / 4 + 1];
    int at = 0;
    for (int i = 0; i < POINTS; i++) {
      int x = i % SIDE;
      int z = i / SIDE;
      points[3 * i] = 0.01f * x;
      points[3 * i + 1] = (float) (0.2 * Math.sin(0.05 * x + 0.03 * z));
      points[3 * i + 2] = 0.01f * z;
      if (x + 1 < SIDE && z + 1 < SIDE) {
        corners[at] = i;
        corners[at + 1] = i + SIDE;
        corners[at + 2] = i + SIDE + 1;
        corners[at + 3] = i + 1;
        at += 4;
        offsets[at / 4] = at;
      }
    }
    SceneBuilder scene = new SceneBuilder("cloth").framesPerSecond(24);
    scene.nextId(10);
    scene.add(PolygonMesh.of(1, "cloth", Coordinates.of(points), Polygons.of(corners, offsets)));
    scene.add(Node.of(2, "cloth", -1, Node.Content.MeshContent.of(1)));
    return scene.caches(List.of(new WavingCloth(3, 1, samples, points))).build();
  }

  static void print() throws Exception {
    for (String format : new String[] {"abc", "mdd", "pc2"}) {
      for (int samples : LENGTHS) {
        print(format, samples);
      }
    }
  }

  private static void print(String format, int samples) throws Exception {
    Path folder = Files.createTempDirectory("caches");
    Path file = folder.resolve("cloth." + format);
    Path copy = folder.resolve("copy");
    Scene scene = cloth(samples);
    LandingOptions options = LandingOptions.of(format).with("unit", "m");
    double[] write = GltfScale.best(() -> write(scene, options, "cloth", folder));
    double[] copied = GltfScale.best(() -> copied(file, copy));
    Files.delete(copy);
    double[] open = GltfScale.best(() -> open(format, folder));
    PointCache cache = open(format, folder).caches().get(0);
    double[] read = GltfScale.best(() -> all(cache));
    double[] bytes = GltfScale.best(() -> bytes(file));
    double[] any = GltfScale.best(() -> any(cache));
    double megabytes = Files.size(file) / 1e6;
    System.out.printf(
        "%n%s, %,d points, %d samples: %.0f MB%n", format, POINTS, samples, megabytes);
    System.out.printf(
        "  write      %6.0f MB/s, %.2f of a plain copy's speed; memory at most %.0f MB%n",
        megabytes / write[0], copied[0] / write[0], write[1]);
    System.out.printf(
        "  read all   %6.0f MB/s, %.2f of a plain copy's speed, %.2f of reading the bytes; memory at"
            + " most %.0f MB%n",
        megabytes / read[0], copied[0] / read[0], bytes[0] / read[0], read[1]);
    System.out.printf(
        "  open       %6.1f ms; any sample %.1f ms%n", 1000 * open[0], 1000 * any[0] / ANY);
    Files.delete(file);
    Files.delete(folder);
  }

  static Object write(Scene scene, LandingOptions options, String stem, Path folder)
      throws Exception {
    return Landing.write(
        scene,
        options,
        stem,
        CargoFolder.of(folder),
        path -> new FileOutputStream(folder.resolve(path).toFile()),
        Progress.NONE);
  }

  private static Scene open(String format, Path folder) throws Exception {
    return Formats.find(format)
        .orElseThrow()
        .reader()
        .orElseThrow()
        .read("cloth." + format, ReadContext.of(CargoFolder.of(folder)));
  }

  private static Object all(PointCache cache) throws IOException {
    float[] points = new float[3 * POINTS];
    for (int s = 0; s < cache.sampleCount(); s++) {
      cache.read(s, 0, POINTS, points);
    }
    return points;
  }

  private static Object any(PointCache cache) throws IOException {
    Random random = new Random(1);
    float[] points = new float[3 * POINTS];
    for (int k = 0; k < ANY; k++) {
      cache.read(random.nextInt(cache.sampleCount()), 0, POINTS, points);
    }
    return points;
  }

  static Object copied(Path from, Path to) throws IOException {
    byte[] block = new byte[BLOCK];
    long all = 0;
    try (InputStream in = Files.newInputStream(from);
        OutputStream out = Files.newOutputStream(to)) {
      for (int n = in.read(block); n > 0; n = in.read(block)) {
        out.write(block, 0, n);
        all += n;
      }
    }
    return all;
  }

  private static Object bytes(Path file) throws IOException {
    byte[] block = new byte[BLOCK];
    long all = 0;
    try (InputStream in = Files.newInputStream(file)) {
      for (int n = in.read(block); n > 0; n = in.read(block)) {
        all += n;
      }
    }
    return all;
  }
}
