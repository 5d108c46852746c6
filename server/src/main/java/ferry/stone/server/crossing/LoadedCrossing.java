package ferry.stone.server.crossing;

import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.scene.PolygonMesh;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.shore.Shore;
import ferry.stone.core.survey.Survey;
import ferry.stone.core.survey.SurveyMemo;
import ferry.stone.core.work.Progress;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;

/** A crossing's scenes in memory: near side, survey, and the stages of the handling. */
public final class LoadedCrossing {
  private static final int OLD_MESHES_KEPT = 64;
  private static final int STATES_KEPT = 4;

  private final Scene near;
  private final List<Finding> readFindings;
  private final SurveyMemo memo = new SurveyMemo();
  private final CargoFolder cargo;
  private final String prefix = UUID.randomUUID().toString().substring(0, 8);
  private final Map<PolygonMesh, String> keys = new IdentityHashMap<>();
  private final Map<String, Shown> shown = new LinkedHashMap<>();
  private List<Handling.Stage> stages = List.of();
  private Shore shore;
  private Survey survey;
  private Scene surveyedFar;
  private Survey farSurvey;
  private int nextKey;
  private final Map<List<Step>, Scene> states =
      new LinkedHashMap<>(8, 0.75f, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<List<Step>, Scene> eldest) {
          return size() > STATES_KEPT;
        }
      };

  LoadedCrossing(
      Scene near, List<Finding> readFindings, CargoFolder cargo, Shore shore, Progress progress) {
    this.near = near;
    this.readFindings = readFindings;
    this.cargo = cargo;
    this.shore = shore;
    survey = Survey.of(near, readFindings, shore, memo, progress);
  }

  /** A mesh that a view was told of, with the scene that says how its values are meant. */
  public record Shown(PolygonMesh mesh, Scene scene) {}

  public Scene near() {
    return near;
  }

  /** Of the near side, for the shore it was last asked for. */
  public synchronized Survey survey() {
    return survey;
  }

  /** Of the near side, against a shore. */
  public synchronized Survey survey(Shore wanted) {
    if (!wanted.equals(shore)) {
      shore = wanted;
      survey = Survey.of(near, readFindings, shore, memo, Progress.NONE);
      surveyedFar = null;
    }
    return survey;
  }

  /** Of a far side, against the same shore; only meshes that steps changed are looked at. */
  public synchronized Survey farSurvey(Scene far) {
    if (far == near) {
      return survey;
    }
    if (surveyedFar != far) {
      farSurvey = Survey.of(far, readFindings, shore, memo, Progress.NONE);
      surveyedFar = far;
      memo.keepOnly(List.of(near, far));
    }
    return farSurvey;
  }

  /** The scene after some steps, whatever the handling is at. */
  public synchronized Scene state(List<Step> steps) {
    return states.computeIfAbsent(
        steps, list -> Handling.result(near, Handling.run(near, list, stages, Progress.NONE)));
  }

  public CargoFolder cargo() {
    return cargo;
  }

  /** Runs the steps, keeping what an earlier run shares with them. */
  public synchronized List<Handling.Stage> handle(List<Step> steps) {
    stages = Handling.run(near, steps, stages, Progress.NONE);
    return stages;
  }

  /** The key under which a view fetches a mesh. The same mesh value keeps its key. */
  public synchronized String key(PolygonMesh mesh, Scene scene) {
    String key = keys.get(mesh);
    if (key == null) {
      key = prefix + "-" + nextKey++;
      keys.put(mesh, key);
      shown.put(key, new Shown(mesh, scene));
      forgetOld();
    }
    return key;
  }

  /** Meshes of states long gone are let go; the near side's stay. */
  private void forgetOld() {
    int most = Math.max(OLD_MESHES_KEPT, 8 * near.meshes().size());
    var oldest = shown.entrySet().iterator();
    while (shown.size() > most && oldest.hasNext()) {
      Shown old = oldest.next().getValue();
      boolean needed = near.meshes().stream().anyMatch(m -> m == old.mesh());
      if (!needed) {
        oldest.remove();
        keys.remove(old.mesh());
      }
    }
  }

  public synchronized Shown shown(String key) {
    return shown.get(key);
  }
}
