package ferry.stone.server.jobs;

import io.swagger.v3.oas.annotations.media.Schema;

/**
 * A piece of long work.
 *
 * @param kind {@code read} or {@code land}
 * @param state {@code waiting}, {@code running}, {@code done}, {@code failed}, {@code cancelled}
 * @param what what it is doing now
 * @param fraction 0 to 1
 * @param problem why it failed, for the user
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
    String createdAt) {

  public boolean isOpen() {
    return state.equals("waiting") || state.equals("running");
  }

  Job with(String newState, String newWhat, double newFraction, String newProblem) {
    return new Job(
        id, kind, crossingId, title, newState, newWhat, newFraction, newProblem, createdAt);
  }
}
