package ferry.stone.bench;

import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.obj.read.ObjReader;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.view.Preview;
import ferry.stone.core.work.Progress;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;

/** What stands between a changed step and the far side's picture, at 500 000 triangles. */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MILLISECONDS)
@Warmup(iterations = 3, time = 2)
@Measurement(iterations = 4, time = 2)
@Fork(
    value = 1,
    jvmArgsAppend = {"-Xms4g", "-Xmx4g"})
public class FarSideBench {
  private Scene scene;
  private float[] floats;

  @Setup
  public void make() throws Exception {
    scene = ObjReader.read("sheet.obj", ReadContext.of(new ObjText(500)));
    floats = scene.meshes().get(0).points().toFloats();
  }

  private Scene run(Step... steps) {
    return Handling.result(scene, Handling.run(scene, List.of(steps), Progress.NONE));
  }

  @Benchmark
  public Scene ground() {
    return run(new Step("a", "ground", Map.of(), true, List.of()));
  }

  @Benchmark
  public Scene normals() {
    return run(new Step("a", "normals", Map.of("angle", 40), true, List.of()));
  }

  @Benchmark
  public byte[] preview() {
    return Preview.of(scene.meshes().get(0), scene);
  }

  @Benchmark
  public float[] copyOfPositions() {
    return floats.clone();
  }
}
