package ferry.stone.core.format.obj;

import ferry.stone.core.TestFiles;
import ferry.stone.core.format.FormatConformanceTest;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.scene.Scene;
import java.io.IOException;

class ObjConformanceTest extends FormatConformanceTest {
  @Override
  protected String file() {
    return "a.obj";
  }

  @Override
  protected void write(Scene scene, TestFiles out) throws IOException {
    ObjWriter.write(scene, "a", "a", out);
  }

  @Override
  protected Scene read(String file, ReadContext context) throws IOException, FormatException {
    return ObjReader.read(file, context);
  }
}
