package ferry.stone.core.format.flat;

import ferry.stone.core.field.Field;
import ferry.stone.core.field.Values;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FrameFields;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.SceneReader;
import ferry.stone.core.format.losses.StrictReading;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.LengthUnit;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.shore.Shore;
import java.io.IOException;
import java.util.List;
import java.util.Map;

/**
 * Unit and up axis of a format that states neither: chosen at the landing, and said by whoever
 * hands the file on.
 */
public final class FlatFields {
  private static final String NUMBERS = "What the numbers mean";
  private static final String SAY = "The file does not say it: tell whoever reads it.";

  private FlatFields() {}

  /**
   * Reads what was landed, by the rules of its standard too: the file says neither unit nor axes,
   * its numbers mean what was chosen.
   */
  public static Scene read(
      StrictReading.Rules rules, SceneReader reader, String file, ReadContext context, Frame chosen)
      throws IOException, FormatException {
    return StrictReading.read(rules, reader, file, context).toBuilder()
        .frame(chosen, FrameSource.CHOSEN, FrameSource.CHOSEN)
        .build();
  }

  /**
   * @param unit symbol of the usual unit
   * @param up the usual up axis, {@code y} or {@code z}
   */
  public static List<Field> frame(String unit, String up) {
    return List.of(
        FrameFields.unit("Unit of the numbers", unit, "A unit, or how many metres one is. " + SAY)
            .under(NUMBERS),
        FrameFields.up("Up axis of the numbers", up, SAY).under(NUMBERS));
  }

  /** The frame that was chosen, right-handed, the front as is the custom under the up axis. */
  public static Frame frame(Values options) {
    return Frame.Y_UP_METRE
        .withUp(SignedAxis.parse(options.text("up")).orElseThrow())
        .withMetresPerUnit(LengthUnit.metresOf(options.text("unit")));
  }

  /** What a shore asks of them. */
  public static Map<String, Object> wanted(Shore shore) {
    Frame frame = shore.frame();
    return Map.of("unit", LengthUnit.textOf(frame.metresPerUnit()), "up", frame.up().text());
  }
}
