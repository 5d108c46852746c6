package ferry.stone.core.handling.step.meaning;

import ferry.stone.core.field.Field;
import ferry.stone.core.handling.Selection;
import ferry.stone.core.handling.StepResult;
import ferry.stone.core.handling.step.BasicStep;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.Handedness;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;

/** Says which way the source's front looks and which hand its axes have. No number changes. */
public final class SourceFront extends BasicStep<SourceFront.Params> {
  private static final Field HAND_CHOICE =
      Field.choice(
          "hand",
          "Hand",
          "Left-handed axes mirror the asset on the way to a right-handed shore.",
          "right",
          "right-handed",
          "left",
          "left-handed");

  /**
   * @param front axis as text: {@code z}, {@code -y}; not along the up axis
   * @param hand {@code right} or {@code left}: left mirrors the asset on its way to a right-handed
   *     shore
   */
  public record Params(String front, String hand) {
    public Params {
      if (SignedAxis.parse(front).isEmpty()) {
        throw new IllegalArgumentException(
            "front must be one of x, -x, y, -y, z, -z, not \"" + front + "\"");
      }
      hand = HAND_CHOICE.chosen(hand);
    }
  }

  public SourceFront() {
    super(
        Group.MEANING,
        "sourceFront",
        "Source front and hand",
        "Says which axis of the file the asset looks along, and whether its axes are left-handed.",
        Params.class,
        false,
        Field.choice(
            "front",
            "Front",
            "The asset looks this way.",
            "z",
            "Z",
            "-z",
            "−Z",
            "x",
            "X",
            "-x",
            "−X",
            "y",
            "Y",
            "-y",
            "−Y"),
        HAND_CHOICE);
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    SignedAxis front = SignedAxis.parse(params.front()).orElseThrow();
    SignedAxis up = scene.frame().up();
    if (front.index() == up.index()) {
      throw new IllegalArgumentException(
          "The front cannot look along "
              + front.label()
              + ": "
              + up.label()
              + " is up. Set the source up axis first");
    }
    Frame frame =
        new Frame(
            scene.frame().metresPerUnit(),
            up,
            front,
            params.hand().equals("left") ? Handedness.LEFT : Handedness.RIGHT);
    return StepResult.of(
        scene.toBuilder().frame(frame, scene.unitSource(), FrameSource.CHOSEN).build(),
        front.label() + " front · " + params.hand() + "-handed");
  }
}
