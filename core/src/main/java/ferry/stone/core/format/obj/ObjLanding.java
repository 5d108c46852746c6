package ferry.stone.core.format.obj;

import ferry.stone.core.field.Field;
import ferry.stone.core.field.Values;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.MissingTextures;
import ferry.stone.core.format.flat.FlatFields;
import ferry.stone.core.format.flat.FlatWriter;
import ferry.stone.core.format.losses.Capability;
import ferry.stone.core.format.losses.Capability.Fate;
import ferry.stone.core.format.losses.Holding;
import ferry.stone.core.format.obj.read.ObjReader;
import ferry.stone.core.format.obj.rules.ObjRules;
import ferry.stone.core.format.obj.write.MtlImages;
import ferry.stone.core.format.obj.write.ObjOptions;
import ferry.stone.core.format.obj.write.ObjPlan;
import ferry.stone.core.format.obj.write.ObjWriter;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.geometry.triangle.Triangulate;
import ferry.stone.core.scene.Scene;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/** Landing as OBJ with MTL. */
final class ObjLanding implements FlatWriter {
  private static final String FULL = "full";

  @Override
  public List<Field> fields() {
    List<Field> fields = new ArrayList<>();
    fields.add(
        Field.flag(
                "pbrKeys",
                "Keys for metal and roughness",
                true,
                "Readers that do not know them pass over them. Off: metal and roughness are turned"
                    + " into body colour, highlight and exponent.")
            .under("Materials"));
    fields.add(
        Field.flag(
                "triangulate",
                "Faces cut into triangles",
                false,
                "Off: polygons go through as they came.")
            .under("Data"));
    fields.add(
        Field.choice(
                "decimals",
                "Decimals of positions",
                "Fewer make the file smaller and move vertices by up to half of the last place.",
                FULL,
                "All that there are",
                "6",
                "6 decimals",
                "5",
                "5 decimals",
                "4",
                "4 decimals",
                "3",
                "3 decimals",
                "2",
                "2 decimals")
            .under("Data"));
    fields.addAll(FlatFields.frame("m", "y"));
    return fields;
  }

  private ObjOptions typed(Values options) {
    String decimals = options.text("decimals");
    return new ObjOptions(
        frame(options),
        decimals.equals(FULL) ? ObjOptions.ALL : Integer.parseInt(decimals),
        options.flag("pbrKeys"));
  }

  @Override
  public boolean isSeveralFiles(Values options) {
    return true;
  }

  @Override
  public Scene prepared(Scene far, Values options) {
    return options.flag("triangulate") ? Triangulate.all(far) : far;
  }

  @Override
  public Holding holding(Values options) {
    return new ObjHolding(typed(options), options.flag("triangulate"));
  }

  @Override
  public void foretell(Outlook outlook) {
    ObjPlan plan = ObjPlan.of(outlook.arrived(), typed(outlook.options()));
    outlook.told().said(plan.said());
    MissingTextures missing = MissingTextures.of(plan.held());
    outlook.told().count(Capability.MISSING_TEXTURES, missing.count(), "texture", missing.first());
  }

  @Override
  public String write(Scene arrived, Values options, Target target)
      throws IOException, FormatException {
    ObjPlan plan = ObjPlan.of(arrived, typed(options));
    plan.said().forEach(target.findings()::add);
    Scene held = plan.held();
    String library = held.materials().isEmpty() ? null : target.stem();
    List<String> remarks = List.of("Stone Ferry: " + frame(options).label().replace(" · ", ", "));
    ObjWriter.write(held, target.stem(), library, remarks, target.output(), target.progress());
    if (library != null) {
      MtlImages images =
          new MtlImages(held, target.resources(), target.output(), target.findings());
      ObjWriter.materials(held, library, target.output(), images::of);
    }
    return target.stem() + ".obj";
  }

  private record ObjHolding(ObjOptions options, boolean isTriangulated) implements Holding {
    @Override
    public String format() {
      return "OBJ";
    }

    @Override
    public Fate fate(Capability capability) {
      return capability == Capability.POLYGONS && isTriangulated
          ? Fate.CHANGED
          : ObjCapabilities.TABLE.of(capability).written();
    }

    @Override
    public Scene read(String mainFile, ReadContext context) throws IOException, FormatException {
      return FlatFields.read(ObjRules::check, ObjReader::read, mainFile, context, options.frame());
    }

    @Override
    public boolean isFlat() {
      return true;
    }

    @Override
    public Scene held(Scene far, String mainFile) {
      return ObjPlan.of(Rebase.intoData(far, options.frame()), options).held();
    }
  }
}
