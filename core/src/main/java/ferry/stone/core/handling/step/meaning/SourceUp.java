package ferry.stone.core.handling.step.meaning;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepKind;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.util.Arrays;
import java.util.List;

/** Says which axis of the source points up. No number changes; what they mean does. */
public final class SourceUp implements StepKind<SourceUp.Params> {

  /** The axis as text: {@code y}, {@code -z}. */
  public record Params(String up) {
    public Params {
      if (SignedAxis.parse(up).isEmpty()) {
        throw new IllegalArgumentException(
            "up must be one of x, -x, y, -y, z, -z, not \"" + up + "\"");
      }
    }
  }

  @Override
  public String kind() {
    return "sourceUp";
  }

  @Override
  public String label() {
    return "Source up axis";
  }

  @Override
  public String help() {
    return "Says which axis of the file points up.";
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
        Arrays.stream(SignedAxis.values())
            .map(a -> new Field.Option(a.text(), a.label() + " up"))
            .toList();
    return List.of(
        Field.choice("up", "Up axis", options, "z", "This axis of the file points to the sky."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    SignedAxis up = SignedAxis.parse(params.up()).orElseThrow();
    Scene changed =
        scene.toBuilder()
            .frame(scene.frame().withUp(up), scene.unitSource(), FrameSource.CHOSEN)
            .build();
    return StepResult.of(changed, up.label() + " up → Y up");
  }
}
