package ferry.stone.core.format;

import ferry.stone.core.field.Field;

/** Unit and up axis as choices of a landing. */
public final class FrameFields {
  private FrameFields() {}

  /**
   * @param usual symbol of the standard
   */
  public static Field unit(String label, String usual, String help) {
    return Field.text("unit", label, usual, help)
        .proposing(
            "mm", "Millimetres", "cm", "Centimetres", "m", "Metres", "in", "Inches", "ft", "Feet");
  }

  /**
   * @param usual the standard, {@code y} or {@code z}
   */
  public static Field up(String label, String usual, String help) {
    return Field.choice(
            "up", label, help, "y", "Y up", "z", "Z up", "x", "X up", "-y", "−Y up", "-z", "−Z up",
            "-x", "−X up")
        .standing(usual);
  }
}
