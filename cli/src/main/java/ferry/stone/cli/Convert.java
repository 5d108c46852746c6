package ferry.stone.cli;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import ferry.stone.core.cargo.CargoFolder;
import ferry.stone.core.cargo.CargoReader;
import ferry.stone.core.finding.Finding;
import ferry.stone.core.finding.Offer;
import ferry.stone.core.format.Format;
import ferry.stone.core.format.FormatException;
import ferry.stone.core.format.Formats;
import ferry.stone.core.format.ReadContext;
import ferry.stone.core.handling.Accepting;
import ferry.stone.core.handling.Handling;
import ferry.stone.core.handling.Step;
import ferry.stone.core.handling.Steps;
import ferry.stone.core.landing.Alternates;
import ferry.stone.core.landing.LandedContents;
import ferry.stone.core.landing.Landing;
import ferry.stone.core.landing.LandingOptions;
import ferry.stone.core.landing.Landings;
import ferry.stone.core.landing.PartFiles;
import ferry.stone.core.proof.LedgerRow;
import ferry.stone.core.proof.Proof;
import ferry.stone.core.report.Report;
import ferry.stone.core.report.ReportSide;
import ferry.stone.core.routine.Asset;
import ferry.stone.core.scene.Scene;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import java.util.concurrent.atomic.AtomicInteger;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** Carries files to another format and writes the proof beside the result. */
@Command(
    name = "convert",
    mixinStandardHelpOptions = true,
    description = "Carries files to another format and proves that they arrived.")
final class Convert implements Callable<Integer> {
  @Mixin private CargoArguments arguments;

  @Option(
      names = "--to",
      required = true,
      paramLabel = "FORMAT",
      description = "Key of the format: ${COMPLETION-CANDIDATES}.",
      completionCandidates = WrittenFormats.class)
  private String format;

  @Option(
      names = "--out",
      required = true,
      paramLabel = "DIR",
      description = "Folder to write to; made if it is not there.")
  private Path out;

  @Option(
      names = "--accept",
      description =
          "Accept what the survey offers for what is to be put right or looked at, where nothing is"
              + " taken away; what was done is said.")
  private boolean accept;

  @Option(names = "--ground", description = "Drop on the ground: lowest point to height 0.")
  private boolean ground;

  @Option(names = "--centre", description = "Centre over the origin, height kept.")
  private boolean centre;

  @Option(names = "--each-part", description = "One file for each part.")
  private boolean eachPart;

  @Option(names = "--each-clip", description = "One file for each clip, with everything else.")
  private boolean eachClip;

  @Option(
      names = "--rest",
      paramLabel = "WHERE",
      defaultValue = "NONE",
      description =
          "The rest pose beside these clips: NONE, FILE (a file of its own, first) or FRAME (the"
              + " first frame of each).")
  private PartFiles.Rest rest;

  @Option(
      names = "--pattern",
      paramLabel = "NAME",
      defaultValue = "{asset}_{part}",
      description =
          "Names of these files: {asset}, {part} or {clip}, and {number} (${DEFAULT-VALUE}).")
  private String pattern;

  @Option(
      names = "--origin",
      paramLabel = "POINT",
      defaultValue = "PIVOT",
      description = "What of these parts goes to the origin: PIVOT, BASE or PLACE (nothing).")
  private PartFiles.Origin origin;

  @Option(
      names = "--only",
      paramLabel = "PATTERN",
      defaultValue = "",
      description = "Land only parts of these names, with what hangs on them: crate*, rig_?")
  private String only;

  @Option(
      names = "--without",
      split = ",",
      paramLabel = "WHAT",
      description =
          "Leave behind, several apart by commas: ${COMPLETION-CANDIDATES}. Without shapes motion"
              + " alone lands.")
  private Set<LandedContents.What> without = Set.of();

  @Option(
      names = "--force",
      description = "Replace files that are there already; files that are read never are.")
  private boolean force;

  @Option(
      names = "--report",
      description =
          "Write NAME.report.html beside the result: pictures of both sides, all facts, hashes.")
  private boolean report;

  @Option(
      names = "--page",
      description =
          "Write NAME.page.html beside the result: the landed asset in one page that needs no"
              + " server.")
  private boolean page;

  @Option(
      names = "--seam",
      description =
          "Write NAME.seam.html beside the result: what was read and what landed in one page, with"
              + " a seam between them and what differs.")
  private boolean seam;

  @Spec private CommandSpec spec;

  @Override
  public Integer call() throws Exception {
    LandingOptions options;
    try {
      Formats.writer(format);
      Format target = Formats.find(format).orElseThrow();
      options = arguments.landing(format);
      for (var given : FormatArguments.given(spec, target).entrySet()) {
        options = options.with(given.getKey(), given.getValue());
      }
      options = options.withParts(new PartFiles(eachPart, pattern, origin, eachClip, rest));
      options = options.withContents(new LandedContents(only, without));
    } catch (IllegalArgumentException e) {
      throw new picocli.CommandLine.ParameterException(spec.commandLine(), e.getMessage() + ".");
    }
    try (WorkFolder work = new WorkFolder()) {
      Asset cargo = arguments.read(work.path());
      return land(cargo, options);
    }
  }

  private int land(Asset cargo, LandingOptions options) throws Exception {
    check(cargo);
    List<Step> steps = steps(cargo);
    List<Handling.Stage> stages;
    try (ProgressLine line = ProgressLine.onTerminal()) {
      stages = Handling.run(cargo.near(), steps, line);
    }
    say(stages);
    Scene far = Handling.result(cargo.near(), stages);
    Proof proof;
    Path proofFile = out.resolve(Landing.stem(cargo.name()) + ".proof.json");
    Landings landings;
    try (OutputFolder folder = new OutputFolder(out, cargo.inputs(), force);
        ProgressLine line = ProgressLine.onTerminal()) {
      if (!options.parts().isSeveral()) {
        folder.check(options.stem(cargo.name()) + "." + options.format());
      }
      for (String beside : beside(cargo)) {
        folder.check(beside);
      }
      landings =
          Landings.write(
              far,
              options,
              cargo.name(),
              cargo.resources(),
              folder,
              new Alternates(cargo.near(), steps, cargo.reread()),
              line.part(0, 0.5));
      proof =
          landings.proof(
              cargo.near(),
              far,
              options,
              new CargoFolder(folder.written()),
              cargo.resources(),
              line.part(0.5, 1));
      ObjectMapper mapper = new ObjectMapper();
      ObjectNode json = mapper.valueToTree(proof);
      json.set("source", InspectReport.of(cargo));
      json.set("files", mapper.valueToTree(Reports.facts(folder.written())));
      try (OutputStream to = folder.create(proofFile.getFileName().toString())) {
        mapper.writerWithDefaultPrettyPrinter().writeValue(to, json);
      }
      if (report) {
        try (OutputStream to = folder.create(named(cargo, ".report.html"))) {
          to.write(
              page(cargo, far, proof, landings, folder, options).getBytes(StandardCharsets.UTF_8));
        }
      }
      pages(cargo, landings, folder, proof);
      folder.keep();
    }
    say(landings, proof, proofFile);
    return verdict(proof);
  }

  private void say(Landings landings, Proof proof, Path proofFile) {
    spec.commandLine()
        .getOut()
        .println(
            out.resolve(landings.mainFile())
                + (landings.each().size() > 1
                    ? " and " + (landings.each().size() - 1) + " more: "
                    : ": ")
                + proof.kept()
                + " kept, "
                + proof.changed()
                + " changed, "
                + proof.lost()
                + " lost; proof in "
                + proofFile);
  }

  private static String named(Asset cargo, String end) {
    return Landing.stem(cargo.name()) + end;
  }

  /** Files that are written beside what lands. */
  private List<String> beside(Asset cargo) {
    List<String> names = new ArrayList<>();
    names.add(named(cargo, ".proof.json"));
    Map.of(".report.html", report, ".page.html", page, ".seam.html", seam)
        .forEach(
            (end, asked) -> {
              if (asked) {
                names.add(named(cargo, end));
              }
            });
    return names;
  }

  private void pages(Asset cargo, Landings landings, OutputFolder folder, Proof proof)
      throws IOException, FormatException {
    Map<String, Path> landed = landedFiles(cargo, folder);
    for (boolean both : new boolean[] {false, true}) {
      if (both ? seam : page) {
        try (OutputStream to = folder.create(named(cargo, both ? ".seam.html" : ".page.html"))) {
          Pages.write(cargo, landings, landed, both ? proof : null, to);
        }
      }
    }
  }

  private Map<String, Path> landedFiles(Asset cargo, OutputFolder folder) {
    Map<String, Path> written = new TreeMap<>(folder.written());
    written.keySet().removeAll(beside(cargo));
    return written;
  }

  /** What was read against what was written, which is read anew for it. */
  private String page(
      Asset cargo,
      Scene far,
      Proof proof,
      Landings landings,
      OutputFolder folder,
      LandingOptions options)
      throws IOException, FormatException {
    Map<String, Path> written = landedFiles(cargo, folder);
    CargoFolder files = new CargoFolder(written);
    Scene landed = CargoReader.read(cargo.name(), landings.mainFiles(), ReadContext.of(files));
    Map<String, String> settings = new TreeMap<>();
    settings.put("Format", options.format());
    options.options().forEach((name, value) -> settings.put(name, String.valueOf(value)));
    return Reports.page(
        Report.Kind.LANDING,
        cargo.name() + " to " + options.format(),
        proof,
        Reports.side("near", cargo),
        new ReportSide("landed", landed, files, Reports.facts(written)),
        Report.Against.far(far),
        settings);
  }

  /** A landing of nothing is none. */
  private static void check(Asset cargo) throws FormatException {
    for (Finding finding : cargo.survey().findings()) {
      if (finding.code().equals("buffer-missing")) {
        throw new FormatException(
            FormatException.Kind.MISSING,
            finding.where(),
            "",
            "its data file is missing, so nothing was written. " + finding.message());
      }
    }
  }

  private List<Step> steps(Asset cargo) {
    List<Step> steps = new ArrayList<>();
    if (accept) {
      AtomicInteger number = new AtomicInteger();
      List<Offer> offers = Accepting.together(cargo.survey().findings());
      steps.addAll(Accepting.with(List.of(), offers, () -> "accepted" + number.incrementAndGet()));
    }
    if (centre) {
      steps.add(new Step("centre", "centre", Map.of("what", "ground"), true, List.of()));
    }
    if (ground) {
      steps.add(new Step("ground", "ground", Map.of(), true, List.of()));
    }
    return steps;
  }

  /** What each accepted offer did. */
  private void say(List<Handling.Stage> stages) {
    for (Handling.Stage stage : accept ? stages : List.<Handling.Stage>of()) {
      String name = Steps.find(stage.step().kind()).orElseThrow().label();
      String result = stage.failure() != null ? "not done: " + stage.failure() : stage.figure();
      spec.commandLine().getOut().println(name + (result.isEmpty() ? "" : ": " + result));
    }
  }

  /** What is lost is said on standard error, in one sentence. */
  private int verdict(Proof proof) {
    List<String> lost = new ArrayList<>();
    List<String> beyond = new ArrayList<>();
    for (LedgerRow row : proof.rows()) {
      if (row.verdict() == LedgerRow.Verdict.LOST) {
        lost.add(row.group() + ", " + row.fact());
      } else if (row.isBeyond()) {
        beyond.add(row.group() + ", " + row.fact());
      }
    }
    told(lost, "lost");
    told(beyond, "beyond what the shore lets differ");
    return lost.isEmpty() && beyond.isEmpty() ? Ferry.KEPT : Ferry.LOST;
  }

  private void told(List<String> facts, String what) {
    if (facts.isEmpty()) {
      return;
    }
    spec.commandLine()
        .getErr()
        .println(
            facts.size()
                + " "
                + what
                + ": "
                + String.join("; ", facts.subList(0, Math.min(3, facts.size())))
                + (facts.size() > 3 ? " and more" : "")
                + "; see the proof for all.");
  }
}
