package ferry.stone.bench;

import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.obj.read.ObjReader;
import java.nio.file.Path;
import java.util.Collection;
import org.openjdk.jmh.results.RunResult;
import org.openjdk.jmh.runner.Runner;
import org.openjdk.jmh.runner.options.OptionsBuilder;

/**
 * Runs the benchmarks and prints ratios; the argument is part of a benchmark's name, or {@code
 * aims} for all aims in one run, {@code scale} for large files through the disk, {@code fbx} for
 * those of FBX, {@code usd} for those of USD, {@code caches} for caches, {@code steps} for every
 * step and the survey, or {@code fuzz} and seconds for a coverage-guided search for faults.
 */
public final class Run {
  private Run() {}

  public static void main(String[] args) throws Exception {
    if (args.length == 0 || !byItself(args)) {
      micro(args);
    }
  }

  /** The runs that are no micro-benchmarks; whether one was named. */
  private static boolean byItself(String[] args) throws Exception {
    switch (args[0]) {
      case "aims" -> AimsRun.print(Path.of("").toAbsolutePath());
      case "scale" -> GltfScale.print();
      case "caches" -> CacheScale.print();
      case "usd" -> UsdScale.print();
      case "steps" -> StepScale.print();
      case "fbx" -> FbxScale.print(Path.of(args.length > 1 ? args[1] : "e2e/checks"));
      case "fuzz" -> {
        int seconds = args.length > 1 ? Integer.parseInt(args[1]) : 60;
        FuzzRun.run(seconds, Path.of("bench/target/fuzz").toAbsolutePath());
      }
      default -> {
        return false;
      }
    }
    return true;
  }

  private static void micro(String[] args) throws Exception {
    OptionsBuilder options = new OptionsBuilder();
    options.include(args.length > 0 ? args[0] : "ferry.stone.bench");
    Collection<RunResult> results = new Runner(options.build()).run();
    double ours = score(results, "ObjBench.ours");
    if (ours > 0) {
      double megabytes = new ObjText(500).bytes.length / 1e6;
      System.out.printf("%nOBJ, 500 000 triangles, %.1f MB%n", megabytes);
      System.out.printf("  ours            %6.0f MB/s%n", megabytes / ours * 1000);
      double theirs = score(results, "ObjBench.javagl");
      System.out.printf("  de.javagl:obj   %6.0f MB/s%n", megabytes / theirs * 1000);
      System.out.printf("  ours is %.1f times as fast%n", theirs / ours);
      System.out.printf("  ours takes %.0f plain copies%n", ours / score(results, "ObjBench.copy"));
      System.out.printf("  memory kept: %.0f bytes a triangle%n", bytesPerTriangle());
    }
    double read = score(results, "GltfBench.read");
    if (read > 0) {
      double megabytes = GltfBench.glb(GltfBench.sheet(707)).length / 1e6;
      double copy = score(results, "GltfBench.copy");
      System.out.printf("%nGLB, 1 000 000 triangles, %.1f MB%n", megabytes);
      for (String name : new String[] {"read", "write", "jgltf"}) {
        double time = score(results, "GltfBench." + name);
        System.out.printf(
            "  %-6s %6.0f MB/s, %.0f plain copies%n", name, megabytes / time * 1000, time / copy);
      }
    }
    double ground = score(results, "FarSideBench.ground");
    if (ground > 0) {
      double copy = score(results, "FarSideBench.copyOfPositions");
      System.out.printf("%nFar side, 500 000 triangles%n");
      for (String name : new String[] {"ground", "normals", "preview"}) {
        double time = score(results, "FarSideBench." + name);
        System.out.printf("  %-8s %7.1f ms, %.0f plain copies%n", name, time, time / copy);
      }
    }
  }

  private static double score(Collection<RunResult> results, String name) {
    return results.stream()
        .filter(r -> r.getParams().getBenchmark().endsWith(name))
        .mapToDouble(r -> r.getPrimaryResult().getScore())
        .findFirst()
        .orElse(0);
  }

  /** Heap held by a scene, by the difference before and after, over its triangles. */
  private static double bytesPerTriangle() throws Exception {
    ObjText text = new ObjText(500);
    long before = used();
    var scene = ObjReader.read("sheet.obj", ReadContext.of(text));
    long after = used();
    if (scene.meshes().isEmpty()) {
      throw new IllegalStateException("nothing was read");
    }
    return (double) (after - before) / text.triangles;
  }

  private static long used() throws InterruptedException {
    for (int i = 0; i < 4; i++) {
      System.gc();
      Thread.sleep(50);
    }
    Runtime runtime = Runtime.getRuntime();
    return runtime.totalMemory() - runtime.freeMemory();
  }
}
