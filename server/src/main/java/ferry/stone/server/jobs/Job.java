package ferry.stone.server.jobs;

import io.swagger.v3.oas.annotations.media.Schema;
import java.time.Instant;

/**
 * A piece of long work.
 *
 * @param kind {@code read} or {@code land}
 * @param state {@code waiting}, {@code running}, {@code done}, {@code failed}, {@code cancelled}
 * @param what what it is doing now; what came of it once it is done
 * @param fraction 0 to 1
 * @param problem why it failed, for the user
 * @param endedAt when it ended, or {@code null}
 */
public record Job(
    String id,
    String kind,
    String crossingId,
    String title,
    String state,
    String what,
    double fraction,
    @Schema(nullable = true) String problem,
    String createdAt,
    @Schema(nullable = true) String endedAt) {

  public boolean isOpen() {
    return state.equals("waiting") || state.equals("running");
  }

  Job with(String newState, String newWhat, double newFraction, String newProblem) {
    return new Job(
        id,
        kind,
        crossingId,
        title,
        newState,
        newWhat,
        newFraction,
        newProblem,
        createdAt,
        endedAt);
  }

  /** The same, ended now. */
  Job ended(String newState, String outcome, String newProblem) {
    return new Job(
        id,
        kind,
        crossingId,
        title,
        newState,
        outcome,
        fraction,
        newProblem,
        createdAt,
        Instant.now().toString());
  }
}
