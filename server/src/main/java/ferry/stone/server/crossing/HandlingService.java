package ferry.stone.server.crossing;

import ferry.stone.core.finding.Offer;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.handling.Accepting;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.PartRef;
import ferry.stone.core.handling.Step;
import ferry.stone.core.handling.Steps;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.view.FindingView;
import ferry.stone.core.view.SideView;
import ferry.stone.core.work.CancelledException;
import ferry.stone.server.jobs.JobService;
import ferry.stone.server.web.ConflictException;
import io.swagger.v3.oas.annotations.media.Schema;
import java.io.IOException;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.springframework.stereotype.Service;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

/** The steps of a crossing: saved at once, with undo and redo that survive a restart. */
@Service
public class HandlingService {
  private static final int MOST_STEPS = 200;

  private final CrossingService crossings;
  private final SceneService scenes;
  private final CrossingRepository repository;
  private final HandlingRepository handlings;
  private final JobService jobs;
  private final ThumbnailService thumbnails;
  private final TransactionTemplate transaction;

  public HandlingService(
      CrossingService crossings,
      SceneService scenes,
      CrossingRepository repository,
      HandlingRepository handlings,
      JobService jobs,
      ThumbnailService thumbnails,
      PlatformTransactionManager transactions) {
    this.jobs = jobs;
    this.thumbnails = thumbnails;
    transaction = new TransactionTemplate(transactions);
    this.crossings = crossings;
    this.scenes = scenes;
    this.repository = repository;
    this.handlings = handlings;
  }

  /**
   * The steps with what came of them.
   *
   * @param revision place in the history; a change must name the one it starts from
   */
  public record HandlingState(
      int revision, boolean canUndo, boolean canRedo, List<StepState> steps) {}

  /**
   * @param figure what the step changed
   * @param failure why it was passed over
   * @param notes what it met and did, one by one
   * @param nodeIds parts that it works on, by the ids that they have now
   * @param missing parts that it names and that are not there
   */
  public record StepState(
      Step step,
      String figure,
      @Schema(nullable = true) String failure,
      List<StepNote> notes,
      List<Integer> nodeIds,
      List<MissingPart> missing) {}

  /**
   * A part that is not there.
   *
   * @param label of the part for people
   * @param likely the one that it may have become
   * @param likelyLabel its name for people
   */
  public record MissingPart(
      PartRef part,
      String label,
      @Schema(nullable = true) PartRef likely,
      @Schema(nullable = true) String likelyLabel) {}

  /** Something that a step met or did: a name that it changed, a part that it left out. */
  public record StepNote(String code, String where, String message) {}

  public List<Step> steps(String id) {
    return handlings.at(id, crossings.get(id).history());
  }

  public HandlingState state(String id) throws IOException, FormatException {
    Crossing crossing = crossings.get(id);
    List<Handling.Stage> stages = scenes.scenes(id).handle(steps(id));
    return new HandlingState(
        crossing.history(),
        crossing.history() > 0,
        crossing.history() < handlings.last(id),
        stages.stream().map(HandlingService::stepState).toList());
  }

  private static StepState stepState(Handling.Stage s) {
    Step resolved = s.resolved();
    Step shown =
        new Step(
            s.step().id(),
            s.step().kind(),
            resolved.params(),
            s.step().enabled(),
            List.of(),
            s.step().pattern(),
            s.step().ofKind(),
            s.step().parts(),
            s.step().paramParts());
    return new StepState(
        shown,
        s.figure(),
        s.failure(),
        s.findings().stream()
            .filter(f -> !f.code().equals("step-failed"))
            .map(f -> new StepNote(f.code(), f.where(), f.message()))
            .toList(),
        resolved.nodeIds(),
        s.missing().stream()
            .map(
                m ->
                    new MissingPart(
                        m.part(),
                        m.part().label(),
                        m.likely(),
                        m.likely() == null ? null : m.likely().label()))
            .toList());
  }

  /**
   * Saves other steps, then runs them. What is saved names its parts by their paths. A run that is
   * cancelled takes its change back.
   */
  public HandlingState change(String id, int revision, List<Step> steps)
      throws IOException, FormatException {
    validate(steps);
    LoadedCrossing loaded = scenes.scenes(id);
    List<Step> named = loaded.named(steps);
    transaction.executeWithoutResult(
        status -> {
          if (crossings.get(id).history() != revision) {
            throw new ConflictException(
                "The handling was changed in another window. It was loaded again; repeat your"
                    + " change.");
          }
          handlings.put(id, revision + 1, named);
          repository.history(id, revision + 1);
        });
    return run(id, revision);
  }

  /** Adds what offers ask for to the steps, then runs them: see {@link Accepting}. */
  public HandlingState accept(String id, int revision, List<Offer> offers)
      throws IOException, FormatException {
    if (offers == null || offers.stream().anyMatch(java.util.Objects::isNull)) {
      throw new IllegalArgumentException("offers must be a list of offers of the survey.");
    }
    List<Step> steps =
        Accepting.with(steps(id), offers, () -> UUID.randomUUID().toString().substring(0, 8));
    return change(id, revision, steps);
  }

  /** Runs the steps outside of any transaction, as work that can be watched and cancelled. */
  private HandlingState run(String id, int before) throws IOException, FormatException {
    Crossing crossing = crossings.get(id);
    LoadedCrossing loaded = scenes.scenes(id);
    List<Step> steps = steps(id);
    if (!loaded.isHandled(steps)) {
      try {
        jobs.here(
            "handle",
            id,
            "Handling " + crossing.name(),
            progress -> loaded.handle(steps, progress));
        scenes.weigh(id);
      } catch (CancelledException e) {
        repository.history(id, before);
        throw new ConflictException("Cancelled: the handling is as it was before this change.");
      }
    }
    thumbnails.soon(id);
    return summarised(id);
  }

  private static void validate(List<Step> steps) {
    if (steps == null || steps.stream().anyMatch(java.util.Objects::isNull)) {
      throw new IllegalArgumentException(
          "steps must be a list of steps, possibly empty. Load the page again.");
    }
    if (steps.size() > MOST_STEPS) {
      throw new IllegalArgumentException("A handling has at most 200 steps.");
    }
    Set<String> ids = new HashSet<>();
    for (Step step : steps) {
      if (step.id() == null || step.id().isBlank() || !ids.add(step.id())) {
        throw new IllegalArgumentException("Every step needs an id of its own.");
      }
      Steps.validate(step);
    }
  }

  public HandlingState undo(String id) throws IOException, FormatException {
    int place = crossings.get(id).history();
    if (place > 0) {
      repository.history(id, place - 1);
    }
    return run(id, place);
  }

  public HandlingState redo(String id) throws IOException, FormatException {
    int place = crossings.get(id).history();
    if (place < handlings.last(id)) {
      repository.history(id, place + 1);
    }
    return run(id, place);
  }

  private HandlingState summarised(String id) throws IOException, FormatException {
    HandlingState state = state(id);
    LoadedCrossing loaded = scenes.scenes(id);
    Scene far = Handling.result(loaded.near(), loaded.handle(steps(id)));
    Crossing crossing = crossings.get(id);
    if (crossing.summary() != null) {
      Set<String> kinds = new HashSet<>();
      state.steps().stream()
          .filter(s -> s.step().enabled() && s.failure() == null)
          .forEach(s -> kinds.add(s.step().kind()));
      repository.summary(
          id,
          crossing
              .summary()
              .withSide(
                  SideView.heightText(far),
                  FindingView.open(loaded.survey(), Severity.FIX, kinds),
                  FindingView.open(loaded.survey(), Severity.LOOK, kinds)));
    }
    return state;
  }
}
