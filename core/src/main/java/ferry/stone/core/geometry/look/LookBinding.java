package ferry.stone.core.geometry.look;

import java.util.List;

/**
 * Which material some faces get.
 *
 * @param set name of the set of faces; empty for those that are in none
 * @param faces rising
 * @param materialId −1 where nothing fits
 * @param confidence 0 to 1
 * @param reasons what it rests on, the strongest first
 */
public record LookBinding(
    String set, int[] faces, int materialId, double confidence, List<String> reasons) {
  public LookBinding {
    reasons = List.copyOf(reasons);
  }
}
