package ferry.stone.bench;

import de.javagl.jgltf.model.io.GltfModelReader;
import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.gltf.read.GltfReader;
import ferry.stone.core.format.gltf.write.GltfOptions;
import ferry.stone.core.format.gltf.write.GltfWriter;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.mesh.Attribute;
import ferry.stone.core.scene.mesh.Coordinates;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.mesh.Polygons;
import ferry.stone.core.scene.node.Node;
import ferry.stone.core.work.Progress;
import java.io.BufferedOutputStream;
import java.lang.management.ManagementFactory;
import java.lang.management.MemoryType;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;

/**
 * Files of growing size through the disk: time as a ratio to copying the same bytes, and the most
 * memory that was in use. Each figure is the best of seven in one run.
 */
final class GltfScale {
  private static final int ROUNDS = 7;

  private GltfScale() {}

  static void print() throws Exception {
    for (int side : new int[] {707, 2236}) {
      Path folder = Files.createTempDirectory("scale");
      Path file = folder.resolve("sheet.glb");
      Scene scene = sheet(side);
      long triangles = scene.meshes().get(0).faces().triangleCount();
      double[] write = best(() -> write(scene, file));
      double megabytes = Files.size(file) / 1e6;
      double[] copy = best(() -> Files.readAllBytes(file).clone());
      double[] read =
          best(() -> GltfReader.read("sheet.glb", ReadContext.of(CargoFolder.of(folder))));
      double[] theirs = best(() -> GltfBench.positions(new GltfModelReader().read(file)));
      System.out.printf("%nGLB, %,d triangles, %.0f MB, through the disk%n", triangles, megabytes);
      line("write", write, copy, megabytes);
      line("read", read, copy, megabytes);
      line("jgltf-model, positions", theirs, copy, megabytes);
      Files.delete(file);
      Files.delete(folder);
    }
  }

  private static void line(String what, double[] figures, double[] copy, double megabytes) {
    System.out.printf(
        "  %-24s %6.0f MB/s, %.1f times reading the bytes; memory at most %.0f MB%n",
        what, megabytes / figures[0], figures[0] / copy[0], figures[1]);
  }

  private static Object write(Scene scene, Path file) throws Exception {
    return GltfWriter.write(
        scene,
        GltfOptions.glb(),
        "sheet",
        new GltfBench.OneFile("none", new byte[0]),
        path -> new BufferedOutputStream(Files.newOutputStream(file), 1 << 16),
        new Findings(),
        Progress.NONE);
  }

  /** Best seconds, and the most memory in use above what was in use before, in MB. */
  static double[] best(Callable<Object> work) throws Exception {
    return best(() -> null, work);
  }

  /**
   * @param before is done before each round, and counts for nothing
   */
  static double[] best(Callable<Object> before, Callable<Object> work) throws Exception {
    double seconds = Double.POSITIVE_INFINITY;
    double memory = Double.POSITIVE_INFINITY;
    for (int i = 0; i < ROUNDS; i++) {
      System.gc();
      Runtime runtime = Runtime.getRuntime();
      before.call();
      long used = runtime.totalMemory() - runtime.freeMemory();
      var pools =
          ManagementFactory.getMemoryPoolMXBeans().stream()
              .filter(p -> p.getType() == MemoryType.HEAP)
              .toList();
      pools.forEach(p -> p.resetPeakUsage());
      long start = System.nanoTime();
      Object result = work.call();
      seconds = Math.min(seconds, (System.nanoTime() - start) / 1e9);
      long peak = pools.stream().mapToLong(p -> p.getPeakUsage().getUsed()).sum();
      memory = Math.min(memory, (peak - used) / 1e6);
      if (result == null) {
        throw new IllegalStateException("nothing was made");
      }
    }
    return new double[] {seconds, memory};
  }

  /** A wavy sheet of so many quads along a side, cut into triangles, with normals. */
  static Scene sheet(int side) {
    int n = side + 1;
    float[] xyz = new float[3 * n * n];
    float[] normals = new float[3 * n * n];
    for (int v = 0; v < n * n; v++) {
      xyz[3 * v] = v % n;
      xyz[3 * v + 1] = (float) Math.sin(v * 1e-3);
      xyz[3 * v + 2] = v / n;
      normals[3 * v + 1] = 1;
    }
    int[] corners = new int[6 * side * side];
    for (int q = 0; q < side * side; q++) {
      int a = q / side * n + q % side;
      int[] quad = {a, a + n, a + 1, a + 1, a + n, a + n + 1};
      System.arraycopy(quad, 0, corners, 6 * q, 6);
    }
    SceneBuilder scene =
        new SceneBuilder("sheet").frame(Frame.Y_UP_METRE, FrameSource.FORMAT, FrameSource.FORMAT);
    PolygonMesh mesh =
        PolygonMesh.of(scene.newId(), "sheet", Coordinates.of(xyz), Polygons.triangles(corners))
            .withAttributes(
                List.of(
                    new Attribute(
                        "NORMAL",
                        Attribute.Semantic.NORMAL,
                        Attribute.Domain.VERTEX,
                        3,
                        normals,
                        null)));
    scene.add(mesh);
    scene.add(Node.of(scene.newId(), "sheet", -1, Node.Content.MeshContent.of(mesh.id())));
    return scene.build();
  }
}
