package ferry.stone.bench;

import ferry.stone.core.TestFiles;
import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.fbx.read.FbxReader;
import ferry.stone.core.format.files.MemoryFiles;
import ferry.stone.core.format.gltf.read.GltfReader;
import ferry.stone.core.format.obj.read.ObjReader;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.routine.FortyAssets;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.shore.Shores;
import ferry.stone.core.survey.Survey;
import ferry.stone.core.survey.SurveyMemo;
import ferry.stone.core.work.Progress;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.stream.Stream;

/**
 * All aims of speed in one run, each as a ratio to something measured in turns with it: best of six
 * turns when warm, a sheet of a million triangles. Whole calls of the command line are best of
 * some.
 */
final class AimsRun {
  private static final int SIDE = 707;
  private static final int ROUNDS = 6;

  /** Seconds of a turn, of at least two calls. */
  private static final double TURN = 0.5;

  /** Seconds that the compiler gets first. */
  private static final double WARM = 8;

  /** Whole calls of the command line, of which the best counts. */
  private static final int CALLS = 3;

  /** Batches on one core and on two, in turns. */
  private static final int PAIRS = 7;

  /** Large assets of a batch: so many, of twice this squared triangles. */
  private static final int MANY = 40;

  private static final int LARGE = 350;
  private static final List<String> FORMATS =
      List.of("glb", "fbx", "usdc", "abc", "obj", "ply", "stl");

  private final Path root;
  private final Path work;

  private AimsRun(Path root, Path work) {
    this.root = root;
    this.work = work;
  }

  /**
   * @param root folder of the project, with the command line built in it
   */
  static void print(Path root) throws Exception {
    Path work = Files.createTempDirectory("aims");
    try {
      AimsRun aims = new AimsRun(root, work);
      aims.reading();
      aims.proofs();
      aims.fbx();
      aims.calls();
    } finally {
      delete(work);
    }
  }

  private static void delete(Path folder) throws Exception {
    try (Stream<Path> files = Files.walk(folder)) {
      for (Path file : files.sorted(Comparator.reverseOrder()).toList()) {
        Files.delete(file);
      }
    }
  }

  private static void line(String what, double ratio, boolean atMost, double aim) {
    boolean reached = atMost ? ratio <= aim : ratio >= aim;
    System.out.printf(
        "%-58s %6.2f  aim %s %.4g  %s%n",
        what, ratio, atMost ? "≤" : "≥", aim, reached ? "reached" : "NOT reached");
  }

  /**
   * Seconds of each of some pieces of work, once they are warm, in turns: what else the machine
   * does then weighs on all. A turn is long enough for each to pay for what it leaves to be
   * collected.
   */
  private static double[] inTurns(List<Callable<Object>> works) throws Exception {
    double[] best = new double[works.size()];
    Arrays.fill(best, Double.POSITIVE_INFINITY);
    for (Callable<Object> work : works) {
      for (double seconds = 0; seconds < WARM; ) {
        seconds += seconds(work);
      }
    }
    for (int round = 0; round < ROUNDS; round++) {
      for (int w = 0; w < best.length; w++) {
        double spent = 0;
        for (int call = 0; call < 2 || spent < TURN; call++) {
          double seconds = seconds(works.get(w));
          spent += seconds;
          best[w] = Math.min(best[w], seconds);
        }
      }
    }
    return best;
  }

  private static double seconds(Callable<Object> work) throws Exception {
    long start = System.nanoTime();
    if (work.call() == null) {
      throw new IllegalStateException("nothing was made");
    }
    return (System.nanoTime() - start) / 1e9;
  }

  private void reading() throws Exception {
    ObjText text = new ObjText(SIDE);
    Scene read = ObjReader.read("sheet.obj", ReadContext.of(text));
    double[] obj =
        inTurns(
            List.of(
                () -> ObjReader.read("sheet.obj", ReadContext.of(text)),
                () -> Survey.of(read, List.of(), Shores.usual(), new SurveyMemo(), Progress.NONE),
                () -> de.javagl.obj.ObjReader.read(new ByteArrayInputStream(text.bytes))));
    line("OBJ read, times as fast as de.javagl:obj", obj[2] / obj[0], false, 5);
    line("survey of it, times its read", obj[1] / obj[0], true, 1);
    byte[] glb = GltfBench.glb(GltfScale.sheet(SIDE));
    MemoryFiles file = new MemoryFiles(Map.of("a.glb", glb));
    double[] gltf =
        inTurns(List.of(() -> GltfReader.read("a.glb", ReadContext.of(file)), glb::clone));
    line("GLB read, plain copies of its bytes", gltf[0] / gltf[1], true, 3);
  }

  private void proofs() throws Exception {
    Scene sheet = GltfScale.sheet(SIDE);
    for (String format : FORMATS) {
      LandingOptions options = LandingOptions.of(format);
      TestFiles none = new TestFiles();
      TestFiles out = new TestFiles();
      Landing landing = Landing.write(sheet, options, "a", none, out, Progress.NONE);
      double[] both =
          inTurns(
              List.of(
                  () -> Landing.write(sheet, options, "a", none, new TestFiles(), Progress.NONE),
                  () -> Proof.of(sheet, sheet, landing.landed(options, out), none, Progress.NONE)));
      line("proof of " + format + ", times the write", both[1] / both[0], true, 2);
    }
  }

  /** Against the ufbx crate, where its reader is built: the tests under e2e do that. */
  private void fbx() throws Exception {
    Path program = root.resolve("e2e/target/ufbx/release/look");
    if (!Files.isExecutable(program)) {
      System.out.println(
          "FBX read against ufbx: not measured, its reader is not built (the tests under e2e do it"
              + " where Rust is)");
      return;
    }
    fbx(program, "mesh", GltfScale.sheet(SIDE), 1);
    fbx(program, "rig", FbxScale.rig(), 0.7);
  }

  private void fbx(Path program, String what, Scene scene, double aim) throws Exception {
    TestFiles out = new TestFiles();
    LandingOptions options = LandingOptions.of("fbx");
    Landing.write(scene, options, "a", new TestFiles(), out, Progress.NONE);
    Path file = Files.write(work.resolve(what + ".fbx"), out.bytes("a.fbx"));
    CargoFolder folder = new CargoFolder(Map.of("a.fbx", file));
    double ours = Double.POSITIVE_INFINITY;
    double theirs = Double.POSITIVE_INFINITY;
    for (int i = 0; i < CALLS; i++) {
      theirs = Math.min(theirs, timed(program, file));
      ours =
          Math.min(
              ours, inTurns(List.of(() -> FbxReader.read("a.fbx", ReadContext.of(folder))))[0]);
    }
    line("FBX read of a " + what + ", times as fast as ufbx", theirs / ours, false, aim);
  }

  /** Seconds that ufbx takes, as its program measures them. */
  private static double timed(Path program, Path file) throws Exception {
    Process process =
        new ProcessBuilder(program.toString(), "--time", file.toString())
            .redirectError(ProcessBuilder.Redirect.INHERIT)
            .start();
    String seconds =
        new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8).strip();
    process.waitFor();
    return Double.parseDouble(seconds);
  }

  private void calls() throws Exception {
    Path plank = work.resolve("plank.obj");
    Files.writeString(plank, "o plank\nv 0 0 0\nv 2 0 0\nv 2 1 0\nv 0 1 0\nf 1 2 3 4\n");
    double inspect = called(CALLS, "inspect", plank.toString());
    line("inspect of a small file, s", inspect, true, 0.6);
    Path in = Files.createDirectory(work.resolve("forty"));
    FortyAssets.write(in);
    Path routine = Files.writeString(work.resolve("forty.json"), FortyAssets.ROUTINE);
    double two = Double.POSITIVE_INFINITY;
    for (int i = 0; i < CALLS; i++) {
      two = Math.min(two, batch(in, routine, List.of(), 2));
    }
    double apart = 0;
    try (Stream<Path> files = Files.list(in)) {
      for (Path asset : files.toList()) {
        apart +=
            called(
                1,
                "convert",
                asset.toString(),
                "--to",
                "glb",
                "--unit-in",
                "m",
                "--out",
                work.resolve("apart/" + asset.getFileName()).toString());
      }
    }
    line("batch of forty small assets, times forty calls", apart / two, false, 10);
    cores(routine);
  }

  /** One core is what a program is held to; with both, the compiler works on the second. */
  private void cores(Path routine) throws Exception {
    Path taskset = Path.of("/usr/bin/taskset");
    if (!Files.isExecutable(taskset) || Runtime.getRuntime().availableProcessors() < 2) {
      System.out.println("batch on two cores: not measured, there are not two, or no taskset");
      return;
    }
    Path in = Files.createDirectory(work.resolve("sheets"));
    byte[] glb = GltfBench.glb(GltfScale.sheet(LARGE));
    for (int i = 0; i < MANY; i++) {
      Files.write(in.resolve("sheet-" + i + ".glb"), glb);
    }
    double[] ratios = new double[PAIRS];
    for (int i = 0; i < PAIRS; i++) {
      double one = batch(in, routine, List.of(taskset.toString(), "-c", "0"), 1);
      double two = batch(in, routine, List.of(taskset.toString(), "-c", "0,1"), 2);
      System.out.printf("  %.1f s on one core, %.1f s on two%n", one, two);
      ratios[i] = one / two;
    }
    // Whole processes are slowed by others now and then, on one core or on two: the median is not.
    Arrays.sort(ratios);
    line("batch of large assets on two cores, times one by one", ratios[PAIRS / 2], false, 1.8);
  }

  /** Seconds of one whole batch. */
  private double batch(Path in, Path routine, List<String> held, int jobs) throws Exception {
    Path out = Files.createTempDirectory(work, "out");
    String[] run = {
      "run",
      in.toString(),
      "--routine",
      routine.toString(),
      "--out",
      out.toString(),
      "--jobs",
      String.valueOf(jobs)
    };
    double seconds = called(1, held, run);
    // What is still to be written to the disk would weigh on what comes next.
    delete(out);
    return seconds;
  }

  /** Seconds of a whole call, the best of some. */
  private double called(int rounds, String... arguments) throws Exception {
    return called(rounds, List.of(), arguments);
  }

  /**
   * @param before what the call is a part of
   */
  private double called(int rounds, List<String> before, String... arguments) throws Exception {
    List<String> command = new ArrayList<>(before);
    command.add(root.resolve("ferry").toString());
    command.addAll(List.of(arguments));
    double best = Double.POSITIVE_INFINITY;
    for (int i = 0; i < rounds; i++) {
      long start = System.nanoTime();
      new ProcessBuilder(command)
          .redirectOutput(ProcessBuilder.Redirect.DISCARD)
          .redirectError(ProcessBuilder.Redirect.DISCARD)
          .start()
          .waitFor();
      best = Math.min(best, (System.nanoTime() - start) / 1e9);
    }
    return best;
  }
}
