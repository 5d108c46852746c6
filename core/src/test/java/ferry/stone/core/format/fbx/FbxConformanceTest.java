package ferry.stone.core.format.fbx;

import ferry.stone.core.TestFiles;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatConformanceTest;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import org.junit.jupiter.api.Nested;

class FbxConformanceTest {
  private abstract static class OfForm extends FormatConformanceTest {
    private final FbxOptions.Form form;

    OfForm(FbxOptions.Form form) {
      this.form = form;
    }

    @Override
    protected String file() {
      return "a.fbx";
    }

    @Override
    protected void write(Scene scene, TestFiles out) throws IOException, FormatException {
      FbxOptions options = new FbxOptions(form, 7400, true, false, FbxOptions.TOLERANCE);
      FbxWriter.write(scene, options, "a", new TestFiles(), out, new Findings(), Progress.NONE);
    }

    @Override
    protected Scene read(String file, ReadContext context) throws IOException, FormatException {
      return FbxReader.read(file, context);
    }
  }

  @Nested
  class Binary extends OfForm {
    Binary() {
      super(FbxOptions.Form.BINARY);
    }
  }

  @Nested
  class Text extends OfForm {
    Text() {
      super(FbxOptions.Form.TEXT);
    }
  }
}
