package ferry.stone.server.crossing;

import ferry.stone.core.survey.Inventory;
import ferry.stone.core.view.FindingView;
import java.util.List;

/**
 * The survey as the page takes it.
 *
 * @param findings of the near side, then those that steps brought about
 * @param units readings of the unit, the likeliest first
 * @param ups readings of the up axis, the likeliest first
 * @param nearFrame unit, axes and hand as the evidence reads them, in words
 * @param nearShore id of the built-in shore that the evidence speaks for
 * @param farShore id of the shore that limits and names are held against
 */
public record SurveyView(
    Inventory inventory,
    int checks,
    List<FindingView> findings,
    List<Reading> units,
    List<Reading> ups,
    String nearFrame,
    String nearShore,
    String farShore) {

  /**
   * What the evidence says.
   *
   * @param value as steps take it: {@code cm}, {@code z}
   * @param confidence 0 to 1
   * @param chosen whether the near side is read so
   * @param reasons in words, the strongest first
   */
  public record Reading(
      String value, String label, double confidence, boolean chosen, List<String> reasons) {}
}
