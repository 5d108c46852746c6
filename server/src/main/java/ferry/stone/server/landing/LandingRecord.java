package ferry.stone.server.landing;

import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.proof.Proof;
import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;

/**
 * A landing, as it is stored.
 *
 * @param state {@code running}, {@code done}, {@code failed} or {@code cancelled}
 * @param current whether it was made with the steps now in effect
 */
public record LandingRecord(
    String id,
    String crossingId,
    String jobId,
    String state,
    LandingOptions options,
    @Schema(nullable = true) String mainFile,
    List<LandedFile> files,
    @Schema(nullable = true) Proof proof,
    @Schema(nullable = true) String problem,
    boolean current,
    String createdAt) {

  static LandingRecord of(LandingView view, Proof proof) {
    return new LandingRecord(
        view.id(),
        view.crossingId(),
        view.jobId(),
        view.state(),
        view.options(),
        view.mainFile(),
        view.files(),
        proof,
        view.problem(),
        view.current(),
        view.createdAt());
  }

  /** The same, ended. */
  LandingRecord ended(String newState, String newProblem) {
    return new LandingRecord(
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

  /** A written file. */
  public record LandedFile(String path, String blob, long size) {}
}
