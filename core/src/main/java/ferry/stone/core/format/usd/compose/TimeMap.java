package ferry.stone.core.format.usd.compose;

/**
 * How time codes of a layer stand on the time line of the whole: {@code scale · code + offset}.
 *
 * @param offset added after scaling
 */
public record TimeMap(double offset, double scale) {
  public static final TimeMap SAME = new TimeMap(0, 1);

  public double of(double code) {
    return scale * code + offset;
  }

  /** The code of the layer that stands at one of the whole. */
  double inverse(double code) {
    return scale == 0 ? 0 : (code - offset) / scale;
  }

  /** First the inner one, then this. */
  TimeMap after(TimeMap inner) {
    return new TimeMap(scale * inner.offset + offset, scale * inner.scale);
  }
}
