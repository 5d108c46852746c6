package ferry.stone.core.format.usd.compose;

import ferry.stone.core.format.usd.layer.PropertySpec;
import ferry.stone.core.format.usd.layer.UsdBlock;
import ferry.stone.core.format.usd.layer.UsdSamples;
import ferry.stone.core.format.usd.layer.UsdType;
import ferry.stone.core.format.usd.layer.UsdValue;
import ferry.stone.core.format.usd.layer.spline.SplineValues;

/** What a curve is at moments close enough that straight lines between them follow it. */
final class CurveSamples implements UsdSamples {
  private final SplineValues curve;
  private final UsdType type;
  private final double[] codes;

  private CurveSamples(SplineValues curve, UsdType type, double[] codes) {
    this.curve = curve;
    this.type = type;
    this.codes = codes;
  }

  /** {@code null} where the property has no curve, or one without knots. */
  static CurveSamples of(PropertySpec spec, UsdType type, double start, double end) {
    boolean number = type != null && type.components() == 1 && type.kind().isReal();
    if (spec.spline() == null || !number) {
      return null;
    }
    SplineValues curve = new SplineValues(spec.spline());
    double[] codes = curve.moments(Math.min(start, end), Math.max(start, end));
    return codes.length == 0 ? null : new CurveSamples(curve, type, codes);
  }

  @Override
  public double[] codes() {
    return codes;
  }

  @Override
  public Object value(int sample) {
    double number = curve.at(codes[sample]);
    if (Double.isNaN(number)) {
      return UsdBlock.VALUE;
    }
    boolean small = type.kind() == UsdType.Kind.HALF || type.kind() == UsdType.Kind.FLOAT;
    Object data = small ? new float[] {(float) number} : new double[] {number};
    return new UsdValue(type, false, data);
  }
}
