package ferry.stone.core.format.flat;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.geometry.triangle.GeometricFold;
import ferry.stone.core.math.Figures;
import java.util.List;

/** What writers say when the hierarchy of a file is not that of the scene. */
public final class ArrangedParts {
  /** Children were added. */
  public static final String HELPERS = "helper-parts";

  /** Children were added by a choice of packing. */
  public static final String PACKED = "packed-helper-parts";

  /** Shear went into a mesh or a child. */
  public static final String UNSHEARED = "transform-unsheared";

  /** Shear could not be written. */
  public static final String SHEARED = "transform-sheared";

  /** A root carries unit, axes and place. */
  public static final String ROOT = "root-added";

  private ArrangedParts() {}

  /**
   * @param why in a few words, after "since"
   */
  public static Finding helpers(int count, String why) {
    return children(HELPERS, count, why);
  }

  /** Parts under names of their own, for joints and the like. */
  public static Finding added(int count, String why) {
    return Finding.of(
            HELPERS,
            Severity.LOOK,
            "",
            "Parts were added, since "
                + why
                + ". Nothing moves by it, but other programs list them.")
        .measured(Figures.count(count, "part"));
  }

  public static Finding packed(int count, String why) {
    return children(PACKED, count, why);
  }

  private static Finding children(String code, int count, String why) {
    return Finding.of(
            code,
            Severity.LOOK,
            "",
            "Children named \"…"
                + GeometricFold.SHAPE
                + "\" were added, since "
                + why
                + ". Nothing moves by it, but other programs list them.")
        .measured(Figures.count(count, "part"));
  }

  public static Finding unsheared(List<Integer> nodeIds, String where) {
    return Finding.of(
            UNSHEARED,
            Severity.LOOK,
            where,
            "The transform is sheared, which no translation, rotation and scale says. What is left"
                + " over went into the mesh, or into a child named \"…"
                + GeometricFold.SHAPE
                + "\" where others show the mesh or something moves. Nothing moves by it.")
        .nodes(nodeIds)
        .measured(Figures.count(nodeIds.size(), "part"));
  }

  public static Finding root() {
    return Finding.of(
        ROOT, Severity.LOOK, "", "One root part was added: it carries unit, axes and place.");
  }
}
