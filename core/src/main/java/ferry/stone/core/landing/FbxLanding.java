package ferry.stone.core.landing;

import com.fasterxml.jackson.annotation.JsonIgnore;
import ferry.stone.core.format.fbx.FbxOptions;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.Handedness;
import ferry.stone.core.math.SignedAxis;

/**
 * What a landing as FBX asks for beside the options of all formats.
 *
 * @param form binary or text
 * @param version 7400 or 7500; text is always 7400
 * @param bake plain transforms in place of pivots and inherited scales, with sampled motion
 * @param toleranceRadians how far baked rotations may be off; 0 for the usual 0.00001
 * @param triangulate cut all faces into triangles
 * @param metresPerUnit unit of the file; 0 for the usual centimetre
 * @param up axis away from the ground; Y when left out
 * @param front axis the asset looks along; the custom under the up axis when left out
 * @param hand right when left out
 */
public record FbxLanding(
    FbxOptions.Form form,
    int version,
    boolean bake,
    double toleranceRadians,
    boolean triangulate,
    double metresPerUnit,
    SignedAxis up,
    SignedAxis front,
    Handedness hand) {
  private static final double CENTIMETRE = 0.01;

  /** Binary 7.4 in centimetres with Y up, as most tools take it. */
  public static final FbxLanding USUAL =
      new FbxLanding(FbxOptions.Form.BINARY, 7400, false, 0, false, 0, null, null, null);

  /** Right-handed, with the front as is the custom under the up axis. */
  public FbxLanding(
      FbxOptions.Form form,
      int version,
      boolean bake,
      double toleranceRadians,
      boolean triangulate,
      double metresPerUnit,
      SignedAxis up) {
    this(form, version, bake, toleranceRadians, triangulate, metresPerUnit, up, null, null);
  }

  public FbxLanding {
    form = form == null ? FbxOptions.Form.BINARY : form;
    version = version == 0 || form == FbxOptions.Form.TEXT ? 7400 : version;
    toleranceRadians = toleranceRadians == 0 ? FbxOptions.TOLERANCE : toleranceRadians;
    metresPerUnit = metresPerUnit == 0 ? CENTIMETRE : metresPerUnit;
    up = up == null ? SignedAxis.PLUS_Y : up;
    hand = hand == null ? Handedness.RIGHT : hand;
    front = front == null ? Frame.Y_UP_METRE.withUp(up).front() : front;
    if (front.index() == up.index()) {
      throw new IllegalArgumentException("the front cannot look along the up axis");
    }
    // Says what is wrong with the rest.
    new FbxOptions(form, version, true, bake, toleranceRadians);
    if (!(metresPerUnit > 0) || Double.isInfinite(metresPerUnit)) {
      throw new IllegalArgumentException("the unit must be above 0 m, not " + metresPerUnit);
    }
  }

  /** What the file's numbers mean. */
  @JsonIgnore
  public Frame frame() {
    return new Frame(metresPerUnit, up, front, hand);
  }

  FbxOptions options(boolean embedMedia) {
    return new FbxOptions(form, version, embedMedia, bake, toleranceRadians);
  }
}
