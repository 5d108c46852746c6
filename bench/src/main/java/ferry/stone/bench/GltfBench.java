package ferry.stone.bench;

import de.javagl.jgltf.model.AccessorFloatData;
import de.javagl.jgltf.model.GltfModel;
import de.javagl.jgltf.model.io.GltfModelReader;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.gltf.read.GltfReader;
import ferry.stone.core.format.gltf.write.GltfOptions;
import ferry.stone.core.format.gltf.write.GltfWriter;
import ferry.stone.core.format.obj.read.ObjReader;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.InputStream;
import java.util.List;
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
 * Reading and writing a GLB in memory, against jgltf-model 2.0 reading the same bytes and summing
 * its positions, and against a plain copy.
 */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MILLISECONDS)
@Warmup(iterations = 3, time = 2)
@Measurement(iterations = 4, time = 2)
@Fork(
    value = 1,
    jvmArgsAppend = {"-Xms5g", "-Xmx5g", "-XX:+UseParallelGC"})
public class GltfBench {
  /** Quads along a side: 707 gives a million triangles. */
  @Param({"707"})
  public int side;

  private Scene scene;
  private byte[] glb;

  /** The GLB of a sheet. */
  static byte[] glb(Scene scene) throws Exception {
    ByteArrayOutputStream out = new ByteArrayOutputStream(1 << 20);
    GltfWriter.write(
        scene,
        GltfOptions.glb(),
        "sheet",
        new OneFile("none", new byte[0]),
        path -> out,
        new Findings(),
        Progress.NONE);
    return out.toByteArray();
  }

  static Scene sheet(int side) throws Exception {
    Scene read = ObjReader.read("sheet.obj", ReadContext.of(new ObjText(side)));
    return Rebase.intoData(
        read.toBuilder().frame(Frame.Y_UP_METRE, FrameSource.CHOSEN, FrameSource.CHOSEN).build(),
        Frame.Y_UP_METRE);
  }

  @Setup
  public void make() throws Exception {
    scene = sheet(side);
    glb = glb(scene);
  }

  @Benchmark
  public Scene read() throws Exception {
    return GltfReader.read("sheet.glb", ReadContext.of(new OneFile("sheet.glb", glb)));
  }

  @Benchmark
  public byte[] write() throws Exception {
    return glb(scene);
  }

  @Benchmark
  public double jgltf() throws Exception {
    return positions(new GltfModelReader().readWithoutReferences(new ByteArrayInputStream(glb)));
  }

  /** All positions of the first mesh, summed. */
  static double positions(GltfModel model) {
    AccessorFloatData positions =
        (AccessorFloatData)
            model
                .getMeshModels()
                .get(0)
                .getMeshPrimitiveModels()
                .get(0)
                .getAttributes()
                .get("POSITION")
                .getAccessorData();
    double sum = 0;
    for (int i = 0; i < positions.getNumElements(); i++) {
      sum += positions.get(i, 0) + positions.get(i, 1) + positions.get(i, 2);
    }
    return sum;
  }

  @Benchmark
  public byte[] copy() {
    return glb.clone();
  }

  /** One file in memory. */
  record OneFile(String name, byte[] bytes) implements Resources {
    @Override
    public List<String> paths() {
      return List.of(name);
    }

    @Override
    public boolean contains(String path) {
      return name.equals(path);
    }

    @Override
    public long size(String path) {
      return bytes.length;
    }

    @Override
    public InputStream open(String path) {
      return new ByteArrayInputStream(bytes);
    }
  }
}
