package ferry.stone.core.handling;

import ferry.stone.core.math.Bounds;
import ferry.stone.core.math.Figures;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.util.List;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/** Moves the middle of the scene's box onto the origin, or over it. */
public final class Centre implements StepKind<Centre.Params> {

  /** {@code ground}: over the origin, height kept; {@code all}: onto the origin. */
  public record Params(String what) {
    public Params {
      if (!"ground".equals(what) && !"all".equals(what)) {
        throw new IllegalArgumentException("what must be ground or all, not \"" + what + "\"");
      }
    }
  }

  @Override
  public String kind() {
    return "centre";
  }

  @Override
  public String label() {
    return "Centre";
  }

  @Override
  public String help() {
    return "Moves the middle of everything to the origin.";
  }

  @Override
  public Class<Params> paramType() {
    return Params.class;
  }

  @Override
  public List<Field> fields() {
    return List.of(
        Field.choice(
            "what",
            "Move",
            List.of(
                new Field.Option("ground", "over the origin, height kept"),
                new Field.Option("all", "onto the origin")),
            "ground",
            "Whether the height changes too."));
  }

  @Override
  public StepResult apply(Scene scene, Selection selection, Params params, Progress progress) {
    Bounds bounds = scene.bounds();
    if (bounds.isEmpty()) {
      return StepResult.of(scene, "nothing to move");
    }
    Vector3d move = bounds.centre().negate();
    if (params.what().equals("ground")) {
      move.setComponent(scene.frame().up().index(), 0);
    }
    return StepResult.of(
        Placement.then(scene, new Matrix4d().translation(move)),
        "moved " + Figures.length(move.length() * scene.frame().metresPerUnit()));
  }
}
