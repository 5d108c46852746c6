package ferry.stone.core.handling;

import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Figures;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.util.List;
import org.joml.Matrix4d;

/** Moves the scene up or down so that its lowest point is at height 0. */
public final class Ground implements StepKind<Ground.Params> {

  /** Takes no parameters. */
  public record Params() {}

  @Override
  public String kind() {
    return "ground";
  }

  @Override
  public String label() {
    return "Drop on the ground";
  }

  @Override
  public String help() {
    return "Moves everything up or down until the lowest point is at 0.";
  }

  @Override
  public Class<Params> paramType() {
    return Params.class;
  }

  @Override
  public List<Field> fields() {
    return List.of();
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Bounds bounds = scene.bounds();
    if (bounds.isEmpty()) {
      return StepResult.of(scene, "nothing to move");
    }
    SignedAxis up = scene.frame().up();
    double lowest = up.sign() > 0 ? bounds.min(up.index()) : -bounds.max(up.index());
    double metres = -lowest * scene.frame().metresPerUnit();
    return StepResult.of(
        Placement.then(scene, new Matrix4d().translation(up.vector().mul(-lowest))),
        metres == 0
            ? "stands already"
            : (metres > 0 ? "up " : "down ") + Figures.length(Math.abs(metres)));
  }
}
