package ferry.stone.core.handling;

import ferry.stone.core.field.Field;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.util.List;

/**
 * One kind of step.
 *
 * @param <P> its parameters: a record whose constructor refuses values out of range with an {@link
 *     IllegalArgumentException} that says what is allowed
 */
public interface StepKind<P extends Record> {
  /** What steps are for; they are offered by it. */
  enum Group {
    /** What the source's numbers mean. */
    MEANING("What the numbers mean"),
    PLACE("Size and place"),
    PARTS("Parts and hierarchy"),
    SURFACE("Surface"),
    LOOK("Materials and images"),
    MOTION("Motion and time"),
    NAMES("Names"),
    CLEAN("Clean up");

    private final String label;

    Group(String label) {
      this.label = label;
    }

    public String label() {
      return label;
    }
  }

  Group group();

  /** The key under which steps are stored. */
  String kind();

  String label();

  /** What it does, in one sentence. */
  String help();

  Class<P> paramType();

  List<Field> fields();

  /** Whether it works on chosen parts; otherwise always on the whole scene. */
  default boolean takesSelection() {
    return false;
  }

  StepResult apply(Scene scene, Selection selection, P params, Progress progress);

  /**
   * As {@link #apply(Scene, Selection, Record, Progress)}; a step whose result for a mesh depends
   * on that mesh and the parameters alone may take known results.
   */
  default StepResult apply(
      Scene scene, Selection selection, P params, KnownMeshes known, Progress progress) {
    return apply(scene, selection, params, progress);
  }
}
