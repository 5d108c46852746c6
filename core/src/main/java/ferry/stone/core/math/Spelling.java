package ferry.stone.core.math;

/** How alike two names are spelled. */
public final class Spelling {
  private Spelling() {}

  /**
   * 1 for equal texts, falling to 0 with the Levenshtein distance (Levenshtein 1966) as a part of
   * the longer one; 0 for two empty texts. Takes time with the product of the lengths.
   */
  public static double likeness(String left, String right) {
    int longer = Math.max(left.length(), right.length());
    if (longer == 0) {
      return 0;
    }
    int[] row = new int[right.length() + 1];
    for (int j = 0; j < row.length; j++) {
      row[j] = j;
    }
    for (int i = 1; i <= left.length(); i++) {
      int diagonal = row[0];
      row[0] = i;
      for (int j = 1; j < row.length; j++) {
        int above = row[j];
        int change = diagonal + (left.charAt(i - 1) == right.charAt(j - 1) ? 0 : 1);
        row[j] = Math.min(change, Math.min(above, row[j - 1]) + 1);
        diagonal = above;
      }
    }
    return 1.0 - (double) row[right.length()] / longer;
  }
}
