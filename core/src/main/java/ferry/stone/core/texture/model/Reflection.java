package ferry.stone.core.texture.model;

/**
 * What a material reflects at one place, linear light: what it scatters, what it mirrors at normal
 * incidence, and how rough it is. All three models can be said in it.
 */
public final class Reflection {
  final double[] diffuse = new double[3];
  final double[] specular = new double[3];
  double roughness;

  /**
   * How far two are apart: the mean over red, green and blue of what both scatter and of what both
   * mirror, and over roughness; 0 to 1.
   */
  public static double off(Reflection a, Reflection b) {
    double sum = Math.abs(a.roughness - b.roughness);
    double roomA = 1 - most(a.specular);
    double roomB = 1 - most(b.specular);
    for (int c = 0; c < 3; c++) {
      sum += Math.abs(a.specular[c] - b.specular[c]);
      // What is mirrored is not scattered.
      sum += Math.abs(a.diffuse[c] * roomA - b.diffuse[c] * roomB);
    }
    return sum / 7;
  }

  private static double most(double[] colour) {
    return Math.max(colour[0], Math.max(colour[1], colour[2]));
  }
}
