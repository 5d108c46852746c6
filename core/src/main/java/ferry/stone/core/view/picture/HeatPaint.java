package ferry.stone.core.view.picture;

import ferry.stone.core.texture.ColourSpace;

/** Colours a surface by a distance: pale where it is none, ochre, vermilion where it is most. */
final class HeatPaint implements Canvas.Paint {
  private static final float[][] RAMP = {
    linear(0xdf, 0xe4, 0xe2), linear(0xe3, 0xb5, 0x4a), linear(0xc8, 0x3c, 0x1c)
  };

  private final float[] values;
  private final Picture.Shade lit;

  /**
   * @param values of the corners, 0 to 1
   * @param lit gives how light it is there
   */
  HeatPaint(float[] values, Picture.Shade lit) {
    this.values = values;
    this.lit = lit;
  }

  private static float[] linear(int red, int green, int blue) {
    return new float[] {
      (float) ColourSpace.toLinear(red / 255.0),
      (float) ColourSpace.toLinear(green / 255.0),
      (float) ColourSpace.toLinear(blue / 255.0)
    };
  }

  @Override
  public void at(float a, float b, float c, float[] into) {
    float value = a * values[0] + b * values[1] + c * values[2];
    // What lies nowhere is as far off as can be.
    value = Float.isNaN(value) ? 1 : Math.max(0, Math.min(1, value));
    float light = lit.light(a, b, c);
    float place = 2 * value;
    int low = place < 1 ? 0 : 1;
    float between = place - low;
    for (int k = 0; k < 3; k++) {
      into[k] = light * (RAMP[low][k] + between * (RAMP[low + 1][k] - RAMP[low][k]));
    }
    into[3] = 1;
  }
}
