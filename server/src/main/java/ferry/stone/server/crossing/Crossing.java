package ferry.stone.server.crossing;

import io.swagger.v3.oas.annotations.media.Schema;

/**
 * One transfer, as it is stored.
 *
 * @param state {@code empty}, {@code reading}, {@code ready} or {@code failed}
 * @param problem why reading failed
 * @param history place in the handling's history
 * @param farShore id of the shore it goes to; {@code null} for the one that was chosen last
 */
public record Crossing(
    String id,
    String name,
    String state,
    @Schema(nullable = true) String problem,
    @Schema(nullable = true) Summary summary,
    int history,
    @Schema(nullable = true) String thumbnail,
    String createdAt,
    String updatedAt,
    @Schema(nullable = true) String farShore) {

  /**
   * What the list of crossings shows.
   *
   * @param from formats of the source, e.g. {@code OBJ}
   * @param files how many cargo files
   * @param height of the far side, with its unit
   * @param toFix findings to put right
   * @param toLook findings to look at
   * @param landed {@code GLB} or {@code null} before the first landing
   * @param landedFrame up axis and unit of what landed, {@code null} before
   * @param kept facts of the newest proof; −1 before the first
   */
  public record Summary(
      String from,
      int files,
      String height,
      int toFix,
      int toLook,
      @Schema(nullable = true) String landed,
      @Schema(nullable = true) String landedFrame,
      int kept,
      int changed,
      int lost) {
    public Summary withSide(String newHeight, int newToFix, int newToLook) {
      return new Summary(
          from, files, newHeight, newToFix, newToLook, landed, landedFrame, kept, changed, lost);
    }

    public Summary withProof(
        String format, String newFrame, int newKept, int newChanged, int newLost) {
      return new Summary(
          from, files, height, toFix, toLook, format, newFrame, newKept, newChanged, newLost);
    }
  }
}
