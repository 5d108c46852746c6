package ferry.stone.core.handling;

import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.util.List;
import org.joml.Matrix4d;

/** Makes the whole scene larger or smaller about the origin. */
public final class Scale implements StepKind<Scale.Params> {
  private static final double LOWEST = 1e-6;
  private static final double HIGHEST = 1e6;

  /** How many times larger; 0.000001 to 1 000 000. */
  public record Params(double factor) {
    public Params {
      if (!(factor >= LOWEST && factor <= HIGHEST)) {
        throw new IllegalArgumentException("factor must be 0.000001 to 1000000, not " + factor);
      }
    }
  }

  @Override
  public String kind() {
    return "scale";
  }

  @Override
  public String label() {
    return "Scale";
  }

  @Override
  public String help() {
    return "Makes everything larger or smaller about the origin.";
  }

  @Override
  public Class<Params> paramType() {
    return Params.class;
  }

  @Override
  public List<Field> fields() {
    return List.of(
        Field.number(
            "factor", "Factor", "×", LOWEST, HIGHEST, 1, "2 is twice as large, 0.01 a hundredth."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    return StepResult.of(
        Placement.then(scene, new Matrix4d().scaling(params.factor())),
        "× " + Figures.plain(params.factor()));
  }
}
