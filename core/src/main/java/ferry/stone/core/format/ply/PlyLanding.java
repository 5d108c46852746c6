package ferry.stone.core.format.ply;

import ferry.stone.core.field.Field;
import ferry.stone.core.field.Values;
import ferry.stone.core.format.Capability;
import ferry.stone.core.format.CargoPath;
import ferry.stone.core.format.FlatFields;
import ferry.stone.core.format.FlatParts;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Holding;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.Resources;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.shore.Shore;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Landing as PLY. */
final class PlyLanding implements SceneWriter {
  @Override
  public List<Field> fields() {
    List<Field> fields = new ArrayList<>();
    fields.add(
        Field.choice(
                "encoding",
                "Encoding of the file",
                "Binary with the low byte first is read nearly everywhere.",
                "binary",
                "Binary, low byte first",
                "binarybig",
                "Binary, high byte first",
                "text",
                "Text")
            .under("Encoding"));
    fields.addAll(FlatFields.frame("m", "y"));
    return fields;
  }

  @Override
  public Map<String, Object> wanted(Shore shore) {
    return FlatFields.wanted(shore);
  }

  @Override
  public void check(Values options) {
    frame(options);
  }

  @Override
  public Frame frame(Values options) {
    return FlatFields.frame(options);
  }

  @Override
  public Holding holding(Values options) {
    return new PlyHolding(frame(options));
  }

  private record PlyHolding(Frame frame) implements Holding {
    @Override
    public String format() {
      return "PLY";
    }

    @Override
    public Capability.Fate fate(Capability capability) {
      return PlyFormat.TABLE.of(capability).written();
    }

    @Override
    public Scene read(String mainFile, Resources files) throws IOException, FormatException {
      // The file says neither unit nor axes: its numbers mean what was chosen.
      Scene read = PlyReader.read(mainFile, ReadContext.of(files));
      return read.toBuilder().frame(frame, FrameSource.CHOSEN, FrameSource.CHOSEN).build();
    }

    @Override
    public boolean isFlat() {
      return true;
    }

    @Override
    public Scene held(Scene far, String mainFile) {
      return OneList.of(FlatParts.of(far), CargoPath.stem(mainFile));
    }
  }

  @Override
  public String write(Scene arrived, Values options, Target target)
      throws IOException, FormatException {
    PlyHead.Encoding encoding =
        switch (options.text("encoding")) {
          case "text" -> PlyHead.Encoding.TEXT;
          case "binarybig" -> PlyHead.Encoding.BIG;
          default -> PlyHead.Encoding.LITTLE;
        };
    String main = target.stem() + ".ply";
    Scene held = OneList.of(FlatParts.of(arrived), target.stem());
    PlyWriter.write(held, encoding, frame(options), target.output(), main, target.progress());
    return main;
  }
}
