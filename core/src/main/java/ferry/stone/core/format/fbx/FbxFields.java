package ferry.stone.core.format.fbx;

import ferry.stone.core.field.Field;
import ferry.stone.core.format.FrameFields;
import java.util.List;
import java.util.stream.Stream;

/** What a landing as FBX can choose. */
final class FbxFields {
  /** The front as is the custom under the up axis. */
  static final String USUAL_FRONT = "usual";

  private static final String HEADER = "Form and header";
  private static final String SIMPLER = "Simpler than it is";
  private static final double LARGEST_TOLERANCE = 0.1;

  static final List<Field> ALL =
      Stream.of(form(), axes(), simpler()).flatMap(List::stream).toList();

  private FbxFields() {}

  private static List<Field> form() {
    return List.of(
        Field.flag(
                "embedTextures",
                "Textures inside the file",
                true,
                "Off: images stand in a textures folder beside it.")
            .under("Textures and data"),
        Field.choice(
                "form",
                "Form of the file",
                "Binary of version 7.4 is read nearly everywhere.",
                "binary",
                "Binary, version 7.4",
                "binary64",
                "Binary, version 7.5: files over 4 GB",
                "text",
                "Text, version 7.4")
            .under(HEADER),
        FrameFields.unit("Unit of the file", "cm", "A unit, or how many metres one is.")
            .under(HEADER));
  }

  private static List<Field> axes() {
    return List.of(
        FrameFields.up("Up axis of the file", "y", "The axis away from the ground.").under(HEADER),
        Field.choice(
                "front",
                "Front axis of the file",
                "The axis that the asset looks along.",
                USUAL_FRONT,
                "Front as is the custom",
                "x",
                "Front X",
                "-x",
                "Front −X",
                "y",
                "Front Y",
                "-y",
                "Front −Y",
                "z",
                "Front Z",
                "-z",
                "Front −Z")
            .under(HEADER),
        Field.choice(
                "hand",
                "Hand of the axes",
                "Right-handed unless a reader asks for the other.",
                "right",
                "Right-handed",
                "left",
                "Left-handed")
            .under(HEADER));
  }

  private static List<Field> simpler() {
    return List.of(
        Field.flag(
                "triangulate",
                "Faces cut into triangles",
                false,
                "Off: polygons go through as they came.")
            .under(SIMPLER),
        Field.flag(
                "bake",
                "Pivots and inherited scales baked",
                false,
                "For readers that know neither; motion is sampled. Off: pivots and keys go through"
                    + " as they came.")
            .under(SIMPLER),
        Field.number(
                "bakeTolerance",
                "Tolerance of baked motion",
                "rad",
                0,
                LARGEST_TOLERANCE,
                0,
                "How far baked rotations may be off; 0 for 0.00001 rad, below a hundredth of a"
                    + " millimetre at a metre.")
            .proposing(
                "0", "Rotations within 0.00001 rad",
                "0.0001", "Rotations within 0.0001 rad",
                "0.001", "Rotations within 0.001 rad")
            .under(SIMPLER)
            .when("bake"));
  }
}
