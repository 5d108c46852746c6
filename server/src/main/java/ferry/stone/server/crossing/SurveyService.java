package ferry.stone.server.crossing;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.LengthUnit;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.shore.Shore;
import ferry.stone.core.shore.Shores;
import ferry.stone.core.survey.Survey;
import ferry.stone.core.view.FindingView;
import ferry.stone.core.view.SideView;
import ferry.stone.server.web.NotFoundException;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.joml.Matrix4d;
import org.springframework.stereotype.Service;

/** Surveys both sides, so that a finding counts as answered when the far side has it no more. */
@Service
public class SurveyService {
  private final CrossingService crossings;
  private final SceneService scenes;
  private final CrossingRepository repository;
  private final HandlingRepository handlings;

  public SurveyService(
      CrossingService crossings,
      SceneService scenes,
      CrossingRepository repository,
      HandlingRepository handlings) {
    this.crossings = crossings;
    this.scenes = scenes;
    this.repository = repository;
    this.handlings = handlings;
  }

  /** Both sides' findings, each with what became of it. */
  private record Both(
      Survey near, Survey after, Scene far, List<Finding> arisen, Set<Finding> answered) {}

  private Both both(String id) throws IOException, FormatException {
    LoadedCrossing loaded = scenes.scenes(id);
    Shore shore = crossings.farShore(id);
    List<Step> steps = handlings.at(id, crossings.get(id).history());
    Scene far = Handling.result(loaded.near(), loaded.handle(steps));
    Survey near = loaded.survey(shore);
    Survey after = loaded.farSurvey(far);
    Set<Finding> answered = new HashSet<>();
    List<Finding> arisen = new ArrayList<>();
    for (Finding finding : near.findings()) {
      if (after.findings().stream().noneMatch(f -> same(finding, f))) {
        answered.add(finding);
      }
    }
    for (Finding finding : after.findings()) {
      if (near.findings().stream().noneMatch(f -> same(f, finding))) {
        arisen.add(finding);
      }
    }
    return new Both(near, after, far, arisen, answered);
  }

  /** One finding on both sides: of one kind, on one part at least, or at one place. */
  private static boolean same(Finding a, Finding b) {
    if (!a.code().equals(b.code())) {
      return false;
    }
    return a.nodeIds().isEmpty() || b.nodeIds().isEmpty()
        ? a.where().equals(b.where()) || a.where().isEmpty()
        : a.nodeIds().stream().anyMatch(new HashSet<>(b.nodeIds())::contains);
  }

  public SurveyView view(String id) throws IOException, FormatException {
    Both both = both(id);
    Scene near = scenes.scenes(id).near();
    List<FindingView> findings = new ArrayList<>();
    for (Finding finding : both.near.findings()) {
      boolean answered = both.answered.contains(finding);
      Finding shown = answered ? finding : withBoth(finding, both.after);
      findings.add(FindingView.of(findings.size(), shown, answered ? "answered" : "open"));
    }
    for (Finding finding : both.arisen) {
      findings.add(FindingView.of(findings.size(), finding, "arisen"));
    }
    summarise(id, findings);
    Frame frame = near.frame();
    return new SurveyView(
        both.near.inventory(),
        both.near.checks(),
        findings,
        both.near.units().stream().map(u -> unit(u, frame)).toList(),
        both.near.ups().stream()
            .map(
                u ->
                    new SurveyView.Reading(
                        u.up().text(),
                        u.up().label() + " up",
                        u.confidence(),
                        u.up() == frame.up(),
                        u.reasons()))
            .toList(),
        both.near.likelyFrame(near).label(),
        Shores.nearest(both.near.likelyFrame(near)).id(),
        crossings.farShore(id).id());
  }

  /** A finding that is still there, with what is measured now. */
  private static Finding withBoth(Finding finding, Survey after) {
    return after.findings().stream()
        .filter(f -> same(finding, f) && !f.measured().equals(finding.measured()))
        .findFirst()
        .map(f -> finding.measured(finding.measured() + " → " + f.measured()))
        .orElse(finding);
  }

  private static SurveyView.Reading unit(ferry.stone.core.survey.UnitReading reading, Frame frame) {
    boolean chosen =
        LengthUnit.ofMetres(frame.metresPerUnit()).filter(u -> u == reading.unit()).isPresent();
    return new SurveyView.Reading(
        reading.unit().symbol(),
        reading.unit().word(),
        reading.confidence(),
        chosen,
        reading.reasons());
  }

  /** The list of crossings shows what is still open on the far side. */
  private void summarise(String id, List<FindingView> findings) {
    Crossing.Summary summary = crossings.get(id).summary();
    if (summary == null) {
      return;
    }
    int toFix = count(findings, Severity.FIX);
    int toLook = count(findings, Severity.LOOK);
    if (summary.toFix() != toFix || summary.toLook() != toLook) {
      repository.summary(id, summary.withSide(summary.height(), toFix, toLook));
    }
  }

  private static int count(List<FindingView> findings, Severity severity) {
    return (int)
        findings.stream()
            .filter(f -> f.severity() == severity && !f.state().equals("answered"))
            .count();
  }

  public FindingView.MarksView marks(String id, int index) throws IOException, FormatException {
    Both both = both(id);
    Scene near = scenes.scenes(id).near();
    List<Finding> findings = both.near.findings();
    if (index >= 0 && index < findings.size()) {
      return FindingView.marks(findings.get(index), near, new Matrix4d());
    }
    int arisen = index - findings.size();
    if (arisen < 0 || arisen >= both.arisen.size()) {
      throw new NotFoundException("There is no such finding any more.");
    }
    // The page carries marks from the near side to the far side: these go the way back first.
    Matrix4d toNear = Rebase.matrix(both.far, Frame.Y_UP_METRE).invert();
    Matrix4d toView = SideView.farToView(both.far);
    return FindingView.marks(both.arisen.get(arisen), both.far, toNear.mul(toView));
  }
}
