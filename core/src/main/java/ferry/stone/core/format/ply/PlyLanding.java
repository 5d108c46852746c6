package ferry.stone.core.format.ply;

import ferry.stone.core.field.Field;
import ferry.stone.core.field.Values;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.flat.FlatFields;
import ferry.stone.core.format.flat.FlatParts;
import ferry.stone.core.format.flat.FlatWriter;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.geometry.triangle.Triangulate;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.Frame;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.mesh.PolygonMesh;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Landing as PLY. */
final class PlyLanding implements FlatWriter {
  /** Most corners of a face that readers of all kinds take. */
  private static final int WIDELY_READ = 4;

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
    fields.add(
        Field.flag(
                "triangulate",
                "Faces cut into triangles",
                true,
                "Off: polygons go through as they came; some readers leave out faces of more than"
                    + " 4 corners.")
            .under("Encoding"));
    fields.addAll(FlatFields.frame("m", "y"));
    return fields;
  }

  @Override
  public Scene prepared(Scene far, Values options) {
    return options.flag("triangulate") ? Triangulate.all(far) : far;
  }

  @Override
  public Holding holding(Values options) {
    return new PlyHolding(frame(options), options.flag("triangulate"));
  }

  /** Faces that some readers leave out; nothing when there are none. */
  private static Optional<Finding> largeFaces(Scene flat) {
    long count = 0;
    String first = "";
    for (PolygonMesh mesh : flat.meshes()) {
      for (int f = 0; f < mesh.faces().faceCount(); f++) {
        if (mesh.faces().size(f) > WIDELY_READ) {
          first = count++ == 0 ? mesh.name() : first;
        }
      }
    }
    return count == 0
        ? Optional.empty()
        : Optional.of(
            Finding.of(
                    "faces-over-four-corners",
                    Severity.LOOK,
                    first,
                    "Some readers leave out faces of more than 4 corners. Cut them into triangles"
                        + " if one of them is to read the file.")
                .measured(Figures.count(count, "face")));
  }

  @Override
  public void foretell(Outlook outlook) {
    if (!outlook.options().flag("triangulate")) {
      largeFaces(FlatParts.of(outlook.far()))
          .ifPresent(
              said ->
                  outlook
                      .told()
                      .item(
                          Capability.POLYGONS,
                          Capability.Fate.CHANGED,
                          said.measured(),
                          said.where(),
                          List.of()));
    }
  }

  private record PlyHolding(Frame frame, boolean isTriangulated) implements Holding {
    @Override
    public String format() {
      return "PLY";
    }

    @Override
    public Capability.Fate fate(Capability capability) {
      boolean whole = capability == Capability.POLYGONS && !isTriangulated;
      return whole ? Capability.Fate.KEPT : PlyFormat.TABLE.of(capability).written();
    }

    @Override
    public Scene read(String mainFile, ReadContext context) throws IOException, FormatException {
      return FlatFields.read(PlyRules::check, PlyReader::read, mainFile, context, frame);
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
    Scene flat = FlatParts.of(arrived);
    largeFaces(flat).ifPresent(target.findings()::add);
    Scene held = OneList.of(flat, target.stem());
    PlyWriter.write(held, encoding, frame(options), target.output(), main, target.progress());
    return main;
  }
}
