package ferry.stone.core.routine;

import com.fasterxml.jackson.annotation.JsonIgnore;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Steps;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.report.ReportSide.FileFact;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;

/**
 * What came of a routine on one asset: {@code run.json} of its folder. The form is published as
 * {@code docs/schema/run.schema.json}.
 *
 * @param schema form of the JSON
 * @param asset its name, and that of its folder
 * @param verdict the worst of what is told below
 * @param problem why it was refused; empty where it was not
 * @param routine that was run
 * @param ferry version of the application
 * @param inputs what was read, with hashes
 * @param steps what each step did
 * @param findings what the survey told of the near side, and what steps did not find
 * @param landings what was written and proved
 * @param seconds that it took
 */
public record RunRecord(
    int schema,
    String asset,
    Verdict verdict,
    String problem,
    RoutineName routine,
    String ferry,
    List<FileFact> inputs,
    List<StepFact> steps,
    List<FindingFact> findings,
    List<LandingFact> landings,
    double seconds) {
  public static final int SCHEMA = 1;

  /** From best to worst. */
  public enum Verdict {
    KEPT,
    CHANGED,
    /** A step of the routine found nothing to work on or could not run. */
    UNMATCHED,
    /** Something differs by more than the shore lets differ. */
    BEYOND,
    LOST,
    /** Nothing was written. */
    REFUSED;

    /** Whether a person has to look at it. */
    public boolean isTrouble() {
      return compareTo(CHANGED) > 0;
    }

    public String word() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  /** Which routine, and what it does as a hash. */
  public record RoutineName(String id, String name, int version, String hash) {
    public static RoutineName of(Routine routine) {
      return new RoutineName(
          routine.id(), routine.name(), routine.version(), Routines.hash(routine));
    }
  }

  /**
   * What a step did.
   *
   * @param figure what it changed, for people
   * @param failure why it could not run; empty where it did
   */
  public record StepFact(String kind, String label, String figure, String failure) {}

  /** A finding, told. */
  public record FindingFact(String code, String severity, String where, String message) {
    /** Whether a step of the routine found nothing to work on or could not run. */
    @JsonIgnore
    public boolean isOfSteps() {
      return code.equals(RoutineHandling.UNMATCHED) || code.equals("step-failed");
    }

    public static FindingFact of(Finding f) {
      return new FindingFact(
          f.code(),
          f.severity().name().toLowerCase(Locale.ROOT),
          f.where(),
          f.message() + (f.measured().isEmpty() ? "" : " " + f.measured() + "."));
    }
  }

  /**
   * One landing.
   *
   * @param folder below that of the asset, with {@code /} at its end, or empty
   * @param mainFile the file to open, from the folder
   * @param files all of it with hashes, from the folder
   * @param foretold how many facts the forecast told as changed or lost
   * @param beyond how many facts changed by more than the shore lets differ
   * @param lostFacts what was lost or is beyond that, in words
   * @param proof name of the file with all facts
   * @param report name of the page with pictures; empty where none was asked for
   * @param page name of the page with the asset in it; empty where none was asked for
   */
  public record LandingFact(
      String format,
      String folder,
      String mainFile,
      List<FileFact> files,
      int foretold,
      int kept,
      int changed,
      int lost,
      int beyond,
      List<String> lostFacts,
      String proof,
      String report,
      String page) {
    public LandingFact {
      // Records of before have none.
      page = page == null ? "" : page;
    }

    public static LandingFact of(
        String format,
        String folder,
        String mainFile,
        List<FileFact> files,
        int foretold,
        Proof proof,
        String proofName,
        String reportName,
        String pageName) {
      List<String> lost =
          proof.rows().stream()
              .filter(r -> r.verdict() == LedgerRow.Verdict.LOST || r.isBeyond())
              .map(r -> r.group() + ", " + r.fact() + (r.isBeyond() ? ": " + r.note() : ""))
              .toList();
      return new LandingFact(
          format,
          folder,
          mainFile,
          files,
          foretold,
          proof.kept(),
          proof.changed(),
          proof.lost(),
          proof.beyond(),
          lost,
          proofName,
          reportName,
          pageName);
    }

    private Verdict verdict() {
      return lost > 0
          ? Verdict.LOST
          : beyond > 0 ? Verdict.BEYOND : changed > 0 ? Verdict.CHANGED : Verdict.KEPT;
    }
  }

  /** What steps did not find first, then what the survey told. */
  public static List<FindingFact> findings(List<Finding> ofSteps, List<Finding> ofSurvey) {
    return Stream.concat(ofSteps.stream(), ofSurvey.stream()).map(FindingFact::of).toList();
  }

  /** Of an asset that was carried: the verdict is the worst of its landings and steps. */
  public static RunRecord carried(
      String asset,
      Routine routine,
      String ferry,
      List<FileFact> inputs,
      List<Handling.Stage> stages,
      List<FindingFact> findings,
      List<LandingFact> landings,
      double seconds) {
    Verdict verdict =
        findings.stream().anyMatch(FindingFact::isOfSteps) ? Verdict.UNMATCHED : Verdict.KEPT;
    for (LandingFact landing : landings) {
      verdict = landing.verdict().compareTo(verdict) > 0 ? landing.verdict() : verdict;
    }
    List<StepFact> steps =
        stages.stream()
            .map(
                s ->
                    new StepFact(
                        s.step().kind(),
                        Steps.find(s.step().kind()).orElseThrow().label(),
                        s.figure(),
                        s.failure() == null ? "" : s.failure()))
            .toList();
    return new RunRecord(
        SCHEMA,
        asset,
        verdict,
        "",
        RoutineName.of(routine),
        ferry,
        inputs,
        steps,
        findings,
        landings,
        seconds);
  }

  /** Of an asset that could not be carried. */
  public static RunRecord refused(
      String asset, Routine routine, String ferry, List<FileFact> inputs, String problem) {
    return new RunRecord(
        SCHEMA,
        asset,
        Verdict.REFUSED,
        problem,
        RoutineName.of(routine),
        ferry,
        inputs,
        List.of(),
        List.of(),
        List.of(),
        0);
  }

  /** What is told of it in one line. */
  @JsonIgnore
  public String line() {
    if (verdict == Verdict.REFUSED) {
      return "refused: " + problem;
    }
    StringBuilder line = new StringBuilder(verdict.word());
    for (LandingFact l : landings) {
      line.append("; ").append(l.folder()).append(l.mainFile()).append(": ").append(l.kept());
      line.append(" kept, ").append(l.changed()).append(" changed, ").append(l.lost());
      line.append(" lost");
    }
    findings.stream()
        .filter(FindingFact::isOfSteps)
        .findFirst()
        .ifPresent(f -> line.append("; ").append(f.where()).append(": ").append(f.message()));
    return line.toString();
  }
}
