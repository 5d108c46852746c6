package ferry.stone.cli;

import ferry.stone.core.format.fbx.FbxOptions;
import ferry.stone.core.landing.FbxLanding;
import ferry.stone.core.math.LengthUnit;
import ferry.stone.core.math.SignedAxis;
import picocli.CommandLine.Option;

/** What landing as FBX asks. */
final class FbxArguments {
  @Option(
      names = "--fbx-version",
      paramLabel = "VERSION",
      defaultValue = "7400",
      description = "7400 (default) or 7500.")
  private int version;

  @Option(names = "--fbx-text", description = "The text form (version 7400).")
  private boolean text;

  @Option(
      names = "--unit-out",
      paramLabel = "UNIT",
      description = "Unit of the landed FBX: mm, cm, m, in or ft; cm when left out.")
  private String unit;

  @Option(
      names = "--up-out",
      paramLabel = "AXIS",
      description =
          "Up axis of the landed FBX: x, y, z or one of them with a minus; y when left out.")
  private String up;

  @Option(
      names = "--bake",
      description = "Plain transforms in place of pivots and inherited scales, motion sampled.")
  private boolean bake;

  @Option(
      names = "--bake-tolerance",
      paramLabel = "RADIANS",
      defaultValue = "0",
      description = "How far baked rotations may be off; 0.00001 when left out.")
  private double tolerance;

  @Option(names = "--triangulate", description = "Cut all faces into triangles.")
  private boolean triangulate;

  @Option(names = "--linked-media", description = "Textures in a folder beside the FBX.")
  private boolean linkedMedia;

  boolean linkedMedia() {
    return linkedMedia;
  }

  FbxLanding options() {
    return new FbxLanding(
        text ? FbxOptions.Form.TEXT : FbxOptions.Form.BINARY,
        version,
        bake,
        tolerance,
        triangulate,
        unit == null ? 0 : metres(unit),
        up == null
            ? null
            : SignedAxis.parse(up)
                .orElseThrow(
                    () ->
                        new IllegalArgumentException(
                            "--up-out takes x, y, z or one of them with a minus, not \""
                                + up
                                + "\"")));
  }

  private static double metres(String unit) {
    return LengthUnit.parse(unit)
        .map(LengthUnit::metres)
        .orElseThrow(
            () ->
                new IllegalArgumentException(
                    "--unit-out takes mm, cm, m, in or ft, not \"" + unit + "\""));
  }
}
