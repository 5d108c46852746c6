package ferry.stone.core.geometry.look;

import java.util.List;

/**
 * Which material some faces get.
 *
 * @param key what these faces are called where they are bound by hand: the name of their set;
 *     {@link #REST} for those that are in none, followed by the name of the material that they have
 *     on the look's own mesh where that tells them apart
 * @param faces rising
 * @param materialId −1 where nothing fits
 * @param confidence 0 to 1
 * @param reasons what it rests on, the strongest first
 */
public record LookBinding(
    String key, int[] faces, int materialId, double confidence, List<String> reasons) {
  /** Begins the key of faces that are in no set. */
  public static final String REST = "*";

  public LookBinding {
    reasons = List.copyOf(reasons);
  }

  /** Name of the set of a key, empty for faces that are in none. */
  public static String set(String key) {
    return key.startsWith(REST) ? "" : key;
  }
}
