package ferry.stone.core.format.gltf;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatConformanceTest;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.io.IOException;

class GltfConformanceTest extends FormatConformanceTest {
  @Override
  protected String file() {
    return "a.glb";
  }

  @Override
  protected void write(Scene scene, TestFiles out) throws IOException, FormatException {
    GltfWriter.write(
        scene, GltfOptions.glb(), "a", new TestFiles(), out, new Findings(), Progress.NONE);
  }

  @Override
  protected Scene read(String file, ReadContext context) throws IOException, FormatException {
    return GltfReader.read(file, context);
  }
}
