package ferry.stone.core.format;

import ferry.stone.core.TestFiles;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import org.junit.jupiter.api.Nested;

/** Formats of bare parts, each in all its encodings. */
class FlatConformanceTest {
  private abstract static class OfEncoding extends FormatConformanceTest {
    private final LandingOptions options;

    OfEncoding(String format, String encoding) {
      options =
          LandingOptions.of(format).with("encoding", encoding).with("unit", "m").with("up", "y");
    }

    @Override
    protected String file() {
      return "a." + options.format();
    }

    @Override
    protected void write(Scene scene, TestFiles out) throws IOException, FormatException {
      Landing.write(scene, options, "a", new TestFiles(), out, Progress.NONE);
    }

    @Override
    protected Scene expected(Scene scene) {
      SceneWriter writer = Formats.writer(options.format());
      var values = ferry.stone.core.field.Values.of(writer.fields(), options.options());
      return writer.holding(values).held(writer.prepared(scene, values), file());
    }

    @Override
    protected Scene read(String file, ReadContext context) throws IOException, FormatException {
      return Formats.find(options.format())
          .orElseThrow()
          .reader()
          .orElseThrow()
          .read(file, context);
    }
  }

  @Nested
  class StlBinary extends OfEncoding {
    StlBinary() {
      super("stl", "binary");
    }
  }

  @Nested
  class StlText extends OfEncoding {
    StlText() {
      super("stl", "text");
    }
  }

  @Nested
  class PlyBinary extends OfEncoding {
    PlyBinary() {
      super("ply", "binary");
    }
  }

  @Nested
  class PlyBinaryBig extends OfEncoding {
    PlyBinaryBig() {
      super("ply", "binarybig");
    }
  }

  @Nested
  class PlyText extends OfEncoding {
    PlyText() {
      super("ply", "text");
    }
  }
}
