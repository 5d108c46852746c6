package ferry.stone.server.crossing;

import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.PartNaming;
import ferry.stone.core.handling.Step;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneWeight;
import ferry.stone.core.scene.look.Texture;
import ferry.stone.core.scene.mesh.PolygonMesh;
import ferry.stone.core.scene.time.MeshSequence;
import ferry.stone.core.shore.Shore;
import ferry.stone.core.survey.Survey;
import ferry.stone.core.survey.SurveyMemo;
import ferry.stone.core.view.PointShapes;
import ferry.stone.core.view.SideView;
import ferry.stone.core.work.Progress;
import ferry.stone.server.side.FarChanges;
import java.io.IOException;
import java.lang.ref.SoftReference;
import java.lang.ref.WeakReference;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.WeakHashMap;

/** A crossing's scenes in memory: near side, survey, and the stages of the handling. */
public final class LoadedCrossing implements SideView.MeshKeys {
  private static final int OLD_MESHES_KEPT = 64;
  private static final int STATES_KEPT = 4;
  private static final int SENT_KEPT = 3;

  private final Scene near;
  private final List<Finding> readFindings;
  private final SurveyMemo memo = new SurveyMemo();
  private final PointShapes shapes = new PointShapes();
  private final CargoFolder cargo;
  private final String prefix = UUID.randomUUID().toString().substring(0, 8);
  private final Map<PolygonMesh, String> keys = new IdentityHashMap<>();
  private final Map<String, Shown> shown = new LinkedHashMap<>();

  /**
   * Textures are told apart by their bytes' place in memory: equal ones of two scenes share a key.
   */
  private final Map<Texture, String> imageKeys = new WeakHashMap<>();

  private final Map<String, WeakReference<Texture>> images = new HashMap<>();
  private volatile List<Handling.Stage> stages = List.of();
  private Shore shore;
  private volatile Survey survey;
  private Scene surveyedFar;
  private Survey farSurvey;
  private int nextKey;
  private final Object handling = new Object();
  private final Object surveys = new Object();
  private final Map<String, Changing> changing =
      new LinkedHashMap<>() {
        @Override
        protected boolean removeEldestEntry(Map.Entry<String, Changing> eldest) {
          return size() > OLD_MESHES_KEPT;
        }
      };
  private final Map<List<Step>, Scene> states =
      new LinkedHashMap<>(8, 0.75f, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<List<Step>, Scene> eldest) {
          return size() > STATES_KEPT;
        }
      };

  /** Far sides that pages were sent last, as long as there is memory for them. */
  private final Deque<SoftReference<FarChanges.Sent>> sent = new ArrayDeque<>();

  /** What a page has to be sent of a far side that knows one by its key. */
  FarChanges changes(SideView far, String known) {
    String key = UUID.randomUUID().toString().substring(0, 8);
    synchronized (sent) {
      FarChanges.Sent before = null;
      for (SoftReference<FarChanges.Sent> each : sent) {
        FarChanges.Sent one = each.get();
        before = one != null && one.key().equals(known) ? one : before;
      }
      sent.addFirst(new SoftReference<>(new FarChanges.Sent(key, far.nodes())));
      while (sent.size() > SENT_KEPT) {
        sent.removeLast();
      }
      return before == null ? FarChanges.whole(key, far) : FarChanges.since(before, key, far);
    }
  }

  LoadedCrossing(
      Scene near, List<Finding> readFindings, CargoFolder cargo, Shore shore, Progress progress) {
    this.near = near;
    this.readFindings = readFindings;
    this.cargo = cargo;
    this.shore = shore;
    survey = Survey.of(near, readFindings, shore, memo, progress);
  }

  /** A mesh that changes over time, with the scene it is in. */
  private record Changing(MeshSequence sequence, Scene scene) {}

  /** A mesh that a view was told of, with the scene that says how its values are meant. */
  public record Shown(PolygonMesh mesh, Scene scene) {}

  public Scene near() {
    return near;
  }

  /** What is known of how the page draws meshes that points of caches move. */
  public PointShapes shapes() {
    return shapes;
  }

  /** Of the near side, for the shore it was last asked for. */
  public Survey survey() {
    return survey;
  }

  /** Of the near side, against a shore. */
  public Survey survey(Shore wanted) {
    synchronized (surveys) {
      if (!wanted.equals(shore)) {
        shore = wanted;
        survey = Survey.of(near, readFindings, shore, memo, Progress.NONE);
        surveyedFar = null;
      }
      return survey;
    }
  }

  /** Of a far side, against the same shore; only meshes that steps changed are looked at. */
  public Survey farSurvey(Scene far) {
    synchronized (surveys) {
      if (far == near) {
        return survey;
      }
      if (surveyedFar != far) {
        farSurvey = Survey.of(far, readFindings, shore, memo, Progress.NONE);
        surveyedFar = far;
        memo.keepOnly(List.of(near, far));
        shapes.keepOnly(List.of(near, far));
      }
      return farSurvey;
    }
  }

  /** The scene after some steps, whatever the handling is at. */
  public Scene state(List<Step> steps) {
    synchronized (handling) {
      Scene known = states.get(steps);
      if (known == null) {
        known = Handling.result(near, Handling.run(near, steps, stages, Progress.NONE));
        states.put(steps, known);
      }
      return known;
    }
  }

  public CargoFolder cargo() {
    return cargo;
  }

  /**
   * Runs the steps, keeping what an earlier run shares with them. Only those wait who want what the
   * steps make; pictures and lists of the near side do not.
   */
  public List<Handling.Stage> handle(List<Step> steps) {
    return handle(steps, Progress.NONE);
  }

  /** As {@link #handle(List)}; when it is cancelled the stages stay what they were. */
  public List<Handling.Stage> handle(List<Step> steps, Progress progress) {
    List<Handling.Stage> before = stages;
    if (isOf(before, steps)) {
      return before;
    }
    synchronized (handling) {
      stages = Handling.run(near, steps, stages, progress);
      return stages;
    }
  }

  private static boolean isOf(List<Handling.Stage> stages, List<Step> steps) {
    if (stages.size() != steps.size()) {
      return false;
    }
    for (int i = 0; i < steps.size(); i++) {
      if (!stages.get(i).step().equals(steps.get(i))) {
        return false;
      }
    }
    return true;
  }

  /** Whether the stages of these steps are at hand, so that nothing has to run. */
  boolean isHandled(List<Step> steps) {
    return isOf(stages, steps);
  }

  /** The steps with all parts that they hold by id named instead, so that they can be kept. */
  List<Step> named(List<Step> steps) {
    boolean ids = steps.stream().anyMatch(LoadedCrossing::mayHoldIds);
    if (!ids) {
      return steps;
    }
    PartNaming naming = new PartNaming(near);
    List<Scene> made = new ArrayList<>();
    for (int i = stages.size() - 1; i >= 0; i--) {
      made.add(stages.get(i).scene());
    }
    return steps.stream().map(s -> naming.named(s, made)).toList();
  }

  private static boolean mayHoldIds(Step step) {
    return !step.nodeIds().isEmpty()
        || step.params().values().stream()
            .anyMatch(v -> v instanceof Number || v instanceof String s && s.contains(":"));
  }

  /** Memory that its scenes take, in bytes. */
  long weight() {
    List<Scene> scenes = new ArrayList<>();
    scenes.add(near);
    stages.forEach(s -> scenes.add(s.scene()));
    synchronized (handling) {
      scenes.addAll(states.values());
    }
    return SceneWeight.bytes(scenes);
  }

  /** The key under which a view fetches a mesh. The same mesh value keeps its key. */
  @Override
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

  /** The key under which an image is fetched; it lives as long as a scene that has it. */
  @Override
  public synchronized String image(Texture texture) {
    String key = imageKeys.get(texture);
    if (key == null) {
      key = prefix + "-i" + nextKey++;
      imageKeys.put(texture, key);
      images.put(key, new WeakReference<>(texture));
    }
    return key;
  }

  /** An image that a view was told of; {@code null} when it is not there any more. */
  public synchronized Texture image(String key) {
    WeakReference<Texture> known = images.get(key);
    return known == null ? null : known.get();
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

  @Override
  public synchronized String key(MeshSequence sequence, Scene scene) {
    for (var known : changing.entrySet()) {
      if (known.getValue().sequence() == sequence) {
        return known.getKey();
      }
    }
    String key = prefix + "-over-" + nextKey++;
    changing.put(key, new Changing(sequence, scene));
    return key;
  }

  /**
   * What a view was told of; {@code null} when it is not there any more.
   *
   * @param key of a mesh, or of one that changes over time with {@code @} and the sample
   */
  public Shown shown(String key) throws IOException {
    int at = key.indexOf('@');
    if (at < 0) {
      return mesh(key);
    }
    Changing known = changing(key.substring(0, at));
    String sample = key.substring(at + 1);
    if (known == null || !sample.matches("\\d{1,9}")) {
      return null;
    }
    int wanted = Math.min(Integer.parseInt(sample), known.sequence().sampleCount() - 1);
    return new Shown(known.sequence().mesh(wanted), known.scene());
  }

  private synchronized Shown mesh(String key) {
    return shown.get(key);
  }

  private synchronized Changing changing(String key) {
    return changing.get(key);
  }
}
