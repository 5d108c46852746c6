package ferry.stone.bench;

import de.javagl.obj.Obj;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.obj.read.ObjReader;
import ferry.stone.core.scene.Scene;
import java.io.ByteArrayInputStream;
import java.util.concurrent.TimeUnit;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Param;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;

/**
 * Reading an OBJ from memory, against de.javagl:obj 0.4.0 and against a plain copy of the bytes.
 */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MILLISECONDS)
@Warmup(iterations = 3, time = 3)
@Measurement(iterations = 4, time = 3)
@Fork(
    value = 1,
    jvmArgsAppend = {"-Xms5g", "-Xmx5g", "-XX:+UseParallelGC", "-XX:+AlwaysPreTouch"})
public class ObjBench {
  /** Quads along a side: 500 gives 500 000 triangles. */
  @Param({"500"})
  public int side;

  private ObjText text;

  @Setup
  public void make() {
    text = new ObjText(side);
  }

  @Benchmark
  public Scene ours() throws Exception {
    return ObjReader.read("sheet.obj", ReadContext.of(text));
  }

  @Benchmark
  public Obj javagl() throws Exception {
    return de.javagl.obj.ObjReader.read(new ByteArrayInputStream(text.bytes));
  }

  @Benchmark
  public byte[] copy() {
    return text.bytes.clone();
  }
}
