package ferry.stone.bench;

import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.usd.read.UsdReader;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.LocalTransform.Trs;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.scene.node.Node.Content;
import ferry.stone.core.scene.time.PointCache;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.joml.Quaterniond;
import org.joml.Vector3d;

/**
 * Crates of USD: a mesh of a million triangles, a cloth of 1,000 frames and a scene of 20,000
 * prims, as ratios to a plain copy of the same bytes and, where {@code FERRY_PXR} names a Python
 * that has it, to the standard's own library (usd-core) on the same file. Each figure is the best
 * of seven in one run.
 */
final class UsdScale {
  private static final int POINTS = 20_000;
  private static final int FRAMES = 1000;
  private static final int PARTS = 10_000;

  private UsdScale() {}

  private static Scene cloth() {
    float[] points = new float[3 * POINTS];
    int[] corners = new int[3 * (POINTS - 2)];
    int[] offsets = new int[POINTS - 1];
    for (int i = 0; i < POINTS; i++) {
      points[3 * i] = 0.01f * (i / 2);
      points[3 * i + 1] = (float) Math.sin(0.01 * i);
      points[3 * i + 2] = i % 2;
    }
    for (int f = 0; f + 2 < POINTS; f++) {
      corners[3 * f] = f;
      corners[3 * f + 1] = f + 1 + f % 2;
      corners[3 * f + 2] = f + 2 - f % 2;
      offsets[f + 1] = 3 * f + 3;
    }
    SceneBuilder scene = new SceneBuilder("cloth").framesPerSecond(24);
    scene.nextId(10);
    scene.add(PolygonMesh.of(1, "cloth", Coordinates.of(points), Polygons.of(corners, offsets)));
    scene.add(Node.of(2, "cloth", -1, Content.MeshContent.of(1)));
    return scene.caches(List.of(new WavingCloth(3, 1, FRAMES, points))).build();
  }

  /** Groups with a small mesh each: two prims for every part. */
  private static Scene parts() {
    SceneBuilder scene = new SceneBuilder("yard");
    scene.nextId(3 * PARTS + 10);
    scene.add(Node.of(1, "yard", -1, Content.GROUP));
    for (int i = 0; i < PARTS; i++) {
      float[] points = {0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1 + i % 7, 0};
      int[] corners = {0, 1, 2, 0, 2, 3};
      int id = 2 + 3 * i;
      scene.add(
          PolygonMesh.of(
              id, "plank " + i, Coordinates.of(points), Polygons.of(corners, new int[] {0, 3, 6})));
      scene.add(
          Node.of(id + 1, "rack " + i, 0, Content.GROUP)
              .withTransform(
                  Trs.of(new Vector3d(i % 100, 0, i / 100), new Quaterniond(), new Vector3d(1))));
      scene.add(Node.of(id + 2, "plank", 1 + 2 * i, Content.MeshContent.of(id)));
    }
    return scene.build();
  }

  static void print() throws Exception {
    print("mesh of a million triangles", GltfScale.sheet(707));
    print("cloth, 20,000 points, 1,000 frames", cloth());
    print("20,001 prims", parts());
  }

  private static void print(String what, Scene scene) throws Exception {
    Path folder = Files.createTempDirectory("usd");
    Path file = folder.resolve("a.usdc");
    Path copy = folder.resolve("copy");
    LandingOptions options = LandingOptions.of("usdc").with("unit", "m");
    double[] write =
        GltfScale.best(
            () -> Files.deleteIfExists(file), () -> CacheScale.write(scene, options, "a", folder));
    double[] copied = GltfScale.best(() -> CacheScale.copied(file, copy));
    Files.delete(copy);
    double[] read = GltfScale.best(() -> read(folder));
    double megabytes = Files.size(file) / 1e6;
    System.out.printf("%n%s: %.1f MB as crate%n", what, megabytes);
    System.out.printf(
        "  write  %6.2f s, %5.0f MB/s, %.2f of a plain copy's speed; memory at most %.0f MB%n",
        write[0], megabytes / write[0], copied[0] / write[0], write[1]);
    System.out.printf(
        "  read   %6.2f s, %5.0f MB/s, %.2f of a plain copy's speed; memory at most %.0f MB%n",
        read[0], megabytes / read[0], copied[0] / read[0], read[1]);
    library(file, write[0], read[0]);
    Files.delete(file);
    Files.delete(folder);
  }

  /** The same in the standard's own library: all arrays and samples of a file, and all written. */
  private static void library(Path file, double write, double read) throws Exception {
    String python = System.getenv("FERRY_PXR");
    if (python == null) {
      System.out.println("  (FERRY_PXR names no Python with usd-core: no ratio to it)");
      return;
    }
    List<String> command = new ArrayList<>(List.of(python, "-c", SCRIPT, file.toString()));
    Process process =
        new ProcessBuilder(command).redirectError(ProcessBuilder.Redirect.DISCARD).start();
    String[] said = new String(process.getInputStream().readAllBytes()).strip().split(" ");
    if (process.waitFor() != 0 || said.length != 2) {
      throw new IOException(python + " does not run usd-core");
    }
    double theirRead = Double.parseDouble(said[0]);
    double theirWrite = Double.parseDouble(said[1]);
    System.out.printf(
        "  usd-core: write %.2f s, ours %.2f of its speed; read %.2f s, ours %.2f%n",
        theirWrite, theirWrite / write, theirRead, theirRead / read);
  }

  private static final String SCRIPT =
      """
      import os, sys, time
      import numpy
      from pxr import Sdf, Usd

      def read(path):
          layer = Sdf.Layer.OpenAsAnonymous(path)
          stage = Usd.Stage.Open(layer)
          for prim in stage.Traverse():
              for attribute in prim.GetAttributes():
                  times = attribute.GetTimeSamples() or [Usd.TimeCode.Default()]
                  for code in times:
                      value = attribute.Get(code)
                      if value is not None and hasattr(value, '__len__') and not isinstance(value, str):
                          numpy.array(value)
          return layer

      best = [9e9, 9e9]
      for turn in range(7):
          start = time.perf_counter()
          layer = read(sys.argv[1])
          middle = time.perf_counter()
          # A copy in memory first: a crate that is exported from a crate is copied as it is.
          other = Sdf.Layer.CreateAnonymous('.usda')
          other.TransferContent(layer)
          third = time.perf_counter()
          other.Export(sys.argv[1] + '.out.usdc')
          end = time.perf_counter()
          os.remove(sys.argv[1] + '.out.usdc')
          best = [min(best[0], middle - start), min(best[1], end - third)]
      print(best[0], best[1])
      """;

  private static Object read(Path folder) throws Exception {
    Scene scene = UsdReader.read("a.usdc", ReadContext.of(CargoFolder.of(folder)));
    for (PointCache cache : scene.caches()) {
      float[] points = new float[3 * cache.pointCount()];
      for (int s = 0; s < cache.sampleCount(); s++) {
        cache.read(s, 0, cache.pointCount(), points);
      }
    }
    return scene;
  }
}
