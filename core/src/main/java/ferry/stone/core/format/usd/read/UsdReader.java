package ferry.stone.core.format.usd.read;

import ferry.stone.core.finding.Findings;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.FormatException.Kind;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.format.files.Budget;
import ferry.stone.core.format.files.CargoPath;
import ferry.stone.core.format.files.ReadReport;
import ferry.stone.core.format.files.ReferenceFinder;
import ferry.stone.core.format.files.ReferenceReport;
import ferry.stone.core.format.motion.FileClip;
import ferry.stone.core.format.usd.compose.UsdProblem;
import ferry.stone.core.format.usd.compose.UsdStage;
import ferry.stone.core.format.usd.layer.UsdFiles;
import ferry.stone.core.format.usd.layer.UsdLayer;
import ferry.stone.core.format.usd.read.look.LookSets;
import ferry.stone.core.format.usd.read.stage.UsdReading;
import ferry.stone.core.format.usd.read.stage.UsdValues;
import ferry.stone.core.math.Frame;
import ferry.stone.core.math.SignedAxis;
import ferry.stone.core.scene.FrameSource;
import ferry.stone.core.scene.Scene;
import ferry.stone.core.scene.SceneBuilder;
import ferry.stone.core.scene.UvOrigin;
import ferry.stone.core.scene.time.Samples;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Supplier;

/**
 * Reads a layer and all that it is made of as one scene. What the root layer says of unit and axes
 * counts; the standard's own words for a layer that says nothing are centimetres and Y up.
 */
public final class UsdReader {
  private static final double UNSAID_UNIT = 0.01;

  private UsdReader() {}

  public static Scene read(String resource, ReadContext context)
      throws IOException, FormatException {
    return read(resource, context, false);
  }

  /**
   * @param asOthers whether prims that a landing of ours added are parts, as everybody else reads
   *     them
   */
  public static Scene read(String resource, ReadContext context, boolean asOthers)
      throws IOException, FormatException {
    return read(resource, context, layers(resource, context), asOthers);
  }

  /** The layers of a cargo, for several readings of them. */
  public static UsdFiles layers(String resource, ReadContext context) {
    return new UsdFiles(context.resources(), Budget.of(resource, context.resources()));
  }

  /**
   * @param files its layers, {@link #layers}
   * @param asOthers as above
   */
  public static Scene read(String resource, ReadContext context, UsdFiles files, boolean asOthers)
      throws IOException, FormatException {
    if (context.resources().size(resource) == 0) {
      throw new FormatException(
          Kind.TRUNCATED, resource, "", "the file is empty (0 bytes). Export or copy it again.");
    }
    context.progress().report("reading " + resource, 0);
    Budget budget = asOthers ? files.budget().fresh() : files.budget();
    ReferenceFinder finder = new ReferenceFinder(context.resources(), context.bindings());
    UsdStage.Choices choices = UsdChoices.of(context.values(UsdChoices.FIELDS));
    UsdStage stage = UsdStage.open(files, resource, choices, finder);
    UsdLayer root = stage.layer();
    Frame frame = frame(root);
    SceneBuilder scene = new SceneBuilder(CargoPath.stem(resource));
    scene
        .frame(frame, said(root, "metersPerUnit"), said(root, "upAxis"))
        .uvOrigin(UvOrigin.BOTTOM_LEFT)
        .linearColours(true);
    double rate = stage.timeCodesPerSecond();
    scene.framesPerSecond(root.number("framesPerSecond", rate));
    ReadReport report = new ReadReport(resource, context.findings(), budget, false);
    UsdReading reading =
        new UsdReading(stage, report, scene, rate, frame.metresPerUnit(), asOthers);
    Supplier<ReadReport> later =
        () -> new ReadReport(resource, new Findings(), budget.fresh(), true);
    new UsdWalk(
            reading,
            files,
            finder,
            later,
            new Compositions(stage, choices.payloads()),
            new LookSets(
                reading,
                variants ->
                    UsdStage.open(
                        files,
                        resource,
                        new UsdStage.Choices(variants, choices.payloads()),
                        finder),
                choices.variants()),
            context.progress())
        .all();
    layerValues(root, scene);
    scene.caches(reading.caches());
    reading.sequences().forEach(scene::add);
    clip(reading, root, CargoPath.stem(resource));
    problems(stage, report, finder);
    return scene.build();
  }

  private static Frame frame(UsdLayer root) {
    double unit = root.number("metersPerUnit", UNSAID_UNIT);
    boolean z = root.text("upAxis", "Y").equals("Z");
    Frame frame =
        Frame.Y_UP_METRE.withMetresPerUnit(unit > 0 && Double.isFinite(unit) ? unit : UNSAID_UNIT);
    return z ? frame.withUp(SignedAxis.PLUS_Z) : frame;
  }

  private static FrameSource said(UsdLayer root, String field) {
    return root.root().fields().containsKey(field) ? FrameSource.STATED : FrameSource.ASSUMED;
  }

  /** Notes of the root layer. */
  private static void layerValues(UsdLayer root, SceneBuilder scene) {
    if (UsdValues.plain(root.root().fields().get("customLayerData")) instanceof Map<?, ?> map) {
      map.forEach((name, value) -> scene.property(String.valueOf(name), value));
    }
    for (String field : List.of("documentation", "comment", "owner")) {
      Object value = UsdValues.plain(root.root().fields().get(field));
      boolean empty = value instanceof Map<?, ?> map && map.isEmpty() || "".equals(value);
      if (value != null && !empty) {
        scene.property(field, value);
      }
    }
  }

  private static void clip(UsdReading reading, UsdLayer root, String name) {
    List<Samples> samples = new ArrayList<>(reading.caches());
    samples.addAll(reading.sequences());
    double start = root.number("startTimeCode", Double.NaN);
    double end = root.number("endTimeCode", Double.NaN);
    double[] range =
        end > start ? new double[] {reading.seconds(start), reading.seconds(end)} : null;
    FileClip.add(
        reading.scene(), name, reading.tracks(), reading.keys(), reading.words(), samples, range);
  }

  private static void problems(UsdStage stage, ReadReport report, ReferenceFinder finder) {
    stage
        .foundElsewhere()
        .forEach(
            (written, found) ->
                ReferenceReport.found(report.findings(), report.resource(), written, found));
    Map<String, UsdProblem> missing = new LinkedHashMap<>();
    for (UsdProblem problem : stage.problems()) {
      boolean file = problem.code().equals("usd-layer-missing");
      if (file) {
        missing.putIfAbsent(problem.written(), problem);
      } else {
        report.lost(problem.code(), problem.prim(), problem.message());
      }
    }
    missing.forEach(
        (written, problem) ->
            ReferenceReport.missing(
                report.findings(),
                problem.code(),
                problem.layer() + (problem.prim().isEmpty() ? "" : " " + problem.prim()),
                "layer",
                written,
                problem.message(),
                finder.propose(written)));
  }

  /** Files that a layer is made of directly, by their paths in the cargo. */
  public static Set<String> parts(String resource, ReadContext context)
      throws IOException, FormatException {
    return UsdParts.of(resource, context);
  }
}
