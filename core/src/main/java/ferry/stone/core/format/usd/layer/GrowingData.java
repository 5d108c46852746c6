package ferry.stone.core.format.usd.layer;

import ferry.stone.core.math.Half;
import java.util.Arrays;

/** Values of one kind as they come, in a primitive array. */
public final class GrowingData {
  private final UsdType.Kind kind;
  private Object data;
  private int count;

  public GrowingData(UsdType.Kind kind) {
    this.kind = kind;
    data =
        switch (kind) {
          case BOOL -> new boolean[4];
          case UCHAR, INT -> new int[4];
          case UINT, INT64, UINT64 -> new long[4];
          case HALF, FLOAT -> new float[4];
          case DOUBLE, TIMECODE -> new double[4];
          case STRING, TOKEN, ASSET, PATH_EXPRESSION -> new String[4];
          case OPAQUE -> null;
        };
  }

  public int count() {
    return count;
  }

  private boolean isFull() {
    return count == java.lang.reflect.Array.getLength(data);
  }

  public void add(double number) {
    if (isFull()) {
      data = grown(2 * count);
    }
    if (data instanceof float[] f) {
      boolean half = kind == UsdType.Kind.HALF;
      f[count++] = half ? Half.toFloat(Half.of((float) number)) : (float) number;
    } else if (data instanceof double[] d) {
      d[count++] = number;
    } else if (data instanceof boolean[] b) {
      b[count++] = number != 0;
    } else if (data instanceof int[] w) {
      w[count++] = (int) number;
    }
  }

  public void add(long number) {
    if (isFull()) {
      data = grown(2 * count);
    }
    if (data instanceof long[] l) {
      l[count++] = number;
    } else {
      ((int[]) data)[count++] = (int) number;
    }
  }

  public void add(String text) {
    if (isFull()) {
      data = grown(2 * count);
    }
    ((String[]) data)[count++] = text;
  }

  public Object data() {
    return kind == UsdType.Kind.OPAQUE ? null : grown(count);
  }

  private Object grown(int size) {
    if (data instanceof float[] f) {
      return Arrays.copyOf(f, size);
    } else if (data instanceof double[] d) {
      return Arrays.copyOf(d, size);
    } else if (data instanceof boolean[] b) {
      return Arrays.copyOf(b, size);
    } else if (data instanceof int[] w) {
      return Arrays.copyOf(w, size);
    } else if (data instanceof long[] l) {
      return Arrays.copyOf(l, size);
    }
    return Arrays.copyOf((String[]) data, size);
  }
}
