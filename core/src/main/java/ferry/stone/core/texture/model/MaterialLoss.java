package ferry.stone.core.texture.model;

import ferry.stone.core.texture.Pixels;

/**
 * How far what two materials reflect is apart, over one repeat of their images.
 *
 * @param mean 0 to 1, see {@link Reflection#off}
 * @param most the largest
 * @param picture where: black where nothing is, white from an eighth of all on
 */
public record MaterialLoss(double mean, double most, Pixels picture) {
  private static final int STRONGER = 8;

  /**
   * @param longest side of the picture in pixels; the larger material's own when smaller
   */
  public static MaterialLoss of(MaterialReflection a, MaterialReflection b, int longest) {
    boolean larger = (long) a.width() * a.height() >= (long) b.width() * b.height();
    int w = larger ? a.width() : b.width();
    int h = larger ? a.height() : b.height();
    double scale = Math.min(1, (double) longest / Math.max(w, h));
    w = Math.max(1, (int) Math.round(w * scale));
    h = Math.max(1, (int) Math.round(h * scale));
    int[] argb = new int[w * h];
    Reflection one = new Reflection();
    Reflection other = new Reflection();
    double sum = 0;
    double most = 0;
    for (int i = 0; i < argb.length; i++) {
      a.at(i % w, i / w, w, h, one);
      b.at(i % w, i / w, w, h, other);
      double off = Reflection.off(one, other);
      sum += off;
      most = Math.max(most, off);
      argb[i] = 0xff000000 | 0x10101 * (int) Math.min(255, Math.round(255 * STRONGER * off));
    }
    return new MaterialLoss(sum / argb.length, most, new Pixels(w, h, argb, false));
  }
}
