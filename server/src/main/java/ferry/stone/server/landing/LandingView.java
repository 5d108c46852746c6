package ferry.stone.server.landing;

import ferry.stone.core.landing.LandingOptions;
import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;

/**
 * A landing in a list: with what its proof found in all, whose rows are asked for by themselves.
 *
 * @param state {@code running}, {@code done}, {@code failed} or {@code cancelled}
 * @param current whether it was made with the steps now in effect
 */
public record LandingView(
    String id,
    String crossingId,
    String jobId,
    String state,
    LandingOptions options,
    @Schema(nullable = true) String mainFile,
    List<LandingRecord.LandedFile> files,
    @Schema(nullable = true) ProofSum proof,
    @Schema(nullable = true) String problem,
    boolean current,
    String createdAt) {

  /**
   * A proof in numbers.
   *
   * @param file the file that was read back
   * @param bytes size of all landed files
   * @param readSeconds how long reading took
   * @param within rows that changed, and that the shore lets pass
   * @param beyond rows that changed by more than the shore lets pass
   */
  public record ProofSum(
      String file,
      long bytes,
      double readSeconds,
      int kept,
      int changed,
      int lost,
      int within,
      int beyond) {}

  /** The same, ended. */
  LandingView ended(String newState, String newProblem) {
    return new LandingView(
        id,
        crossingId,
        jobId,
        newState,
        options,
        mainFile,
        files,
        proof,
        newProblem,
        current,
        createdAt);
  }
}
