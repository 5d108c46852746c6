package ferry.stone.server.crossing;

import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.scene.PolygonMesh;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.survey.Survey;
import ferry.stone.core.work.Progress;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;

/** A crossing's scenes in memory: near side, survey, and the stages of the handling. */
public final class LoadedCrossing {
  private static final int OLD_MESHES_KEPT = 64;

  private final Scene near;
  private final Survey survey;
  private final CargoFolder cargo;
  private final String prefix = UUID.randomUUID().toString().substring(0, 8);
  private final Map<PolygonMesh, String> keys = new IdentityHashMap<>();
  private final Map<String, Shown> shown = new LinkedHashMap<>();
  private List<Handling.Stage> stages = List.of();
  private int nextKey;

  LoadedCrossing(Scene near, Survey survey, CargoFolder cargo) {
    this.near = near;
    this.survey = survey;
    this.cargo = cargo;
  }

  /** A mesh that a view was told of, with the scene that says how its values are meant. */
  public record Shown(PolygonMesh mesh, Scene scene) {}

  public Scene near() {
    return near;
  }

  public Survey survey() {
    return survey;
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
