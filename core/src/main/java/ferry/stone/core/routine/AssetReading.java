package ferry.stone.core.routine;

import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.cargo.SharedFolders;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Findings;
import ferry.stone.core.finding.Severity;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.Resources;
import ferry.stone.core.landing.Alternates;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.LengthUnit;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.Composition;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.shore.Shore;
import ferry.stone.core.survey.Survey;
import ferry.stone.core.survey.SurveyMemo;
import ferry.stone.core.work.Progress;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * How assets are read.
 *
 * @param choices about the reading, by the names of their fields
 * @param unit of the numbers where a file does not say; {@code null} for the likeliest
 * @param up axis where a file does not say; {@code null} for the likeliest
 * @param skipBad carry the rest when some of several scene files cannot be read
 * @param shore whose limits and names the survey goes by
 * @param shared folders of images that many assets use
 */
public record AssetReading(
    Map<String, Object> choices,
    LengthUnit unit,
    SignedAxis up,
    boolean skipBad,
    Shore shore,
    SharedFolders shared) {

  /** The same with shared folders. */
  public AssetReading with(SharedFolders folders) {
    return new AssetReading(choices, unit, up, skipBad, shore, folders);
  }

  /**
   * Reads an asset; its frame is the stated, the given or the likeliest one.
   *
   * @param workFolder where zips are unpacked to
   */
  public Asset read(List<Path> given, Path workFolder, Progress progress)
      throws IOException, FormatException {
    AssetFiles files = AssetFiles.of(given, workFolder);
    Resources resources = files.resources(shared);
    String name = files.name();
    Findings findings = new Findings();
    ReadContext context =
        new ReadContext(resources, Map.of(), findings, progress).withOptions(choices);
    Scene read = readAll(name, files.scenes(), context);
    Survey survey = Survey.of(read, findings.list(), shore, new SurveyMemo(), progress);
    Frame frame = survey.likelyFrame(read);
    FrameSource unitSource = read.unitSource();
    FrameSource axesSource = read.axesSource();
    if (unit != null && unitSource == FrameSource.ASSUMED) {
      frame = frame.withMetresPerUnit(unit.metres());
      unitSource = FrameSource.CHOSEN;
    }
    if (up != null && axesSource == FrameSource.ASSUMED) {
      frame = frame.withUp(up);
      axesSource = FrameSource.CHOSEN;
    }
    Scene near = read.toBuilder().frame(frame, unitSource, axesSource).build();
    Alternates.Reread again =
        variants -> {
          Map<String, Object> options = new HashMap<>(choices);
          options.put(Composition.VARIANTS, variants);
          ReadContext other =
              new ReadContext(resources, Map.of(), new Findings(), progress).withOptions(options);
          return readAll(name, files.scenes(), other).toBuilder()
              .frame(near.frame(), near.unitSource(), near.axesSource())
              .build();
        };
    return new Asset(near, reread(survey, near), resources, name, files.inputs(near), again);
  }

  /** Reads all, or all that can be read: what cannot is a finding with its file. */
  private Scene readAll(String name, List<String> scenes, ReadContext context)
      throws IOException, FormatException {
    List<String> left = new ArrayList<>(scenes);
    while (true) {
      try {
        return CargoReader.read(name, left, context);
      } catch (FormatException e) {
        if (!skipBad || left.size() < 2 || !left.remove(e.resource())) {
          boolean others = left.size() > 1 && left.contains(e.resource());
          throw others
              ? new FormatException(
                  e.kind(),
                  e.resource(),
                  e.place(),
                  e.problem()
                      + " So none of the "
                      + left.size()
                      + " scene files was carried; --skip-bad carries the others.")
              : e;
        }
        context
            .findings()
            .add(Finding.of("file-skipped", Severity.FIX, e.resource(), e.getMessage()));
      }
    }
  }

  /** Findings about the frame say what was done with it here. */
  private static Survey reread(Survey survey, Scene near) {
    List<Finding> findings = new ArrayList<>();
    for (Finding f : survey.findings()) {
      boolean unit = f.code().equals("unit-likely");
      boolean axes = f.code().equals("lying-down") || f.code().equals("up-axis-likely");
      FrameSource source = unit ? near.unitSource() : near.axesSource();
      if (!unit && !axes) {
        findings.add(f);
      } else if (source == FrameSource.ASSUMED) {
        String used =
            unit
                ? LengthUnit.ofMetres(near.frame().metresPerUnit()).orElseThrow().word()
                : near.frame().up().label() + " up";
        findings.add(
            Finding.of(
                unit ? "unit-assumed" : "up-axis-assumed",
                Severity.LOOK,
                f.where(),
                "The file does not say; read as "
                    + used
                    + ", the likeliest ("
                    + f.evidence()
                    + ")."));
      }
    }
    return new Survey(survey.inventory(), survey.units(), survey.ups(), findings, survey.checks());
  }
}
