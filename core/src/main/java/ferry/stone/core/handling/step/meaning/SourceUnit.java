package ferry.stone.core.handling.step.meaning;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepKind;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.LengthUnit;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.util.Arrays;
import java.util.List;

/** Says which unit the source's numbers are in. No number changes; what they mean does. */
public final class SourceUnit implements StepKind<SourceUnit.Params> {

  /** The unit by its symbol, e.g. {@code cm}. */
  public record Params(String unit) {
    public Params {
      if (LengthUnit.parse(unit).isEmpty()) {
        throw new IllegalArgumentException(
            "unit must be one of mm, cm, dm, m, km, in, ft, yd, not \"" + unit + "\"");
      }
    }
  }

  @Override
  public String kind() {
    return "sourceUnit";
  }

  @Override
  public String label() {
    return "Source unit";
  }

  @Override
  public String help() {
    return "Says which unit the file's numbers are in.";
  }

  @Override
  public Group group() {
    return Group.MEANING;
  }

  @Override
  public Class<Params> paramType() {
    return Params.class;
  }

  @Override
  public List<Field> fields() {
    List<Field.Option> options =
        Arrays.stream(LengthUnit.values())
            .map(u -> new Field.Option(u.symbol(), u.word()))
            .toList();
    return List.of(
        Field.choice("unit", "Unit", options, "cm", "One unit of the file is this long."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    LengthUnit unit = LengthUnit.parse(params.unit()).orElseThrow();
    Frame before = scene.frame();
    Scene changed =
        scene.toBuilder()
            .frame(before.withMetresPerUnit(unit.metres()), FrameSource.CHOSEN, scene.axesSource())
            .build();
    double factor = unit.metres() / before.metresPerUnit();
    return StepResult.of(changed, unit.symbol() + " · size × " + Figures.plain(factor));
  }
}
