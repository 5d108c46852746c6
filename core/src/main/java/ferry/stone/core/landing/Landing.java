package ferry.stone.core.landing;

import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.SceneWriter;
import ferry.stone.core.format.files.Output;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.format.flat.ArrangedParts;
import ferry.stone.core.geometry.frame.Rebase;
import ferry.stone.core.proof.Landed;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.util.List;

/**
 * What was written.
 *
 * @param mainFile the file to open
 * @param findings what the writer changed or could not carry
 */
public record Landing(String mainFile, List<Finding> findings) {

  /** Carries a far side into the shore's frame and writes it. */
  public static Landing write(
      Scene asked,
      LandingOptions options,
      String stem,
      Resources resources,
      Output output,
      Progress progress)
      throws IOException, FormatException {
    return write(asked, options, stem, resources, output, null, progress);
  }

  /**
   * @param alternates far sides of the variants that are not chosen; {@code null} for none
   */
  static Landing write(
      Scene asked,
      LandingOptions options,
      String stem,
      Resources resources,
      Output output,
      Alternates alternates,
      Progress progress)
      throws IOException, FormatException {
    Findings findings = new Findings();
    Scene far = Preflight.check(options.contents().of(asked), findings);
    progress.report("changing units and axes", 0);
    Scene arrived = arrived(far, options);
    if (needsRoot(far, options) && !options.writer().holding(options.values()).isFlat()) {
      findings.add(ArrangedParts.root());
    }
    Scene shown = shown(arrived, options);
    SceneWriter.Variants variants =
        alternates == null
            ? null
            : (choice, name) -> {
              Scene other =
                  Preflight.check(
                      options.contents().of(alternates.far(choice, name)), new Findings());
              return shown(arrived(other, options), options);
            };
    SceneWriter.Target target =
        new SceneWriter.Target(stem, resources, output, findings, progress.part(0.05, 1), variants);
    String main = options.writer().write(shown, options.values(), target);
    return new Landing(main, findings.list());
  }

  /** The far side in the shore's frame, as it is handed to the writer. */
  static Scene arrived(Scene far, LandingOptions options) {
    Scene shaped = curves(far, options);
    Scene whole = options.writer().prepared(shaped, options.values());
    return options.transforms() == LandingOptions.Transforms.DATA
        ? Rebase.intoData(whole, options.frame())
        : Rebase.onRoot(whole, options.frame());
  }

  private static Scene curves(Scene far, LandingOptions options) {
    return options.writer().holding(options.values()).shaped(far);
  }

  /** Whether unit, axes and place go onto a root of their own, asked for or not. */
  static boolean needsRoot(Scene far, LandingOptions options) {
    return options.transforms() == LandingOptions.Transforms.ROOT
        ? Rebase.changes(far, options.frame())
        : Rebase.needsRoot(far, options.frame());
  }

  private static Scene shown(Scene arrived, LandingOptions options) {
    return options.doubleSided() ? bothSides(arrived) : arrived;
  }

  private static Scene bothSides(Scene scene) {
    return scene.toBuilder()
        .materials(scene.materials().stream().map(m -> m.withDoubleSided(true)).toList())
        .build();
  }

  /** What the proof needs to know of a landing. */
  public Landed landed(LandingOptions options, Resources files) {
    return new Landed(
        files,
        mainFile,
        options.frame(),
        options.target().losses(),
        options.writer().holding(options.values()),
        findings,
        options.skinMove(),
        options.tolerances());
  }

  /** A file name stem of a crossing's name: no path, no character that file systems refuse. */
  public static String stem(String name) {
    String clean =
        name.strip().replaceAll("[\\\\/:*?\"<>|\\p{Cntrl}]+", "_").replaceAll("\\s+", "_");
    clean = clean.replaceAll("^[._]+|[._]+$", "");
    return clean.isEmpty() ? "landed" : clean.length() > 80 ? clean.substring(0, 80) : clean;
  }
}
